#include "app/plan/block_choices.h"
#include "app/look/text.h"
#include "app/look/typed_number.h"

namespace rm::app {

using model::BlockKind;
using model::ElementKind;
using model::FeedBlock;

namespace {

FeedBlock made(BlockKind kind, const std::string& name) {
    FeedBlock block;
    block.kind = kind;
    block.name = name;
    if (kind == BlockKind::Stub) block.length = "1 m";
    return block;
}

FeedBlock network(const std::string& name, std::vector<model::NetworkArm> arms) {
    FeedBlock block = made(BlockKind::Network, name);
    block.arms = std::move(arms);
    return block;
}

}  // namespace

const std::vector<BlockChoice>& blockChoices() {
    static const model::NetworkArm coil{ElementKind::Inductor, false, "1", "200"};
    static const model::NetworkArm across{ElementKind::Capacitor, true, "100", "1000"};
    static const std::vector<BlockChoice> choices = {
        {tr("&Transformer"), "Ctrl+Shift+T", made(BlockKind::Transformer, say("Transformer"))},
        {tr("&Cable"), "Ctrl+Shift+K", made(BlockKind::Cable, say("Cable"))},
        {tr("&Stub"), "", made(BlockKind::Stub, say("Stub"))},
        {tr("&Quarter-wave section"), "", made(BlockKind::QuarterWave, say("Quarter-wave section"))},
        {tr("Coil, capacitor or &resistor"), "", made(BlockKind::Element, say("Element"))},
        {tr("&L network"), "", network(say("L network"), {coil, across})},
        {tr("&Pi network"), "", network(say("Pi network"), {across, coil, across})},
        {tr("T &network"), "", network(say("T network"), {coil, across, coil})},
        {tr("C&hoke"), "", made(BlockKind::Choke, say("Choke"))}};
    return choices;
}

QString blockText(const FeedBlock& block) {
    switch (block.kind) {
        case BlockKind::Transformer:
            return shownTyped(block.ratio);
        case BlockKind::Cable:
            return shownTyped(block.length);
        case BlockKind::Stub:
            return QString("%1, %2").arg(shownTyped(block.length),
                                         block.shorted ? tr("shorted") : tr("open"));
        case BlockKind::Element:
            return QString("%1%2 %3").arg(shownTyped(block.value),
                                          block.element == ElementKind::Inductor    ? " µH"
                                          : block.element == ElementKind::Capacitor ? " pF"
                                                                                    : " Ω",
                                          block.shunt ? tr("across") : tr("in series"));
        case BlockKind::QuarterWave:
            return (block.line == model::kCustomLine ? shownTyped(block.lineOhm) + " Ω " : QString()) +
                   (block.tuned.empty() ? QString("λ/4") : tr("λ/4 at ") + shownTyped(block.tuned));
        case BlockKind::Network: {
            QStringList arms;
            for (const auto& arm : block.arms)
                arms << shownTyped(arm.value) + (arm.element == ElementKind::Inductor ? " µH" : " pF");
            return arms.join(", ");
        }
        default:
            return shownTyped(block.loss) + " dB";
    }
}

}  // namespace rm::app
