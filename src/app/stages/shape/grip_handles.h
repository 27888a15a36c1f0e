// What a hand can take hold of: the grips of the selected parts, and the frame round them that turns and
// scales.
#pragma once

#include <QPainter>
#include <optional>
#include <vector>

#include "app/stages/shape/yard.h"
#include "core/edit/grips.h"

namespace rm::app {

struct GripHandle {
    enum class Kind { Grip, Turn, Scale };
    Kind kind = Kind::Grip;
    edit::Grip grip;
    Vec3 atM = Vec3::Zero();
    QString name;
    QPointF beside = {};  ///< drawn and taken so far from where it is, in pixels: something else sits there

    /// The same one, wherever it is now.
    bool is(const GripHandle& other) const {
        return kind == other.kind && (kind != Kind::Grip || grip.is(other.grip));
    }
};

class GripHandles {
  public:
    explicit GripHandles(const Yard& yard) : yard_(yard) {}

    /// Of these parts of a design; where the camera stands does not matter.
    void lay(const model::Design& design, const ExpansionPtr& expansion, const std::vector<model::Id>& parts);
    const std::vector<GripHandle>& all() const { return handles_; }
    /// As it is now; null where it is gone.
    const GripHandle* same(const GripHandle& handle) const;
    /// The one that the pointer is on; null where it is on none.
    const GripHandle* under(const QPointF& at) const;
    QPointF seenAt(const GripHandle& handle) const;
    /// The middle of the parts.
    const Vec3& centreM() const { return centreM_; }

    void paint(QPainter& painter, const YardState& yard, const std::optional<GripHandle>& hot) const;

  private:
    const Yard& yard_;
    std::vector<GripHandle> handles_;
    Vec3 centreM_ = Vec3::Zero();
    double reachM_ = 0.0;  ///< of the parts, from their middle
    bool several_ = false;
};

}  // namespace rm::app
