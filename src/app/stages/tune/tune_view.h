// Tune: the goals and limits with how far each is from met, what may move, how the work goes on, and what
// comes of it as a proposal.
#pragma once

#include <QTimer>
#include <QWidget>
#include <chrono>
#include <optional>

#include "app/session/session.h"
#include "app/stages/tune/plan_rows.h"
#include "app/stages/tune/proposal_table.h"
#include "core/study/figure_changes.h"

class QCheckBox;
class QLabel;
class QLineEdit;
class QMenu;
class QPushButton;
class QStackedWidget;
class QToolButton;
#include "app/look/themed.h"

namespace rm::app {

class HistoryPlot;
class MoverTable;
class PlanForm;

/// The goals and limits of one antenna, as they stand.
struct PlanState {
    std::vector<study::GoalState> goals;
    std::vector<double> builtM;                     ///< one per limit of the plan
    QString problem;                                ///< what cannot be read; empty: nothing
    std::vector<study::FigureChange> changes = {};  ///< against the design as it is; of a proposal
};

class AsBuiltRow;

class TuneView : public Themed<QWidget> {
    Q_OBJECT
  public:
    explicit TuneView(Session& session, QWidget* parent = nullptr);

    /// From the document: the plan has changed.
    void refresh();
    /// The design as it is.
    void setNow(const PlanState& state);
    const PlanState& now() const { return now_; }

    /// Work has begun; `control` tells how much has been done.
    void begin(std::shared_ptr<study::TuneControl> control);
    /// A better antenna was found.
    void setBest(const study::TuneState& state, const std::vector<double>& builtM);
    /// Work has ended.
    void end();
    bool running() const { return control_ != nullptr; }
    /// Shows a proposal; null takes it away.
    void setProposal(ProposalPtr proposal);
    const ProposalPtr& proposal() const { return proposal_; }
    /// Goals of the proposal with only the ticked dimensions.
    void setChosen(const PlanState& state);

    PlanRows* rows() { return rows_; }
    PlanForm* form() { return form_; }
    MoverTable* movers() { return movers_; }
    HistoryPlot* history() { return history_; }
    ProposalTable* table() { return table_; }
    QPushButton* start() { return start_; }
    QToolButton* pause() { return pause_; }
    QToolButton* stop() { return stop_; }
    QPushButton* accept() { return accept_; }
    QToolButton* pinButton() { return pin_; }
    QToolButton* discard() { return discard_; }
    QToolButton* goOn() { return goOn_; }
    QCheckBox* rounded() { return round_; }
    AsBuiltRow* asBuilt() { return asBuilt_; }
    /// What tuning as it is built has brought and cost; empty where that was not asked for.
    QString built() const;
    QToolButton* addGoal() { return addGoal_; }
    QToolButton* addLimit() { return addLimit_; }
    QToolButton* others() { return others_; }
    QString rate() const;
    QString cost() const;
    /// What becomes worse, and better, with what is ticked.
    QString worse() const;
    QString better() const;
    /// As they were typed; throw rm::Error where that is none.
    double maxSeconds() const;
    unsigned seed() const;

  Q_SIGNALS:
    void startRequested();
    void goOnRequested();
    void stopRequested();
    void acceptRequested();
    void pinRequested();
    void discardRequested();
    void chosenChanged();

  private:
    QWidget* planPage();
    QWidget* proposalPage();
    void fillMenus();
    void addGoalOf(model::GoalKind kind);
    void addLimitOf(model::LimitKind kind);
    void fillRows();
    void tick();
    void choose(int row);
    void toggle(int row);
    std::size_t goalCount() const { return document_.design().tune.goals.size(); }

    Session& session_;
    Document& document_;
    PlanState now_;
    std::optional<PlanState> best_;
    ProposalPtr proposal_;
    std::shared_ptr<study::TuneControl> control_;
    QTimer ticker_;
    std::chrono::steady_clock::time_point began_;

    QLabel* said_;
    QPushButton* start_;
    QToolButton* pause_;
    QToolButton* stop_;
    PlanRows* rows_;
    QWidget* held_;  ///< what the rows scroll in
    PlanForm* form_;
    QToolButton* addGoal_;
    QToolButton* addLimit_;
    QStackedWidget* lower_;
    MoverTable* movers_;
    QToolButton* others_;
    QMenu* othersMenu_;
    HistoryPlot* history_;
    QLabel* rate_;
    AsBuiltRow* asBuilt_;
    QLineEdit* seconds_;
    QLineEdit* seed_;
    ProposalTable* table_;
    QCheckBox* round_;
    QLabel* cost_;
    QLabel* built_;
    QLabel* worse_;
    QLabel* better_;
    QPushButton* accept_;
    QToolButton* pin_;
    QToolButton* discard_;
    QToolButton* goOn_;
};

}  // namespace rm::app
