#include "app/session/memory_keeper.h"

#include <QThreadPool>

#include "core/memory.h"

namespace rm::app {

namespace {

constexpr int kEveryMs = 10000;

}  // namespace

MemoryKeeper::MemoryKeeper(Session& session) : QObject(&session) {
    timer_.setSingleShot(true);
    timer_.setInterval(kEveryMs);
    connect(&session, &Session::resultsChanged, this, [this] {
        if (!timer_.isActive()) timer_.start();
    });
    connect(&timer_, &QTimer::timeout, this, [this] {
        ++count_;
        QThreadPool::globalInstance()->start([] { giveBackFreeMemory(); });
    });
}

}  // namespace rm::app
