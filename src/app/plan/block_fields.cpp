// The fields of a block of the feed path in the item editor.
#include <QComboBox>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QToolButton>
#include <algorithm>

#include "app/look/text.h"
#include "app/plan/item_editor.h"

namespace rm::app {

using namespace rm::model;
using quantity::Kind;

void ItemEditor::buildBlock() {
    const model::Id i = selection_.id;
    const FeedBlock& block = model::at(document_.design().feedPath, i);
    const auto field = [&](const QString& label, Kind kind, std::string FeedBlock::*member,
                           const QString& tip, bool optional = false) {
        addQuantity(
            label, kind, [i, member](const Design& d) { return model::at(d.feedPath, i).*member; },
            [i, member](Design& d, const std::string& v) { model::at(d.feedPath, i).*member = v; }, tip,
            optional);
    };
    const auto word = [&](const QString& label, std::string FeedBlock::*member, const QString& tip) {
        addText(
            label, [i, member](const Design& d) { return model::at(d.feedPath, i).*member; },
            [i, member](Design& d, const std::string& v) { model::at(d.feedPath, i).*member = v; }, tip);
    };
    const auto either = [&](const QString& label, bool FeedBlock::*member, const QString& yes,
                            const QString& no) {
        addChoice(
            label, {yes, no}, {"yes", "no"},
            [i, member](const Design& d) {
                return std::string(model::at(d.feedPath, i).*member ? "yes" : "no");
            },
            [i, member](Design& d, const std::string& v) { model::at(d.feedPath, i).*member = v == "yes"; });
    };
    const auto line = [&](bool withLength) {
        addLine([i](Design& d) -> LineText& { return model::at(d.feedPath, i); }, withLength);
    };
    const auto choking = [&] {
        field(
            tr("Chokes, ohm"), Kind::Number, &FeedBlock::choking,
            tr("Against the current on the outside of a cable run, at its place along the cable; empty: not "
               "at all"),
            true);
    };
    word(tr("Name"), &FeedBlock::name, {});
    switch (block.kind) {
        case BlockKind::Transformer:
            title_->setText(tr("Transformer"));
            word(tr("Ratio"), &FeedBlock::ratio, tr("Impedance, antenna side to radio side: 4:1, 9:1, 49:1"));
            field("L in µH", Kind::Number, &FeedBlock::magnetising,
                  tr("Magnetising inductance seen from the radio side; empty: ideal"), true);
            field(tr("Core loss"), Kind::Number, &FeedBlock::coreLoss,
                  tr("Loss resistance of the core across the radio side in ohm; empty: none"), true);
            field(tr("Leakage"), Kind::Number, &FeedBlock::leakage,
                  tr("Leakage inductance in µH, radio side; empty: none"), true);
            field("C in pF", Kind::Number, &FeedBlock::compensation,
                  tr("Compensation capacitor across the radio side; empty: none"), true);
            choking();
            break;
        case BlockKind::Cable:
            title_->setText(tr("Cable"));
            line(true);
            break;
        case BlockKind::Stub:
            title_->setText(tr("Stub across the line"));
            line(true);
            either(tr("Far end"), &FeedBlock::shorted, tr("shorted"), tr("open"));
            break;
        case BlockKind::Element:
            title_->setText(tr("Element"));
            addChoice(
                tr("Element"), {tr("coil"), tr("capacitor"), tr("resistor")}, {"0", "1", "2"},
                [i](const Design& d) {
                    return std::to_string(static_cast<int>(model::at(d.feedPath, i).element));
                },
                [i](Design& d, const std::string& v) {
                    model::at(d.feedPath, i).element = static_cast<ElementKind>(std::stoi(v));
                });
            either(tr("Place"), &FeedBlock::shunt, tr("across the line"), tr("in series"));
            field(block.element == ElementKind::Inductor    ? "L in µH"
                  : block.element == ElementKind::Capacitor ? "C in pF"
                                                            : "R in ohm",
                  Kind::Number, &FeedBlock::value, {});
            if (block.element != ElementKind::Resistor)
                field("Q", Kind::Number, &FeedBlock::q, tr("Reactance over loss resistance; empty: no loss"),
                      true);
            break;
        case BlockKind::QuarterWave:
            title_->setText(tr("Quarter-wave section"));
            line(false);
            field(tr("Cut for"), Kind::Frequency, &FeedBlock::tuned,
                  tr("Where it is a quarter wavelength long; empty: the design frequency"), true);
            break;
        case BlockKind::Network:
            buildNetwork();
            break;
        case BlockKind::Choke:
            title_->setText(tr("Choke"));
            field(tr("Loss in dB"), Kind::Number, &FeedBlock::loss,
                  tr("On the wanted current, matched to 50 ohm"));
            choking();
            break;
    }
    auto* row = new QHBoxLayout;
    for (const auto& [label, by, tip] :
         {std::tuple{tr("To antenna"), -1, tr("Nearer to the antenna: change places with the block before")},
          std::tuple{tr("To radio"), 1, tr("Nearer to the radio: change places with the block after")}}) {
        auto* button = new QToolButton;
        button->setText(label);
        button->setToolTip(tip);
        button->setObjectName(label);
        button->setFont(textFont(kSmallPt));
        const auto& path = document_.design().feedPath;
        const auto target = static_cast<int>(model::indexOf(path, i)) + by;
        button->setEnabled(target >= 0 && target < static_cast<int>(path.size()));
        connect(button, &QToolButton::clicked, this, [this, step = by] { moveBlock(step); });
        row->addWidget(button);
    }
    row->addStretch(1);
    grid_->addLayout(row, grid_->rowCount(), 0, 1, 3);
}

void ItemEditor::buildNetwork() {
    const model::Id i = selection_.id;
    const auto& arms = model::at(document_.design().feedPath, i).arms;
    title_->setText(arms.size() == 3 ? (arms.front().shunt ? tr("Pi network") : tr("T network"))
                                     : tr("L network"));
    for (std::size_t a = 0; a < arms.size(); ++a) {
        const bool coil = arms[a].element == ElementKind::Inductor;
        const QString place = arms[a].shunt ? tr("across") : tr("in series");
        addChoice(
            tr("Arm %1, %2").arg(a + 1).arg(place), {tr("coil"), tr("capacitor")}, {"0", "1"},
            [i, a](const Design& d) {
                return std::to_string(static_cast<int>(model::at(d.feedPath, i).arms.at(a).element));
            },
            [i, a](Design& d, const std::string& v) {
                model::at(d.feedPath, i).arms.at(a).element = static_cast<ElementKind>(std::stoi(v));
            },
            a == 0 ? tr("The arm nearest to the antenna") : QString());
        addQuantity(
            QString("%1 %2 in %3").arg(coil ? "L" : "C").arg(a + 1).arg(coil ? "µH" : "pF"), Kind::Number,
            [i, a](const Design& d) { return model::at(d.feedPath, i).arms.at(a).value; },
            [i, a](Design& d, const std::string& v) { model::at(d.feedPath, i).arms.at(a).value = v; });
        addQuantity(
            tr("Q of %1").arg(a + 1), Kind::Number,
            [i, a](const Design& d) { return model::at(d.feedPath, i).arms.at(a).q; },
            [i, a](Design& d, const std::string& v) { model::at(d.feedPath, i).arms.at(a).q = v; },
            tr("Reactance over loss resistance; empty: no loss"), true);
    }
}

void ItemEditor::moveBlock(int by) {
    edit(tr("Move block"), [&, id = selection_.id](Design& d) {
        const std::size_t from = model::indexOf(d.feedPath, id);
        std::swap(d.feedPath.at(from), d.feedPath.at(from + static_cast<std::size_t>(by)));
    });
}

}  // namespace rm::app
