// Faults that were found by using the program roughly, each as what a user did and what they then see.
#include <QAction>
#include <QDialog>
#include <QHeaderView>
#include <QMenu>
#include <QScrollBar>
#include <QSpinBox>
#include <QTimer>
#include <QToolButton>
#include <QWheelEvent>

#include "app/plan/quantity_field.h"
#include "app/session/guard.h"
#include "app/stages/compare/compare_stage.h"
#include "app/stages/compare/compare_view.h"
#include "app/stages/coupling/coupling_view.h"
#include "app/stages/spacing/spacing_stage.h"
#include "app/stages/spacing/spacing_view.h"
#include "app/stages/tune/history_plot.h"
#include "app/stages/tune/tune_stage.h"
#include "app/stages/tune/tune_view.h"
#include "core/edit/pins.h"
#include "core/model/movable.h"
#include "window.h"

using namespace rm;
using namespace rm::test;
using app::Selection;

namespace {

QLineEdit* halfType(Window& w, const QString& label, const QString& text) {
    QLineEdit* field = w.editor()->field(label);
    REQUIRE(field != nullptr);
    field->setFocus();
    field->selectAll();
    QTest::keyClicks(field, text);
    return field;
}

void trigger(Window& w, const QString& text) {
    for (auto* action : w.bench.findChildren<QAction*>())
        if (QString(action->text()).remove('&') == text) return action->trigger();
    FAIL("no action " << text.toStdString());
}

void wheel(QWidget* over, int notches) {
    const QPointF at(over->width() / 2.0, over->height() / 2.0);
    QWheelEvent event(at, over->mapToGlobal(at), {}, {0, 120 * notches}, Qt::NoButton, Qt::NoModifier,
                      Qt::NoScrollPhase, false);
    QApplication::sendEvent(over, &event);
    QApplication::processEvents();
}

}  // namespace

TEST_CASE("a stack grows while the coupling of its feeds is looked at") {
    Window w;
    w.chooseDesign("Two Yagis stacked, 70 MHz");
    w.bench.openStage("coupling");
    w.settle();
    w.select(w.item(Selection::Type::Copy));
    for (const char* rows : {"3", "1", "4", "2"}) {
        QLineEdit* field = w.editor()->field("Rows");
        field->setFocus();
        field->selectAll();
        QTest::keyClicks(field, rows);
        QTest::keyClick(field, Qt::Key_Return);
        // Painted at once, with whatever is there.
        w.find<app::CouplingView>()->grab();
        QApplication::processEvents();
    }
    w.settle();
    CHECK(w.analysis()->figures.impedanceOhm.size() == 2);
    CHECK(w.find<app::CouplingView>()->matrix()->cellText(1, 0).contains("Ω"));
}

TEST_CASE("what is half typed goes to the design it was typed for, whichever way it is left") {
    const std::pair<const char*, std::function<void(Window&)>> ways[] = {
        {"another design", [](Window& w) { trigger(w, "Next design"); }},
        {"another band", [](Window& w) { w.session().chooseBand(2); }},
        {"another stage",
         [](Window& w) {
             w.bench.openStage("compare");
             w.session().chooseBand(1);
         }},
        {"a copy of the design", [](Window& w) { trigger(w, "Copy this design"); }},
        {"a new part", [](Window& w) { w.editing().addPart(edit::PartKind::Wire); }},
    };
    for (const auto& [name, leave] : ways) {
        INFO(name);
        Window w;
        w.session().select(w.item(Selection::Type::Part));
        const auto before = w.document().share();
        const model::Id design = w.document().design().id;
        const model::Id part = w.document().design().parts[0].id;
        halfType(w, "Name", "Half typed");
        leave(w);
        w.settle();
        const auto& project = w.document().project();
        CHECK(model::at(model::at(project.designs, design).parts, part).name == "Half typed");
        for (const auto& other : project.designs)
            for (const auto& p : other.parts)
                if (p.id != part && other.name.find("Inverted V, 60 m") == std::string::npos)
                    CHECK(p.name != "Half typed");
        (void)before;
    }
}

TEST_CASE("removing what is being renamed loses neither the undo nor another part") {
    Window w;
    w.editing().addPart(edit::PartKind::Wire);
    w.session().select(w.item(Selection::Type::Part, 0));
    halfType(w, "Name", "Gone");
    w.editing().removeSelected();
    w.settle();
    REQUIRE(w.document().design().parts.size() == 2);
    CHECK(w.document().design().parts[0].name == "Lattice mast");
    CHECK(w.document().design().parts[1].name == "Wire");
    w.document().undo();
    CHECK(w.document().design().parts[0].name == "Gone");
    w.document().undo();
    CHECK(w.document().design().parts[0].name == "Inverted V");
    w.settle();
}

