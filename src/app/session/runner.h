// Computes in the background what the bench shows: the newest request wins, older work is let go.
#pragma once

#include <QObject>
#include <memory>

#include "app/session/results.h"

namespace rm::app {

/// What to compute: `first` says of what and where, and has nothing worked out yet but the expansion.
struct Request {
    Results first;
    study::AnalysisOptions options;
    Wants wants;
};

class Runner : public QObject {
    Q_OBJECT
  public:
    explicit Runner(QObject* parent = nullptr);
    ~Runner() override;

    /// Starts this work and cancels what runs. What rests on nothing that has changed is not worked out
    /// again.
    void start(const Request& request);
    /// Ends the work that runs, or waits for its turn, with what it has; with its first figures where they
    /// come in a moment.
    void cancel();
    /// The window has painted the first figures of this generation: what nobody waits for may take both
    /// processors.
    void painted(quint64 generation);
    /// Field solutions made so far: a change of a load, a line or the feed path makes none.
    int solutions() const;

  Q_SIGNALS:
    /// Each time more is there; the last one of a generation is finished.
    void published(rm::app::ResultsPtr results);
    /// Of the sweep of the range.
    void progress(quint64 generation, double share);

  private:
    struct Shop;
    std::shared_ptr<Shop> shop_;
};

}  // namespace rm::app
