// The band in the middle of the bench: the chart in the large, and a table of the frequencies that matter
// with what was measured there.
#pragma once

#include "app/instruments/band_view.h"
#include "app/stages/study_frame.h"

class QTableWidget;

namespace rm::app {

class BandPage : public StudyFrame {
    Q_OBJECT
  public:
    explicit BandPage(QWidget* parent = nullptr);

    BandView* view() { return view_; }
    QTableWidget* table() { return table_; }
    void setData(const BandData& data);
    void setStale(bool stale) override;
    /// Text of a cell by the title of its column.
    QString cell(int row, const QString& column) const;

  Q_SIGNALS:
    void frequencyChosen(double hz);
    void importRequested();
    void exportRequested();
    void sweepRequested();

  protected:
    void showEvent(QShowEvent* event) override;

  private:
    void fillTable();
    /// Frequencies of the rows with what they are.
    std::vector<std::pair<double, QString>> frequencies() const;
    void put(int row, int column, const QString& text, const QColor& colour = {});

    BandView* view_;
    QTableWidget* table_;
    class QLabel* notes_;
    BandData data_;

  protected:
    void themeChanged() override;
};

}  // namespace rm::app
