// Every entry of the menus that has keys, menu by menu, on one screen.
#pragma once

#include <QDialog>
#include <vector>

class QMenu;
class QMenuBar;

namespace rm::app {

class ShortcutsDialog : public QDialog {
    Q_OBJECT
  public:
    explicit ShortcutsDialog(const QMenuBar& bar, QWidget* parent = nullptr);

  private:
    /// One line of the sheet, as a row of a table.
    struct Row {
        enum class Kind { Title, Entry, Gap };
        QString html;
        Kind kind;
    };
    /// The entries with keys of a menu and of those under it.
    static void gather(const QMenu& menu, std::vector<Row>& rows);
};

}  // namespace rm::app
