// An element row in the middle of the bench: the boom to scale, what the antenna does, and the table of its
// elements.
#pragma once

#include <QTableWidget>

#include "app/stages/boom/boom_drawing.h"
#include "app/session/document.h"
#include "app/stages/study_frame.h"
#include "core/model/expand.h"
#include "core/study/sweep.h"

class QLabel;

namespace rm::app {

class BoomView : public StudyFrame {
    Q_OBJECT
  public:
    explicit BoomView(Document& document, QWidget* parent = nullptr);

    enum Column { Name, Position, Length, Diameter, Form, Second, EndDiameter, Fed, Cut, kColumns };

    void setTheme(const Theme& theme);
    /// The part with this index, which should be an element row.
    void choose(std::size_t part);
    std::size_t part() const { return part_; }
    void setExpansion(std::shared_ptr<const model::Expansion> expansion);
    /// What the antenna does now, over the band shown.
    void setFigures(const study::Analysis* analysis, const study::Sweep* sweep);
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
    void refresh();
    void cellEdited(QTableWidgetItem* item);
    void editRow(const QString& label, const std::function<void(model::Design&, model::ElementRow&)>& change,
                 const QString& mergeKey = {});
    void drag(int element, double metres, std::string model::RowElement::*member);
    void say(const QString& sentence);

    Document& document_;
    std::size_t part_ = 0;
    std::shared_ptr<const model::Expansion> expansion_;
    BoomDrawing* drawing_;
    QTableWidget* table_;
    QLabel* figures_;
    QLabel* sentence_;
    Theme theme_ = Theme::light();
    bool updating_ = false;
};

}  // namespace rm::app
