// The fields of loads, of lines between points of the antenna, and of measurements in the item editor.
#include <QGridLayout>
#include <QLabel>
#include <QToolButton>

#include "app/look/text.h"
#include "app/plan/item_editor.h"
#include "core/model/rename.h"
#include "core/quantity/format.h"

namespace rm::app {

using namespace rm::model;
using quantity::Kind;

void ItemEditor::addLine(const std::function<LineText&(Design&)>& line, bool withLength) {
    const auto read = [line](const Design& d) -> const LineText& { return line(const_cast<Design&>(d)); };
    const auto field = [&](const QString& label, Kind kind, std::string LineText::*member,
                           const QString& tip) {
        addQuantity(
            label, kind, [read, member](const Design& d) { return read(d).*member; },
            [line, member](Design& d, const std::string& v) { line(d).*member = v; }, tip);
    };
    QStringList names;
    QStringList ids;
    for (const auto& type : lineTypes()) {
        names << QString::fromStdString(type.name);
        ids << QString::fromStdString(type.id);
    }
    names << tr("Own figures");
    ids << kCustomLine;
    addChoice(
        tr("Line"), names, ids, [read](const Design& d) { return read(d).line; },
        [line](Design& d, const std::string& v) { line(d).line = v; });
    if (withLength)
        field(tr("Length"), Kind::Length, &LineText::length,
              tr("Of the piece as it lies there; lambda is the wavelength in air: 0.25*0.66*lambda is a "
                 "quarter "
                 "wavelength of solid coax"));
    if (read(document_.design()).line != kCustomLine) return;
    field(tr("Impedance"), Kind::Number, &LineText::lineOhm, tr("Ohm"));
    field(tr("Velocity"), Kind::Number, &LineText::velocityFactor,
          tr("Velocity factor, 0.66 for solid coax"));
    field(tr("Loss √f"), Kind::Number, &LineText::lossRoot,
          tr("dB per 100 m at 1 MHz, growing with the root of the frequency"));
    field(tr("Loss f"), Kind::Number, &LineText::lossLinear,
          tr("dB per 100 m at 1 MHz, growing with the frequency"));
}

void ItemEditor::buildLoad() {
    const model::Id i = selection_.id;
    const LoadForm form = model::at(document_.design().loads, i).form;
    const auto field = [&](const QString& label, Kind kind, std::string Load::*member, const QString& tip,
                           bool optional = true) {
        addQuantity(
            label, kind, [i, member](const Design& d) { return model::at(d.loads, i).*member; },
            [i, member](Design& d, const std::string& v) { model::at(d.loads, i).*member = v; }, tip,
            optional);
    };
    const Part* on = model::partMeant(document_.design(), model::at(document_.design().loads, i).part);
    const bool chokes = form == LoadForm::Ring || form == LoadForm::Table ||
                        (on != nullptr && std::holds_alternative<CableRun>(on->shape));
    title_->setText(form == LoadForm::Trap ? tr("Trap") : chokes ? tr("Choke") : tr("Load"));
    addText(
        tr("Name"), [i](const Design& d) { return model::at(d.loads, i).name; },
        [i](Design& d, const std::string& v) { model::at(d.loads, i).name = v; });
    addChoice(
        tr("On part"), partNames(), partNames(), [i](const Design& d) { return model::at(d.loads, i).part; },
        [i](Design& d, const std::string& v) { model::at(d.loads, i).part = v; });
    addPlace(
        {}, [i](Design& d) -> Place& { return model::at(d.loads, i).place; },
        [i](const Design& d) { return model::at(d.loads, i).part; });
    addChoice(
        tr("Elements"),
        {tr("in series"), tr("side by side"), tr("trap by frequency"), tr("turns on a ferrite ring"),
         tr("a table")},
        {"0", "1", "2", "3", "4"},
        [i](const Design& d) { return std::to_string(static_cast<int>(model::at(d.loads, i).form)); },
        [i](Design& d, const std::string& v) {
            model::at(d.loads, i).form = static_cast<LoadForm>(std::stoi(v));
        });
    const auto rating = [&] {
        field(
            tr("Stands, W"), Kind::Number, &Load::rating,
            tr("Heat that it is said to stand: what it gets at the radio's power is compared with it; empty: "
               "unknown"));
    };
    if (form == LoadForm::Ring) {
        field(tr("Turns"), Kind::Number, &Load::turns, tr("Of wire or cable through the hole"), false);
        field(tr("Outer"), Kind::Length, &Load::ringOuter, tr("Outer diameter of the ring"), false);
        field(tr("Inner"), Kind::Length, &Load::ringInner, tr("Diameter of its hole"), false);
        field(tr("Height"), Kind::Length, &Load::ringHeight, tr("Of all rings that are stacked"), false);
        field(tr("Permeability"), Kind::Number, &Load::permeability,
              tr("Initial, relative, from its data sheet"), false);
        field(tr("Falls off at"), Kind::Frequency, &Load::relaxation,
              tr("Where its loss is as large as its inductance; empty: by Snoek's law for nickel-zinc "
                 "ferrites"));
        field(tr("Stray pF"), Kind::Number, &Load::stray, tr("Capacitance between the ends of the winding"));
        return rating();
    }
    if (form == LoadForm::Table) {
        const Load& load = model::at(document_.design().loads, i);
        auto* about =
            new QLabel(load.table.empty() ? tr("No table yet.")
                                          : tr("%1 points, %2 to %3 MHz, from %4")
                                                .arg(load.table.size())
                                                .arg(written(load.table.front().frequencyHz / 1e6, 'g', 4))
                                                .arg(written(load.table.back().frequencyHz / 1e6, 'g', 4))
                                                .arg(text(load.tableFile)));
        about->setTextFormat(Qt::PlainText);
        about->setWordWrap(true);
        about->setProperty("soft", true);
        grid_->addWidget(about, grid_->rowCount(), 0, 1, 3);
        auto* read =
            addButton(tr("Read a table..."),
                      tr("Its impedance against frequency, from a Touchstone file or a table of R and X"));
        connect(read, &QToolButton::clicked, this, [this, i] { Q_EMIT tableRequested(i); });
        return rating();
    }
    const QString qTip = tr("Reactance over loss resistance, 100 to 400 for good coils; empty: no loss");
    if (form == LoadForm::Trap) {
        field(tr("Blocks"), Kind::Frequency, &Load::trapFrequency,
              tr("The frequency the trap is resonant at"), false);
        field("X in ohm", Kind::Number, &Load::trapReactance,
              tr("Reactance of the coil, and of the capacitor, at that frequency: 150 to 300 ohm is usual"),
              false);
        field(tr("Q of the coil"), Kind::Number, &Load::coilQ, qTip);
        return;
    }
    field("R in ohm", Kind::Number, &Load::resistance, tr("Empty: none"));
    field("L in µH", Kind::Number, &Load::inductance, tr("Empty: none"));
    field(tr("Q of the coil"), Kind::Number, &Load::coilQ, qTip);
    field("C in pF", Kind::Number, &Load::capacitance, tr("Empty: none"));
    rating();
}

void ItemEditor::buildLine() {
    const model::Id i = selection_.id;
    title_->setText(tr("Line between two points"));
    addText(
        tr("Name"), [i](const Design& d) { return model::at(d.lines, i).name; },
        [i](Design& d, const std::string& v) { model::at(d.lines, i).name = v; });
    addChoice(
        tr("From"), partNames(), partNames(), [i](const Design& d) { return model::at(d.lines, i).fromPart; },
        [i](Design& d, const std::string& v) { model::at(d.lines, i).fromPart = v; });
    addPlace(
        tr("From, "), [i](Design& d) -> Place& { return model::at(d.lines, i).from; },
        [i](const Design& d) { return model::at(d.lines, i).fromPart; });
    addChoice(
        tr("To"), partNames(), partNames(), [i](const Design& d) { return model::at(d.lines, i).toPart; },
        [i](Design& d, const std::string& v) { model::at(d.lines, i).toPart = v; },
        tr("At the place of a feed or a load the line is beside it; elsewhere it opens a gap of its own"));
    addPlace(
        tr("To, "), [i](Design& d) -> Place& { return model::at(d.lines, i).to; },
        [i](const Design& d) { return model::at(d.lines, i).toPart; });
    addChoice(
        tr("Wires"), {tr("straight through"), tr("crossed")}, {"no", "yes"},
        [i](const Design& d) { return std::string(model::at(d.lines, i).crossed ? "yes" : "no"); },
        [i](Design& d, const std::string& v) { model::at(d.lines, i).crossed = v == "yes"; },
        tr("Crossed: the side towards the start of the one goes to the side towards the end of the other"));
    addLine([i](Design& d) -> LineText& { return model::at(d.lines, i); }, true);
}

void ItemEditor::buildMeasured() {
    const model::Id i = selection_.id;
    const Measured& measured = model::at(document_.design().measured, i);
    const auto& points = measured.data.points;
    title_->setText(tr("Measurement"));
    addText(
        tr("Name"), [i](const Design& d) { return model::at(d.measured, i).name; },
        [i](Design& d, const std::string& v) { model::at(d.measured, i).name = v; });
    addChoice(
        tr("Taken at"), {tr("the radio end"), tr("the antenna")}, {"no", "yes"},
        [i](const Design& d) { return std::string(model::at(d.measured, i).atAntenna ? "yes" : "no"); },
        [i](Design& d, const std::string& v) { model::at(d.measured, i).atAntenna = v == "yes"; },
        tr("Where the analyser was; for the other end the curve is moved through the feed path"));
    addChoice(
        tr("Test lead"), {tr("none"), tr("a cable"), tr("a transformer")}, {"none", "cable", "transformer"},
        [i](const Design& d) {
            const Measured& m = model::at(d.measured, i);
            return std::string(!m.hasLead                        ? "none"
                               : m.lead.kind == BlockKind::Cable ? "cable"
                                                                 : "transformer");
        },
        [i](Design& d, const std::string& v) {
            Measured& m = model::at(d.measured, i);
            m.hasLead = v != "none";
            m.lead.kind = v == "transformer" ? BlockKind::Transformer : BlockKind::Cable;
            if (v == "cable" && m.lead.length == LineText().length) m.lead.length = "1 m";
        },
        tr("What lay between the analyser and that place: it is taken away"));
    if (measured.hasLead && measured.lead.kind == BlockKind::Cable)
        addLine([i](Design& d) -> LineText& { return model::at(d.measured, i).lead; }, true);
    if (measured.hasLead && measured.lead.kind == BlockKind::Transformer)
        addText(
            tr("Ratio"), [i](const Design& d) { return model::at(d.measured, i).lead.ratio; },
            [i](Design& d, const std::string& v) { model::at(d.measured, i).lead.ratio = v; },
            tr("Impedance, antenna side to analyser side"));
    const bool swrOnly = std::none_of(points.begin(), points.end(),
                                      [](const MeasuredPoint& p) { return p.impedanceOhm.has_value(); });
    auto* about = new QLabel(
        tr("%1 points%2, %3 to %4 MHz\nfrom %5%6")
            .arg(points.size())
            .arg(swrOnly ? tr(" of SWR alone: it cannot be moved") : "")
            .arg(written(points.empty() ? 0.0 : points.front().frequencyHz / 1e6, 'f', 3))
            .arg(written(points.empty() ? 0.0 : points.back().frequencyHz / 1e6, 'f', 3))
            .arg(QString::fromStdString(measured.file),
                 measured.data.note.empty() ? QString() : "\n" + QString::fromStdString(measured.data.note)));
    about->setWordWrap(true);
    about->setProperty("soft", true);
    about->setFont(textFont(kTinyPt));
    grid_->addWidget(about, grid_->rowCount(), 0, 1, 3);
}

}  // namespace rm::app
