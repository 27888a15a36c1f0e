#include "app/plan/block_choices.h"
#include "app/look/text.h"

namespace rm::app {

using model::BlockKind;
using model::ElementKind;
using model::FeedBlock;

namespace {

FeedBlock made(BlockKind kind, const char* name) {
    FeedBlock block;
    block.kind = kind;
    block.name = name;
    if (kind == BlockKind::Stub) block.length = "1 m";
    return block;
}

FeedBlock network(const char* name, std::vector<model::NetworkArm> arms) {
    FeedBlock block = made(BlockKind::Network, name);
    block.arms = std::move(arms);
    return block;
}

}  // namespace

const std::vector<BlockChoice>& blockChoices() {
    static const model::NetworkArm coil{ElementKind::Inductor, false, "1", "200"};
    static const model::NetworkArm across{ElementKind::Capacitor, true, "100", "1000"};
    static const std::vector<BlockChoice> choices = {
        {"&Transformer", "Ctrl+Shift+T", made(BlockKind::Transformer, "Transformer")},
        {"&Cable", "Ctrl+Shift+K", made(BlockKind::Cable, "Cable")},
        {"&Stub", "", made(BlockKind::Stub, "Stub")},
        {"&Quarter-wave section", "", made(BlockKind::QuarterWave, "Quarter-wave section")},
        {"Coil, capacitor or &resistor", "", made(BlockKind::Element, "Element")},
        {"&L network", "", network("L network", {coil, across})},
        {"&Pi network", "", network("Pi network", {across, coil, across})},
        {"T &network", "", network("T network", {coil, across, coil})},
        {"C&hoke", "", made(BlockKind::Choke, "Choke")}};
    return choices;
}

QString blockText(const FeedBlock& block) {
    switch (block.kind) {
        case BlockKind::Transformer:
            return text(block.ratio);
        case BlockKind::Cable:
            return text(block.length);
        case BlockKind::Stub:
            return QString("%1, %2").arg(text(block.length), block.shorted ? "shorted" : "open");
        case BlockKind::Element:
            return QString("%1%2 %3").arg(text(block.value),
                                          block.element == ElementKind::Inductor    ? " µH"
                                          : block.element == ElementKind::Capacitor ? " pF"
                                                                                    : " Ω",
                                          block.shunt ? "across" : "in series");
        case BlockKind::QuarterWave:
            return (block.line == model::kCustomLine ? text(block.lineOhm) + " Ω " : QString()) +
                   (block.tuned.empty() ? QString("λ/4") : "λ/4 at " + text(block.tuned));
        case BlockKind::Network: {
            QStringList arms;
            for (const auto& arm : block.arms)
                arms << text(arm.value) + (arm.element == ElementKind::Inductor ? " µH" : " pF");
            return arms.join(", ");
        }
        default:
            return text(block.loss) + " dB";
    }
}

}  // namespace rm::app
