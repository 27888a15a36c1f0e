// The choke study in the middle of the bench: current on the cable, SWR and change of gain against the place
// of a choke and against its size.
#pragma once

#include <memory>
#include <optional>

#include "app/look/themed.h"
#include "app/plot/frame.h"
#include "app/stages/plot_study.h"
#include "core/study/choke_study.h"

namespace rm::app {

class ChokePlots : public Themed<QWidget> {
    Q_OBJECT
  public:
    explicit ChokePlots(QWidget* parent = nullptr);

    void setStudy(std::shared_ptr<const study::ChokeStudy> study);
    const study::ChokeStudy* study() const { return study_.get(); }
    /// Where a point is drawn in the upper plot of a side (0: places, 1: sizes), for tests.
    QPointF placeOf(std::size_t side, std::size_t point) const;
    QString reading() const;

  Q_SIGNALS:
    void cursorMoved();
    void placeChosen(double alongM);
    void sizeChosen(double ohm);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent* event) override;

  private:
    struct Place {
        std::size_t side = 0;
        std::size_t point = 0;
    };
    enum class Figure { Share, Swr, Lost };
    static constexpr std::size_t kPlots = 3;

    const std::vector<study::ChokePoint>& points(std::size_t side) const {
        return side == 0 ? study_->places : study_->sizes;
    }
    static double valueOf(Figure figure, const study::ChokePoint& point);
    double xOf(std::size_t side, const study::ChokePoint& point) const;
    Frame frameOf(std::size_t side, std::size_t plot) const;
    std::optional<Place> nearest(const QPointF& at) const;
    void paintPlot(QPainter& p, std::size_t side, std::size_t plot) const;

    std::shared_ptr<const study::ChokeStudy> study_;
    std::optional<Place> cursor_;
};

class ChokeView : public PlotStudy<ChokePlots, study::ChokeStudy> {
    Q_OBJECT
  public:
    explicit ChokeView(QWidget* parent = nullptr);

  private:
    QString old() const override;
    QString plain() const override;
};

}  // namespace rm::app
