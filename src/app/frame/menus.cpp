#include "app/frame/menus.h"

#include <QActionGroup>
#include <QMenuBar>
#include <QUndoStack>

#include "app/frame/bench.h"
#include "app/frame/files.h"
#include "app/frame/questions.h"
#include "app/instruments/instruments.h"
#include "app/instruments/ledger.h"
#include "app/instruments/polar_view.h"
#include "app/look/language.h"
#include "app/look/text.h"
#include "app/plan/block_choices.h"
#include "app/plan/item_editor.h"
#include "app/plan/plan_panel.h"
#include "app/stages/drives/drive_patterns.h"

namespace rm::app {

namespace {

/// Bands that have a key of their own, and so an entry.
constexpr int kBandKeys = 9;

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
    void band();
    void study();
    void view();
    void help();
    void languages(QMenu* in);

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
    QMenu* m = menu(tr("&Project"));
    add(m, tr("&New project"), QKeySequence::New, [this] { files_.newProject(); });
    add(m, tr("&Open…"), QKeySequence::Open, [this] { files_.askOpen(); });
    QMenu* before = m->addMenu(tr("&Versions before"));
    QObject::connect(before, &QMenu::aboutToShow, before, [this, before] {
        before->clear();
        for (const auto& version : files_.versions())
            before->addAction(QString::fromStdString(version.when), before,
                              [this, version] { files_.goBackTo(version); });
        if (before->isEmpty())
            before->addAction(tr("None: this file has not been saved over yet"))->setEnabled(false);
    });
    add(m, tr("&Unsaved work…"), {}, [this] { files_.showLeftWork(); });
    m->addSeparator();
    add(m, tr("&Save"), QKeySequence::Save, [this] { files_.askSave(false); });
    add(m, tr("Save &as…"), QKeySequence("Ctrl+Shift+S"), [this] { files_.askSave(true); });
    add(m, tr("&Import measurements…"), QKeySequence("Ctrl+Shift+I"), [this] { files_.askMeasured(); });
    add(
        m, tr("&Measure with an analyser…"), QKeySequence("Ctrl+Alt+M"), [this] { questions_.askAnalyser(); },
        tr("Reads the antenna as it stands, over the network or a serial device"));
    add(m, tr("&Export the sweep…"), QKeySequence("Ctrl+E"), [this] { files_.exportSweep(); });
    add(m, tr("Export the pa&tterns…"), QKeySequence("Ctrl+Shift+X"), [this] { files_.exportPattern(); });
    add(
        m, tr("Export the dra&wing…"), {}, [this] { files_.exportDrawing(); },
        tr("Three views to scale with dimensions, and what to cut: PDF, SVG or DXF"));
    add(
        m, tr("Export the &boom at true size…"), {}, [this] { files_.exportTemplate(); },
        tr("Where the elements go at 1 : 1, in strips of paper to lay along the boom"));
    add(
        m, tr("Export the &report…"), {}, [this] { files_.exportReport(); },
        tr("One PDF to hand on: picture, figures, curves, cuts, feed path, what to build, drawing"));
    QMenu* pictures = m->addMenu(tr("Export a pict&ure of"));
    const std::pair<QString, std::function<QWidget*()>> views[] = {
        {tr("the &middle"), [this] { return bench_.front()->widget(); }},
        {tr("the &elevation"), [this]() -> QWidget* { return bench_.instruments()->elevation(); }},
        {tr("the &azimuth"), [this]() -> QWidget* { return bench_.instruments()->azimuth(); }},
        {tr("the &band"), [this]() -> QWidget* { return bench_.findChild<QWidget*>("band"); }},
        {tr("the &ledger"), [this]() -> QWidget* { return bench_.findChild<Ledger*>(); }},
        {tr("the &whole bench"), [this] { return bench_.centralWidget(); }}};
    for (const auto& [text, view] : views)
        add(pictures, text, {}, [this, view = view] { files_.exportPicture(view()); });
    m->addSeparator();
    add(m, tr("&Bands…"), QKeySequence("Ctrl+B"), [this] { questions_.askBands(); });
    m->addSeparator();
    add(m, tr("&Quit"), QKeySequence("Ctrl+Q"), [this] { bench_.close(); });
}

/// Undo and redo say what they undo, and go through the document, which settles what is half typed first.
void Builder::history(QMenu* m) {
    QUndoStack* stack = session_.document().undoStack();
    QAction* undo = add(m, tr("Undo"), QKeySequence::Undo, [this, stack] {
        const QString what = stack->undoText();
        session_.document().undo();
        session_.sayForNow({Notice::Tone::Good, tr("Undone: ") + what.toLower() + ".", tr("Redo"),
                            [this] { session_.document().redo(); }});
    });
    QAction* redo = add(m, tr("Redo"), {}, [this, stack] {
        const QString what = stack->redoText();
        session_.document().redo();
        session_.good(tr("Done again: ") + what.toLower() + ".");
    });
    redo->setShortcuts({QKeySequence("Ctrl+Shift+Z"), QKeySequence("Ctrl+Y")});
    undo->setEnabled(false);
    redo->setEnabled(false);
    QObject::connect(stack, &QUndoStack::canUndoChanged, undo, &QAction::setEnabled);
    QObject::connect(stack, &QUndoStack::canRedoChanged, redo, &QAction::setEnabled);
    QObject::connect(stack, &QUndoStack::undoTextChanged, undo, [undo](const QString& text) {
        undo->setText((tr("Undo ") + text.toLower()).trimmed());
    });
    QObject::connect(stack, &QUndoStack::redoTextChanged, redo, [redo](const QString& text) {
        redo->setText((tr("Redo ") + text.toLower()).trimmed());
    });
}

void Builder::edit() {
    QMenu* m = menu(tr("&Edit"));
    history(m);
    m->addSeparator();
    QMenu* parts = m->addMenu(tr("Add a &part"));
    for (const auto& choice : partChoices())
        add(parts, choice.text, QKeySequence(choice.keys),
            [this, kind = choice.kind] { editing_.addPart(kind); });
    QMenu* copies = m->addMenu(tr("Add &copies"));
    for (const auto& [text, kind] : copyChoices())
        add(copies, text, {}, [this, kind = kind] { editing_.addCopy(kind); });
    QMenu* supports = m->addMenu(tr("Add a &support to the site"));
    for (const auto& [text, kind] : supportChoices())
        add(supports, text, {}, [this, kind = kind] { editing_.addSupport(kind); });
    add(m, tr("Add a &dimension"), QKeySequence("Ctrl+Shift+D"), [this] { editing_.addDimension(); });
    add(m, tr("Add a f&eed"), QKeySequence("Ctrl+Shift+E"), [this] { editing_.addFeed(); });
    add(m, tr("Add a l&oad"), QKeySequence("Ctrl+Shift+O"), [this] { editing_.addLoad(false); });
    add(m, tr("Add a t&rap"), {}, [this] { editing_.addLoad(true); });
    add(m, tr("Add a l&ine between two points"), {}, [this] { editing_.addLine(); });
    QMenu* blocks = m->addMenu(tr("Add a feed path &block"));
    for (const auto& choice : blockChoices())
        add(blocks, choice.text, QKeySequence(choice.shortcut),
            [this, block = choice.block] { editing_.addBlock(block); });
    m->addSeparator();
    for (const auto& stage : bench_.stages())
        for (const auto& action : stage->viewActions())
            if (action.menu == StageAction::Menu::Edit)
                add(m, action.text, QKeySequence(action.keys), action.act, action.tip);
    add(
        m, tr("&Make dimensions of it"), QKeySequence("Shift+D"), [this] { editing_.nameLengths(); },
        tr("The lengths of the selected wire get names, and sliders"));
    add(
        m, tr("&Join elements by crossed lines"), {}, [this] { editing_.crossElements(); },
        tr("The selected row becomes a log-periodic one: one line along the boom, fed at the shortest "
           "element"));
    m->addSeparator();
    add(m, tr("D&uplicate selected"), QKeySequence("Ctrl+D"), [this] { editing_.duplicateSelected(); });
    add(m, tr("&Remove selected"), QKeySequence("Ctrl+Backspace"), [this] { editing_.removeSelected(); });
}

void Builder::design() {
    QMenu* m = menu(tr("&Design"));
    const auto step = [this](int by) {
        const auto& p = session_.project();
        const auto to = static_cast<int>(p.activeDesign) + by;
        if (to >= 0 && to < static_cast<int>(p.designs.size()))
            session_.chooseDesign(p.designs[static_cast<std::size_t>(to)].id);
    };
    add(m, tr("&Next design"), QKeySequence("Ctrl+PgDown"), [step] { step(1); });
    add(m, tr("&Previous design"), QKeySequence("Ctrl+PgUp"), [step] { step(-1); });
    m->addSeparator();
    add(
        m, tr("N&ew design…"), QKeySequence("Ctrl+Shift+N"), [this] { questions_.askStarter(false); },
        tr("A starter from the gallery: dipole, vertical, loop, beam, made for your band and ground"));
    add(m, tr("N&ew plain dipole"), {}, [this] { editing_.newDesign(); });
    add(m, tr("&Copy this design"), QKeySequence("Ctrl+Shift+C"), [this] { editing_.copyDesign(); });
    add(m, tr("Re&move this design"), QKeySequence("Ctrl+Shift+Backspace"),
        [this] { editing_.removeDesign(); });
    m->addSeparator();
    const auto edit = [this](Selection::Type type) {
        session_.select({type});
        bench_.plan()->editor()->focusFirst();
    };
    add(m, tr("&Site"), QKeySequence("Ctrl+G"), [edit] { edit(Selection::Type::Site); });
    add(m, tr("Feed &path"), QKeySequence("Ctrl+P"), [this] { bench_.showFeedPath(); });
    add(m, tr("&Frequency and reference"), QKeySequence("Ctrl+F"), [edit] { edit(Selection::Type::Design); });
}

void Builder::stagesIn(QMenu* m, StageAction::Menu which) {
    for (const auto& stage : bench_.stages())
        for (const auto& action : stage->actions())
            if (action.menu == which) add(m, action.text, QKeySequence(action.keys), action.act, action.tip);
}

void Builder::study() {
    QMenu* m = menu(tr("&Study"));
    add(
        m, tr("&Pin the live result"), QKeySequence("P"), [this] { editing_.pin(); },
        tr("Keeps this design and its figures in the ledger and over the curves"));
    add(
        m, tr("Pin with and with&out the selected part"), QKeySequence("Shift+P"),
        [this] { editing_.pinWithAndWithout(); }, tr("Two pins: one with the part, one without it"));
    m->addSeparator();
    add(
        m, tr("Find the nearest &resonance"), QKeySequence("Ctrl+R"), [this] { editing_.findResonance(); },
        tr("Where the reactance is zero, nearest to the working frequency"));
    add(
        m, tr("&Scale to frequency…"), QKeySequence("Ctrl+K"), [this] { questions_.askScale(); },
        tr("Multiply chosen dimensions until the antenna is resonant where you want it"));
    m->addSeparator();
    stagesIn(m, StageAction::Menu::Study);
    fillDrivePatterns(*m->addMenu(tr("Add drive sets")), session_, editing_);
    m->addSeparator();
    add(
        m, tr("Turn into loose wires"), {}, [this] { editing_.loosen(); },
        tr("Every part and copy as wires of its own, in numbers"));
    QAction* quick = m->addAction(tr("&Free space for now"));
    quick->setShortcut(QKeySequence("Ctrl+0"));
    quick->setCheckable(true);
    quick->setObjectName("quick");
    quick->setToolTip(tr("Leaves the ground out for quick work, whatever the site says"));
    QObject::connect(quick, &QAction::triggered, &editing_, &Editing::setQuickFreeSpace);
    QObject::connect(&session_, &Session::projectChanged, quick,
                     [this, quick] { quick->setChecked(session_.design().site.quick); });
    m->addSeparator();
    add(m, tr("Back to the &yard"), QKeySequence("Ctrl+Shift+Y"), [this] { bench_.showStage("shape"); });
    add(m, tr("S&top"), QKeySequence("Escape"), [this] { bench_.stop(); });
}

void Builder::band() {
    QMenu* m = menu(tr("&Band"));
    std::vector<QAction*> own;
    for (int i = 0; i < kBandKeys; ++i)
        own.push_back(
            add(m, {}, QKeySequence(QString("Alt+%1").arg(i + 1)), [this, i] { session_.chooseBand(i); }));
    const auto name = [this, own] {
        const auto& bands = session_.project().bands;
        for (std::size_t i = 0; i < own.size(); ++i) {
            own[i]->setVisible(i < bands.size());
            own[i]->setText(i < bands.size() ? text(bands[i].name).replace('&', "&&")
                                             : tr("Band %1").arg(i + 1));
        }
    };
    QObject::connect(&session_, &Session::projectChanged, m, name);
    name();
    m->addSeparator();
    add(m, tr("S&weep a range…"), QKeySequence("Ctrl+M"), [this] { questions_.askSweep(); });
    add(m, tr("Back to the &band"), QKeySequence("Ctrl+Shift+M"),
        [this] { session_.chooseBand(static_cast<int>(session_.project().workingBand)); });
    m->addSeparator();
    const struct {
        QString text;
        const char* keys;
        BandQuantity quantity;
    } quantities[] = {{tr("&SWR"), "F7", BandQuantity::Swr},
                      {tr("&R and X"), "F8", BandQuantity::Impedance},
                      {tr("R&eturn loss"), "F9", BandQuantity::ReturnLoss},
                      {tr("S&mith chart"), "F10", BandQuantity::Smith},
                      {tr("&Phase of the reflection"), "", BandQuantity::Phase},
                      {tr("&Loss of the feed path"), "", BandQuantity::Loss},
                      {tr("Peak &gain"), "F11", BandQuantity::Gain},
                      {tr("&Front-to-back"), "F12", BandQuantity::FrontToBack},
                      {tr("&Takeoff angle"), "", BandQuantity::Takeoff}};
    for (const auto& q : quantities)
        add(m, q.text, QKeySequence(q.keys),
            [this, quantity = q.quantity] { session_.showQuantity(quantity, session_.plane()); });
    add(m, tr("Radio or &antenna end"), QKeySequence("Ctrl+Shift+P"), [this] {
        session_.showQuantity(session_.quantity(), session_.plane() == study::Plane::Radio
                                                       ? study::Plane::Antenna
                                                       : study::Plane::Radio);
    });
}

void Builder::cuts(QMenu* m) {
    add(m, tr("Azimuth at &5°"), QKeySequence("5"), [this] { session_.cutAzimuthAt(5.0); });
    add(m, tr("Azimuth at the &takeoff angle"), QKeySequence("0"),
        [this] { session_.cutAzimuthAt(std::nullopt); });
    add(m, tr("&Angles and distances…"), QKeySequence("Ctrl+Shift+A"), [this] { questions_.askAngles(); });
    QMenu* component = m->addMenu(tr("Field shown in the cuts"));
    for (const auto& [text, which] : {std::pair{tr("&Total"), study::Component::Total},
                                      {tr("&Horizontal"), study::Component::Horizontal},
                                      {tr("&Vertical"), study::Component::Vertical},
                                      {tr("&Right circular"), study::Component::RightCircular},
                                      {tr("&Left circular"), study::Component::LeftCircular}})
        add(component, text, {}, [this, which = which] { session_.setComponent(which); });
    const auto both = [this](auto act) {
        act(bench_.instruments()->elevation());
        act(bench_.instruments()->azimuth());
    };
    QMenu* rings = m->addMenu(tr("Rings labelled in"));
    for (const auto& [text, labels] :
         {std::pair{tr("dB &below the strongest"), PolarView::Labels::BelowMaximum},
          {"&dBi", PolarView::Labels::Dbi},
          {tr("dB &over the baseline"), PolarView::Labels::OverBaseline}})
        add(rings, text, {},
            [both, labels = labels] { both([labels](PolarView* cut) { cut->setLabels(labels); }); });
    QMenu* scale = m->addMenu(tr("&Scale of the cuts"));
    const auto scaled = [both](PolarView::Scale kind, double range) {
        both([kind, range](PolarView* cut) {
            cut->setScale(kind);
            cut->setLinearRange(range);
        });
    };
    add(scale, tr("For &lobes: root of the field strength"), QKeySequence("Ctrl+Shift+R"),
        [scaled] { scaled(PolarView::Scale::Lobes, 40.0); });
    for (const double range : {20.0, 30.0, 40.0, 60.0})
        add(scale, tr("Linear over %1 dB").arg(range), {},
            [scaled, range] { scaled(PolarView::Scale::LinearDb, range); });
}

void Builder::view() {
    QMenu* m = menu(tr("&View"));
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
    QAction* feet = toggle(m, tr("Feet and &inches"), "Ctrl+U", "feet", false,
                           [this](bool on) { editing_.setFeetAndInches(on); });
    QObject::connect(&session_, &Session::projectChanged, feet,
                     [this, feet] { feet->setChecked(session_.project().feetAndInches); });
    toggle(m, tr("&Dark"), "Ctrl+T", "dark", false, [this](bool on) { bench_.setNight(on); });
    languages(m);
}

void Builder::languages(QMenu* in) {
    // Both in their own words and in English: who is lost in a language finds the way out.
    QMenu* m = in->addMenu(tr("Language"));
    auto* group = new QActionGroup(m);
    const QString chosen = chosenSpeech();
    const auto entry = [&](const QString& name, const QString& code) {
        QAction* action = add(m, name, {}, [this, code] {
            chooseSpeech(code);
            session_.good(tr("The window speaks it when the program is started again."));
        });
        action->setCheckable(true);
        action->setChecked(code == chosen);
        group->addAction(action);
    };
    entry(tr("As the desktop"), {});
    for (const Speech& speech : speeches()) entry(speech.name, speech.code);
}

void Builder::help() {
    QMenu* m = menu(tr("&Help"));
    add(
        m, tr("&Find an action…"), QKeySequence("Ctrl+Space"), [this] { questions_.findAction(); },
        tr("Anything the menus can do, by a word of it"));
    add(
        m, tr("&Your first antenna"), {}, [this] { bench_.beginFirstSteps(); },
        tr("Five steps on the real bench"));
    add(
        m, tr("Start from something &good…"), {}, [this] { questions_.askStarter(true); },
        tr("Starters, the demo, files opened before"));
    add(
        m, tr("&Guide for designers"), QKeySequence("Shift+F1"), [this] { questions_.showGuide(); },
        tr("The whole guide, in your browser; it is on this machine"));
    add(m, tr("&Shortcuts"), QKeySequence("F1"), [this] { questions_.showShortcuts(); });
    add(m, tr("&About Reed Mast"), {}, [this] { questions_.showAbout(); });
}

}  // namespace

void buildMenus(Bench& bench, Questions& questions) {
    // It lives as long as the actions that it made.
    auto builder = std::make_shared<Builder>(bench, questions);
    builder->project();
    builder->edit();
    builder->design();
    builder->band();
    builder->study();
    builder->view();
    builder->help();
    QObject::connect(&bench, &QObject::destroyed, [builder] {});
}

}  // namespace rm::app
