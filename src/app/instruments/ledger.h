// The ledger along the bottom: a row of figures for the live design and one for every pin, or their
// differences from the baseline.
#pragma once

#include <QTableWidget>
#include <optional>
#include <vector>

#include "app/look/themed.h"
#include "app/session/results.h"

namespace rm::app {

class Ledger : public Themed<QTableWidget> {
    Q_OBJECT
  public:
    explicit Ledger(QWidget* parent = nullptr);

    /// Figures that the results do not have yet stay those of the results before, dimmed.
    void show(const ResultsPtr& results);
    void setStale(bool stale);
    /// Text of a cell by the title of its column; row 0 is the live design, pins follow. For tests and
    /// reading aloud.
    QString figure(const QString& column, int row = 0) const;
    /// Height that shows all rows, at most four.
    int wantedHeight() const;
    /// Row of a pin, whatever the order.
    int rowOf(int pin) const;
    /// The pin in a row; 0 for what is no pin of the project: the live design, and what tuning lays over it.
    model::Id pinIn(int row) const;
    void sortBy(const QString& column);
    void setColumnShown(const QString& column, bool shown);

  Q_SIGNALS:
    // Pins by their id; 0 where the row is no pin of the project.
    void pinToggled(rm::model::Id pin);
    void baselineChosen(rm::model::Id pin);
    void baselineCleared();
    void pinRenamed(rm::model::Id pin, QString name);
    void pinRemoved(rm::model::Id pin);
    void pinColoured(rm::model::Id pin, int colour);
    void pinRestored(rm::model::Id pin);
    void pinBranched(rm::model::Id pin);
    void pinMoved(rm::model::Id pin, int by);

  protected:
    void contextMenuEvent(QContextMenuEvent* event) override;

  private:
    /// One figure: what is shown, and as a number for sorting, differences and the best mark.
    struct Value {
        QString text;
        std::optional<double> number;
        QColor colour = {};
        QString tip = {};
    };
    struct Column;
    static const std::vector<Column>& columns();
    void fill();
    void fillRow(int row, const study::Analysis* analysis, const study::Sweep* sweep);
    std::vector<int> order() const;
    int columnOf(const QString& title) const;
    Value valueOf(const Column& column, const study::Analysis* analysis, const study::Sweep* sweep) const;
    /// A figure that its doubt touches says by how much, and in its tip what it was checked by.
    static void addDoubt(const Column& column, const study::Analysis* analysis, const study::Doubt* doubt,
                         Value& value);
    QString titleOf(int column) const;

    QStringList titles_;
    model::SwrLimits limits_ = model::kUsualSwrLimits;
    model::Angles angles_;
    std::vector<model::Pin> pins_;
    int baseline_ = -1;
    ResultsPtr now_;
    ResultsPtr figured_;  ///< the newest results that have an analysis
    ResultsPtr swept_;    ///< the newest ones that have a sweep
    DoubtPtr doubt_;      ///< of the live design, as it was last checked
    model::Id doubtOf_ = 0;
    int sortColumn_ = -1;
    bool stale_ = false;
    bool filling_ = false;

  protected:
    void themeChanged() override;
};

}  // namespace rm::app
