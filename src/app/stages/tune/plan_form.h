// The fields of one goal or limit, as a sentence: what, how much, where, and how important.
#pragma once

#include <QFrame>

#include "app/session/document.h"

class QCheckBox;
class QComboBox;
class QLabel;
class QLineEdit;
class QMenu;
class QToolButton;

namespace rm::app {

class PlanForm : public QFrame {
    Q_OBJECT
  public:
    explicit PlanForm(Document& document, QWidget* parent = nullptr);

    /// A goal by its index, or a limit.
    void showGoal(std::size_t goal);
    void showLimit(std::size_t limit);
    void refresh();

    QComboBox* kind() { return kind_; }
    QLineEdit* limit() { return limit_; }
    QLineEdit* upper() { return upper_; }
    QLineEdit* wanted() { return wanted_; }
    QLineEdit* angle() { return angle_; }
    QLineEdit* angleTo() { return angleTo_; }
    QLineEdit* towards() { return towards_; }
    QToolButton* drives() { return drives_; }
    QLineEdit* from() { return from_; }
    QLineEdit* to() { return to_; }
    QToolButton* where() { return where_; }
    QComboBox* importance() { return importance_; }
    QComboBox* stage() { return stage_; }
    QCheckBox* counted() { return counted_; }
    QToolButton* remove() { return remove_; }

  private:
    const model::Goal* goal() const;
    const model::BuildLimit* buildLimit() const;
    void editGoal(const QString& label, const std::function<void(model::Goal&)>& change);
    void editLimit(const std::function<void(model::BuildLimit&)>& change);
    void fillWhere();
    void fillDrives();
    QLineEdit* field(const QString& name, const QString& says, int width, std::string model::Goal::*member);

    Document& document_;
    bool isLimit_ = false;
    std::size_t index_ = 0;
    bool filling_ = false;
    QComboBox* kind_;
    QLabel* relation_;
    QLineEdit* limit_;
    QLabel* and_;
    QLineEdit* upper_;
    QLabel* unit_;
    QLabel* angleLabel_;
    QLineEdit* angle_;
    QLabel* angleToLabel_;
    QLineEdit* angleTo_;
    QLabel* towardsLabel_;
    QLineEdit* towards_;
    QLineEdit* wanted_;
    QToolButton* drives_;
    QMenu* drivesMenu_;
    QToolButton* where_;
    QMenu* whereMenu_;
    QLineEdit* from_;
    QLabel* dash_;
    QLineEdit* to_;
    QComboBox* importance_;
    QComboBox* stage_;
    QCheckBox* counted_;
    QToolButton* remove_;
};

}  // namespace rm::app
