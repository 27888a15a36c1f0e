// A curve of what an antenna can do against one number that is asked of it; every point is an antenna.
#pragma once

#include <QWidget>
#include <memory>
#include <optional>

#include "app/look/themed.h"
#include "app/plot/frame.h"
#include "core/study/tuning/trade_off.h"

namespace rm::app {

class TradePlot : public Themed<QWidget> {
    Q_OBJECT
  public:
    explicit TradePlot(QWidget* parent = nullptr);

    /// `goal` is which of the goal states of a point is drawn: an index of TradePoint::goals.
    void setTrade(std::shared_ptr<const study::TradeOff> trade, const QString& across);
    void setGoal(std::size_t goal);
    /// The curve is not of the design as it is now.
    void setOld(bool old);
    void choose(std::optional<std::size_t> point);
    std::optional<std::size_t> chosen() const { return chosen_; }
    /// Where a point is drawn, for tests.
    QPointF placeOf(std::size_t point) const;
    QSize minimumSizeHint() const override { return {260, 150}; }

  Q_SIGNALS:
    void pointChosen(int point);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    Frame frame() const;
    /// What is asked of the design as it was, and how it did; nothing where that is not known.
    std::optional<QPointF> now() const;
    /// Nothing where the point is not found yet.
    std::optional<double> heightOf(std::size_t point) const;

    std::shared_ptr<const study::TradeOff> trade_;
    QString across_;
    std::size_t goal_ = 0;
    bool old_ = false;
    std::optional<std::size_t> chosen_;
};

}  // namespace rm::app
