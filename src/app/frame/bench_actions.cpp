// Menus, shortcuts and the questions that the bench asks.
#include <QComboBox>
#include <QHBoxLayout>
#include <QInputDialog>
#include <QLabel>
#include <QMenuBar>
#include <QMessageBox>
#include <QProgressBar>
#include <QShortcut>
#include <QToolButton>
#include <algorithm>

#include "app/stages/boom/boom_view.h"
#include "app/stages/coupling/coupling_view.h"
#include "app/stages/drives/drive_view.h"
#include "app/stages/spacing/spacing_view.h"
#include "app/instruments/band_strip.h"
#include "app/frame/bench.h"
#include "app/stages/compare/compare_view.h"
#include "app/dialogs/scale_dialog.h"
#include "app/dialogs/sweep_dialog.h"
#include "app/instruments/band_view.h"
#include "app/instruments/polar_view.h"
#include "app/instruments/ledger.h"
#include "app/plan/block_choices.h"
#include "app/stages/match/match_view.h"
#include "app/frame/notice_bar.h"
#include "app/plan/item_editor.h"
#include "app/plan/outline.h"
#include "app/stages/band/band_stage.h"
#include "app/stages/currents/current_view.h"
#include "app/stages/grounds/ground_view.h"
#include "app/stages/heights/height_view.h"
#include "app/stages/tune/matters_view.h"
#include "app/stages/tune/scan_view.h"
#include "app/stages/tune/tolerance_view.h"
#include "app/stages/tune/tune_view.h"
#include "app/stages/shape/yard.h"
#include "core/quantity/format.h"

