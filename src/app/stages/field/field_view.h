// The field close to the antenna on the stage: what is shown and where, and the map.
#pragma once

#include "app/stages/field/field_canvas.h"
#include "app/stages/study_frame.h"

class QCheckBox;
class QComboBox;
class QLineEdit;
class QToolButton;

namespace rm::app {

class FieldView : public StudyFrame {
    Q_OBJECT
  public:
    explicit FieldView(QWidget* parent = nullptr);

    FieldCanvas* canvas() { return canvas_; }
    /// Shows what is looked at.
    void setLook(const NearLook& look);
    void setMap(const FieldMapPtr& map, const ExpansionPtr& expansion);
    void setRules(const model::KeepClear& rules);
    bool showsLimits() const;

  Q_SIGNALS:
    void lookChosen(rm::app::NearLook look);
    void csvRequested();
    void clearRequested();

  private:
    void choose();
    void refreshLine();

    NearLook look_;
    model::KeepClear rules_;
    FieldCanvas* canvas_;
    QComboBox* plane_;
    QComboBox* kind_;
    QComboBox* part_;
    QComboBox* values_;
    QComboBox* colours_;
    QCheckBox* animate_;
    QCheckBox* limits_;
    QLineEdit* height_;
    QLineEdit* azimuth_;
    QLineEdit* reach_;
    bool updating_ = false;
};

}  // namespace rm::app