TEST_CASE("undo while typing takes back what was typed, in that design") {
    Window w;
    w.session().select(w.item(Selection::Type::Design));
    halfType(w, "Name", "Another name");
    w.document().undo();
    CHECK(w.document().design().name == "Inverted V, 60 m");
    CHECK(w.editor()->field("Name")->text() == "Inverted V, 60 m");
    w.settle();
}

TEST_CASE("a part duplicated lies on the first; every view can be opened all the same") {
    Window w;
    w.session().select(w.item(Selection::Type::Part));
    trigger(w, "Duplicate selected");
    w.settle();
    for (const auto& stage : w.bench.stages()) {
        INFO(stage->name().toStdString());
        w.bench.showStage(stage->name());
        w.bench.grab();
        w.settle();
        w.bench.grab();
    }
    CHECK_FALSE(w.notice()->sentence().isEmpty());
    w.undo();
    CHECK(w.live());
}

TEST_CASE("the wheel scrolls the plan and turns nothing on its way") {
    Window w;
    w.chooseDesign("Yagi, 70 MHz");
    w.bench.resize(1280, 720);
    QApplication::processEvents();
    const auto before = w.document().share();
    auto* bar = w.outline()->verticalScrollBar();
    REQUIRE(bar->maximum() > 0);
    bar->setValue(0);
    auto* row = w.outline()->dimensionRow("driven");
    REQUIRE(row != nullptr);
    wheel(w.outline()->viewport(), -1);
    CHECK(bar->value() > 0);
    bar->setValue(0);
    wheel(row->slider(), -1);
    CHECK(w.document().share() == before);
    CHECK(bar->value() > 0);
    // With the focus it is a handle.
    row->slider()->setFocus();
    wheel(row->slider(), -1);
    CHECK(w.document().share() != before);
    w.session().select(w.item(Selection::Type::Part));
    const auto settled = w.document().share();
    for (auto* combo : w.bench.findChildren<QComboBox*>())
        if (combo->isVisible() && !combo->hasFocus()) wheel(combo, 1);
    CHECK(w.document().share() == settled);
    w.settle();
}

TEST_CASE("choosing a band or a design is no edit") {
    Window w;
    for (int band = 0; band < 5; ++band) w.session().chooseBand(band);
    w.chooseDesign("Yagi, 70 MHz");
    w.chooseDesign("End-fed, sloper");
    CHECK_FALSE(w.document().modified());
    CHECK(w.document().undoStack()->count() == 0);
    CHECK_FALSE(w.bench.windowTitle().startsWith("•"));
    // Undo goes to the design where something was done, and leaves the band alone.
    w.document().editDesign("Raise", [](model::Design& d) { d.site.height = "1 m"; });
    w.chooseDesign("End-fed, inverted L");
    w.session().chooseBand(3);
    w.document().undo();
    w.settle();
    CHECK(w.document().design().name == "End-fed, sloper");
    CHECK(w.document().project().workingBand == 3);
}

TEST_CASE("a scan of spacings outlives its copies without harm") {
    Window w;
    w.chooseDesign("Two Yagis stacked, 70 MHz");
    const auto copy = w.item(Selection::Type::Copy);
    auto& stage = w.stage<app::SpacingStage>("spacing");
    stage.scan(copy.id);
    w.session().select(copy);
    w.editing().removeSelected();
    w.settle();
    CHECK(w.notice()->sentence().contains("not there any more"));
    CHECK(w.bench.front()->name() == "shape");
    w.undo();
    // Open, and then they go: the plot is emptied, and a click does nothing.
    stage.scan(copy.id);
    w.settle();
    REQUIRE(w.bench.front()->name() == "spacing");
    auto* plot = w.find<app::SpacingView>()->plot();
    REQUIRE(plot->points().size() > 20);
    w.session().select(copy);
    w.editing().removeSelected();
    w.settle();
    const auto before = w.document().share();
    Q_EMIT plot->spacingChosen(3.0);
    CHECK(w.document().share() == before);
    CHECK(plot->points().empty());
}

