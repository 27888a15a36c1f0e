// The ledger along the bottom: a row of figures for the live design and one for every pin, or their
// differences from the baseline.
#pragma once

#include <QTableWidget>
#include <optional>
#include <vector>

#include "app/session/runner.h"
#include "app/look/theme.h"

namespace rm::app {

class Ledger : public QTableWidget {
    Q_OBJECT
  public:
    explicit Ledger(QWidget* parent = nullptr);

    void setTheme(const Theme& theme);
    void setProject(const model::Project& project);
    void setAnalysis(AnalysisPtr analysis);
    void setSweep(SweepPtr sweep, const QString& band);
    void setPins(PinsPtr pins);
    void setStale(bool stale);
    /// Text of a cell by the title of its column; row 0 is the live design, pins follow. For tests and
    /// reading aloud.
    QString figure(const QString& column, int row = 0) const;
    /// Height that shows all rows, at most four.
    int wantedHeight() const;
    /// Row of a pin, whatever the order.
    int rowOf(int pin) const;
    void sortBy(const QString& column);
    void setColumnShown(const QString& column, bool shown);

  Q_SIGNALS:
    void pinToggled(int pin);
    void baselineChosen(int pin);  ///< -1: none
    void pinRenamed(int pin, QString name);
    void pinRemoved(int pin);
    void pinColoured(int pin, int colour);
    void pinRestored(int pin);
    void pinBranched(int pin);
    void pinMoved(int pin, int by);

  protected:
    void contextMenuEvent(QContextMenuEvent* event) override;

  private:
    /// One figure: what is shown, and as a number for sorting, differences and the best mark.
    struct Value {
        QString text;
        std::optional<double> number;
        QColor colour = {};
    };
    struct Column;
    static const std::vector<Column>& columns();
    void fill();
    void fillRow(int row, const study::Analysis* analysis, const study::Sweep* sweep);
    std::vector<int> order() const;
    int columnOf(const QString& title) const;
    Value valueOf(const Column& column, const study::Analysis* analysis, const study::Sweep* sweep) const;
    QString titleOf(int column) const;

    Theme theme_ = Theme::light();
    QString live_;
    QString band_;
    QStringList titles_;
    model::SwrLimits limits_ = model::kUsualSwrLimits;
    model::Angles angles_;
    std::vector<model::Pin> pins_;
    int baseline_ = -1;
    AnalysisPtr analysis_;
    SweepPtr sweep_;
    PinsPtr results_;
    int sortColumn_ = -1;
    bool stale_ = false;
    bool filling_ = false;
};

}  // namespace rm::app
