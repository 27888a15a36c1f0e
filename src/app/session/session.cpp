#include "app/session/session.h"

#include <QApplication>
#include <QLineEdit>
#include <QPointer>
#include <algorithm>

#include "app/look/text.h"
#include "app/session/stale_after.h"
#include "core/edit/designs.h"
#include "core/quantity/format.h"

namespace rm::app {

namespace {

constexpr int kRangePoints = 41;

}  // namespace

Session::Session(QObject* parent) : QObject(parent) {
    qRegisterMetaType<rm::app::Selection>("rm::app::Selection");
    staleTimer_.setSingleShot(true);
    staleTimer_.setInterval(kStaleAfterMs);
    connect(&staleTimer_, &QTimer::timeout, this, [this] {
        if (live() || stale_) return;
        stale_ = true;
        Q_EMIT staleChanged(true);
    });
    connect(&document_, &Document::aboutToChange, this, &Session::commitHand);
    connect(&document_, &Document::adopted, this, [this] {
        // Nothing of the project that was here before stays.
        task_.drop();
        designId_ = 0;
        seen_.reset();
        frequencyChosen_ = false;
        range_.reset();
        bearing_.reset();
        azimuthElevation_.reset();
        trial_.reset();
    });
    connect(&document_, &Document::changed, this, &Session::refresh);
    connect(&document_, &Document::refused, this, &Session::bad);
    connect(&runner_, &Runner::published, this, &Session::accept);
    connect(&runner_, &Runner::progress, this, [this](quint64 generation, double share) {
        // Quick sweeps come and go unannounced.
        if (generation == generation_ && document_.sinceEditMs() > 400.0) Q_EMIT progress(share);
    });
    connect(&task_, &Task::failed, this, &Session::bad);
    connect(&task_, &Task::progress, this, &Session::progress);
    connect(&task_, &Task::done, this, [this] { Q_EMIT progress(1.0); });
    auto nothing = std::make_shared<Results>();
    nothing->project = document_.share();
    results_ = std::move(nothing);
    refresh();
}

Session::~Session() = default;

/// What is being typed somewhere is handed over now, to the design that it was typed for.
void Session::commitHand() {
    const QPointer<QLineEdit> field = qobject_cast<QLineEdit*>(QApplication::focusWidget());
    if (!field || !field->isModified()) return;
    field->clearFocus();
    if (field) field->setModified(false);
}

void Session::refresh() {
    const ProjectPtr before = seen_;
    seen_ = document_.share();
    const bool other = designId_ != design().id;
    designId_ = design().id;
    resonance_.reset();
    // What is only looked at leaves the wires as they are; the unit changes what is said of them.
    if (!expansion_ || !before || other || before->feetAndInches != seen_->feetAndInches ||
        !(before->active() == seen_->active())) {
        expansion_ = std::make_shared<const model::Expansion>(model::expand(design()));
        ++expansions_;
    }
    if (other) {
        frequencyChosen_ = false;
        range_.reset();
    }
    if (!frequencyChosen_) useDefaultFrequency();
    if (!edit::holds(design(), selection_)) selection_ = {};
    // First, so that the figures come while the window takes over what has changed, and are painted with it.
    restart();
    Q_EMIT pictureAwaited(true);
    Q_EMIT projectChanged();
    if (other) Q_EMIT benchCleared();
    Q_EMIT selectionChanged(selection_);
}

void Session::select(Selection selection) {
    if (!edit::holds(design(), selection)) selection = {};
    if (selection == selection_) return;
    selection_ = selection;
    Q_EMIT selectionChanged(selection_);
}

const model::Part* Session::selectedPart() const {
    return selection_.type == Selection::Type::Part ? model::find(design().parts, selection_.id) : nullptr;
}

model::Band Session::band() const {
    return edit::workingBand(project(), frequencyHz_);
}

void Session::chooseBand(int band) {
    const auto place = static_cast<std::size_t>(std::max(0, band));
    if (place >= project().bands.size()) return;
    frequencyChosen_ = false;
    range_.reset();
    if (project().workingBand == place) {
        useDefaultFrequency();
        return restart();
    }
    document_.look([place](model::Project& p) { p.workingBand = place; });
}

void Session::chooseDesign(model::Id id) {
    if (id == design().id || model::find(project().designs, id) == nullptr) return;
    document_.look([id](model::Project& p) { p = edit::chooseDesign(std::move(p), id); });
    select(edit::itemAt(design(), Selection::Type::Part, 0));
}

/// The design frequency where it lies in the working band, otherwise the middle of the band.
void Session::useDefaultFrequency() {
    const model::Band band = this->band();
    frequencyHz_ = band.centreHz();
    const double wanted = expansion_ ? expansion_->designFrequencyHz : 0.0;
    if (wanted >= band.lowHz && wanted <= band.highHz) frequencyHz_ = wanted;
    Q_EMIT frequencyChanged();
}

void Session::setFrequency(double hz) {
    if (!(hz > 0.0)) return;
    frequencyHz_ = hz;
    frequencyChosen_ = true;
    Q_EMIT frequencyChanged();
    restart();
}

void Session::setRange(Range range) {
    range_ = range;
    restart();
}

void Session::setNearLook(const NearLook& look) {
    if (nearLook_ == look) return;
    nearLook_ = look;
    Q_EMIT nearLookChanged();
}

void Session::setClear(ClearPtr clear) {
    if (clear_ == clear) return;
    clear_ = std::move(clear);
    Q_EMIT clearChanged();
}

void Session::setComponent(study::Component component) {
    component_ = component;
    restart();
}

void Session::cutAzimuthAt(std::optional<double> elevationDeg) {
    azimuthElevation_ = elevationDeg;
    restart();
}

void Session::cutElevationAt(std::optional<double> bearingDeg) {
    bearing_ = bearingDeg;
    restart();
}

void Session::showQuantity(BandQuantity quantity, study::Plane plane) {
    quantity_ = quantity;
    plane_ = plane;
    Q_EMIT quantityChanged(quantity, plane);
    // The patterns of a band are worked out where they are looked at.
    if (ofPattern(quantity) && !results_->patterns) restart();
}

void Session::setResonance(std::optional<study::Resonance> resonance) {
    resonance_ = resonance;
    Q_EMIT resonanceChanged();
}

void Session::setWants(const Wants& wants) {
    wants_ = wants;
}

void Session::setTrial(std::optional<Trial> trial) {
    if (!trial && !trial_) return;
    const auto shows = [this] { return trial_ && trial_->of == design().id; };
    const bool shown = shows();
    trial_ = std::move(trial);
    if (shown || shows()) restart();
}

ProjectPtr Session::shownProject() const {
    if (!trial_ || trial_->of != design().id) return document_.share();
    auto shown = std::make_shared<model::Project>(project());
    shown->pins.push_back({trial_->name.toStdString(), trial_->design, true, -1, {}});
    return shown;
}

void Session::restart() {
    Request request;
    Results& first = request.first;
    first.generation = ++generation_;
    first.project = shownProject();
    first.frequencyHz = frequencyHz_;
    first.band = band();
    first.range = range_.has_value();
    first.lowHz = range_ ? range_->lowHz : first.band.lowHz;
    first.highHz = range_ ? range_->highHz : first.band.highHz;
    first.points = range_ ? range_->points : kRangePoints;
    first.component = component_;
    first.expansion = expansion_;
    request.options.azimuthElevationDeg = azimuthElevation_;
    if (bearing_) request.options.bearingAzimuthDeg = expansion_->headingDeg - *bearing_;
    request.options.component = component_;
    request.wants = wants_;
    request.wants.patterns |= ofPattern(quantity_);
    request.wants.check = !trial_;
    staleTimer_.start();
    runner_.start(request);
}

/// The same design on another mesh: nothing is shown anew but the figures.
void Session::cutAsFineAs(int level) {
    document_.setFineness(designId_, level);
    seen_ = document_.share();
    auto cut = std::make_shared<model::Expansion>(*expansion_);
    cut->model.fineness = level;
    expansion_ = std::move(cut);
    restart();
}

void Session::accept(const ResultsPtr& results) {
    if (results->generation != generation_) return;
    const int level = expansion_->model.fineness;
    // What has grown too large to be checked goes back to the mesh that it can be worked out on at all.
    const bool tooLarge = results->analysis && results->analysis->figures.unknowns > study::kMostChecked;
    const int suits = results->finished && results->doubt ? results->doubt->fineness : tooLarge ? 0 : level;
    if (suits != level) return cutAsFineAs(suits);
    results_ = results;
    if (results->analysis) {
        staleTimer_.stop();
        if (stale_) {
            stale_ = false;
            Q_EMIT staleChanged(false);
        }
    } else if (!results->problem.isEmpty() && !stale_) {
        stale_ = true;
        Q_EMIT staleChanged(true);
    }
    Q_EMIT resultsChanged(results_);
    if (results->finished) Q_EMIT progress(1.0);
}

void Session::painted(quint64 generation) {
    runner_.painted(generation);
    if (generation >= generation_) Q_EMIT pictureAwaited(false);
}

void Session::stop() {
    task_.stop();
    runner_.cancel();
}

void Session::done(const QString& sentence) {
    sayForNow({Notice::Tone::Good, sentence, tr("Undo"), [this] { document_.undo(); }});
}

}  // namespace rm::app
