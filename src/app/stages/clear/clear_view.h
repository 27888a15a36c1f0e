// How far people have to stay: what is counted, the distances on all bands, and what they rest on.
#pragma once

#include "app/session/results.h"
#include "app/stages/study_frame.h"
#include "core/study/keep_clear.h"

class QComboBox;
class QLabel;
class QLineEdit;
class QTableWidget;

namespace rm::app {

class ZoneView;

class ClearView : public StudyFrame {
    Q_OBJECT
  public:
    explicit ClearView(QWidget* parent = nullptr);

    void setRules(const model::KeepClear& rules);
    void setPower(double watts);
    void setTable(ClearPtr table, ExpansionPtr expansion, const QString& title, bool feetAndInches);
    /// The distances of the table in another unit.
    void setFeet(bool feetAndInches);
    /// The zones of this band from above, where the table has any of it.
    void showBand(const QString& band);
    const study::ClearTable* table() const { return shown_.get(); }
    QTableWidget* rows() const { return rows_; }
    ZoneView* zones() const { return zones_; }

  Q_SIGNALS:
    void rulesChosen(rm::model::KeepClear rules);
    void powerChosen(double watts);
    void bandChosen(QString band);
    void pdfRequested();
    void csvRequested();
    void mapRequested();

  private:
    void choose();
    void layRows();

    model::KeepClear rules_;
    double powerW_ = 0.0;
    ClearPtr shown_;
    QComboBox* limits_;
    QComboBox* mode_;
    QLineEdit* power_;
    QLineEdit* duty_;
    QLineEdit* margin_;
    QLineEdit* head_;
    QLineEdit* window_;
    QLineEdit* ownVm_;
    QLineEdit* ownAm_;
    QWidget* own_;
    QTableWidget* rows_;
    ZoneView* zones_;
    ExpansionPtr expansion_;
    QLabel* notes_;
    bool feet_ = false;
};

}  // namespace rm::app