TEST_CASE("advice on a spacing that comes after its copies have gone is dropped") {
    Window w;
    w.chooseDesign("Two Yagis stacked, 70 MHz");
    const auto copy = w.item(Selection::Type::Copy);
    w.editing().adviseStacking(copy.id);
    w.settle();
    REQUIRE(w.notice()->sentence().contains("half-power rule"));
    QToolButton* use = w.notice()->answer(0);
    w.document().edit("Remove", [&](model::Project& p) { p = edit::remove(std::move(p), copy); });
    w.settle();
    // The offer may still stand; taking it changes nothing and says why.
    const auto before = w.document().share();
    use->click();
    CHECK(w.document().share() == before);
}

TEST_CASE("a cell of an older comparison is clicked after its design has gone") {
    Window w;
    w.bench.openStage("compare");
    w.settle();
    auto* view = w.find<app::CompareView>();
    const auto rows = view->comparison()->rows.size();
    REQUIRE(rows > 5);
    w.editing().removeDesign();
    // Before the new comparison is there, and after.
    for (int row = static_cast<int>(rows) + 2; row >= 0; --row) Q_EMIT view->cellChosen(row, 1);
    w.settle();
    Q_EMIT view->cellChosen(200, 1);
    Q_EMIT view->cellChosen(0, 200);
    w.settle();
    CHECK(w.live());
}

TEST_CASE("stop leaves nothing waiting: compare, goals and sensitivities go on from what there is") {
    Window w;
    w.bench.openStage("compare");
    w.bench.stop();
    w.settle();
    w.bench.openStage("tune", 1);
    w.bench.stop();
    w.settle();
    w.chooseDesign("Yagi, 70 MHz");
    w.bench.openStage("tune");
    w.bench.stop();
    w.settle();
    CHECK(w.find<app::TuneView>()->now().goals.size() > 1);
}

TEST_CASE("a proposal belongs to its design by identity, not by name") {
    Window w;
    w.chooseDesign("Yagi, 70 MHz");
    w.bench.openStage("tune");
    w.settle();
    auto& tune = w.stage<app::TuneStage>("tune");
    tune.tune();
    REQUIRE(waitFor([&] { return w.find<app::TuneView>()->history()->steps().size() > 2; }));
    QTest::keyClick(&w.bench, Qt::Key_Escape);
    REQUIRE(waitFor([&] { return !tune.tuning(); }));
    w.settle();
    REQUIRE(w.find<app::TuneView>()->proposal() != nullptr);
    // Another design takes its name; the proposal stays with its own.
    w.document().edit("Swap names",
                      [](model::Project& p) { std::swap(p.designs[0].name, p.designs[6].name); });
    w.settle();
    CHECK(w.find<app::TuneView>()->proposal() != nullptr);
    w.chooseDesign("Yagi, 70 MHz");
    CHECK(w.find<app::TuneView>()->proposal() == nullptr);
    const auto before = w.document().share();
    tune.accept();
    CHECK(w.document().share() == before);
    tune.drop();
    w.settle();
}

TEST_CASE("opening works everything out once, at the frequency of the new project") {
    Window w;
    w.session().setFrequency(5.36e6);
    w.settle();
    int published = 0;
    double first = 0.0;
    QObject::connect(&w.session(), &app::Session::resultsChanged, &w.bench, [&](const app::ResultsPtr& r) {
        if (published++ == 0) first = r->frequencyHz;
    });
    w.document().startNew();
    w.settle();
    CHECK(published > 0);
    CHECK(first == Approx(14.15e6));
    CHECK(w.sweep()->points.front().frequencyHz == Approx(14.0e6));
}

TEST_CASE("an exception that reaches the event loop or a painter is said, and the program goes on") {
    auto* guarded = dynamic_cast<app::GuardedApplication*>(QApplication::instance());
    REQUIRE(guarded != nullptr);
    Window w;
    QString said;
    guarded->onFailure([&](const QString& sentence) {
        w.document().settleJournal();
        said = sentence;
        w.session().bad(sentence);
    });
    w.typeDimension("leg", "13.3 m");
    w.settle();
    QTimer::singleShot(0, &w.bench, [] { throw std::runtime_error("provoked in a slot"); });
    REQUIRE(waitFor([&] { return !said.isEmpty(); }));
    CHECK(said.contains("provoked in a slot"));
    CHECK(w.notice()->sentence().contains("Your work is kept"));
    CHECK(QFile::exists(w.document().journalFile()));
    struct Thrower : QWidget {
        void paintEvent(QPaintEvent*) override { throw std::logic_error("provoked in a painter"); }
    };
    said.clear();
    Thrower thrower;
    thrower.resize(50, 50);
    thrower.show();
    REQUIRE(waitFor([&] { return !said.isEmpty(); }));
    CHECK(said.contains("provoked in a painter"));
    thrower.hide();
    guarded->onFailure({});
    w.settle();
    CHECK(w.live());
}

