// An element row in the middle of the bench: the boom to scale, what the antenna does, and the table of its
// elements.
#pragma once

#include <QTableWidget>

#include "app/look/text.h"
#include "app/session/session.h"
#include "app/stages/boom/boom_drawing.h"
#include "app/stages/study_frame.h"

class QLabel;

namespace rm::app {

class BoomView : public StudyFrame {
    Q_OBJECT
  public:
    explicit BoomView(Session& session, QWidget* parent = nullptr);

    enum Column { Name, Position, Length, Diameter, Form, Second, EndDiameter, Fed, Cut, kColumns };

    /// The part with this id, which should be an element row.
    void choose(model::Id part);
    model::Id part() const { return part_; }
    /// Takes over the design on the bench.
    void refresh();
    /// What the antenna does now, over the band shown.
    void setFigures(const Results& results);
    void setStale(bool stale) override;

    BoomDrawing* drawing() { return drawing_; }
    QTableWidget* table() { return table_; }
    QString figures() const;
    QString sentence() const;

    /// Makes a dimension of the current cell, so that it can be slid, tuned and used elsewhere.
    void letItMove();
    void addElement();
    void removeElement();

  private:
    const model::ElementRow* row() const;
    std::string partName() const;
    /// As worked out; null where that cannot be done.
    const model::RowSizes* sizes() const;
    void cellEdited(QTableWidgetItem* item);
    void editRow(const QString& label, const std::function<void(model::Design&, model::ElementRow&)>& change,
                 const QString& mergeKey = {});
    void drag(int element, double metres, std::string model::RowElement::*member);
    void say(const QString& sentence);

    Session& session_;
    Document& document_;
    model::Id part_ = 0;
    BoomDrawing* drawing_;
    QTableWidget* table_;
    QLabel* figures_;
    QLabel* sentence_;
    bool updating_ = false;

  protected:
    void themeChanged() override;
};

}  // namespace rm::app
