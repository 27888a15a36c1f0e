// Whether goals are to hold for nine of ten builds, and how well is built.
#pragma once

#include <QWidget>

#include "app/session/document.h"

class QCheckBox;
class QLineEdit;

namespace rm::app {

class AsBuiltRow : public QWidget {
    Q_OBJECT
  public:
    explicit AsBuiltRow(Document& document, QWidget* parent = nullptr);
    void refresh();

    QCheckBox* check() { return check_; }
    /// Lengths, height, soil.
    QLineEdit* field(int which) { return fields_[which]; }

  private:
    static constexpr int kFields = 3;
    Document& document_;
    QCheckBox* check_;
    QLineEdit* fields_[kFields];
};

}  // namespace rm::app
