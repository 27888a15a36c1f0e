// Asks which dimensions to scale, and to which resonant frequency.
#pragma once

#include <QCheckBox>
#include <QDialog>
#include <QLineEdit>
#include <vector>

#include "core/model/design.h"

class QLabel;
class QPushButton;

namespace rm::app {

class ScaleDialog : public QDialog {
    Q_OBJECT
  public:
    ScaleDialog(const model::Design& design, double targetHz, QWidget* parent = nullptr);

    std::vector<std::string> chosen() const;
    double targetHz() const;
    QLineEdit* frequencyField() { return frequency_; }
    QCheckBox* box(const QString& name) const;

  private:
    void assess();

    std::vector<QCheckBox*> boxes_;
    QLineEdit* frequency_;
    QLabel* sentence_;
    QPushButton* go_;
};

}  // namespace rm::app
