// The band instrument: a choice of quantities against frequency or on a Smith chart, seen from the radio or
// from the antenna.
#pragma once

#include <QWidget>

#include "app/instruments/band_chart.h"

class QAction;
class QLabel;
class QStackedWidget;
class QToolButton;
#include "app/look/themed.h"

namespace rm::app {

class SmithChart;

class BandView : public Themed<QWidget> {
    Q_OBJECT
  public:
    explicit BandView(QWidget* parent = nullptr);

    BandChart* chart() { return chart_; }
    SmithChart* smith() { return smith_; }
    QToolButton* enlarge() { return enlarge_; }
    /// With room for everything, as in the middle of the bench.
    void setLarge();
    void setData(const BandData& data);
    void setStale(bool stale);
    void setRange(double lowHz, double highHz) { chart_->setRange(lowHz, highHz); }
    BandQuantity quantity() const { return quantity_; }
    study::Plane plane() const { return plane_; }
    /// What stands at the top right: range of SWR and bandwidth, or what the cursor reads.
    QString headline() const;

  Q_SIGNALS:
    /// The designer chose another quantity or plane here.
    void chosen(rm::app::BandQuantity quantity, rm::study::Plane plane);

  public Q_SLOTS:
    void showQuantity(rm::app::BandQuantity quantity, rm::study::Plane plane);

  private:
    void refresh();
    void showSmith();
    void turnPlane();
    void choose(BandQuantity quantity, study::Plane plane);

    BandChart* chart_;
    SmithChart* smith_;
    QStackedWidget* stack_;
    QLabel* title_;
    QLabel* headline_;
    QToolButton* more_;
    QToolButton* where_;
    QToolButton* enlarge_;
    QAction* other_;
    bool large_ = false;
    QList<QToolButton*> choices_;
    BandData data_;
    BandQuantity quantity_ = BandQuantity::Swr;
    study::Plane plane_ = study::Plane::Radio;

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override;
    void themeChanged() override;
};

}  // namespace rm::app
