// The field on a plane, large: colours, lines of equal value, the wires, the limits, and what the pointer
// reads.
#pragma once

#include <QImage>
#include <QTimer>
#include <QWidget>

#include "app/look/themed.h"
#include "app/session/results.h"
#include "app/stages/field_colours.h"
#include "core/study/exposure.h"

namespace rm::app {

class FieldCanvas : public Themed<QWidget> {
    Q_OBJECT
  public:
    explicit FieldCanvas(QWidget* parent = nullptr);

    void setMap(FieldMapPtr map, ExpansionPtr expansion, const NearLook& look);
    /// The same map with other colours.
    void setLook(const NearLook& look);
    /// Rules for the lines of the limits; nothing: none are drawn.
    void setRules(std::optional<model::KeepClear> rules);
    void setAnimated(bool on);
    bool animated() const { return timer_.isActive(); }

    const study::FieldMap* map() const { return map_.get(); }
    /// "12.4 V/m, 0.033 A/m, 0.41 W/m² at 3.0 m forward, 1.2 m left, 1.8 m up"; empty without a pointer.
    QString reading() const;
    /// Where a point of the map is drawn, for tests.
    QPointF placeOf(double column, double row) const;
    /// Values along the line that was drawn with the mouse, by distance in m from its start; empty without.
    std::vector<std::pair<double, double>> alongLine() const;
    /// How many pieces of the line of the public's limit are drawn.
    std::size_t limitPieces() const { return limits_[0].size(); }

  Q_SIGNALS:
    void pointerMoved();

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent* event) override;
    void themeChanged() override;

  private:
    QRectF area() const;
    std::optional<QPointF> gridAt(const QPointF& at) const;
    void recolour();
    void refreshLines();
    void paintWires(QPainter& p) const;
    void paintScale(QPainter& p) const;
    void paintAxes(QPainter& p) const;
    void paintLine(QPainter& p) const;
    double valueAt(const QPointF& grid) const;
    bool nearWire(const Vec3& point) const;

    FieldMapPtr map_;
    ExpansionPtr expansion_;
    NearLook look_;
    FieldScale scale_;
    QImage image_;
    std::vector<std::vector<study::MapSegment>> lines_;  ///< of equal value
    std::optional<model::KeepClear> rules_;
    std::array<std::vector<study::MapSegment>, 2> limits_;  ///< of the public, of the operator
    std::optional<QPointF> pointer_;
    std::optional<std::pair<QPointF, QPointF>> line_;  ///< in columns and rows of the map
    bool drawing_ = false;
    QTimer timer_;
    double phase_ = 0.0;
};

}  // namespace rm::app
