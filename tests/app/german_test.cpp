// The window in German: its words, its plurals, decimal commas in and out. A run of its own: [.german].
#include <QFile>
#include <QHeaderView>
#include <QMenuBar>
#include <QPushButton>
#include <QTableWidget>

#include "app/dialogs/bands_dialog.h"
#include "app/look/language.h"
#include "app/look/text.h"
#include "app/look/typed_number.h"
#include "core/quantity/format.h"
#include "editor_fits.h"

using namespace rm;
using namespace rm::test;
using Catch::Contains;

namespace {

struct German {
    German() { REQUIRE(app::speakAs("de")); }
    ~German() { app::speakAs("en"); }
};

}  // namespace

TEST_CASE("the language is the first of the desktop's that is spoken, or English", "[.german]") {
    CHECK(app::speechFor({"fr-FR", "de-AT", "en-GB"}) == "de");
    CHECK(app::speechFor({"en-GB", "de-DE"}) == "en");
    CHECK(app::speechFor({"fr-FR"}) == "en");
    CHECK(app::speechFor({}) == "en");
    CHECK_FALSE(app::speakAs("xx"));
    CHECK(spoken() == nullptr);
    const German german;
    CHECK(app::tr("Undo") == "Rückgängig");
    CHECK(said("in free space") == "im freien Raum");
    CHECK(app::trn("one sheet", "%n sheets", 1) == "ein Blatt");
    CHECK(app::trn("one sheet", "%n sheets", 3) == "3 Blätter");
    CHECK(sayMany(1, "{} piece cut from them", "{} pieces cut from them", 1) ==
          "1 Stück, daraus geschnitten");
    CHECK(sayMany(2, "{} piece cut from them", "{} pieces cut from them", 2) ==
          "2 Stücke, daraus geschnitten");
    // Other order, other mark, whatever the format asks for.
    CHECK_THAT(say("{} is {:.2f} wavelengths{} thick at {:.6g} MHz, too much for a wire.", "Boom", 0.062, "",
                   432.25),
               Contains("Boom ist bei 432,25 MHz 0,06 Wellenlängen dick"));
    CHECK(quantity::formatImpedance({73.06, -4.2}) == "73,1 − j4,2");
    // What nobody has translated is said in English.
    CHECK(say("{} of {:.1f} without a translation", 2, 1.5) == "2 of 1,5 without a translation");
}

TEST_CASE("buttons that Qt names are German, and so are numbers that fields begin with", "[.german]") {
    const German german;
    app::BandsDialog dialog({*model::findAllocatedBand("20 m")}, model::kUsualSwrLimits);
    QStringList words;
    for (const auto* button : dialog.findChildren<QPushButton*>()) words << button->text().remove('&');
    words.sort();
    CHECK(words.join(", ").toStdString() == "Abbrechen, Diese Bänder verwenden");
    Window w;
    w.action("Toleranz beim Bauen")->trigger();
    w.settle();
    CHECK(w.bench.findChild<QLineEdit*>("errAngle")->text() == "0,5 deg");
    CHECK(w.bench.findChild<QLineEdit*>("errHeight")->text() == "0,1 m");
}

TEST_CASE("every menu is in sight, however narrow the window and long the words", "[.german]") {
    const auto inSight = [](Window& w, int width) {
        w.bench.resize(width, 760);
        QApplication::processEvents();
        const QMenuBar* bar = w.bench.menuBar();
        const int end = bar->cornerWidget(Qt::TopRightCorner)->x();
        for (const QAction* menu : bar->actions()) {
            const QRect at = bar->actionGeometry(const_cast<QAction*>(menu));
            INFO(menu->text().toStdString() << " in " << width << " pixels, " << w.bench.width());
            CHECK(at.width() > 20);
            CHECK(at.right() <= end);
        }
    };
    for (const int width : {1280, 1160, 1366}) {
        {
            Window w;
            inSight(w, width);
        }
        const German german;
        Window w;
        inSight(w, width);
    }
}

TEST_CASE("numbers that are typed are kept with points and shown with commas", "[.german]") {
    const German german;
    CHECK(app::keptTyped(" 12,5 m ") == "12.5 m");
    CHECK(app::keptTyped("12.5 m") == "12.5 m");
    CHECK(app::keptTyped("apex - 0,5*leg") == "apex - 0.5*leg");
    CHECK(app::keptTyped("max(leg, 2,5 m)") == "max(leg, 2.5 m)");
    CHECK(app::shownTyped("max(leg,2.5 m)") == "max(leg, 2,5 m)");
    CHECK(app::shownTyped("4,9,49") == "4, 9, 49");
    CHECK(app::keptTyped("4, 9, 49") == "4, 9, 49");
    CHECK(app::shownTyped("25 mm x 0.6 m, 20 mm") == "25 mm x 0,6 m, 20 mm");
    CHECK(app::shownTyped("5 m; 10.5 m") == "5 m; 10,5 m");
    for (const char* kept :
         {"12.5 m", "max(leg, 2.5 m)", "4, 9, 49", "25 mm x 0.6 m, 20 mm", "5 m; 10.5 m", "1:4"})
        CHECK(app::keptTyped(app::shownTyped(kept)) == kept);
}

