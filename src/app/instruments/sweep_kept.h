// What the views of the band show while the sweep of newer results is on its way.
#pragma once

#include <QObject>
#include <QTimer>

#include "app/session/results.h"

namespace rm::app {

/// Keeps the last results that have a sweep for a moment longer, so that nothing flickers. Where the next
/// sweep takes longer than an eye needs to notice, they are called late; those of another band or design make
/// room for the newer ones, which have no curve yet.
class SweepKept : public QObject {
    Q_OBJECT
  public:
    explicit SweepKept(QObject* parent = nullptr);

    void take(const ResultsPtr& results);
    /// What is to be shown; null before the first.
    const ResultsPtr& shown() const { return shown_; }
    /// What is shown is of an older antenna than the newest results, and has been for too long.
    bool late() const { return late_; }

  Q_SIGNALS:
    void changed();

  private:
    void giveUpWaiting();

    ResultsPtr shown_;
    ResultsPtr waiting_;  ///< the newest, without a sweep
    QTimer timer_;
    bool late_ = false;
};

}  // namespace rm::app
