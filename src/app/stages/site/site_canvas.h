// The plan of the site under the hand: looking, putting up and moving supports, hanging wires, measuring,
// laying the picture.
#pragma once

#include <QWidget>
#include <optional>

#include "app/look/themed.h"
#include "app/session/editing.h"
#include "app/session/hand.h"
#include "app/stages/site/site_scene.h"
#include "core/edit/fit.h"

namespace rm::app {

class SiteCanvas : public Themed<QWidget> {
    Q_OBJECT
  public:
    enum class Tool { Look, Put, Hang, Measure, Scale };

    SiteCanvas(Session& session, Editing& editing, QWidget* parent = nullptr);

    /// Takes over the design on the bench and what is selected.
    void refresh();
    /// Fits with the next refresh, as for another design.
    void fitNext() { fitted_ = false; }
    void fit();
    void setTool(Tool tool, model::SupportKind kind = model::SupportKind::Mast);
    Tool tool() const { return tool_; }
    /// Lays the picture so that the two points that were clicked are so far apart, at this bearing; the first
    /// one stays where it is. Throws rm::Error where they were not clicked yet.
    void scalePicture(double metres, double bearingDeg);
    const std::vector<QPointF>& scaling() const { return look_.scaling; }
    /// What to do now, or what the pointer reads.
    QString reading() const;
    QString problem() const { return picture_.problem(); }
    const SiteLook& look() const { return look_; }
    /// Where a place on the site (east, north in m) appears.
    QPointF at(const QPointF& eastNorthM) const { return look_.map.at(eastNorthM); }

    QSize minimumSizeHint() const override { return {260, 220}; }

  Q_SIGNALS:
    void toolChanged();
    void readingChanged();

  protected:
    bool event(QEvent* event) override;
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void leaveEvent(QEvent* event) override;
    void themeChanged() override;

  private:
    enum class Drag { None, Pan, Support, OtherEnd, NewEdge, Measure };
    struct Under {
        model::Id support = 0;
        bool other = false;
        bool whole = false;  ///< an edge between its ends
    };

    std::optional<Under> under(const QPointF& pixel) const;
    QString nameOf(model::Id support) const;
    void moveTo(const QPointF& metres);
    void hangOn(model::Id support);
    void finishHanging();
    void put(const QPointF& metres, const std::optional<QPointF>& other = {});
    edit::Steps steps() const;

    Session& session_;
    Editing& editing_;
    ProjectPtr project_;  ///< that `look_` is of
    BackdropPicture picture_;
    SiteLook look_;
    Tool tool_ = Tool::Look;
    model::SupportKind kind_ = model::SupportKind::Mast;
    Drag drag_ = Drag::None;
    bool fitted_ = false;
    bool moved_ = false;
    Under held_;
    Hand hand_;
    QPointF pressed_;
    QPointF pressedM_;
    QPointF last_;
    edit::Fit fit_;
};

}  // namespace rm::app
