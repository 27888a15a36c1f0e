// Gives memory back to the machine while the bench is used: now and then after something was worked out, on a
// thread that nobody waits for.
#pragma once

#include <QTimer>

#include "app/session/session.h"

namespace rm::app {

class MemoryKeeper : public QObject {
    Q_OBJECT
  public:
    explicit MemoryKeeper(Session& session);

    /// How often it has been done; for tests.
    int count() const { return count_; }
    QTimer* timer() { return &timer_; }

  private:
    QTimer timer_;
    int count_ = 0;
};

}  // namespace rm::app
