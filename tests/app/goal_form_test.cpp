// The form of a goal in the real window: what each kind asks for, and what is typed into it.
#include <QCheckBox>
#include <QComboBox>

#include "app/stages/tune/as_built_row.h"

#include "tune_window.h"

using namespace rm;
using namespace rm::test;

namespace {

struct GoalWindow : TuneWindow {
    using TuneWindow::TuneWindow;
    app::PlanForm& form() { return *view().form(); }
    const model::Goal& last() { return plan().goals.back(); }
    void add(const QString& words) {
        trigger(view().addGoal()->menu(), words);
        REQUIRE(form().isVisible());
    }
    void shot(const char* name) {
        const auto folder = qEnvironmentVariable("REEDMAST_TEST_PICTURES");
        if (!folder.isEmpty()) bench.grab().save(folder + "/" + name + ".png");
    }
};

}  // namespace

TEST_CASE("a goal over several angles has its range, its bearing and its sentence") {
    GoalWindow w;
    const int row = static_cast<int>(w.plan().goals.size());
    w.add("Mean gain from 10 deg to 20 deg as high as possible");
    CHECK(w.form().angle()->isVisible());
    CHECK(w.form().angleTo()->isVisible());
    CHECK(w.form().towards()->isVisible());
    CHECK(w.form().towards()->placeholderText() == "best");
    CHECK_FALSE(w.form().wanted()->isVisible());
    CHECK_FALSE(w.form().drives()->isVisible());
    w.typeInto(w.form().angle(), "5");
    w.typeInto(w.form().angleTo(), "12");
    w.typeInto(w.form().towards(), "30");
    w.typeInto(w.form().limit(), "9");
    CHECK(w.last().angle == "5 deg");
    CHECK(w.last().angleTo == "12 deg");
    CHECK(w.last().towards == "30 deg");
    CHECK(w.sentence(row) == "Mean gain from 5 deg to 12 deg towards 30 deg at least 9 dBi on every band");
    CHECK(w.view().now().problem.isEmpty());
    CHECK(w.verdict(row).contains("dBi too little"));
    w.shot("mean-gain");
    // A range upside down says so.
    w.typeInto(w.form().angleTo(), "2");
    CHECK(w.view().now().problem.contains("lower and a higher angle"));
    w.typeInto(w.form().towards(), "north");
    CHECK(w.view().now().problem.contains("goal for mean gain"));
}

TEST_CASE("changing the kind of a goal changes what it asks for") {
    GoalWindow w;
    const int row = static_cast<int>(w.plan().goals.size());
    w.add("Front-to-back at least 20 dB");
    const auto choose = [&](const QString& kind) {
        auto* combo = w.form().kind();
        const int at = combo->findText(kind);
        INFO(kind.toStdString());
        REQUIRE(at >= 0);
        combo->setCurrentIndex(at);
        Q_EMIT combo->activated(at);
        w.settle();
    };
    choose("impedance at the antenna");
    CHECK(w.form().wanted()->isVisible());
    CHECK_FALSE(w.form().towards()->isVisible());
    w.typeInto(w.form().wanted(), "25 - j5");
    CHECK(w.sentence(row) == "Impedance at the antenna 25 - j5 ohm, within 5 ohm on every band");
    CHECK(w.view().now().problem.isEmpty());
    w.typeInto(w.form().wanted(), "a lot");
    CHECK(w.view().now().problem.contains("no impedance"));
    choose("bandwidth");
    CHECK(w.sentence(row) == "Band with an SWR of 2 as wide as possible round the middle of every band");
    CHECK(w.verdict(row).contains("kHz"));
    w.shot("bandwidth");
    choose("side lobes");
    w.typeInto(w.form().limit(), "-12");
    CHECK(w.sentence(row) == "Side lobes at least 12 dB below the main lobe on every band");
    choose("null");
    CHECK(w.form().angle()->isVisible());
    CHECK_FALSE(w.form().angleTo()->isVisible());
    CHECK(w.sentence(row) ==
          "Gain at 10 deg towards the back at least 20 dB below the strongest on every band");
}

TEST_CASE("a goal holds for the drive sets that are ticked") {
    GoalWindow w("Two Yagis stacked, 70 MHz");
    REQUIRE(w.document().design().driveSets.size() >= 2);
    const QString first = QString::fromStdString(w.document().design().driveSets[0].name);
    const QString second = QString::fromStdString(w.document().design().driveSets[1].name);
    w.add("SWR at the radio at most 1.5");
    REQUIRE(w.form().drives()->isVisible());
    CHECK(w.form().drives()->text() == "as driven now");
    w.trigger(w.form().drives()->menu(), first);
    CHECK(w.form().drives()->text() == "driven " + first);
    w.trigger(w.form().drives()->menu(), second);
    CHECK(w.form().drives()->text() == "driven in 2 ways");
    CHECK(w.last().driveSets.size() == 2);
    w.shot("drives");
    w.trigger(w.form().drives()->menu(), "as it is driven now");
    CHECK(w.last().driveSets.empty());
}

TEST_CASE("tuned as I build: ticked, typed, and the proposal says what it brings") {
    GoalWindow w;
    w.easyPlan();
    auto* row = w.view().asBuilt();
    CHECK_FALSE(row->check()->isChecked());
    CHECK_FALSE(row->field(0)->isEnabled());
    CHECK(row->field(0)->text() == "1 mm");
    w.click(row->check());
    w.settle();
    CHECK(w.plan().asBuilt);
    CHECK(row->field(0)->isEnabled());
    w.typeInto(row->field(0), "2 mm");
    CHECK(w.plan().errors.length == "2 mm");
    w.typeInto(row->field(1), "5 cm");
    w.typeInto(row->field(2), "0 %");
    w.shot("as-built");
    w.click(w.view().start());
    // Hundreds of builds: longer than anything else here.
    QElapsedTimer clock;
    clock.start();
    while (w.stage<app::TuneStage>("tune").tuning() && clock.elapsed() < 120000)
        QApplication::processEvents(QEventLoop::AllEvents, 20);
    w.settle();
    REQUIRE(w.view().proposal() != nullptr);
    REQUIRE(w.view().proposal()->result.asBuilt);
    CHECK(w.view().built().startsWith("As you build, "));
    CHECK(w.view().built().contains("of 100 meet every goal"));
    // Two dimensions cannot make up for what all the others do: said, not hidden.
    CHECK_FALSE(w.view().proposal()->result.asBuilt->nineOfTen());
    CHECK(w.view().built().contains("nine of ten were not found"));
    CHECK(w.notice()->sentence().contains("but only by"));
    w.shot("as-built-proposal");
    w.undo();
    w.undo();
    w.undo();
    CHECK(row->field(0)->text() == "1 mm");
    w.undo();
    CHECK_FALSE(w.plan().asBuilt);
}
