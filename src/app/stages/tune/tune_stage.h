// Tune mode: goals, what may move, the work, its proposal, and the studies beside it.
#pragma once

#include <QTimer>

#include "app/stages/stage.h"
#include "app/stages/tune/proposal_table.h"

namespace rm::app {

class MattersPage;
class ScanPage;
class TolerancePage;
class TunePages;
class TuneView;

/// A page of the Tune mode that works something out on its own.
class TunePage : public QObject {
    Q_OBJECT
  public:
    explicit TunePage(Session& session) : session_(session) {
        connect(&task_, &Task::failed, &session, &Session::bad);
    }
    virtual QWidget* widget() = 0;
    virtual void refresh() = 0;
    virtual bool settled() const { return !task_.running(); }
    void stop() { task_.stop(); }

  protected:
    Session& session_;
    Task task_;
};

class TuneStage : public Stage {
    Q_OBJECT
  public:
    TuneStage(Session& session, Editing& editing);
    ~TuneStage() override;

    QWidget* widget() override;
    std::vector<StageAction> actions() override;
    void show(const ResultsPtr& results) override;
    void refresh() override;
    bool settled() const override;
    void stop() override;

    /// Starts from the design as it is.
    void tune() { start({}); }
    bool tuning() const { return tuning_.running(); }
    void accept();
    void drop();

  private:
    void openPage(QWidget* page);
    void start(std::map<std::string, double> resume);
    void showBest(const model::Design& design, const study::TuneState& state);
    void propose(const model::Design& design, const std::vector<model::Band>& bands,
                 const study::TuneResult& result);
    void layOver(const model::Design& design, const QString& name);
    void showChosen();
    void readGoals();
    void forget();
    /// The design that is tuned is the one on the bench.
    bool mine() const { return tuned_ != 0 && session().design().id == tuned_; }

    Editing& editing_;
    TunePages* pages_;
    TuneView* view_;
    std::vector<std::unique_ptr<TunePage>> others_;
    Task tuning_;
    Task goals_;
    QTimer trialTimer_;
    ProjectPtr goalsRead_;  ///< whose goals were read
    bool readingStopped_ = false;
    QElapsedTimer reading_;  ///< since it began
    model::Id tuned_ = 0;    ///< the design that is tuned
    std::shared_ptr<study::TuneControl> control_;
    std::optional<model::Design> best_;
    ProposalPtr proposal_;
    unsigned turn_ = 0;
};

}  // namespace rm::app
