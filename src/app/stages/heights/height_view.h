// The height study in the middle of the bench: impedance, takeoff angle and gain against height.
#pragma once

#include <QWidget>
#include <memory>
#include <optional>

#include "app/look/themed.h"
#include "app/stages/plot_study.h"
#include "core/study/site_study.h"

namespace rm::app {

/// The three plots over one axis of height; draws the cursor and the height the antenna has now.
class HeightPlots : public Themed<QWidget> {
    Q_OBJECT
  public:
    explicit HeightPlots(QWidget* parent = nullptr);

    void setStudy(std::shared_ptr<const study::HeightStudy> study);
    const study::HeightStudy* study() const { return study_.get(); }
    /// Height of the feed as it stands on the bench.
    void setNow(double feedHeightM);
    /// Screen position of a height, for tests.
    double xOf(double feedHeightM) const;
    /// What the cursor reads; empty without one.
    QString reading() const;

  Q_SIGNALS:
    void cursorMoved();
    void heightChosen(double siteHeightM);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent* event) override;

  private:
    struct Curve {
        QString name;
        QColor colour;
        std::vector<double> value;
    };
    struct Plot {
        QString title;
        double low = 0.0;
        double high = 1.0;
        double step = 0.5;
        std::vector<Curve> curves;
    };

    std::vector<Plot> plots() const;
    QRectF area(std::size_t plot, std::size_t count) const;
    void paintPlot(QPainter& painter, const QRectF& area, const Plot& plot) const;
    void paintHeights(QPainter& painter, const QRectF& lowest) const;
    double topM() const;
    double heightAt(double x) const;
    const study::SitePoint& nearest(double feedHeightM) const;

    std::shared_ptr<const study::HeightStudy> study_;
    double nowM_ = 0.0;
    std::optional<double> cursorM_;
};

class HeightView : public PlotStudy<HeightPlots, study::HeightStudy> {
    Q_OBJECT
  public:
    explicit HeightView(QWidget* parent = nullptr);

  private:
    QString old() const override;
    QString plain() const override;
};

}  // namespace rm::app
