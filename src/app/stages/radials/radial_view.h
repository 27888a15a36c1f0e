// The radials study in the middle of the bench: resistance, gain and what goes to the sky against their
// number.
#pragma once

#include <memory>
#include <optional>

#include "app/look/themed.h"
#include "app/plot/frame.h"
#include "app/stages/plot_study.h"
#include "core/study/radial_study.h"

namespace rm::app {

/// Three plots over one axis of numbers, a curve for each of three lengths.
class RadialPlots : public Themed<QWidget> {
    Q_OBJECT
  public:
    explicit RadialPlots(QWidget* parent = nullptr);

    void setStudy(std::shared_ptr<const study::RadialStudy> study);
    const study::RadialStudy* study() const { return study_.get(); }
    /// How many there are on the bench; 0: none.
    void setNow(int count);
    /// Where a number of radials of a curve lies in the plot of the gain, for tests.
    QPointF placeOf(std::size_t curve, std::size_t point) const;
    /// What the cursor reads; empty without one.
    QString reading() const;

  Q_SIGNALS:
    void cursorMoved();
    void radialsChosen(int count, double lengthM);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent* event) override;

  private:
    struct Place {
        std::size_t curve = 0;
        std::size_t point = 0;
    };
    enum class Figure { Gain, Resistance, Sky };
    static constexpr std::size_t kPlots = 3;

    double valueOf(Figure figure, const study::RadialPoint& point) const;
    Frame frameOf(std::size_t plot) const;
    std::optional<Place> nearest(const QPointF& at) const;
    void paintPlot(QPainter& painter, std::size_t plot) const;
    void paintNumbers(QPainter& painter) const;
    QColor hue(std::size_t curve) const;

    std::shared_ptr<const study::RadialStudy> study_;
    int now_ = 0;
    std::optional<Place> cursor_;
};

class RadialView : public PlotStudy<RadialPlots, study::RadialStudy> {
    Q_OBJECT
  public:
    explicit RadialView(QWidget* parent = nullptr);

  private:
    QString old() const override;
    QString plain() const override;
};

}  // namespace rm::app
