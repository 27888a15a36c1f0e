// The pen: corner after corner, clicked in the yard, makes a wire; on its first corner it closes to a loop.
#pragma once

#include <vector>

#include "app/session/editing.h"
#include "app/stages/shape/hand_plane.h"
#include "app/stages/shape/yard.h"
#include "app/stages/shape/yard_tool.h"
#include "core/edit/snaps.h"

namespace rm::app {

class PenTool : public YardTool {
    Q_OBJECT
  public:
    PenTool(Session& session, Editing& editing, Yard& yard);

    /// Takes the pen, or puts it down.
    void start();
    void stop();
    /// Another design came to the bench in the middle of it: says what was drawn, and offers to go back.
    void interrupted();
    bool active() const { return active_; }
    const std::vector<Vec3>& points() const { return points_; }
    QStringList tag() const;

    void paint(QPainter& painter, const YardState& yard) override;
    bool press(const QPointF& at, Qt::KeyboardModifiers keys, Qt::MouseButton button) override;
    bool doubleClick(const QPointF& at) override;
    std::optional<QString> hover(const QPointF& at) override;
    void lookAway() override;
    bool wantsKey(const QKeyEvent& key) const override;
    void key(QKeyEvent& key) override;

  private:
    enum class Plane { Suited, Level, Upright };

    HandPlane plane() const;
    void aim(const QPointF& at);
    void put();
    void end(bool closed);
    void applyTyped();
    bool feet() const { return session_.project().feetAndInches; }

    Session& session_;
    Editing& editing_;
    Yard& yard_;
    bool active_ = false;
    bool noSnap_ = false;
    model::Id designId_ = 0;  ///< that is drawn on
    Plane kind_ = Plane::Suited;
    double levelM_ = 0.0;  ///< height of the next point on a level plane
    std::vector<Vec3> points_;
    std::optional<Vec3> aim_;
    bool closes_ = false;  ///< the aim is on the first point
    QString snap_;
    QString typed_;
    QString said_;
    QPointF pointer_;
};

}  // namespace rm::app
