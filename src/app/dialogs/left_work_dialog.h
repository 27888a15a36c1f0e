// What windows left unsaved when they ended, side by side: each is opened, or discarded, or waits for another
// day.
#pragma once

#include <QDialog>
#include <vector>

#include "core/project/journal.h"

class QLabel;
class QToolButton;
class QVBoxLayout;

namespace rm::app {

class LeftWorkDialog : public QDialog {
    Q_OBJECT
  public:
    explicit LeftWorkDialog(QWidget* parent = nullptr);

    void setWork(const std::vector<io::LeftWork>& works);
    /// The buttons of one of them.
    QToolButton* openButton(std::size_t i) { return rows_.at(i).open; }
    QToolButton* discardButton(std::size_t i) { return rows_.at(i).discard; }
    std::size_t count() const { return rows_.size(); }
    /// What is said of one of them.
    QString textOf(std::size_t i) const;

  Q_SIGNALS:
    void openRequested(rm::io::LeftWork work);
    void discardRequested(rm::io::LeftWork work);

  private:
    struct Row {
        QLabel* title;
        QLabel* about;
        QToolButton* open;
        QToolButton* discard;
    };
    void addRow(const io::LeftWork& work);

    QWidget* list_ = nullptr;
    QVBoxLayout* layout_;
    QLabel* none_;
    std::vector<Row> rows_;
};

}  // namespace rm::app
