#include "app/frame/menus.h"

#include <QMenuBar>
#include <QUndoStack>

#include "app/frame/bench.h"
#include "app/frame/files.h"
#include "app/frame/questions.h"
#include "app/instruments/instruments.h"
#include "app/instruments/ledger.h"
#include "app/instruments/polar_view.h"
#include "app/plan/block_choices.h"
#include "app/plan/item_editor.h"
#include "app/plan/plan_panel.h"
#include "app/stages/drives/drive_patterns.h"

namespace rm::app {

namespace {

class Builder {
  public:
    Builder(Bench& bench, Questions& questions)
        : bench_(bench),
          questions_(questions),
          session_(bench.session()),
          editing_(bench.editing()),
          files_(bench.files()) {}

    void project();
    void edit();
    void design();
    void study();
    void view();
    void help();

  private:
    template <typename Act>
    QAction* add(QMenu* menu, const QString& text, const QKeySequence& keys, Act act,
                 const QString& tip = {}) {
        QAction* action = menu->addAction(text);
        action->setShortcut(keys);
        action->setStatusTip(tip);
        action->setToolTip(tip);
        QObject::connect(action, &QAction::triggered, &bench_, act);
        return action;
    }
    template <typename Act>
    QAction* toggle(QMenu* menu, const QString& text, const QString& keys, const QString& name, bool on,
                    Act act) {
        QAction* action = menu->addAction(text);
        action->setShortcut(QKeySequence(keys));
        action->setObjectName(name);
        action->setCheckable(true);
        action->setChecked(on);
        QObject::connect(action, &QAction::toggled, &bench_, act);
        return action;
    }
    QMenu* menu(const QString& title) { return bench_.menuBar()->addMenu(title); }
    void stagesIn(QMenu* menu, StageAction::Menu which);
    void history(QMenu* menu);
    void cuts(QMenu* menu);