TEST_CASE("an edit in the middle of another one is refused and changes nothing") {
    Window w;
    const auto before = w.document().share();
    bool inner = true;
    w.document().edit("Outer", [&](model::Project& p) {
        inner = w.document().edit("Inner", [](model::Project& q) { q.title = "inner"; });
        p.title = "outer";
    });
    CHECK_FALSE(inner);
    CHECK(w.document().project().title == "outer");
    w.document().undo();
    CHECK(w.document().project() == *before);
    // A change that throws leaves everything as it was, and is said.
    CHECK_FALSE(w.document().edit("Fails", [](model::Project&) { throw Error("It cannot be done."); }));
    CHECK(w.notice()->sentence() == "It cannot be done.");
    CHECK(w.document().project() == *before);
    w.settle();
}

TEST_CASE("a project that is being read outlives its successors until the events are done") {
    Window w;
    auto& document = w.document();
    const auto look = [&](std::size_t band) {
        document.look([band](model::Project& p) { p.workingBand = band; });
    };
    const auto slide = [&](double metres) {
        document.editDesign(
            "Slide", [&](model::Design& d) { d.designFrequency = std::to_string(metres); }, "slider");
    };
    std::vector<std::weak_ptr<const model::Project>> read;
    // Nothing else keeps what was only looked at, or the middle of a run that is undone as one.
    for (const std::size_t band : {1, 2, 1}) {
        read.push_back(document.share());
        look(band);
    }
    for (const double metres : {1.0, 2.0, 3.0}) {
        slide(metres);
        read.push_back(document.share());
    }
    document.setFineness(w.session().design().id, 1);
    for (const auto& one : read) CHECK_FALSE(one.expired());

    w.settle();
    QApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
    CHECK(read[1].expired());
    CHECK(read[4].expired());
}

TEST_CASE("titles and findings are text, whatever they look like") {
    Window w;
    w.document().edit("Title", [](model::Project& p) {
        p.title = "<img src='/dev/zero'>";
        p.designs[0].parts[0].name = "<b>bold</b>";
        p.designs[0].dimensions[0].text = "<i>x</i>";
    });
    w.settle();
    for (const auto* label : w.bench.findChildren<QLabel*>())
        if (label->text().contains('<')) CHECK(label->textFormat() == Qt::PlainText);
}

TEST_CASE("a part added is brought into view, and no figures are no work in progress") {
    Window w;
    w.chooseDesign("Yagi, 70 MHz");
    w.bench.resize(1280, 700);
    for (int i = 0; i < 6; ++i) w.editing().addPart(edit::PartKind::Mast);
    w.settle();
    auto* row = w.outline()->row(w.session().selection());
    REQUIRE(row != nullptr);
    CHECK_FALSE(row->visibleRegion().isEmpty());
    w.document().editDesign("No feed", [](model::Design& d) { d.feeds.clear(); });
    w.settle();
    CHECK(w.bench.findChild<QLabel*>("status")->text() == "no figures");
    w.undo();
}

TEST_CASE("the ledger takes the height of its rows, and its small headings are whole") {
    Window w;
    w.bench.resize(1280, 800);
    w.settle();
    QCoreApplication::processEvents();
    auto* ledger = w.ledger();
    CHECK(ledger->parentWidget()->height() <= ledger->height() + 8);
    CHECK(ledger->horizontalHeader()->fontInfo().pointSizeF() < ledger->fontInfo().pointSizeF());
    CHECK(w.elevation()->height() > 180);
    // It grows with a pin, and the panel with it.
    const int before = ledger->height();
    trigger(w, "Pin the live result");
    w.settle();
    CHECK(ledger->height() > before);
    CHECK(ledger->parentWidget()->height() >= ledger->height());
    CHECK(ledger->geometry().bottom() < ledger->parentWidget()->height());
    w.undo();
    CHECK(ledger->height() == before);
    CHECK(ledger->parentWidget()->height() <= ledger->height() + 8);
}

TEST_CASE("a design is expanded once for every edit, and not again to look at another band") {
    Window w;
    const int before = w.session().expansions();
    w.typeDimension("apex", "11 m");
    w.settle();
    CHECK(w.session().expansions() == before + 1);
    w.undo();
    CHECK(w.session().expansions() == before + 2);
    w.session().setFrequency(5.355e6);
    w.settle();
    CHECK(w.session().expansions() == before + 2);
}

