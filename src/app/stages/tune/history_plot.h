// How the largest miss has come down while tuning.
#pragma once

#include <QWidget>
#include <vector>

#include "app/look/themed.h"

namespace rm::app {

class HistoryPlot : public Themed<QWidget> {
    Q_OBJECT
  public:
    struct Step {
        double seconds = 0.0;
        double objective = 0.0;
    };

    explicit HistoryPlot(QWidget* parent = nullptr);
    void clear();
    void add(double seconds, double objective);
    /// The line goes on to here.
    void setNow(double seconds);
    const std::vector<Step>& steps() const { return steps_; }

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    std::vector<Step> steps_;
    double now_ = 0.0;
};

}  // namespace rm::app
