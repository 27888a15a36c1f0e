#include "app/stages/tune/tune_stage.h"

#include <QCheckBox>
#include <algorithm>

#include "app/look/text.h"
#include "app/stages/tune/matters_page.h"
#include "app/stages/tune/scan_page.h"
#include "app/stages/tune/tolerance_page.h"
#include "app/stages/tune/trade_page.h"
#include "app/stages/tune/tune_pages.h"
#include "app/stages/tune/tune_view.h"
#include "core/study/tuning/tune_axes.h"
#include "core/study/tuning/tune_control.h"

namespace rm::app {

namespace {

/// How often the best so far is drawn anew while tuning.
constexpr int kTrialEveryMs = 400;
constexpr int kReadingSamples = 11;
/// Stop lets a reading of goals go on that has only just begun.
constexpr int kMomentMs = 1000;

/// The goals and limits of a design as it is.
PlanState planStateOf(const model::Design& design, const std::vector<model::Band>& bands,
                      const std::stop_token& stop) {
    PlanState state;
    try {
        const auto expansion = model::expand(design);
        study::requireUsable(expansion);
        for (const auto& limit : design.tune.limits)
            state.builtM.push_back(study::builtM(expansion, limit.kind));
        const auto& goals = design.tune.goals;
        if (std::none_of(goals.begin(), goals.end(), [](const auto& g) { return g.enabled; })) return state;
        state.goals = study::readGoals(design, bands, kReadingSamples, stop);
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

TuneStage::TuneStage(Session& s, Editing& editing)
    : Stage("tune", s), editing_(editing), pages_(new TunePages), view_(new TuneView(s)) {
    pages_->addPage(tr("Goals"), tr("What a good antenna is, what may move, and the tuning"), view_);
    others_.push_back(std::make_unique<MattersPage>(s));
    others_.push_back(std::make_unique<TolerancePage>(s));
    others_.push_back(std::make_unique<ScanPage>(s));
    pages_->addPage(tr("What matters"), tr("What each dimension does to the figures"), others_[0]->widget());
    pages_->addPage(tr("Tolerance"), tr("What errors of building do"), others_[1]->widget());
    pages_->addPage(tr("Scan"), tr("A figure over one or two dimensions"), others_[2]->widget());
    auto trade = std::make_unique<TradePage>(s, editing);
    connect(trade.get(), &TradePage::tuneRequested, this, [this] {
        openPage(view_);
        start({});
    });
    pages_->addPage(tr("Trade-off"), tr("What can be had against one number that is asked"), trade->widget());
    others_.push_back(std::move(trade));
    connect(view_, &TuneView::startRequested, this, [this] { start({}); });
    connect(view_, &TuneView::goOnRequested, this, [this] {
        if (proposal_) start(proposal_->result.best.values);
    });
    connect(view_, &TuneView::stopRequested, &tuning_, &Task::stop);
    connect(view_, &TuneView::acceptRequested, this, &TuneStage::accept);
    connect(view_, &TuneView::pinRequested, this, [this] {
        if (const auto& trial = session().trial(); trial && trial->of == session().design().id)
            editing_.pinDesign(QString::fromStdString(trial->design.name) + tr(", tuned"), trial->design);
    });
    connect(view_, &TuneView::discardRequested, this, &TuneStage::drop);
    connect(view_, &TuneView::chosenChanged, this, [this] {
        // Of a proposal that waits while another design is on the bench, nothing is chosen.
        if (!view_->proposal()) return;
        showChosen();
        goalsRead_.reset();
        readGoals();
    });
    connect(pages_, &TunePages::pageShown, this, [this] {
        if (!inFront()) return;
        refresh();
        show(session().results());
    });
    connect(&tuning_, &Task::failed, this, [this](const QString& sentence) {
        view_->end();
        session().bad(sentence);
    });
    connect(&goals_, &Task::failed, &s, &Session::bad);
    connect(&s, &Session::pictureAwaited, this, [this](bool awaited) {
        if (control_ && tuning_.running()) control_->giveWay(awaited);
    });
    connect(&s.document(), &Document::adopted, this, &TuneStage::forget);
    trialTimer_.setSingleShot(true);
    trialTimer_.setInterval(kTrialEveryMs);
    connect(&trialTimer_, &QTimer::timeout, this, [this] {
        if (tuning_.running() && best_) layOver(*best_, tr("best so far"));
    });
}

TuneStage::~TuneStage() = default;

QWidget* TuneStage::widget() {
    return pages_;
}

std::vector<StageAction> TuneStage::actions() {
    const auto page = [this](QWidget* widget) { return [this, widget] { openPage(widget); }; };
    return {{StageAction::Menu::View, tr("T&une"), "Ctrl+8",
             tr("Goals, what may move, and a proposal (Ctrl+8)"), page(view_), tr("Tune")},
            {StageAction::Menu::Study, tr("What &matters"), "Ctrl+Shift+8",
             tr("What a millimetre or a percent of each dimension does to the figures"),
             page(others_[0]->widget())},
            {StageAction::Menu::Study, tr("&Tolerance of building"), "Ctrl+9",
             tr("The curves to expect of many builds with random errors"), page(others_[1]->widget())},
            {StageAction::Menu::Study, tr("Scan one or two &dimensions"), "Ctrl+Shift+9",
             tr("A figure as a curve over one dimension, or as a map over two"), page(others_[2]->widget())},
            {StageAction::Menu::Study, tr("Trade-&off"), "Ctrl+Alt+8",
             tr("What the antenna can do against one number that is asked of it, all else tuned"),
             page(others_[3]->widget())}};
}

void TuneStage::openPage(QWidget* page) {
    if (readingStopped_) goalsRead_.reset();
    pages_->showPage(page);
    Q_EMIT frontRequested();
    if (goalsRead_ == nullptr) show(session().results());
}

void TuneStage::show(const ResultsPtr& results) {
    if (!results->finished) return;
    if (pages_->page() == view_) readGoals();
    for (auto& other : others_)
        if (pages_->page() == other->widget()) other->refresh();
}

/// The proposal is shown beside the design that it is for, and waits while another one is on the bench.
void TuneStage::refresh() {
    const ProposalPtr own = mine() ? proposal_ : nullptr;
    if (!tuning_.running() && view_->proposal() != own) {
        view_->setProposal(own);
        if (own) showChosen();
    }
    view_->refresh();
}

bool TuneStage::settled() const {
    if (goals_.running()) return false;
    if (inFront() && pages_->page() == view_ && goalsRead_ != session().document().share()) return false;
    return std::all_of(others_.begin(), others_.end(), [](const auto& page) { return page->settled(); });
}

void TuneStage::stop() {
    tuning_.stop();
    for (auto& page : others_) page->stop();
    // What is there in a moment comes; what takes long ends.
    if (!goals_.running() || reading_.elapsed() < kMomentMs) return;
    goals_.drop();
    readingStopped_ = true;
    PlanState state;
    state.problem =
        tr("Reading the goals was stopped. They are read again with the next change, or when you come back "
           "here.");
    view_->setNow(state);
}

void TuneStage::layOver(const model::Design& design, const QString& name) {
    session().setTrial(Trial{tuned_, design, name});
}

/// Lays what is ticked in the proposal over the design.
void TuneStage::showChosen() {
    layOver(study::withValues(proposal_->design, view_->table()->chosen(), view_->table()->rounded()),
            "proposal");
}

void TuneStage::start(std::map<std::string, double> resume) {
    study::TuneOptions options;
    try {
        options.seed = view_->seed() + (resume.empty() ? 0U : ++turn_);
        options.maxSeconds = view_->maxSeconds();
    } catch (const Error& e) {
        return session().bad(QString::fromUtf8(e.what()));
    }
    const auto design = std::make_shared<const model::Design>(session().design());
    const auto bands = session().project().bands;
    proposal_.reset();
    best_.reset();
    session().setTrial(std::nullopt);
    tuned_ = design->id;
    view_->setProposal(nullptr);
    options.resume = resume;
    options.control = std::make_shared<study::TuneControl>();
    control_ = options.control;
    view_->begin(options.control);
    // The states come through the mailbox of the task, which closes with it.
    auto box = std::make_shared<Mailbox>(this);
    connect(this, &QObject::destroyed, [box] { box->close(); });
    options.progress = [this, design, box](const study::TuneState& state) {
        box->post([this, design, state] { showBest(*design, state); });
    };
    tuning_.start(
        [this, design, bands, options](std::stop_token stop, const Task::Progress&) mutable -> Task::After {
            options.stop = stop;
            const auto result = study::tune(*design, bands, options);
            return [this, design, bands, result] { propose(*design, bands, result); };
        });
}

void TuneStage::showBest(const model::Design& design, const study::TuneState& state) {
    if (!tuning_.running() || tuned_ != design.id) return;
    best_ = study::withValues(design, state.values);
    std::vector<double> builtM;
    const auto expansion = model::expand(*best_);
    for (const auto& limit : design.tune.limits) builtM.push_back(study::builtM(expansion, limit.kind));
    if (mine()) view_->setBest(state, builtM);
    if (!trialTimer_.isActive()) trialTimer_.start();
}

void TuneStage::propose(const model::Design& design, const std::vector<model::Band>& bands,
                        const study::TuneResult& result) {
    view_->end();
    if (tuned_ != design.id) return;
    if (model::find(session().project().designs, tuned_) == nullptr) {
        forget();
        return session().caution(tr("The design that was tuned is not there any more: nothing is proposed."));
    }
    proposal_ = std::make_shared<const Proposal>(Proposal{design, result, bands});
    view_->rounded()->setChecked(true);
    if (mine()) view_->setProposal(proposal_);
    view_->table()->setRounded(true);  // says that what is chosen has changed
    const auto& goals = result.rounded;
    const auto missed = std::count_if(goals.begin(), goals.end(), [](const auto& g) { return !g.met(); });
    if (result.best.values == result.before.values)
        session().caution(
            tr("Nothing better was found than the design as it is: let more move, or ask for less."));
    else if (result.stopped)
        session().caution(tr("Stopped: the best so far is the proposal."));
    else if (result.asBuilt && study::allMet(goals) && !result.asBuilt->nineOfTen())
        session().caution(
            tr("Every goal is met as drawn, but only by %1 of %2 builds: let more move, ask for "
               "less, or build more exactly.")
                .arg(result.asBuilt->meeting)
                .arg(result.asBuilt->builds));
    else if (missed > 0 && study::allMet(goals))
        session().good(
            tr("Met on as many bands as were found together; the others are given up. Hover a goal for each "
               "band."));
    else if (missed == 0)
        session().good(tr("Every goal is met. Accept the proposal, or only a part of it."));
    else
        session().caution(tr(
            "Not every goal can be met with what may move: this is the best that was found. Let more move, "
            "or ask "
            "for less."));
}

void TuneStage::accept() {
    if (!proposal_ || !mine()) return;
    const auto values = view_->table()->chosen();
    if (values.empty())
        return session().bad(tr("Nothing is ticked in the proposal: tick what to take over, or discard it."));
    const bool tidy = view_->table()->rounded();
    const model::Id design = tuned_;
    proposal_.reset();
    session().setTrial(std::nullopt);
    view_->setProposal(nullptr);
    document().editDesign(design, tr("Accept proposal"),
                          [&](model::Design& d) { d = study::withValues(d, values, tidy); });
    session().done(trn("One dimension was taken over.", "%n dimensions were taken over.",
                       static_cast<int>(values.size())));
}

void TuneStage::drop() {
    proposal_.reset();
    view_->setProposal(nullptr);
    goalsRead_.reset();
    session().setTrial(std::nullopt);
    session().good(tr("The proposal is discarded: the design is as it was."));
    readGoals();
}

/// Another project comes to the bench: what was tuned in the old one is no proposal for the new one.
void TuneStage::forget() {
    tuning_.drop();
    goals_.drop();
    view_->end();
    tuned_ = 0;
    best_.reset();
    proposal_.reset();
    goalsRead_.reset();
    view_->setProposal(nullptr);
    session().setTrial(std::nullopt);
}

/// Reads the goals of the design, and of what is ticked in the proposal, in the background.
void TuneStage::readGoals() {
    if (!inFront() || goalsRead_ == document().share()) return;
    goalsRead_ = document().share();
    readingStopped_ = false;
    reading_.start();
    const auto project = goalsRead_;
    std::optional<model::Design> chosen;
    if (const auto& trial = session().trial(); proposal_ && trial && mine()) chosen = trial->design;
    goals_.start([this, project, chosen](std::stop_token ended, const Task::Progress&) -> Task::After {
        const PlanState now = planStateOf(project->active(), project->bands, ended);
        std::optional<PlanState> proposed;
        if (chosen) {
            model::Design design = *chosen;
            design.tune = project->active().tune;
            proposed = planStateOf(design, project->bands, ended);
            if (proposed->problem.isEmpty())
                proposed->changes =
                    study::figureChanges(project->active(), design, project->bands, project->angles, ended);
        }
        return [this, now, proposed, id = project->active().id] {
            if (session().design().id != id) return;
            view_->setNow(now);
            if (proposed) view_->setChosen(*proposed);
        };
    });
}

}  // namespace rm::app
