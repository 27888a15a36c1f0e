// Finds anything that the menus can do by a word of it, with its keys.
#pragma once

#include <QDialog>
#include <vector>

class QAction;
class QLineEdit;
class QListWidget;

namespace rm::app {

class ActionFinder : public QDialog {
    Q_OBJECT
  public:
    /// Of all actions that have a text; what is chosen is triggered after the dialog is closed.
    explicit ActionFinder(const std::vector<QAction*>& actions, QWidget* parent = nullptr);

    QLineEdit* field() const { return field_; }
    QListWidget* list() const { return list_; }
    /// The action that was chosen; null where none was.
    QAction* chosen() const { return chosen_; }

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    void fill();
    void take();

    struct Entry {
        QAction* action;
        QString name;  ///< with the menu it is in
    };
    std::vector<Entry> entries_;
    QLineEdit* field_;
    QListWidget* list_;
    QAction* chosen_ = nullptr;
};

}  // namespace rm::app
