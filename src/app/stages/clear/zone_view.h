// The zones of one band from above: wires, and where the limits are reached at both heights. Zones that are
// small beside the antenna are drawn once more, large.
#pragma once

#include <QRectF>
#include <QWidget>
#include <vector>

#include "app/look/themed.h"
#include "app/session/results.h"

namespace rm::app {

class ZoneView : public Themed<QWidget> {
    Q_OBJECT
  public:
    explicit ZoneView(QWidget* parent = nullptr);

    /// The rows of the same band as this one; null: none.
    void setRows(ClearPtr table, int row, ExpansionPtr expansion);
    QString band() const;
    std::size_t pieces() const;
    /// Where the zones are drawn large, of this widget; empty where the plan shows them well enough.
    QRectF lens() const;

    /// What stands beside the lines in their colours, and how wide it is, pixels.
    QStringList legend() const;
    double legendWidth() const;

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    struct Zone {
        const study::ClearZone* zone;
        QColor colour;
        bool dashed;
        QString name;
    };
    /// The ground from above, the front up and the left on the left, as on the map.
    struct Above {
        QPointF at;      ///< of `middle`, in pixels
        QPointF middle;  ///< forward and left, m
        double pixelsPerM = 1.0;

        QPointF place(const Vec3& point) const {
            return at - pixelsPerM * QPointF(point.y() - middle.y(), point.x() - middle.x());
        }
    };
    std::vector<Zone> zones() const;
    /// The reach of what is drawn, level from the middle of the antenna, m.
    double reach() const;
    static QString legendOf(const Zone& zone);
    /// Where the plan and the lens are.
    QRectF area() const;
    /// What all zones lie within: forward and left, m; empty where there are none.
    QRectF extent() const;
    void paintPlan(QPainter& p, const Above& above) const;
    void paintRings(QPainter& p, const Above& above) const;
    void paintLens(QPainter& p, const Above& above, const QRectF& glass) const;
    void paintLegend(QPainter& p) const;

    ClearPtr table_;
    ExpansionPtr expansion_;
    int row_ = -1;
};

}  // namespace rm::app
