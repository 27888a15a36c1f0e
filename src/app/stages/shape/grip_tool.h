// Taking hold of parts in the yard: their grips, what a drag makes of them, the tag that says so, and numbers
// typed into it.
#pragma once

#include <optional>
#include <vector>

#include "app/session/hand.h"
#include "app/session/session.h"
#include "app/stages/shape/grip_handles.h"
#include "app/stages/shape/hand_plane.h"
#include "app/stages/shape/yard.h"
#include "app/stages/shape/yard_tool.h"

namespace rm::app {

class GripTool : public YardTool {
    Q_OBJECT
  public:
    GripTool(Session& session, Yard& yard);

    /// Looks at the newest design and selection.
    void refresh();
    /// Adds a part to what is moved together, or takes it out.
    void toggle(model::Id part);
    /// This part alone.
    void only(model::Id part);
    const std::vector<model::Id>& parts() const { return parts_; }
    const std::vector<GripHandle>& handles() const { return handles_.all(); }
    /// Where a handle appears, by its name ("end", "turn", "Wire 2: end"); nothing where there is none.
    std::optional<QPointF> handleAt(const QString& name) const;
    /// What the tag says; empty: there is none.
    QStringList tag() const;

    void paint(QPainter& painter, const YardState& yard) override;
    bool press(const QPointF& at, Qt::KeyboardModifiers keys, Qt::MouseButton button) override;
    void drag(const QPointF& at, Qt::KeyboardModifiers keys) override;
    void release(const QPointF& at, Qt::KeyboardModifiers keys) override;
    std::optional<QString> hover(const QPointF& at) override;
    void lookAway() override;
    bool wantsKey(const QKeyEvent& key) const override;
    void key(QKeyEvent& key) override;

  private:
    /// How the hand moves, chosen by keys while a grip is held.
    enum class Mode { Free, Along, Up, Whole, Turn };

    void choose(const std::vector<model::Id>& parts, model::Id selected);
    void beginSnapping();
    edit::Steps steps(bool fine) const;
    void take(const GripHandle& handle);
    QString nameOf(model::Id part) const;
    void moveTo(const QPointF& at, bool fine);
    void turnBy(double degrees, const edit::Steps& steps);
    void scaleBy(double factor, const edit::Steps& steps);
    void placeAt(const Vec3& to, const edit::Steps& steps);
    void shiftBy(const Vec3& by, const edit::Steps& steps);
    /// One step of the drag: from the design as it was when the grip was taken.
    void apply(const QString& what, const std::function<edit::Fit(model::Design&)>& change);
    void applyTyped();
    void letGo();
    bool feet() const { return session_.project().feetAndInches; }
    QString typedMeaning() const;

    Session& session_;
    Yard& yard_;
    std::vector<model::Id> parts_;
    model::Id selected_ = 0;  ///< the part that was selected last
    GripHandles handles_;
    std::optional<GripHandle> hot_;  ///< taken hold of last
    bool held_ = false;              ///< the button is down
    bool moved_ = false;
    Mode mode_ = Mode::Free;
    bool fine_ = false;
    bool noSnap_ = false;
    QString typed_;
    QString said_;  ///< why the last number typed was not taken

    Hand hand_;
    Vec3 offsetM_ = Vec3::Zero();
    Vec3 centreM_ = Vec3::Zero();
    Vec3 pivotM_ = Vec3::Zero();
    GripHandle start_;
    Vec3 pressedM_ = Vec3::Zero();  ///< under the pointer when the grip was taken
    HandPlane plane_;
    edit::SnapScene scene_;
    QPointF pointer_;
    QPointF pressed_;
    QString snap_;
    edit::Fit fit_;
    QString figure_;  ///< "12.5°", "× 0.50"
};

}  // namespace rm::app
