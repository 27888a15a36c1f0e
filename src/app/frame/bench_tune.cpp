// Tuning on the bench: starts and watches the work, lays the best so far over the design, and takes proposals
// over.
#include <QCheckBox>
#include <QProgressBar>
#include <QPushButton>
#include <QStackedWidget>
#include <QToolButton>
#include <algorithm>

#include "app/frame/bench.h"
#include "app/instruments/ledger.h"
#include "app/frame/notice_bar.h"
#include "app/stages/tune/plan_form.h"
#include "app/stages/tune/tune_stage.h"
#include "app/stages/tune/tune_view.h"
#include "core/study/tune.h"
#include "core/study/tune_axes.h"

namespace rm::app {

namespace {

/// How often the best so far is drawn anew while tuning.
constexpr int kTrialEveryMs = 400;
constexpr int kReadingSamples = 11;

/// The goals and limits of a design as it is.
PlanState planStateOf(const model::Design& design, const std::vector<model::Band>& bands) {
    PlanState state;
    try {
        const auto expansion = model::expand(design);
        study::requireUsable(expansion);
        for (const auto& limit : design.tune.limits)
            state.builtM.push_back(study::builtM(expansion, limit.kind));
        const auto& goals = design.tune.goals;
        if (std::none_of(goals.begin(), goals.end(), [](const auto& g) { return g.enabled; })) return state;
        state.goals = study::readGoals(design, bands, kReadingSamples);
        study::limitsOf(design);
        const auto& movers = design.tune.movers;
        if (std::any_of(movers.begin(), movers.end(), [](const auto& m) { return m.enabled; }))
            study::axesOf(design);
    } catch (const Error& e) {
        state.problem = QString::fromUtf8(e.what());
    }
    return state;
}

}  // namespace

void Bench::buildTune() {
    tuneStage_ = new TuneStage;
    tuneView_ = new TuneView(document_);
    tuneStage_->addPage("Goals", "What a good antenna is, what may move, and the tuning", tuneView_);
    stage_->addWidget(tuneStage_);
    connect(tuneView_, &TuneView::startRequested, this, [this] { startTune({}); });
    connect(tuneView_, &TuneView::goOnRequested, this, [this] {
        if (proposal_) startTune(proposal_->result.best.values);
    });
    connect(tuneView_, &TuneView::stopRequested, this, [this] { tuneTask_.cancel(); });
    connect(tuneView_, &TuneView::acceptRequested, this, &Bench::acceptProposal);
    connect(tuneView_, &TuneView::pinRequested, this, [this] {
        if (!trial_) return;
        document_.finishMerging();
        addPin(QString::fromStdString(trial_->name) + ", tuned", *trial_);
    });
    connect(tuneView_, &TuneView::discardRequested, this, &Bench::dropProposal);
    connect(tuneView_, &TuneView::chosenChanged, this, [this] {
        // Of a proposal that waits while another design is on the bench, nothing is chosen.
        if (!tuneView_->proposal()) return;
        showChosen();
        startWork();
        goalsRead_.reset();
        refreshGoals();
    });
    connect(&tuneTask_, &Task::failed, this, [this](const QString& sentence) {
        tuneView_->end();
        fail(sentence);
    });
    connect(tuneStage_, &TuneStage::pageShown, this, [this] {
        if (tuneStage_->page() == tuneView_) tuneView_->refresh();
        refreshGoals();
        refreshBuildStudies();
    });
    trialTimer_.setSingleShot(true);
    trialTimer_.setInterval(kTrialEveryMs);
    connect(&trialTimer_, &QTimer::timeout, this, [this] {
        if (!tuneTask_.running() || !best_) return;
        showTrial(*best_, "best so far");
        startWork();
    });
}

void Bench::showTune() {
    showMode(tuneStage_);
    tuneStage_->showPage(tuneView_);
}

/// The project with what tuning has found so far as one more pin, for the instruments and the ledger alone.
ProjectPtr Bench::shownProject() const {
    if (!trial_ || document_.design().name != tuned_) return document_.share();
    auto project = std::make_shared<model::Project>(document_.project());
    project->pins.push_back({trialName_.toStdString(), *trial_, true, -1, {}});
    return project;
}

void Bench::showTrial(const model::Design& design, const QString& name) {
    trial_ = design;
    trialName_ = name;
    const auto shown = shownProject();
    ledger_->setProject(*shown);
    ledger_->setFixedHeight(ledger_->wantedHeight());
}

/// Lays what is ticked in the proposal over the design.
void Bench::showChosen() {
    const auto values = tuneView_->table()->chosen();
    showTrial(study::withValues(proposal_->design, values, tuneView_->table()->rounded()), "proposal");
}

void Bench::startTune(std::map<std::string, double> resume) {
    const auto design = std::make_shared<const model::Design>(document_.design());
    const auto bands = document_.project().bands;
    proposal_.reset();
    best_.reset();
    trial_.reset();
    tuned_ = design->name;
    tuneView_->setProposal(nullptr);
    study::TuneOptions options;
    options.seed = tuneView_->seed() + (resume.empty() ? 0U : ++tuneTurn_);
    options.maxSeconds = tuneView_->maxSeconds();
    options.resume = resume;
    options.control = std::make_shared<study::TuneControl>();
    tuneView_->begin(options.control);
    options.progress = [this, design](const study::TuneState& state) {
        QMetaObject::invokeMethod(
            this, [this, design, state] { showBest(*design, state); }, Qt::QueuedConnection);
    };
    tuneTask_.start([this, design, bands, options](std::stop_token stop) mutable -> std::function<void()> {
        options.stop = stop;
        const auto result = study::tune(*design, bands, options);
        return [this, design, bands, result] { propose(*design, bands, result); };
    });
}

void Bench::showBest(const model::Design& design, const study::TuneState& state) {
    if (!tuneTask_.running() || tuned_ != design.name) return;
    best_ = study::withValues(design, state.values);
    std::vector<double> builtM;
    const auto expansion = model::expand(*best_);
    for (const auto& limit : design.tune.limits) builtM.push_back(study::builtM(expansion, limit.kind));
    if (document_.design().name == tuned_) tuneView_->setBest(state, builtM);
    if (!trialTimer_.isActive()) trialTimer_.start();
}

void Bench::propose(const model::Design& design, const std::vector<model::Band>& bands,
                    const study::TuneResult& result) {
    tuneView_->end();
    if (tuned_ != design.name) return;
    proposal_ = std::make_shared<const Proposal>(Proposal{design, result, bands});
    tuneView_->rounded()->setChecked(true);
    if (document_.design().name == tuned_) tuneView_->setProposal(proposal_);
    tuneView_->table()->setRounded(true);  // says that what is chosen has changed
    const auto& goals = result.rounded;
    const auto missed = std::count_if(goals.begin(), goals.end(), [](const auto& g) { return !g.met(); });
    if (result.stopped)
        notice_->show(NoticeBar::Tone::Caution, "Stopped: the best so far is the proposal.");
    else if (missed > 0 && study::allMet(goals))
        notice_->show(NoticeBar::Tone::Good,
                      "Met on as many bands as were found together; the others are given up. Hover a goal "
                      "for each band.");
    else if (missed == 0)
        notice_->show(NoticeBar::Tone::Good, "Every goal is met. Accept the proposal, or only a part of it.");
    else
        notice_->show(
            NoticeBar::Tone::Caution,
            "Not every goal can be met with what may move: this is the best that was found. Let more "
            "move, or ask for less.");
    findingShown_ = false;
}

void Bench::acceptProposal() {
    if (!proposal_) return;
    const auto values = tuneView_->table()->chosen();
    if (values.empty())
        return fail("Nothing is ticked in the proposal: tick what to take over, or discard it.");
    const bool tidy = tuneView_->table()->rounded();
    proposal_.reset();
    trial_.reset();
    tuneView_->setProposal(nullptr);
    document_.finishMerging();
    document_.editDesign("Accept proposal",
                         [&](model::Design& d) { d = study::withValues(d, values, tidy); });
    notice_->show(NoticeBar::Tone::Good,
                  values.size() == 1 ? QString("One dimension was taken over.")
                                     : QString("%1 dimensions were taken over.").arg(values.size()),
                  "Undo", [this] { document_.undoStack()->undo(); });
}

void Bench::dropProposal() {
    proposal_.reset();
    trial_.reset();
    tuneView_->setProposal(nullptr);
    goalsRead_.reset();
    refreshAll();
}

/// Another project comes to the bench: what was tuned in the old one is no proposal for the new one.
void Bench::forgetTuning() {
    tuneTask_.cancel();
    tuned_.clear();
    best_.reset();
    trial_.reset();
    proposal_.reset();
    tuneView_->setProposal(nullptr);
}

/// The proposal is shown beside the design that it is for, and waits while another one is on the bench.
void Bench::refreshTune() {
    const bool mine = document_.design().name == tuned_;
    if (!tuneTask_.running() && tuneView_->proposal() != (mine ? proposal_ : nullptr)) {
        tuneView_->setProposal(mine ? proposal_ : nullptr);
        if (tuneView_->proposal()) showChosen();
    }
    if (stage_->currentWidget() == tuneStage_) tuneView_->refresh();
}

/// Reads the goals of the design, and of what is ticked in the proposal, in the background.
void Bench::refreshGoals() {
    if (stage_->currentWidget() != tuneStage_ || goalsRead_ == document_.share()) return;
    goalsRead_ = document_.share();
    const auto project = goalsRead_;
    std::optional<model::Design> chosen;
    if (proposal_ && trial_ && document_.design().name == tuned_) chosen = trial_;
    goalsTask_.start([this, project, chosen](std::stop_token) -> std::function<void()> {
        const PlanState now = planStateOf(project->active(), project->bands);
        std::optional<PlanState> proposed;
        if (chosen) {
            model::Design design = *chosen;
            design.tune = project->active().tune;
            proposed = planStateOf(design, project->bands);
        }
        return [this, now, proposed] {
            tuneView_->setNow(now);
            if (proposed) tuneView_->setChosen(*proposed);
        };
    });
}

}  // namespace rm::app