    Bench& bench_;
    Questions& questions_;
    Session& session_;
    Editing& editing_;
    Files& files_;
};

void Builder::project() {
    QMenu* m = menu("&Project");
    add(m, "&New project", QKeySequence::New, [this] { files_.newProject(); });
    add(m, "&Open…", QKeySequence::Open, [this] { files_.askOpen(); });
    QMenu* before = m->addMenu("&Versions before");
    QObject::connect(before, &QMenu::aboutToShow, before, [this, before] {
        before->clear();
        for (const auto& version : files_.versions())
            before->addAction(QString::fromStdString(version.when), before,
                              [this, version] { files_.goBackTo(version); });
        if (before->isEmpty())
            before->addAction("None: this file has not been saved over yet")->setEnabled(false);
    });
    add(m, "&Unsaved work…", {}, [this] { files_.showLeftWork(); });
    m->addSeparator();
    add(m, "&Save", QKeySequence::Save, [this] { files_.askSave(false); });
    add(m, "Save &as…", QKeySequence("Ctrl+Shift+S"), [this] { files_.askSave(true); });
    add(m, "&Import measurements…", QKeySequence("Ctrl+Shift+I"), [this] { files_.askMeasured(); });
    add(
        m, "&Measure with an analyser…", QKeySequence("Ctrl+Alt+M"), [this] { questions_.askAnalyser(); },
        "Reads the antenna as it stands, over the network or a serial device");
    add(m, "&Export the sweep…", QKeySequence("Ctrl+E"), [this] { files_.exportSweep(); });
    add(m, "Export the pa&tterns…", QKeySequence("Ctrl+Shift+X"), [this] { files_.exportPattern(); });
    add(
        m, "Export the dra&wing…", {}, [this] { files_.exportDrawing(); },
        "Three views to scale with dimensions, and what to cut: PDF, SVG or DXF");
    add(
        m, "Export the &boom at true size…", {}, [this] { files_.exportTemplate(); },
        "Where the elements go at 1 : 1, in strips of paper to lay along the boom");
    add(
        m, "Export the &report…", {}, [this] { files_.exportReport(); },
        "One PDF to hand on: picture, figures, curves, cuts, feed path, what to build, drawing");
    QMenu* pictures = m->addMenu("Export a pict&ure of");
    const std::pair<const char*, std::function<QWidget*()>> views[] = {
        {"the &middle", [this] { return bench_.front()->widget(); }},
        {"the &elevation", [this]() -> QWidget* { return bench_.instruments()->elevation(); }},
        {"the &azimuth", [this]() -> QWidget* { return bench_.instruments()->azimuth(); }},
        {"the &band", [this]() -> QWidget* { return bench_.findChild<QWidget*>("band"); }},
        {"the &ledger", [this]() -> QWidget* { return bench_.findChild<Ledger*>(); }},
        {"the &whole bench", [this] { return bench_.centralWidget(); }}};
    for (const auto& [text, view] : views)
        add(pictures, text, {}, [this, view = view] { files_.exportPicture(view()); });
    m->addSeparator();
    add(m, "&Bands…", QKeySequence("Ctrl+B"), [this] { questions_.askBands(); });
    m->addSeparator();
    add(m, "&Quit", QKeySequence("Ctrl+Q"), [this] { bench_.close(); });
}

/// Undo and redo say what they undo, and go through the document, which settles what is half typed first.
void Builder::history(QMenu* m) {
    QUndoStack* stack = session_.document().undoStack();
    QAction* undo = add(m, "Undo", QKeySequence::Undo, [this, stack] {
        const QString what = stack->undoText();
        session_.document().undo();
        session_.say({Notice::Tone::Good, "Undone: " + what.toLower() + ".", "Redo",
                      [this] { session_.document().redo(); }});
    });
    QAction* redo = add(m, "Redo", {}, [this, stack] {
        const QString what = stack->redoText();
        session_.document().redo();
        session_.good("Done again: " + what.toLower() + ".");
    });
    redo->setShortcuts({QKeySequence("Ctrl+Shift+Z"), QKeySequence("Ctrl+Y")});
    undo->setEnabled(false);
    redo->setEnabled(false);
    QObject::connect(stack, &QUndoStack::canUndoChanged, undo, &QAction::setEnabled);
    QObject::connect(stack, &QUndoStack::canRedoChanged, redo, &QAction::setEnabled);
    QObject::connect(stack, &QUndoStack::undoTextChanged, undo,
                     [undo](const QString& text) { undo->setText(("Undo " + text.toLower()).trimmed()); });
    QObject::connect(stack, &QUndoStack::redoTextChanged, redo,
                     [redo](const QString& text) { redo->setText(("Redo " + text.toLower()).trimmed()); });
}

void Builder::edit() {
    QMenu* m = menu("&Edit");
    history(m);
    m->addSeparator();
    QMenu* parts = m->addMenu("Add a &part");
    for (const auto& choice : partChoices())
        add(parts, choice.text, QKeySequence(choice.keys),
            [this, kind = choice.kind] { editing_.addPart(kind); });
    QMenu* copies = m->addMenu("Add &copies");
    for (const auto& [text, kind] : copyChoices())
        add(copies, text, {}, [this, kind = kind] { editing_.addCopy(kind); });
    QMenu* supports = m->addMenu("Add a &support to the site");
    for (const auto& [text, kind] : supportChoices())
        add(supports, text, {}, [this, kind = kind] { editing_.addSupport(kind); });
    add(m, "Add a &dimension", QKeySequence("Ctrl+Shift+D"), [this] { editing_.addDimension(); });
    add(m, "Add a f&eed", QKeySequence("Ctrl+Shift+E"), [this] { editing_.addFeed(); });
    add(m, "Add a l&oad", QKeySequence("Ctrl+Shift+O"), [this] { editing_.addLoad(false); });
    add(m, "Add a t&rap", {}, [this] { editing_.addLoad(true); });
    add(m, "Add a l&ine between two points", {}, [this] { editing_.addLine(); });
    QMenu* blocks = m->addMenu("Add a feed path &block");
    for (const auto& choice : blockChoices())
        add(blocks, choice.text, QKeySequence(choice.shortcut),
            [this, block = choice.block] { editing_.addBlock(block); });
    m->addSeparator();
    for (const auto& stage : bench_.stages())
        for (const auto& action : stage->viewActions())
            if (action.menu == StageAction::Menu::Edit)
                add(m, action.text, QKeySequence(action.keys), action.act, action.tip);
    add(
        m, "&Make dimensions of it", QKeySequence("Shift+D"), [this] { editing_.nameLengths(); },
        "The lengths of the selected wire get names, and sliders");
    add(
        m, "&Join elements by crossed lines", {}, [this] { editing_.crossElements(); },
        "The selected row becomes a log-periodic one: one line along the boom, fed at the shortest element");
    m->addSeparator();
    add(m, "D&uplicate selected", QKeySequence("Ctrl+D"), [this] { editing_.duplicateSelected(); });
    add(m, "&Remove selected", QKeySequence("Ctrl+Backspace"), [this] { editing_.removeSelected(); });
}

void Builder::design() {
    QMenu* m = menu("&Design");
    const auto step = [this](int by) {
        const auto& p = session_.project();
        const auto to = static_cast<int>(p.activeDesign) + by;
        if (to >= 0 && to < static_cast<int>(p.designs.size()))
            session_.chooseDesign(p.designs[static_cast<std::size_t>(to)].id);
    };
    add(m, "&Next design", QKeySequence("Ctrl+PgDown"), [step] { step(1); });
    add(m, "&Previous design", QKeySequence("Ctrl+PgUp"), [step] { step(-1); });
    m->addSeparator();
    add(
        m, "N&ew design…", QKeySequence("Ctrl+Shift+N"), [this] { questions_.askStarter(false); },
        "A starter from the gallery: dipole, vertical, loop, beam, made for your band and ground");
    add(m, "N&ew plain dipole", {}, [this] { editing_.newDesign(); });
    add(m, "&Copy this design", QKeySequence("Ctrl+Shift+C"), [this] { editing_.copyDesign(); });
    add(m, "Re&move this design", QKeySequence("Ctrl+Shift+Backspace"), [this] { editing_.removeDesign(); });
    m->addSeparator();
    const auto edit = [this](Selection::Type type) {
        session_.select({type});
        bench_.plan()->editor()->focusFirst();
    };
    add(m, "&Site", QKeySequence("Ctrl+G"), [edit] { edit(Selection::Type::Site); });
    add(m, "Feed &path", QKeySequence("Ctrl+P"), [this] { bench_.showFeedPath(); });
    add(m, "&Frequency and reference", QKeySequence("Ctrl+F"), [edit] { edit(Selection::Type::Design); });
}

void Builder::stagesIn(QMenu* m, StageAction::Menu which) {
    for (const auto& stage : bench_.stages())
        for (const auto& action : stage->actions())
            if (action.menu == which) add(m, action.text, QKeySequence(action.keys), action.act, action.tip);
}

void Builder::study() {
    QMenu* m = menu("&Study");
    add(
        m, "&Pin the live result", QKeySequence("P"), [this] { editing_.pin(); },
        "Keeps this design and its figures in the ledger and over the curves");
    add(
        m, "Pin with and with&out the selected part", QKeySequence("Shift+P"),
        [this] { editing_.pinWithAndWithout(); }, "Two pins: one with the part, one without it");
    m->addSeparator();
    add(
        m, "Find the nearest &resonance", QKeySequence("Ctrl+R"), [this] { editing_.findResonance(); },
        "Where the reactance is zero, nearest to the working frequency");
    add(
        m, "&Scale to frequency…", QKeySequence("Ctrl+K"), [this] { questions_.askScale(); },
        "Multiply chosen dimensions until the antenna is resonant where you want it");
    m->addSeparator();
    stagesIn(m, StageAction::Menu::Study);
    fillDrivePatterns(*m->addMenu("Add drive sets"), session_, editing_);
    m->addSeparator();
    add(
        m, "Turn into loose wires", {}, [this] { editing_.loosen(); },
        "Every part and copy as wires of its own, in numbers");
    QAction* quick = m->addAction("&Free space for now");
    quick->setShortcut(QKeySequence("Ctrl+0"));
    quick->setCheckable(true);
    quick->setObjectName("quick");
    quick->setToolTip("Leaves the ground out for quick work, whatever the site says");
    QObject::connect(quick, &QAction::triggered, &editing_, &Editing::setQuickFreeSpace);
    QObject::connect(&session_, &Session::projectChanged, quick,
                     [this, quick] { quick->setChecked(session_.design().site.quick); });
    m->addSeparator();
    add(m, "Back to the &yard", QKeySequence("Ctrl+Shift+Y"), [this] { bench_.showStage("shape"); });
    m->addSeparator();
    add(m, "S&weep a range…", QKeySequence("Ctrl+M"), [this] { questions_.askSweep(); });
    add(m, "Back to the &band", QKeySequence("Ctrl+Shift+M"),
        [this] { session_.chooseBand(static_cast<int>(session_.project().workingBand)); });
    add(m, "S&top", QKeySequence("Escape"), [this] { bench_.stop(); });
    m->addSeparator();
    for (int i = 0; i < 9; ++i)
        add(m, QString("Band %1").arg(i + 1), QKeySequence(QString("Alt+%1").arg(i + 1)),
            [this, i] { session_.chooseBand(i); });
}

void Builder::cuts(QMenu* m) {
    add(m, "Azimuth at &5°", QKeySequence("5"), [this] { session_.cutAzimuthAt(5.0); });
    add(m, "Azimuth at the &takeoff angle", QKeySequence("0"),
        [this] { session_.cutAzimuthAt(std::nullopt); });
    add(m, "&Angles and distances…", QKeySequence("Ctrl+Shift+A"), [this] { questions_.askAngles(); });
    QMenu* component = m->addMenu("Field shown in the cuts");
    for (const auto& [text, which] : {std::pair{"&Total", study::Component::Total},
                                      {"&Horizontal", study::Component::Horizontal},
                                      {"&Vertical", study::Component::Vertical},
                                      {"&Right circular", study::Component::RightCircular},
                                      {"&Left circular", study::Component::LeftCircular}})
        add(component, text, {}, [this, which = which] { session_.setComponent(which); });
    const auto both = [this](auto act) {
        act(bench_.instruments()->elevation());
        act(bench_.instruments()->azimuth());
    };
    QMenu* rings = m->addMenu("Rings labelled in");
    for (const auto& [text, labels] : {std::pair{"dB &below the strongest", PolarView::Labels::BelowMaximum},
                                       {"&dBi", PolarView::Labels::Dbi},
                                       {"dB &over the baseline", PolarView::Labels::OverBaseline}})
        add(rings, text, {},
            [both, labels = labels] { both([labels](PolarView* cut) { cut->setLabels(labels); }); });
    QMenu* scale = m->addMenu("&Scale of the cuts");
    const auto scaled = [both](PolarView::Scale kind, double range) {
        both([kind, range](PolarView* cut) {
            cut->setScale(kind);
            cut->setLinearRange(range);
        });
    };
    add(scale, "For &lobes: root of the field strength", QKeySequence("Ctrl+Shift+R"),
        [scaled] { scaled(PolarView::Scale::Lobes, 40.0); });
    for (const double range : {20.0, 30.0, 40.0, 60.0})
        add(scale, QString("Linear over %1 dB").arg(range), {},
            [scaled, range] { scaled(PolarView::Scale::LinearDb, range); });
}

void Builder::view() {
    QMenu* m = menu("&View");
    stagesIn(m, StageAction::Menu::View);
    m->addSeparator();
    for (const auto& stage : bench_.stages()) {
        for (const auto& action : stage->viewActions())
            if (action.menu == StageAction::Menu::View)
                add(m, action.text, QKeySequence(action.keys), action.act);
        for (const auto& one : stage->switches()) toggle(m, one.text, one.keys, one.name, one.on, one.act);
    }
    m->addSeparator();
    cuts(m);
    m->addSeparator();
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
        add(m, q.text, QKeySequence(q.keys),
            [this, quantity = q.quantity] { session_.showQuantity(quantity, session_.plane()); });
    add(m, "Band: radio or antenna end", QKeySequence("Ctrl+Shift+P"), [this] {
        session_.showQuantity(session_.quantity(), session_.plane() == study::Plane::Radio
                                                       ? study::Plane::Antenna
                                                       : study::Plane::Radio);
    });
    m->addSeparator();
    QAction* feet = toggle(m, "Feet and &inches", "Ctrl+U", "feet", false,
                           [this](bool on) { editing_.setFeetAndInches(on); });
    QObject::connect(&session_, &Session::projectChanged, feet,
                     [this, feet] { feet->setChecked(session_.project().feetAndInches); });
    toggle(m, "&Dark", "Ctrl+T", "dark", false, [this](bool on) { bench_.setNight(on); });
}

void Builder::help() {
    QMenu* m = menu("&Help");
    add(
        m, "&Find an action…", QKeySequence("Ctrl+Space"), [this] { questions_.findAction(); },
        "Anything the menus can do, by a word of it");
    add(
        m, "&Your first antenna", {}, [this] { bench_.beginFirstSteps(); }, "Five steps on the real bench");
    add(
        m, "Start from something &good…", {}, [this] { questions_.askStarter(true); },
        "Starters, the demo, files opened before");
    add(
        m, "&Guide for designers", QKeySequence("Shift+F1"), [this] { questions_.showGuide(); },
        "The whole guide, in your browser; it is on this machine");
    add(m, "&Shortcuts", QKeySequence("F1"), [this] { questions_.showShortcuts(); });
    add(m, "&About Reed Mast", {}, [this] { questions_.showAbout(); });
}

}  // namespace

void buildMenus(Bench& bench, Questions& questions) {
    // It lives as long as the actions that it made.
    auto builder = std::make_shared<Builder>(bench, questions);
    builder->project();
    builder->edit();
    builder->design();
    builder->study();
    builder->view();
    builder->help();
    QObject::connect(&bench, &QObject::destroyed, [builder] {});
}

}  // namespace rm::app
