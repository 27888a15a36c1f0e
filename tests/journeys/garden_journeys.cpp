// Designers' ways from the answer to the garden: cut, measured low, trimmed, measured again; and the drawing.
#include <QComboBox>
#include <QDir>
#include <QPushButton>
#include <QTemporaryDir>
#include <random>

#include "app/stages/trim/trim_stage.h"
#include "app/stages/trim/trim_view.h"
#include "core/study/figures.h"
#include "journey.h"

using namespace rm;
using namespace rm::test;

namespace {

/// What an analyser reads at the feed of an antenna whose wire acts 2.4 % longer than drawn.
QString measured(const model::Design& drawn, const QTemporaryDir& folder, const QString& name,
                 unsigned seed) {
    model::Design built = drawn;
    for (auto& d : built.dimensions)
        if (d.name == "leg")
            d.text = QString("%1 m")
                         .arg(1.024 * model::expand(drawn).dimensionValue.at("leg"), 0, 'f', 6)
                         .toStdString();
    const auto e = model::expand(built);
    std::mt19937 random(seed);
    std::normal_distribution<double> noise(0.0, 0.003);
    QFile file(folder.filePath(name));
    REQUIRE(file.open(QIODevice::WriteOnly));
    QTextStream out(&file);
    out << "# Hz S RI R 50\n";
    for (int i = 0; i <= 30; ++i) {
        const double hz = 6.7e6 + i * 0.02e6;
        const Complex z = study::analyse(e, hz).figures.antennaOhm;
        const Complex g = (z - 50.0) / (z + 50.0) + Complex(noise(random), noise(random));
        out << QString("%1 %2 %3\n").arg(hz, 0, 'f', 0).arg(g.real(), 0, 'f', 6).arg(g.imag(), 0, 'f', 6);
    }
    return file.fileName();
}

}  // namespace

TEST_CASE("journey: an inverted V is measured low, trimmed, and measured again") {
    Journey j;
    const QTemporaryDir folder;
    j.clear();
    j.site("average", "0 m");
    j.band("40 m");
    j.designFrequency("7.1 MHz");
    j.menu("Inverted V");
    j.settle();
    j.document().editDesign("As a person would", [](model::Design& d) {
        model::Dimension leg;
        leg.name = "leg";
        leg.text = "10.2 m";
        leg.note = "Length of each leg";
        d.dimensions.push_back(leg);
        std::get<model::InvertedV>(d.parts.front().shape).leg = "leg";
    });
    j.settle();
    j.sound();
    j.editing().importMeasured({measured(j.design(), folder, "first.s1p", 1)});
    j.settle();
    REQUIRE(j.design().measured.size() == 1);
    CHECK(j.design().measured.front().takenWith.size() >= 1);
    j.document().editDesign("At the feed", [](model::Design& d) { d.measured.front().atAntenna = true; });
    j.settle();
    j.menu("Trim by what was measured");
    j.settle();
    CHECK(j.bench.front()->name() == "trim");
    auto* view = j.find<app::TrimView>();
    REQUIRE(view->answer() != nullptr);
    INFO(view->sentence().toStdString());
    CHECK(view->sentence().startsWith("Shorten leg (length of each leg) by"));
    CHECK(view->causes().contains("longer than drawn"));
    const auto first = *view->answer();
    CHECK(first.changeM < -0.1);
    CHECK(view->takeOver()->isEnabled());
    QTest::mouseClick(view->takeOver(), Qt::LeftButton);
    j.settle();
    CHECK(j.dimensionText("leg").toDouble() == 0.0);  // with its unit
    CHECK(model::expand(j.design()).dimensionValue.at("leg") ==
          Approx(first.nowM + first.changeM).margin(6e-4));
    // The advice is old now, and says so.
    CHECK_FALSE(view->takeOver()->isEnabled());
    j.editing().importMeasured({measured(j.design(), folder, "second.s1p", 2)});
    j.document().editDesign("At the feed", [](model::Design& d) { d.measured.back().atAntenna = true; });
    j.settle();
    j.menu("Trim by what was measured");
    j.settle();
    INFO(view->sentence().toStdString());
    CHECK(std::abs(view->answer()->changeM) < 0.1 * std::abs(first.changeM));
    CHECK(view->answer()->afterSwr < 2.0);
    // The drawing to take along.
    for (const char* name : {"v.pdf", "v.svg", "v.dxf"}) {
        j.bench.files().exportDrawingTo(folder.filePath(name));
        INFO(j.notice()->sentence().toStdString());
        CHECK(j.notice()->sentence().startsWith("Drawn:"));
        CHECK(QFileInfo(folder.filePath(name)).size() > 1000);
    }
    j.bench.files().exportDrawingTo("/no/such/folder/v.pdf");
    CHECK(j.notice()->sentence().contains("cannot be written"));
}

TEST_CASE("a trim that is stopped half way advises nothing, and says so") {
    Window w;
    w.chooseDesign("End-fed, inverted L");
    w.action("Trim by what was measured")->trigger();
    QTest::qWait(20);
    w.bench.stop();
    w.settle();
    CHECK(w.notice()->sentence() == "The trim was stopped.");
    CHECK(w.find<app::TrimView>()->answer() == nullptr);
    CHECK(w.bench.front()->name() == "shape");
}

TEST_CASE("trim without a measurement says what is missing") {
    Journey j;
    j.menu("Trim by what was measured");
    j.settle();
    CHECK(j.notice()->sentence().contains("import one first"));
    CHECK(j.bench.front()->name() == "shape");
}
