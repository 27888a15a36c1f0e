// Asks for the range and the number of points of a sweep.
#pragma once

#include <QDialog>
#include <QLineEdit>
#include <QSpinBox>

class QLabel;
class QPushButton;

namespace rm::app {

class SweepDialog : public QDialog {
    Q_OBJECT
  public:
    SweepDialog(double lowHz, double highHz, int points, QWidget* parent = nullptr);

    double lowHz() const;
    double highHz() const;
    int points() const { return points_->value(); }

    QLineEdit* stepField() { return step_; }

  private:
    /// Throws rm::Error where it is no step of the range.
    double stepHz() const;
    void assess();

    QLineEdit* low_;
    QLineEdit* high_;
    QSpinBox* points_;
    QLineEdit* step_;
    QLabel* sentence_;
    QPushButton* go_;
};

}  // namespace rm::app
