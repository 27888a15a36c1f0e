// Reads a sweep from an analyser, live.
#pragma once

#include <QDialog>
#include <QLineEdit>
#include <QSpinBox>

#include "app/look/text.h"
#include "app/session/analyser_link.h"

class QCheckBox;
class QLabel;
class QProgressBar;
class QPushButton;

namespace rm::app {

class AnalyserDialog : public QDialog {
    Q_OBJECT
  public:
    /// `hasFeedPath`: whether it matters at which end of it is measured.
    AnalyserDialog(double lowHz, double highHz, bool hasFeedPath, QWidget* parent = nullptr);

    const model::MeasuredData& data() const { return data_; }
    QString address() const { return address_->text().trimmed(); }
    bool atAntenna() const;

    QLineEdit* addressField() { return address_; }
    QSpinBox* pointsField() { return points_; }
    QPushButton* button() { return read_; }
    QString sentence() const;

  private:
    void read();
    void say(const QString& sentence, bool wrong);

    AnalyserLink link_;
    model::MeasuredData data_;
    QLineEdit* address_;
    QLineEdit* low_;
    QLineEdit* high_;
    QSpinBox* points_;
    QCheckBox* atAntenna_;
    QProgressBar* progress_;
    QLabel* sentence_;
    QPushButton* read_;
};

}  // namespace rm::app
