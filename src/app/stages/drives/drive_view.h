// All drive sets of an array side by side: a table of what each does, and their patterns laid over each
// other.
#pragma once

#include <QFrame>
#include <memory>

#include "app/look/themed.h"
#include "core/study/drive_study.h"

class QLabel;
class QTableWidget;
class QToolButton;

namespace rm::app {

class OverlayPlots;

using DrivesPtr = std::shared_ptr<const std::vector<study::DriveRow>>;

class DriveView : public Themed<QFrame> {
    Q_OBJECT
  public:
    explicit DriveView(QWidget* parent = nullptr);

    enum Column { Set, Gain, Takeoff, Beam, SideLobe, Nulls, Impedance, Swr, kColumns };

    /// `inUse` is the drive set that the antenna is driven by, -1 for none.
    void setRows(DrivesPtr rows, int inUse, const model::Angles& angles);
    void setStale(bool stale);
    QTableWidget* table() { return table_; }
    OverlayPlots* plots() { return plots_; }
    QToolButton* patterns() { return patterns_; }

  Q_SIGNALS:
    /// Index of a drive set; -1: every feed as it says itself.
    void chosen(int driveSet);
    void pinRequested(int driveSet);

  private:
    DrivesPtr rows_;
    QTableWidget* table_;
    OverlayPlots* plots_;
    QToolButton* patterns_;
    QLabel* state_;
};

}  // namespace rm::app
