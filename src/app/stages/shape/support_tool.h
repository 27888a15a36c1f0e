// Moving the selected support in the yard: its feet on the ground, its top up and down. What hangs on it
// follows.
#pragma once

#include <optional>
#include <vector>

#include "app/session/hand.h"
#include "app/session/session.h"
#include "app/stages/shape/hand_plane.h"
#include "app/stages/shape/yard.h"
#include "app/stages/shape/yard_tool.h"
#include "core/edit/fit.h"

namespace rm::app {

class SupportTool : public YardTool {
    Q_OBJECT
  public:
    SupportTool(Session& session, Yard& yard);

    /// Looks at the newest selection.
    void refresh();
    /// Where a handle of the selected support appears: "foot", "top", "other foot"; nothing where there is
    /// none.
    std::optional<QPointF> handleAt(const QString& name) const;
    QStringList tag() const;

    void paint(QPainter& painter, const YardState& yard) override;
    bool press(const QPointF& at, Qt::KeyboardModifiers keys, Qt::MouseButton button) override;
    void drag(const QPointF& at, Qt::KeyboardModifiers keys) override;
    void release(const QPointF& at, Qt::KeyboardModifiers keys) override;
    std::optional<QString> hover(const QPointF& at) override;
    bool wantsKey(const QKeyEvent& key) const override;
    void key(QKeyEvent& key) override;

  private:
    enum class What { Foot, Top, OtherFoot };
    struct Handle {
        What what = What::Foot;
        QString name;
        Vec3 atM = Vec3::Zero();
    };
    const model::PlainSupport* plain() const;
    std::vector<Handle> handles() const;
    std::optional<Handle> under(const QPointF& at) const;
    void letGo();

    Session& session_;
    Yard& yard_;
    model::Id support_ = 0;
    std::optional<Handle> held_;
    bool moved_ = false;
    Hand hand_;
    HandPlane plane_;
    Vec3 grabbedM_ = Vec3::Zero();  ///< from the handle to where the hand took it
    QPointF pressed_;
    QPointF pointer_;
    edit::Fit fit_;
};

}  // namespace rm::app
