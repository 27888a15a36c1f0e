// Which directions matter: watch angles, the layer of the hop ruler, and the distances wanted.
#pragma once

#include <QDialog>
#include <array>

#include "core/model/design.h"

class QLabel;
class QLineEdit;
class QPushButton;

namespace rm::app {

class AnglesDialog : public QDialog {
    Q_OBJECT
  public:
    AnglesDialog(const model::Angles& angles, QWidget* parent = nullptr);

    /// Throws rm::Error with a sentence where a field makes no sense.
    model::Angles angles() const;
    QLineEdit* watch(std::size_t i) { return watch_.at(i); }
    QLineEdit* layer() { return layer_; }
    QLineEdit* nearest() { return nearest_; }
    QLineEdit* farthest() { return farthest_; }

  private:
    void assess();

    std::array<QLineEdit*, 4> watch_{};
    QLineEdit* layer_;
    QLineEdit* nearest_;
    QLineEdit* farthest_;
    QLabel* sentence_;
    QPushButton* go_;
};

}  // namespace rm::app