namespace rm::app {

void Bench::buildActions() {
    const auto add = [this](QMenu* menu, const QString& text, const QKeySequence& keys, auto slot,
                            const QString& tip = {}) {
        QAction* action = menu->addAction(text);
        action->setShortcut(keys);
        action->setStatusTip(tip);
        action->setToolTip(tip);
        connect(action, &QAction::triggered, this, slot);
        return action;
    };
    QMenu* file = menuBar()->addMenu("&Project");
    add(file, "&New project", QKeySequence::New, [this] { newProject(); });
    add(file, "&Open…", QKeySequence::Open, [this] { askOpen(); });
    file->addSeparator();
    add(file, "&Save", QKeySequence::Save, [this] { askSave(false); });
    add(file, "Save &as…", QKeySequence("Ctrl+Shift+S"), [this] { askSave(true); });
    add(file, "&Import measurements…", QKeySequence("Ctrl+Shift+I"), [this] { askMeasured(); });
    add(file, "&Export the sweep…", QKeySequence("Ctrl+E"), [this] { exportSweep(); });
    add(file, "Export the pa&tterns…", QKeySequence("Ctrl+Shift+X"), [this] { exportPattern(); });
    QMenu* pictures = file->addMenu("Export a pict&ure of");
    const struct {
        const char* text;
        std::function<QWidget*()> view;
    } views[] = {{"the &middle", [this] { return stage_->currentWidget(); }},
                 {"the &elevation", [this]() -> QWidget* { return elevation_; }},
                 {"the &azimuth", [this]() -> QWidget* { return azimuth_; }},
                 {"the &band", [this]() -> QWidget* { return band_; }},
                 {"the &ledger", [this]() -> QWidget* { return ledger_; }},
                 {"the &whole bench", [this]() -> QWidget* { return centralWidget(); }}};
    for (const auto& v : views) add(pictures, v.text, {}, [this, view = v.view] { exportPicture(view()); });
    file->addSeparator();
    add(file, "&Bands…", QKeySequence("Ctrl+B"), [this] { askBands(); });
    file->addSeparator();
    add(file, "&Quit", QKeySequence("Ctrl+Q"), [this] { close(); });

    QMenu* edit = menuBar()->addMenu("&Edit");
    QAction* undo = document_.undoStack()->createUndoAction(this, "Undo");
    undo->setShortcut(QKeySequence::Undo);
    QAction* redo = document_.undoStack()->createRedoAction(this, "Redo");
    redo->setShortcuts({QKeySequence("Ctrl+Shift+Z"), QKeySequence("Ctrl+Y")});
    edit->addAction(undo);
    edit->addAction(redo);
    edit->addSeparator();
    QMenu* parts = edit->addMenu("Add a &part");
    const struct {
        const char* text;
        const char* kind;
        const char* keys;
    } kinds[] = {{"&Straight wire", "wire", "Ctrl+Shift+W"}, {"&Bent wire", "bent", "Ctrl+Shift+B"},
                 {"Regular &loop", "loop", "Ctrl+Shift+L"},  {"Inverted &V", "vee", "Ctrl+Shift+V"},
                 {"&Fan of wires", "fan", "Ctrl+Shift+F"},   {"&Element row: a Yagi", "row", "Ctrl+Shift+U"},
                 {"Nearby: &mast or tower", "mast", ""},     {"Nearby: &guys with insulators", "guys", ""},
                 {"Nearby: mounting &tube", "tube", ""},     {"Nearby: g&utter", "gutter", ""}};
    for (const auto& kind : kinds)
        add(parts, kind.text, QKeySequence(kind.keys), [this, kind] { addPart(kind.kind); });
    QMenu* copies = edit->addMenu("Add &copies");
    for (const auto& [text, kind] : {std::pair{"&Stack: rows and columns", model::CopyKind::Stack},
                                     {"In s&teps", model::CopyKind::Shift},
                                     {"&Round an axis", model::CopyKind::Rotate},
                                     {"&Mirrored", model::CopyKind::Mirror}})
        add(copies, text, {}, [this, kind = kind] { addCopy(kind); });
    add(edit, "Add a &dimension", QKeySequence("Ctrl+Shift+D"),
        [this] { addItem(Selection::Type::Dimension); });
    add(edit, "Add a f&eed", QKeySequence("Ctrl+Shift+E"), [this] { addItem(Selection::Type::Feed); });
    add(edit, "Add a l&oad", QKeySequence("Ctrl+Shift+O"), [this] { addLoad(false); });
    add(edit, "Add a t&rap", {}, [this] { addLoad(true); });
    add(edit, "Add a l&ine between two points", {}, [this] { addItem(Selection::Type::Line); });
    QMenu* blocks = edit->addMenu("Add a feed path &block");
    for (const auto& choice : blockChoices())
        add(blocks, choice.text, QKeySequence(choice.shortcut),
            [this, block = choice.block] { addBlock(block); });
    edit->addSeparator();
    add(edit, "D&uplicate selected", QKeySequence("Ctrl+D"), [this] { duplicateSelected(); });
    add(edit, "&Remove selected", QKeySequence("Ctrl+Backspace"), [this] { removeSelected(); });

    QMenu* design = menuBar()->addMenu("&Design");
    add(design, "&Next design", QKeySequence("Ctrl+PgDown"),
        [this] { chooseDesign(std::min<int>(designs_->currentIndex() + 1, designs_->count() - 1)); });
    add(design, "&Previous design", QKeySequence("Ctrl+PgUp"),
        [this] { chooseDesign(std::max(0, designs_->currentIndex() - 1)); });
    design->addSeparator();
    add(design, "N&ew design", QKeySequence("Ctrl+Shift+N"), [this] { newDesign(false); });
    add(design, "&Copy this design", QKeySequence("Ctrl+Shift+C"), [this] { newDesign(true); });
    add(design, "Re&move this design", QKeySequence("Ctrl+Shift+Backspace"), [this] { removeDesign(); });
    design->addSeparator();
    add(design, "&Site", QKeySequence("Ctrl+G"), [this] {
        showSite();
        editor_->focusFirst();
    });
    add(design, "Feed &path", QKeySequence("Ctrl+P"), [this] { showFeedPath(); });
    add(design, "&Frequency and reference", QKeySequence("Ctrl+F"), [this] {
        selectEverywhere({Selection::Type::Design, 0});
        editor_->focusFirst();
    });

    QMenu* study = menuBar()->addMenu("&Study");
    add(
        study, "&Pin the live result", QKeySequence("P"), [this] { pin(); },
        "Keeps this design and its figures in the ledger and over the curves");
    add(
        study, "Pin with and with&out the selected part", QKeySequence("Shift+P"),
        [this] { pinWithAndWithout(); }, "Two pins: one with the part, one without it");
    study->addSeparator();
    add(
        study, "Find the nearest &resonance", QKeySequence("Ctrl+R"), [this] { findResonance(); },
        "Where the reactance is zero, nearest to the working frequency");
    add(
        study, "&Scale to frequency…", QKeySequence("Ctrl+K"), [this] { askScale(); },
        "Multiply chosen dimensions until the antenna is resonant where you want it");
    study->addSeparator();
    add(
        study, "&Height study", QKeySequence("Ctrl+H"), [this] { studyHeights(); },
        "Impedance, takeoff angle and gain from near the ground to two wavelengths");
    add(
        study, "&Ground study", QKeySequence("Ctrl+Shift+G"), [this] { studyGrounds(); },
        "The same figures over every kind of ground");
    add(
        study, "C&urrent along a part", QKeySequence("Ctrl+Shift+J"), [this] { showCurrents(); },
        "Size and phase along the selected part");
    study->addSeparator();
    add(
        study, "&Elements on the boom", QKeySequence("Ctrl+5"), [this] { showBoom(); },
        "The table of an element row and its boom, drawn to scale");
    add(
        study, "&Drive sets side by side", QKeySequence("Ctrl+6"), [this] { showDrives(); },
        "Gain, takeoff angle, lobes and nulls of every drive set, and one overlay");
    add(
        study, "&Coupling between feeds", QKeySequence("Ctrl+7"), [this] { showCoupling(); },
        "Impedances and coupling of any two feeds over the band");
    fillPatterns(study->addMenu("Add drive sets"));
    study->addSeparator();
    add(
        study, "What &matters", QKeySequence("Ctrl+Shift+8"), [this] { showMatters(); },
        "What a millimetre or a percent of each dimension does to the figures");
    add(
        study, "&Tolerance of building", QKeySequence("Ctrl+9"), [this] { showTolerance(); },
        "The curves to expect of many builds with random errors");
    add(
        study, "Scan one or two &dimensions", QKeySequence("Ctrl+Shift+9"), [this] { showScan(); },
        "A figure as a curve over one dimension, or as a map over two");
    study->addSeparator();
    add(
        study, "Turn into loose wires", {}, [this] { loosen(); },
        "Every part and copy as wires of its own, in numbers");
    QAction* quick = study->addAction("&Free space for now");
    quick->setShortcut(QKeySequence("Ctrl+0"));
    quick->setCheckable(true);
    quick->setObjectName("quick");
    quick->setToolTip("Leaves the ground out for quick work, whatever the site says");
    connect(quick, &QAction::triggered, this, [this](bool on) { setQuickFreeSpace(on); });
    study->addSeparator();
    add(study, "Back to the &yard", QKeySequence("Ctrl+Shift+Y"), [this] { showYard(); });
    study->addSeparator();
    add(study, "S&weep a range…", QKeySequence("Ctrl+M"), [this] { askSweep(); });
    add(study, "Back to the &band", QKeySequence("Ctrl+Shift+M"),
        [this] { chooseBand(static_cast<int>(document_.project().workingBand)); });
    add(study, "S&top", QKeySequence("Escape"), [this] {
        tuneTask_.cancel();
        task_.cancel();
        runner_.cancel();
    });
    study->addSeparator();
    for (int i = 0; i < 9; ++i)
        add(study, QString("Band %1").arg(i + 1), QKeySequence(QString("Alt+%1").arg(i + 1)), [this, i] {
            if (i < static_cast<int>(document_.project().bands.size())) chooseBand(i);
        });

    QMenu* view = menuBar()->addMenu("&View");
    add(view, "&Shape", QKeySequence("Ctrl+1"), [this] { showYard(); });
    add(view, "&Match", QKeySequence("Ctrl+2"), [this] { showMatch(); });
    add(view, "&Band in the large", QKeySequence("Ctrl+3"), [this] { showBand(); });
    add(view, "C&ompare", QKeySequence("Ctrl+4"), [this] { showCompare(); });
    add(view, "T&une", QKeySequence("Ctrl+8"), [this] { showTune(); });
    view->addSeparator();
    add(view, "Yard at an &angle", QKeySequence("F2"), [this] { yard_->viewAtAnAngle(); });
    add(view, "Yard from the &front", QKeySequence("F3"), [this] { yard_->viewFromFront(); });
    add(view, "Yard from the &side", QKeySequence("F4"), [this] { yard_->viewFromSide(); });
    add(view, "Yard from a&bove", QKeySequence("F5"), [this] { yard_->viewFromAbove(); });
    add(view, "&Fit the antenna", QKeySequence("F6"), [this] { yard_->fit(); });
    view->addSeparator();
    const auto toggle = [&](const QString& text, const QString& keys, bool on, auto slot) {
        QAction* action = view->addAction(text);
        action->setShortcut(QKeySequence(keys));
        action->setCheckable(true);
        action->setChecked(on);
        connect(action, &QAction::toggled, this, slot);
        return action;
    };
    toggle("&Current along the wires", "Ctrl+I", true, [this](bool on) { yard_->setShowCurrents(on); });
    toggle("&Lobe in the yard", "Ctrl+L", false, [this](bool on) { showLobe(on); })->setObjectName("lobe");
    view->addSeparator();
    add(view, "Azimuth at &5°", QKeySequence("5"), [this] { cutAzimuthAt(5.0); });
    add(view, "Azimuth at the &takeoff angle", QKeySequence("0"), [this] { cutAzimuthAt(std::nullopt); });
    add(view, "&Angles and distances…", QKeySequence("Ctrl+Shift+A"), [this] { askAngles(); });
    QMenu* component = view->addMenu("Field shown in the cuts");
    const struct {
        const char* text;
        study::Component component;
    } components[] = {{"&Total", study::Component::Total},
                      {"&Horizontal", study::Component::Horizontal},
                      {"&Vertical", study::Component::Vertical},
                      {"&Right circular", study::Component::RightCircular},
                      {"&Left circular", study::Component::LeftCircular}};
    for (const auto& c : components) add(component, c.text, {}, [this, c] { setComponent(c.component); });
    QMenu* rings = view->addMenu("Rings labelled in");
    const struct {
        const char* text;
        PolarView::Labels labels;
    } labels[] = {{"dB &below the strongest", PolarView::Labels::BelowMaximum},
                  {"&dBi", PolarView::Labels::Dbi},
                  {"dB &over the baseline", PolarView::Labels::OverBaseline}};
    for (const auto& l : labels)
        add(rings, l.text, {}, [this, l] {
            for (PolarView* cut : {elevation_, azimuth_}) cut->setLabels(l.labels);
        });
    toggle("Phase of the current as &colour", "Ctrl+Shift+Q", false,
           [this](bool on) { yard_->setShowPhase(on); });
    QMenu* scale = view->addMenu("&Scale of the cuts");
    const auto scaled = [this](PolarView::Scale kind, double range) {
        for (PolarView* cut : {elevation_, azimuth_}) {
            cut->setScale(kind);
            cut->setLinearRange(range);
        }
    };
    add(scale, "For &lobes: root of the field strength", QKeySequence("Ctrl+Shift+R"),
        [scaled] { scaled(PolarView::Scale::Lobes, 40.0); });
    for (const double range : {20.0, 30.0, 40.0, 60.0})
        add(scale, QString("Linear over %1 dB").arg(range), {},
            [scaled, range] { scaled(PolarView::Scale::LinearDb, range); });
    view->addSeparator();
    const struct {
        const char* text;
        const char* keys;
        BandQuantity quantity;
    } quantities[] = {{"Band: S&WR", "F7", BandQuantity::Swr},
                      {"Band: &R and X", "F8", BandQuantity::Impedance},
                      {"Band: r&eturn loss", "F9", BandQuantity::ReturnLoss},
                      {"Band: S&mith chart", "F10", BandQuantity::Smith},
                      {"Band: phase of the reflection", "", BandQuantity::Phase},
                      {"Band: loss of the feed path", "", BandQuantity::Loss},
                      {"Band: peak gain", "F11", BandQuantity::Gain},
                      {"Band: front-to-back", "F12", BandQuantity::FrontToBack},
                      {"Band: takeoff angle", "", BandQuantity::Takeoff}};
    for (const auto& q : quantities)
        add(view, q.text, QKeySequence(q.keys), [this, q] { showQuantity(q.quantity, band_->plane()); });
    add(view, "Band: radio or antenna end", QKeySequence("Ctrl+Shift+P"), [this] {
        showQuantity(band_->quantity(),
                     band_->plane() == study::Plane::Radio ? study::Plane::Antenna : study::Plane::Radio);
    });
    view->addSeparator();
    toggle("Feet and &inches", "Ctrl+U", false, [this](bool on) {
        setFeetAndInches(on);
    })->setObjectName("feet");
    toggle("&Dark", "Ctrl+T", false, [this](bool on) { setNight(on); })->setObjectName("dark");

    QMenu* help = menuBar()->addMenu("&Help");
    add(help, "&Shortcuts", QKeySequence("F1"), [this] {
        QString list;
        for (QAction* menu : menuBar()->actions())
            for (QAction* action : menu->menu()->actions())
                if (!action->shortcut().isEmpty() && !action->text().startsWith("Band "))
                    list += QString("<tr><td style='padding-right:24px'>%1</td><td><b>%2</b></td></tr>")
                                .arg(action->text().remove('&'),
                                     action->shortcut().toString(QKeySequence::NativeText));
        QMessageBox box(
            QMessageBox::NoIcon, "Shortcuts",
            "<table>" + list + "<tr><td>Band 1 to 9</td><td><b>Alt+1 to Alt+9</b></td></tr></table>",
            QMessageBox::Close, this);
        box.exec();
    });
    add(help, "&About Reed Mast", {}, [this] {
        QMessageBox::about(this, "About Reed Mast",
                           "<b>Reed Mast</b><p>Antennas at the height where they will hang.</p><p>Free "
                           "software under the GNU General "
                           "Public License, version 3 or later.</p>");
    });

    auto* corner = new QWidget;
    auto* row = new QHBoxLayout(corner);
    row->setContentsMargins(0, 3, 12, 0);
    row->setSpacing(8);
    for (const auto& [name, tip] : {std::pair{"Shape", "The antenna on its site (Ctrl+1)"},
                                    {"Match", "The feed path from the antenna to the radio (Ctrl+2)"},
                                    {"Tune", "Goals, what may move, and a proposal (Ctrl+8)"},
                                    {"Compare", "Designs and pins on every band (Ctrl+4)"}}) {
        auto* mode = new QToolButton;
        mode->setText(name);
        mode->setToolTip(tip);
        mode->setObjectName(QString("mode") + name);
        mode->setCheckable(true);
        mode->setProperty("quiet", true);
        mode->setFont(textFont(kTitlePt, true));
        row->addWidget(mode);
        modes_.push_back(mode);
    }
    modes_[0]->setChecked(true);
    connect(modes_[0], &QToolButton::clicked, this, &Bench::showYard);
    connect(modes_[1], &QToolButton::clicked, this, &Bench::showMatch);
    connect(modes_[2], &QToolButton::clicked, this, &Bench::showTune);
    connect(modes_[3], &QToolButton::clicked, this, &Bench::showCompare);
    row->addSpacing(6);
    title_ = new QLabel;
    title_->setFont(textFont(kTitlePt, true));
    designs_ = new QComboBox;
    designs_->setMinimumWidth(200);
    designs_->setToolTip("The design on the bench");
    designs_->setAccessibleName("Design");
    progress_ = new QProgressBar;
    progress_->setFixedWidth(120);
    progress_->setTextVisible(false);
    progress_->hide();
    cancel_ = new QToolButton;
    cancel_->setText("Stop");
    cancel_->setToolTip("Stop what is being computed (Escape)");
    cancel_->hide();
    connect(cancel_, &QToolButton::clicked, this, [this] {
        task_.cancel();
        runner_.cancel();
    });
    status_ = new QLabel;
    status_->setProperty("soft", true);
    status_->setFont(textFont(kSmallPt));
    status_->setMinimumWidth(166);
    status_->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
    for (QWidget* w : std::initializer_list<QWidget*>{title_, designs_, progress_, cancel_, status_})
        row->addWidget(w);
    menuBar()->setCornerWidget(corner, Qt::TopRightCorner);
    connect(designs_, &QComboBox::activated, this, &Bench::chooseDesign);
}

void Bench::setNight(bool night) {
    theme_ = night ? Theme::night() : Theme::light();
    theme_.apply();
    strip_->setTheme(theme_);
    outline_->setTheme(theme_);
    notice_->setTheme(theme_);
    yard_->setTheme(theme_);
    elevation_->setTheme(theme_);
    azimuth_->setTheme(theme_);
    band_->setTheme(theme_);
    ledger_->setTheme(theme_);
    heightView_->setTheme(theme_);
    groundView_->setTheme(theme_);
    matchView_->setTheme(theme_);
    bandStage_->setTheme(theme_);
    currentView_->setTheme(theme_);
    boomView_->setTheme(theme_);
    driveView_->setTheme(theme_);
    couplingView_->setTheme(theme_);
    spacingView_->setTheme(theme_);
    tuneView_->setTheme(theme_);
    mattersView_->setTheme(theme_);
    toleranceView_->setTheme(theme_);
    scanView_->setTheme(theme_);
    compareView_->setTheme(theme_);
    if (auto* action = findChild<QAction*>("dark")) action->setChecked(night);
}

void Bench::setFeetAndInches(bool feet) {
    if (document_.project().feetAndInches == feet) return;
    document_.edit("Change units", [&](model::Project& p) { p.feetAndInches = feet; });
}

// ---------------------------------------------------------------------------------------------------------
// Studies

void Bench::findResonance() {
    const auto design = document_.design();
    const double near = frequencyHz_;
    status_->setText("looking for resonance…");
    task_.start([this, design, near](std::stop_token stop) -> std::function<void()> {
        const auto expansion = model::expand(design);
        const auto found = study::findResonance(expansion, near, stop);
        const bool stopped = stop.stop_requested();
        return [this, found, near, stopped] {
            resonance_ = found;
            refreshBand();
            if (analysis_) status_->setText(QString("%1 unknowns   live").arg(analysis_->figures.unknowns));
            if (stopped) return;
            if (!found)
                return notice_->show(NoticeBar::Tone::Caution,
                                     QString("There is no resonance within a factor of two of %1.")
                                         .arg(QString::fromStdString(quantity::formatFrequency(near))));
            notice_->show(
                NoticeBar::Tone::Good,
                QString("Resonant (X = 0) at %1, where R is %2 Ω.")
                    .arg(QString::fromStdString(quantity::formatFrequency(found->frequencyHz)))
                    .arg(found->impedanceOhm.real(), 0, 'f', 1),
                "Work there", [this, found] { setWorkingFrequency(found->frequencyHz); }, "Scale…",
                [this] { askScale(); });
        };
    });
}

void Bench::askScale() {
    ScaleDialog dialog(document_.design(), frequencyHz_, this);
    if (dialog.exec() == QDialog::Accepted) scaleTo(dialog.chosen(), dialog.targetHz());
}

void Bench::scaleTo(const std::vector<std::string>& dimensions, double targetHz) {
    const auto design = document_.design();
    status_->setText("scaling…");
    task_.start([this, design, dimensions, targetHz](std::stop_token stop) -> std::function<void()> {
        const auto scaled = study::scaleToFrequency(design, dimensions, targetHz, stop);
        return [this, scaled, targetHz] {
            const model::Band band = workingBand();
            if (targetHz >= band.lowHz && targetHz <= band.highHz) {
                frequencyHz_ = targetHz;
                frequencyChosen_ = true;
            }
            document_.finishMerging();
            document_.editDesign("Scale to frequency", [&](model::Design& d) { d = scaled.design; });
            notice_->show(
                NoticeBar::Tone::Good,
                QString("Scaled by %1: resonant at %2 now, %3 before; R is %4 Ω.")
                    .arg(scaled.factor, 0, 'f', 4)
                    .arg(QString::fromStdString(quantity::formatFrequency(scaled.after.frequencyHz)),
                         QString::fromStdString(quantity::formatFrequency(scaled.before.frequencyHz)))
                    .arg(scaled.after.impedanceOhm.real(), 0, 'f', 1),
                "Undo", [this] { document_.undoStack()->undo(); });
        };
    });
}

void Bench::askSweep() {
    const model::Band band = workingBand();
    SweepDialog dialog(range_ ? range_->lowHz : band.lowHz * 0.98,
                       range_ ? range_->highHz : band.highHz * 1.02, range_ ? range_->points : 201, this);
    if (dialog.exec() == QDialog::Accepted) sweepRange(dialog.lowHz(), dialog.highHz(), dialog.points());
}

void Bench::sweepRange(double lowHz, double highHz, int points) {
    range_ = Range{lowHz, highHz, points};
    startWork();
}

}  // namespace rm::app
