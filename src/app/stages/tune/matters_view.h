// Which dimension matters most: what a millimetre, a centimetre or a percent of each does to the figures.
#pragma once

#include <QWidget>
#include <vector>

#include "app/look/themed.h"
#include "core/study/tuning/sensitivities.h"

class QComboBox;
class QLabel;

namespace rm::app {

/// One row per dimension, with bars to both sides.
class MattersPlot : public Themed<QWidget> {
    Q_OBJECT
  public:
    enum Figure { Swr, Resonance, Gain, Rear, kFigures };

    explicit MattersPlot(QWidget* parent = nullptr);
    void setRows(std::vector<study::Sensitivity> rows, study::SensitivityStep step);
    /// In the order in which they are drawn.
    const std::vector<study::Sensitivity>& rows() const { return rows_; }
    /// The figure that decides the order.
    void sortBy(Figure figure);
    QRect rowRect(int row) const;
    QRect headRect(Figure figure) const;
    QSize sizeHint() const override;

  Q_SIGNALS:
    void dimensionChosen(QString name);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;

  private:
    static double valueOf(const study::Sensitivity& row, Figure figure);
    void sort();

    std::vector<study::Sensitivity> rows_;
    study::SensitivityStep step_ = study::SensitivityStep::Millimetre;
    Figure by_ = Swr;
};

class MattersView : public QWidget {
    Q_OBJECT
  public:
    explicit MattersView(QWidget* parent = nullptr);
    void setRows(std::vector<study::Sensitivity> rows, double frequencyHz);
    void setWorking(bool working);
    study::SensitivityStep step() const;
    MattersPlot* plot() { return plot_; }
    QComboBox* steps() { return steps_; }

  Q_SIGNALS:
    void stepChanged();

  private:
    MattersPlot* plot_;
    QComboBox* steps_;
    QLabel* said_;
};

}  // namespace rm::app
