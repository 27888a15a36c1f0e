// Build mode: the antenna as a workpiece. What to cut, what is added to what was modelled, and which stock it
// comes out of.
#pragma once

#include <QTabBar>
#include <QTableWidget>
#include <vector>

#include "app/plan/quantity_field.h"
#include "app/session/session.h"
#include "app/stages/build/stock_drawing.h"
#include "app/stages/study_frame.h"
#include "core/build/care.h"
#include "core/export/build_tables.h"

class QLabel;

namespace rm::app {

class BuildView : public StudyFrame {
    Q_OBJECT
  public:
    explicit BuildView(Session& session, QWidget* parent = nullptr);

    enum Column { Part, Count, Modelled, Cut, KeepTo, Added, kColumns };

    /// Takes over the design on the bench.
    void refresh();

    QTableWidget* table() { return table_; }
    StockDrawing* drawing() { return drawing_; }
    /// "folded end", "joint", "reel"; where there are rods or tubes "stock", "kerf", "gap", "overlap",
    /// "wall", "boom end".
    QuantityField* field(const QString& name) const;
    QString totals() const;
    const build::BuildSheet& sheet() const { return sheet_; }
    /// "What to cut", then what else there is: ropes, holes, lines, coils, what to order.
    QTabBar* tabs() { return tabs_; }
    /// What the tab in front shows, where that is not what to cut.
    QTableWidget* others() { return others_; }
    /// Which lengths are critical is known.
    bool settled() const { return !task_.running(); }
    void stop() { task_.stop(); }

  private:
    void buildCutPage();
    void fill();
    void fitRows();
    void fillTabs();
    void showTab(int tab);
    static QString keepWords(double keepM);
    void weigh();
    /// `why`: why there is none of a piece.
    void showCare(const std::vector<build::Care>& care, const QString& why);
    void choose(int piece);
    void lead(const std::string& name);

    struct Typed {
        const char* name;
        QString label;
        QString tip;
        std::string model::BuildTexts::*text;
    };
    QWidget* fieldRow(const std::vector<Typed>& all);
    struct Field {
        QuantityField* field;
        std::string model::BuildTexts::*text;
    };

    Session& session_;
    std::vector<Field> typed_;
    QWidget* wireFields_;
    QWidget* tubeFields_;
    QTabBar* tabs_;
    QWidget* cutPage_;
    QTableWidget* others_;
    std::vector<io::Table> tables_;
    Task task_;
    QTableWidget* table_;
    StockDrawing* drawing_;
    QLabel* totals_;
    build::BuildSheet sheet_;
    bool filling_ = false;
};

}  // namespace rm::app
