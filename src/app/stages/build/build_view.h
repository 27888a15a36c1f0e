// Build mode: the antenna as a workpiece. What to cut, what is added to what was modelled, and which stock it
// comes out of.
#pragma once

#include <QTableWidget>
#include <vector>

#include "app/plan/quantity_field.h"
#include "app/session/session.h"
#include "app/stages/build/stock_drawing.h"
#include "app/stages/study_frame.h"

class QLabel;

namespace rm::app {

class BuildView : public StudyFrame {
    Q_OBJECT
  public:
    explicit BuildView(Session& session, QWidget* parent = nullptr);

    enum Column { Part, Count, Modelled, Cut, Added, kColumns };

    /// Takes over the design on the bench.
    void refresh();

    QTableWidget* table() { return table_; }
    StockDrawing* drawing() { return drawing_; }
    /// "folded end", "joint", "stock", "kerf".
    QuantityField* field(const QString& name) const;
    QString totals() const;
    const build::BuildSheet& sheet() const { return sheet_; }

  private:
    void fill();
    void choose(int piece);

    struct Typed {
        QuantityField* field;
        std::string model::BuildTexts::*text;
    };

    Session& session_;
    std::vector<Typed> typed_;
    QTableWidget* table_;
    StockDrawing* drawing_;
    QLabel* totals_;
    build::BuildSheet sheet_;
    bool filling_ = false;
};

}  // namespace rm::app
