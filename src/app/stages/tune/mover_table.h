// What may move: every dimension with a number of its own, ticked where tuning may change it, and how far.
#pragma once

#include <QTableWidget>
#include <map>

#include "app/look/themed.h"
#include "app/session/document.h"

class QMenu;

namespace rm::app {

class MoverTable : public Themed<QTableWidget> {
    Q_OBJECT
  public:
    explicit MoverTable(Document& document, QWidget* parent = nullptr);

    enum Column { Name, Now, Low, High, Step, kColumns };

    void refresh();
    /// Values of the best so far, in m, degrees or plain; empty: none.
    void setBest(std::map<std::string, double> values);
    /// Row of a dimension, -1 where it has none.
    int rowOf(const std::string& dimension) const;
    /// Offers every other number of the design.
    void fillOthers(QMenu* menu);

  private:
    void edited(QTableWidgetItem* item);
    void put(int row, int column, const QString& value, bool editable, const QString& tip);

    Document& document_;
    std::map<std::string, double> best_;
    std::vector<std::string> names_;
    bool updating_ = false;

  protected:
    void themeChanged() override;
};

}  // namespace rm::app
