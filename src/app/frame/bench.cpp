#include "app/frame/bench.h"

#include <spdlog/spdlog.h>

#include <QCloseEvent>
#include <QComboBox>
#include <QLabel>
#include <QProgressBar>
#include <QSignalBlocker>
#include <QSplitter>
#include <QStackedWidget>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "app/stages/boom/boom_view.h"
#include "app/stages/drives/drive_view.h"
#include "app/instruments/band_strip.h"
#include "app/instruments/band_view.h"
#include "app/instruments/polar_view.h"
#include "app/instruments/ledger.h"
#include "app/stages/match/match_view.h"
#include "app/frame/notice_bar.h"
#include "app/plan/item_editor.h"
#include "app/plan/outline.h"
#include "app/stages/band/band_stage.h"
#include "app/stages/currents/current_view.h"
#include "app/stages/shape/yard.h"
#include "core/quantity/format.h"

namespace rm::app {

namespace {

QFrame* panel(QWidget* inside) {
    auto* frame = new QFrame;
    frame->setObjectName("panel");
    auto* layout = new QVBoxLayout(frame);
    layout->setContentsMargins(1, 1, 1, 1);
    layout->addWidget(inside);
    return frame;
}

constexpr int kBandPoints = 41;
/// How long an older picture may stay bright while its successor is on the way.
constexpr int kStaleAfterMs = 150;

}  // namespace

Bench::Bench(QWidget* parent)
    : QMainWindow(parent),
      task_(nullptr),
      compareTask_(nullptr),
      tuneTask_(nullptr),
      goalsTask_(nullptr),
      mattersTask_(nullptr) {
    setObjectName("bench");
    buildActions();
    buildWindow();
    setNight(false);
    resize(1280, 800);
    staleTimer_.setSingleShot(true);
    staleTimer_.setInterval(kStaleAfterMs);
    connect(&staleTimer_, &QTimer::timeout, this, &Bench::markStale);

    connect(&document_, &Document::changed, this, &Bench::refreshAll);
    connect(&document_, &Document::fileChanged, this, &Bench::updateTitle);
    connect(document_.undoStack(), &QUndoStack::cleanChanged, this, &Bench::updateTitle);

    connect(&runner_, &Runner::expanded, this, [this](quint64 g, ExpansionPtr expansion) {
        if (g != serial_) return;
        expansion_ = std::move(expansion);
        yard_->setExpansion(expansion_);
        boomView_->setExpansion(expansion_);
        outline_->setExpansion(expansion_);
        showFindings();
        refreshStudies();
    });
    connect(&runner_, &Runner::analysed, this, [this](quint64 g, AnalysisPtr analysis) {
        if (g != serial_) return;
        analysis_ = std::move(analysis);
        analysed_ = g;
        staleTimer_.stop();
        for (PolarView* view : {elevation_, azimuth_}) {
            view->setAnalysis(analysis_, expansion_ ? expansion_->headingDeg : 0.0);
            view->setStale(false);
        }
        yard_->setAnalysis(analysis_);
        yard_->setStale(false);
        ledger_->setStale(false);
        ledger_->setAnalysis(analysis_);
        outline_->setJoints(analysis_->figures.joints, expansion_ ? expansion_->referenceOhm : 50.0);
        if (stage_->currentWidget() == currentView_ && expansion_)
            currentView_->setAnalysis(expansion_, analysis_);
        refreshArray();
        awaitingPaint_ = true;
        status_->setText(QString("%1 unknowns   %2 ms   live")
                             .arg(analysis_->figures.unknowns)
                             .arg(analysis_->seconds * 1e3, 0, 'f', 1));
    });
    connect(&runner_, &Runner::rangeSwept, this, [this](quint64 g, SweepPtr sweep) {
        if (g != serial_) return;
        sweep_ = std::move(sweep);
        const QString name = range_ ? QString("Range") : QString::fromStdString(workingBand().name);
        refreshBand();
        refreshArray();
        band_->setStale(false);
        ledger_->setSweep(sweep_, name);
        if (!range_) strip_->setSweep(static_cast<int>(document_.project().workingBand), sweep_);
        progress_->hide();
        cancel_->hide();
        if (!sweep_->complete)
            notice_->show(NoticeBar::Tone::Caution,
                          QString("The sweep was stopped after %1 points.").arg(sweep_->points.size()));
    });
    connect(&runner_, &Runner::measured, this, [this](quint64 g, MeasuredPtr planes) {
        if (g == serial_) measured_ = std::move(planes);
    });
    connect(&runner_, &Runner::patternsSwept, this, [this](quint64 g, PatternSweepPtr points) {
        if (g != serial_) return;
        patterns_ = std::move(points);
        refreshBand();
    });
    connect(&runner_, &Runner::lobed, this, [this](quint64 g, LobePtr lobe) {
        if (g == serial_) yard_->setLobe(std::move(lobe));
    });
    connect(&runner_, &Runner::remarked, this, [this](quint64 g, const QStringList& sentences) {
        if (g == serial_) yard_->setRemarks(sentences);
    });
    connect(&runner_, &Runner::pinned, this, [this](quint64 g, PinsPtr pins) {
        if (g == serial_) showPins(std::move(pins));
    });
    connect(&runner_, &Runner::pathStudied, this, [this](quint64 g, PathPtr study) {
        if (g == serial_) matchView_->setStudy(std::move(study));
    });
    connect(&runner_, &Runner::bandSwept, this, [this](quint64 g, int band, SweepPtr sweep) {
        if (g == serial_) strip_->setSweep(band, std::move(sweep));
    });
    connect(&runner_, &Runner::progress, this, [this](quint64 g, double share) {
        // Quick sweeps come and go unannounced.
        if (g != serial_ || document_.sinceEditMs() < 400.0) return;
        progress_->setVisible(share < 1.0);
        cancel_->setVisible(share < 1.0);
        progress_->setValue(static_cast<int>(100.0 * share));
    });
    connect(&runner_, &Runner::failed, this, [this](quint64 g, const QString& sentence) {
        if (g != serial_) return;
        markStale();
        status_->setText("no figures");
        if (!model::hasError(expansion_->findings)) fail(sentence);
        settled_ = g;
    });
    connect(&runner_, &Runner::finished, this, [this](quint64 g) {
        settled_ = g;
        if (g != serial_) return;
        refreshCompare();
        refreshGoals();
        refreshBuildStudies();
    });
    connect(&compareTask_, &Task::failed, this, &Bench::fail);
    connect(&task_, &Task::failed, this, &Bench::fail);
    connect(&task_, &Task::done, this, [this] {
        progress_->hide();
        cancel_->hide();
    });
    refreshAll();
}

Bench::~Bench() = default;

void Bench::buildWindow() {
    auto* centre = new QWidget;
    auto* column = new QVBoxLayout(centre);
    column->setContentsMargins(12, 4, 12, 10);
    column->setSpacing(8);

    strip_ = new BandStrip;
    column->addWidget(strip_);

    outline_ = new Outline(document_);
    editor_ = new ItemEditor(document_);
    auto* plan = new QWidget;
    auto* planColumn = new QVBoxLayout(plan);
    planColumn->setContentsMargins(5, 6, 5, 5);
    planColumn->setSpacing(4);
    auto* planTitle = new QLabel("  Plan");
    planTitle->setFont(textFont(kTitlePt, true));
    planColumn->addWidget(planTitle);
    planColumn->addWidget(outline_, 11);
    planColumn->addWidget(editor_, 10);

    yard_ = new Yard;
    notice_ = new NoticeBar;
    auto* middle = new QWidget;
    auto* middleColumn = new QVBoxLayout(middle);
    middleColumn->setContentsMargins(0, 0, 0, 0);
    middleColumn->setSpacing(6);
    middleColumn->addWidget(notice_);
    buildStudies();
    buildArray();
    buildTune();
    buildBuildStudies();
    middleColumn->addWidget(stage_, 1);

    elevation_ = new PolarView(PolarView::Kind::Elevation);
    azimuth_ = new PolarView(PolarView::Kind::Azimuth);
    band_ = new BandView;
    auto* instruments = new QWidget;
    auto* instrumentColumn = new QVBoxLayout(instruments);
    instrumentColumn->setContentsMargins(0, 0, 0, 0);
    instrumentColumn->setSpacing(6);
    instrumentColumn->addWidget(panel(elevation_), 10);
    instrumentColumn->addWidget(panel(azimuth_), 11);
    instrumentColumn->addWidget(panel(band_), 9);

    auto* split = new QSplitter(Qt::Horizontal);
    split->setHandleWidth(8);
    split->setChildrenCollapsible(false);
    split->addWidget(panel(plan));
    split->addWidget(middle);
    split->addWidget(instruments);
    split->setStretchFactor(0, 0);
    split->setStretchFactor(1, 1);
    split->setStretchFactor(2, 0);
    split->setSizes({306, 530, 404});
    column->addWidget(split, 1);

    ledger_ = new Ledger;
    auto* bottom = new QWidget;
    auto* bottomColumn = new QVBoxLayout(bottom);
    bottomColumn->setContentsMargins(8, 3, 8, 3);
    bottomColumn->addWidget(ledger_);
    ledger_->setFixedHeight(ledger_->wantedHeight());
    connectPins();
    column->addWidget(panel(bottom));
    setCentralWidget(centre);

    connect(strip_, &BandStrip::bandChosen, this, &Bench::chooseBand);
    connect(strip_, &BandStrip::editBands, this, &Bench::askBands);
    connect(outline_, &Outline::selected, this, &Bench::selectEverywhere);
    connect(outline_, &Outline::addRequested, this, &Bench::addItem);
    connect(editor_, &ItemEditor::removeRequested, this, &Bench::removeSelected);
    connect(editor_, &ItemEditor::moved, this, &Bench::selectEverywhere);
    connect(editor_, &ItemEditor::duplicateRequested, this, &Bench::duplicateSelected);
    connect(yard_, &Yard::partClicked, this, [this](const QString& name) {
        const auto& parts = document_.design().parts;
        for (std::size_t i = 0; i < parts.size(); ++i)
            if (QString::fromStdString(parts[i].name) == name)
                return selectEverywhere({Selection::Type::Part, i});
        selectEverywhere({});
    });
    connect(yard_, &Yard::heightDragged, this, [this](double metres) {
        document_.editDesign(
            "Change height",
            [&](model::Design& d) { d.site.height = quantity::lengthLike(d.site.height, metres); }, "height");
    });
    connect(yard_, &Yard::dragFinished, this, [this] { document_.finishMerging(); });
    for (PolarView* view : {elevation_, azimuth_}) {
        connect(view, &PolarView::cursorMoved, this, [this, view](double degrees) {
            const auto angle = std::isnan(degrees) ? std::nullopt : std::optional<double>(degrees);
            view->setCursorAngle(angle);
            // The same direction in the other cut and in the yard.
            std::optional<em::Direction> direction;
            if (angle && analysis_)
                direction = view == azimuth_ ? em::Direction{analysis_->azimuth.fixedAngleDeg, *angle}
                                             : em::Direction{*angle, analysis_->elevation.fixedAngleDeg};
            PolarView* other = view == azimuth_ ? elevation_ : azimuth_;
            other->setCursorAngle(!direction         ? std::nullopt
                                  : view == azimuth_ ? std::optional<double>(direction->elevationDeg)
                                                     : std::optional<double>(direction->azimuthDeg));
            yard_->setRay(direction);
        });
        connect(view, &PolarView::painted, this, [this] {
            if (!awaitingPaint_) return;
            awaitingPaint_ = false;
            latencyMs_ = document_.sinceEditMs();
            status_->setToolTip(
                QString("%1 ms from the last edit to its picture").arg(latencyMs_, 0, 'f', 1));
            spdlog::debug("edit to picture {:.1f} ms, solution {:.1f} ms", latencyMs_,
                          analysis_->seconds * 1e3);
        });
    }
    connect(elevation_, &PolarView::angleChosen, this, [this](double degrees) {
        // In the lower half of free space and behind the zenith the elevation of the cut is meant.
        cutAzimuthAt(degrees <= 90.0 ? degrees : degrees <= 270.0 ? 180.0 - degrees : degrees - 360.0);
    });
    connect(elevation_, &PolarView::resetRequested, this, [this] { cutAzimuthAt(std::nullopt); });
    connect(azimuth_, &PolarView::angleChosen, this, [this](double azimuth) {
        bearing_ = (expansion_ ? expansion_->headingDeg : 0.0) - azimuth;
        startWork();
    });
    connect(azimuth_, &PolarView::resetRequested, this, [this] {
        bearing_.reset();
        startWork();
    });
    for (BandView* view : {band_, bandStage_->view()}) {
        connect(view->chart(), &BandChart::frequencyChosen, this, &Bench::setWorkingFrequency);
        connect(view, &BandView::chosen, this, &Bench::showQuantity);
    }
    connect(band_->enlarge(), &QToolButton::clicked, this, &Bench::showBand);
}

model::Band Bench::workingBand() const {
    const auto& p = document_.project();
    if (p.bands.empty()) return {"band", 0.98 * frequencyHz_, 1.02 * frequencyHz_, {}};
    return p.bands[std::min(p.workingBand, p.bands.size() - 1)];
}

/// The design frequency where it lies in the working band, otherwise the middle of the band.
void Bench::useDefaultFrequency() {
    const model::Band band = workingBand();
    frequencyHz_ = band.centreHz();
    try {
        const double design =
            quantity::evaluate(document_.design().designFrequency, quantity::Kind::Frequency, {});
        if (design >= band.lowHz && design <= band.highHz) frequencyHz_ = design;
    } catch (const Error&) {
        // The finding about it is shown; the band still has a middle.
    }
}

void Bench::refreshAll() {
    const auto& p = document_.project();
    if (!frequencyChosen_) useDefaultFrequency();
    {
        const QSignalBlocker quiet(designs_);
        designs_->clear();
        for (const auto& d : p.designs) designs_->addItem(QString::fromStdString(d.name));
        designs_->setCurrentIndex(static_cast<int>(p.activeDesign));
    }
    if (auto* quick = findChild<QAction*>("quick")) quick->setChecked(document_.design().site.quick);
    strip_->setProject(p);
    strip_->setCaption(QString("SWR at the %1, to %2 Ω")
                           .arg(document_.design().feedPath.empty() ? "feed" : "radio",
                                QString::fromStdString(document_.design().reference)));
    outline_->refresh();
    editor_->select(editor_->selection());
    matchView_->select(editor_->selection());
    refreshTune();
    const auto shown = shownProject();
    ledger_->setProject(*shown);
    ledger_->setFixedHeight(ledger_->wantedHeight());
    for (PolarView* view : {elevation_, azimuth_}) view->setAngles(p.angles);
    if (shown->pins.empty()) showPins(nullptr);
    title_->setText(QString::fromStdString(p.title));
    updateTitle();
    resonance_.reset();
    startWork();
}

void Bench::startWork() {
    staleTimer_.start();
    strip_->setAllStale();
    Request request;
    request.project = shownProject();
    request.generation = ++serial_;
    request.frequencyHz = frequencyHz_;
    request.options.azimuthElevationDeg = azimuthElevation_;
    if (bearing_ && expansion_) request.options.bearingAzimuthDeg = expansion_->headingDeg - *bearing_;
    request.options.component = component_;
    request.lobeToo = lobeShown_;
    request.drivesToo = stage_->currentWidget() == driveView_;
    const model::Band band = workingBand();
    request.lowHz = range_ ? range_->lowHz : band.lowHz;
    request.highHz = range_ ? range_->highHz : band.highHz;
    request.points = range_ ? range_->points : kBandPoints;
    request.wish = matchView_->wish();
    request.patternsToo = ofPattern(band_->quantity());
    patterns_.reset();
    for (BandView* view : {band_, bandStage_->view()}) view->setRange(request.lowHz, request.highHz);
    yard_->setCaption(
        (document_.design().site.quick ? QString("FREE SPACE FOR NOW   ") : QString()) +
        QString("%1   %2").arg(range_ ? QString("range") : QString::fromStdString(band.name),
                               QString::fromStdString(quantity::formatFrequency(frequencyHz_))));
    runner_.start(request);
}

void Bench::markStale() {
    if (live()) return;
    elevation_->setStale(true);
    azimuth_->setStale(true);
    yard_->setStale(true);
    band_->setStale(true);
    ledger_->setStale(true);
    matchView_->setStale(true);
    boomView_->setStale(true);
    driveView_->setStale(true);
    bandStage_->setStale(true);
    if (!status_->text().endsWith("…")) status_->setText("working…");
}

void Bench::showFindings() {
    const model::Finding* worst = nullptr;
    for (const auto& finding : expansion_->findings)
        if (worst == nullptr || finding.severity > worst->severity) worst = &finding;
    if (worst == nullptr) {
        if (findingShown_) notice_->clear();
        findingShown_ = false;
        return;
    }
    findingShown_ = true;
    const auto tone =
        worst->severity == model::Severity::Error ? NoticeBar::Tone::Bad : NoticeBar::Tone::Caution;
    QString sentence = QString::fromStdString(worst->sentence + " " + worst->mend);
    if (expansion_->findings.size() > 1)
        sentence += QString(" (and %1 more)").arg(expansion_->findings.size() - 1);
    // "Show me" leads to the part it is about.
    const std::string about = worst->part;
    const auto& d = document_.design();
    std::optional<Selection> target;
    const auto look = [&](const auto& items, Selection::Type type) {
        for (std::size_t i = 0; i < items.size(); ++i)
            if (items[i].name == about && !target) target = Selection{type, i};
    };
    look(d.dimensions, Selection::Type::Dimension);
    look(d.parts, Selection::Type::Part);
    look(d.feeds, Selection::Type::Feed);
    look(d.loads, Selection::Type::Load);
    look(d.lines, Selection::Type::Line);
    look(d.copies, Selection::Type::Copy);
    look(d.driveSets, Selection::Type::Drive);
    look(d.feedPath, Selection::Type::Block);
    look(d.measured, Selection::Type::Measured);
    if (about == "Harness") target = Selection{Selection::Type::Harness, 0};
    if (about == "Site") target = Selection{Selection::Type::Site, 0};
    if (target)
        notice_->show(tone, sentence, "Show me", [this, target] { selectEverywhere(*target); });
    else
        notice_->show(tone, sentence);
}

void Bench::fail(const QString& sentence) {
    notice_->show(NoticeBar::Tone::Bad, sentence);
}

void Bench::updateTitle() {
    const QString file =
        document_.path().isEmpty() ? QString("not saved yet") : document_.path().section('/', -1);
    setWindowTitle(
        QString("%1%2 (%3) – Reed Mast")
            .arg(document_.modified() ? "• " : "", QString::fromStdString(document_.project().title), file));
}

Selection Bench::selection() const {
    return editor_->selection();
}

void Bench::selectEverywhere(Selection selection) {
    outline_->select(selection);
    editor_->select(selection);
    matchView_->select(editor_->selection());
    const auto& d = document_.design();
    const bool part = selection.type == Selection::Type::Part && selection.index < d.parts.size();
    yard_->setSelectedPart(part ? QString::fromStdString(d.parts[selection.index].name) : QString());
    if (part && stage_->currentWidget() == boomView_) {
        if (std::holds_alternative<model::ElementRow>(d.parts[selection.index].shape))
            boomView_->choose(selection.index);
        else
            showYard();
    }
}

void Bench::chooseBand(int band) {
    frequencyChosen_ = false;
    range_.reset();
    if (document_.project().workingBand == static_cast<std::size_t>(band)) {
        useDefaultFrequency();
        startWork();
        return;
    }
    document_.edit("Choose band", [&](model::Project& p) { p.workingBand = static_cast<std::size_t>(band); });
}

void Bench::chooseDesign(int design) {
    if (design < 0 || document_.project().activeDesign == static_cast<std::size_t>(design)) return;
    frequencyChosen_ = false;
    range_.reset();
    document_.edit("Choose design", [&](model::Project& p) {
        p.activeDesign = static_cast<std::size_t>(design);
        // A design that is not for the working band starts on its own first band.
        const auto& names = p.active().bands;
        const auto meant = [&](const model::Band& b) {
            return names.empty() || std::find(names.begin(), names.end(), b.name) != names.end();
        };
        if (p.workingBand < p.bands.size() && meant(p.bands[p.workingBand])) return;
        for (std::size_t i = 0; i < p.bands.size(); ++i)
            if (meant(p.bands[i])) {
                p.workingBand = i;
                return;
            }
    });
    selectEverywhere({Selection::Type::Part, 0});
    yard_->fitNext();
}

void Bench::setWorkingFrequency(double hz) {
    frequencyHz_ = hz;
    frequencyChosen_ = true;
    startWork();
}

bool Bench::open(const QString& path) {
    try {
        document_.openFile(path);
    } catch (const Error& e) {
        fail(QString::fromUtf8(e.what()));
        return false;
    }
    forgetTuning();
    frequencyChosen_ = false;
    range_.reset();
    yard_->fitNext();
    refreshAll();
    selectEverywhere({Selection::Type::Part, 0});
    offerRecovery();
    return true;
}

bool Bench::save(const QString& path) {
    try {
        document_.saveFile(path);
    } catch (const Error& e) {
        fail(QString::fromUtf8(e.what()));
        return false;
    }
    updateTitle();
    return true;
}

void Bench::offerRecovery() {
    const auto found = document_.recovery();
    if (!found) return;
    notice_->show(
        NoticeBar::Tone::Caution, QString("Unsaved work on this project from %1 was found.").arg(found->when),
        "Restore it",
        [this, found] {
            try {
                document_.restore(*found);
            } catch (const Error& e) {
                fail(QString::fromUtf8(e.what()));
            }
        },
        "Discard it", [this, found] { document_.discard(*found); });
}

}  // namespace rm::app
