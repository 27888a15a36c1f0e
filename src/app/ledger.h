// The ledger along the bottom: one row of figures for the live design.
#pragma once

#include <QTableWidget>

#include "app/runner.h"
#include "app/theme.h"

namespace rm::app {

class Ledger : public QTableWidget {
    Q_OBJECT
  public:
    explicit Ledger(QWidget* parent = nullptr);

    void setTheme(const Theme& theme);
    void setLimits(const model::SwrLimits& limits) { limits_ = limits; }
    void setDesign(const QString& name);
    void setAnalysis(AnalysisPtr analysis);
    void setSweep(SweepPtr sweep, const QString& band);
    void setStale(bool stale);
    /// Text of a cell of the live row by the title of its column; for tests and reading aloud.
    QString figure(const QString& column) const;

  private:
    void put(const QString& column, const QString& text, const QColor& colour = {});
    int columnOf(const QString& title) const;

    Theme theme_ = Theme::light();
    model::SwrLimits limits_ = model::kUsualSwrLimits;
};

}  // namespace rm::app