TEST_CASE("a formula too long for its field shows what it comes to, and itself while it is edited") {
    Window window;
    window.chooseDesign("End-fed, sloper");
    window.select(window.item(app::Selection::Type::Part));
    app::QuantityField* field = nullptr;
    for (auto* one : window.editor()->findChildren<app::QuantityField*>())
        if (one->text() == "-run*cos(slope)") field = one;
    REQUIRE(field != nullptr);
    const std::string value = field->shown().toStdString();
    INFO(value);
    CHECK((value == "-40.565 m" || value == "-40.57 m" || value == "-40.6 m"));
    CHECK(field->fontMetrics().horizontalAdvance(field->shown()) <= field->width() - 8);
    const QPixmap without = field->grab();
    // All of it is painted: ink from its first sign to its last.
    const QImage seen = without.toImage();
    int first = seen.width();
    int last = 0;
    for (int x = 3; x < seen.width() - 3; ++x)
        for (int y = 4; y < seen.height() - 4; ++y)
            if (seen.pixelColor(x, y).lightness() < 110) {
                first = std::min(first, x);
                last = x;
            }
    CHECK(last - first + 4 >= field->fontMetrics().tightBoundingRect(field->shown()).width());
    field->setFocus();
    CHECK(field->shown() == "-run*cos(slope)");
    window.outline()->setFocus();
    CHECK(field->shown().toStdString() == value);
    CHECK(field->grab().toImage() == without.toImage());
    // What it comes to follows the dimension.
    window.typeDimension("run", "20 m");
    CHECK(field->shown().startsWith("-19."));
    CHECK(field->shown().endsWith(" m"));
    // What fits stays as it was typed.
    for (auto* other : window.editor()->findChildren<app::QuantityField*>())
        if (other->text().size() < 5) CHECK(other->shown() == other->text());
    // A number too long for its field is rounded, and not read by its tail, which is another number.
    window.select(window.item(app::Selection::Type::Part));
    window.document().editDesign("Long", [](model::Design& d) {
        std::get<model::StraightWire>(d.parts[0].shape).end[0] = "-1654.54355 ft";
    });
    window.settle();
    field = nullptr;
    for (auto* one : window.editor()->findChildren<app::QuantityField*>())
        if (one->text() == "-1654.54355 ft") field = one;
    REQUIRE(field != nullptr);
    CHECK((field->shown() == "-1654.5 ft" || field->shown() == "-1654.54 ft"));
    field->setFocus();
    CHECK(field->shown() == field->text());
}

TEST_CASE("coupling is looked at, in a design of one feed, and again: the pair shown is one that is there") {
    Window window;
    window.chooseDesign("Two Yagis stacked, 70 MHz");
    window.bench.openStage("coupling");
    window.settle();
    auto* matrix = window.find<app::CouplingMatrix>();
    const QPointF last = matrix->cellRect(1, 1).center();
    QTest::mouseClick(matrix, Qt::LeftButton, {}, last.toPoint());
    CHECK(matrix->pair() == std::pair(1, 1));
    window.chooseDesign("Yagi, 70 MHz");
    matrix->grab();
    window.chooseDesign("Two Yagis stacked, 70 MHz");
    const auto [row, column] = matrix->pair();
    CHECK(row >= 0);
    CHECK(column >= 0);
    CHECK(row < 2);
    CHECK(column < 2);
    CHECK(matrix->pairName().contains(QString::fromStdString(window.document().design().feeds[0].name)));
    window.find<app::CouplingPlot>()->grab();
}

TEST_CASE("a number that is let move after its part has changed is said to be gone") {
    Window window;
    window.chooseDesign("Delta loop, 17 m, fed in the corner");
    const auto stale = model::movablesOf(window.document().design());
    REQUIRE_FALSE(stale.empty());
    window.document().editDesign("Another shape", [](model::Design& d) {
        for (auto& part : d.parts) part.shape = model::StraightWire{};
    });
    const auto before = window.document().share();
    QString said;
    QObject::connect(&window.document(), &app::Document::refused, &window.bench,
                     [&](const QString& why) { said = why; });
    int gone = 0;
    for (const auto& movable : stale) {
        auto design = window.document().design();
        if (movable.text(design) != nullptr) continue;
        ++gone;
        CHECK_FALSE(window.document().editDesign("Let it move",
                                                 [&](model::Design& d) { model::letMove(d, movable); }));
        CHECK(said.contains(QString::fromStdString(movable.owner)));
        CHECK(said.contains("any more"));
    }
    CHECK(gone > 0);
    CHECK(window.document().project() == *before);
}
