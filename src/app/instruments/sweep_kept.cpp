#include "app/instruments/sweep_kept.h"

#include "app/session/stale_after.h"

namespace rm::app {

namespace {

/// Whether a curve of one is where a curve of the other would be.
bool samePlace(const Results& a, const Results& b) {
    return a.rangeName() == b.rangeName() && a.lowHz == b.lowHz && a.highHz == b.highHz &&
           a.design().id == b.design().id;
}

}  // namespace

SweepKept::SweepKept(QObject* parent) : QObject(parent) {
    timer_.setSingleShot(true);
    timer_.setInterval(kStaleAfterMs);
    connect(&timer_, &QTimer::timeout, this, &SweepKept::giveUpWaiting);
}

void SweepKept::take(const ResultsPtr& results) {
    if (!results->sweep) {
        waiting_ = results;
        if (!timer_.isActive()) timer_.start();
        return;
    }
    timer_.stop();
    waiting_.reset();
    late_ = false;
    shown_ = results;
    Q_EMIT changed();
}

void SweepKept::giveUpWaiting() {
    late_ = shown_ != nullptr && samePlace(*shown_, *waiting_);
    if (!late_) shown_ = waiting_;
    Q_EMIT changed();
}

}  // namespace rm::app