TEST_CASE("the window in German: menus, figures with commas, and a length typed with one", "[.german]") {
    const German german;
    Window w;
    QStringList menus;
    for (auto* action : w.bench.menuBar()->actions()) menus << QString(action->text()).remove('&');
    CHECK(menus.contains("Projekt"));
    CHECK(menus.contains("Untersuchen"));
    CHECK(w.action("Rückgängig") != nullptr);

    auto* field = w.outline()->dimensionRow("leg")->findChild<QLineEdit*>();
    REQUIRE(field != nullptr);
    field->setFocus();
    field->selectAll();
    QTest::keyClicks(field, "13,25 m");
    QTest::keyClick(field, Qt::Key_Return);
    w.settle();
    const auto kept = [&] {
        for (const auto& d : w.document().design().dimensions)
            if (d.name == "leg") return d.text;
        return std::string();
    };
    CHECK(kept() == "13.25 m");
    CHECK(field->text() == "13,25 m");
    field->selectAll();
    QTest::keyClicks(field, "13.5 m");
    QTest::keyClick(field, Qt::Key_Return);
    w.settle();
    CHECK(kept() == "13.5 m");
    CHECK(field->text() == "13,5 m");

    // The ledger: headings and figures.
    QStringList figures;
    for (int c = 0; c < w.ledger()->columnCount(); ++c)
        if (auto* cell = w.ledger()->item(0, c)) figures << cell->text();
    const QString row = figures.join(" | ");
    INFO(row.toStdString());
    CHECK(row.contains(QRegularExpression("\\d,\\d")));
    CHECK_FALSE(row.contains(QRegularExpression("\\d\\.\\d")));

    // Nonsense: one German sentence.
    field->selectAll();
    QTest::keyClicks(field, "13,5 m m");
    QTest::keyClick(field, Qt::Key_Return);
    w.settle();
    CHECK_THAT(w.notice()->sentence().toStdString(),
               Contains("nicht zu verstehen") || Contains("Schreiben Sie"));
    w.document().undoStack()->undo();
    w.settle();

    // A file says the same everywhere.
    QTemporaryDir folder;
    const QString path = folder.filePath("a.reedmast.json");
    w.document().saveFile(path);
    QFile file(path);
    REQUIRE(file.open(QIODevice::ReadOnly));
    const QByteArray saved = file.readAll();
    CHECK(saved.contains("\"13.5 m\""));
    CHECK_FALSE(saved.contains("13,5"));
}

TEST_CASE("German words are longer: fields stay in their panel, headings of tables are whole", "[.german]") {
    const German german;
    Window w;
    checkThatEditorsFit(w);
    for (const auto& stage : w.bench.stages()) {
        w.bench.showStage(stage->name());
        w.settle();
        for (auto* table : w.bench.findChildren<QTableWidget*>()) {
            if (!table->isVisible() || !table->horizontalHeader()->isVisible()) continue;
            for (int c = 0; c < table->columnCount(); ++c) {
                auto* heading = table->horizontalHeaderItem(c);
                if (heading == nullptr || table->isColumnHidden(c)) continue;
                INFO(stage->name().toStdString() << ": " << heading->text().toStdString());
                CHECK(table->horizontalHeader()->fontMetrics().horizontalAdvance(heading->text()) <=
                      table->columnWidth(c));
            }
        }
    }
}

TEST_CASE("every view and every item can be looked at in German, and what is there is not changed by it",
          "[.german]") {
    const German german;
    Window w;
    const auto before = w.document().share();
    using Type = app::Selection::Type;
    for (const auto& design : before->designs) {
        w.session().chooseDesign(design.id);
        w.settle();
        for (const auto type : {Type::Part, Type::Feed, Type::Load, Type::Line, Type::Block, Type::Copy,
                                Type::Drive, Type::Measured, Type::Support, Type::Dimension})
            edit::withList(w.document().design(), type, [&](const auto& list) {
                for (std::size_t i = 0; i < list.size(); ++i) {
                    w.session().select(w.item(type, i));
                    QApplication::processEvents();
                    // Leaving every field as it is changes nothing.
                    for (auto* field : w.editor()->findChildren<QLineEdit*>()) {
                        field->setFocus();
                        QTest::keyClick(field, Qt::Key_Return);
                    }
                }
            });
    }
    CHECK(w.document().share()->designs.size() == before->designs.size());
    CHECK_FALSE(w.document().undoStack()->canUndo());
    // New things have German names, and work.
    w.editing().addPart(edit::PartKind::Row);
    w.settle();
    const auto& parts = w.document().design().parts;
    CHECK(std::holds_alternative<model::ElementRow>(parts.back().shape));
    CHECK(std::get<model::ElementRow>(parts.back().shape).elements[1].name == "Strahler");
}
