#include "core/build/boom_plan.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <set>

#include "core/quantity/formula.h"
#include "core/words/words.h"

namespace rm::build {

namespace {

constexpr double kAluminiumKgM3 = 2700.0;

/// How far forward of its place on the boom an element has its mass, for one tube all round.
double massAheadM(const model::ElementSize& element) {
    if (element.form == model::ElementForm::LoopInPlane) return 0.5 * element.secondM;
    if (element.form != model::ElementForm::Bent) return 0.0;
    const double arm = 0.5 * (element.lengthM - element.flatM);
    return arm * arm * std::sin(element.sweepDeg * kDegree) / element.lengthM;
}

/// Where the boom is cut: as few tubes as the stock allows, about equal, and each joint in the middle between
/// two holes where the tubes still come out of the stock.
void join(BoomPlan& boom, double stockM) {
    const double end = boom.lengthM + boom.endM;
    double begin = -boom.endM;
    for (int left = static_cast<int>(std::ceil(boom.tubeM() / stockM - 1e-9)); left > 1; --left) {
        const double even = begin + (end - begin) / left;
        double at = even;
        for (std::size_t h = 1; h < boom.holes.size(); ++h) {
            if (even < boom.holes[h - 1].atM || even > boom.holes[h].atM) continue;
            const double middle = 0.5 * (boom.holes[h - 1].atM + boom.holes[h].atM);
            // What is left has to come out of as many tubes.
            if (middle > begin && middle - begin <= stockM && end - middle <= (left - 1) * stockM)
                at = middle;
        }
        boom.jointsM.push_back(at);
        boom.tubesM.push_back(at - begin);
        begin = at;
    }
    boom.tubesM.push_back(end - begin);
}

BoomPlan planOf(const model::RowSizes& row, const model::ElementRow* typed, const quantity::Scope& scope,
                const CutList& list, const BoomCut& cut) {
    BoomPlan boom;
    boom.part = row.part;
    for (const auto& element : row.elements) boom.holes.push_back({element.name, element.positionM, 0.0});
    std::sort(boom.holes.begin(), boom.holes.end(),
              [](const Hole& a, const Hole& b) { return a.atM < b.atM; });
    const double first = boom.holes.empty() ? 0.0 : boom.holes.front().atM;
    for (std::size_t i = 0; i < boom.holes.size(); ++i) {
        boom.holes[i].atM -= first;
        boom.holes[i].fromM = i > 0 ? boom.holes[i].atM - boom.holes[i - 1].atM : 0.0;
    }
    boom.lengthM = boom.holes.empty() ? 0.0 : boom.holes.back().atM;
    double moment = 0.0;
    std::set<std::string> copies;
    for (const auto& element : row.elements)
        for (const auto& piece : list.pieces) {
            if (piece.origin != row.part || piece.element != element.name) continue;
            copies.insert(piece.part.substr(0, piece.part.size() - piece.element.size()));
            const double mass = piece.count * piece.massKg;
            boom.elementsKg += mass;
            moment += mass * (element.positionM - first + massAheadM(element));
        }
    boom.count = std::max<int>(1, static_cast<int>(copies.size()));
    boom.elementsKg /= boom.count;
    moment /= boom.count;
    boom.massKg = boom.elementsKg;
    if (typed != nullptr && typed->boom.kind != model::BoomKind::None) {
        boom.endM = cut.endM;
        const std::string shape = typed->boom.square ? say("square") : say("round");
        boom.tube = fmt::format("{} {}", shape, typed->boom.diameter);
        join(boom, cut.stockM);
        if (typed->boom.kind != model::BoomKind::Insulating) {
            const double side = quantity::evaluate(typed->boom.diameter, quantity::Kind::Diameter, scope);
            boom.tube = figure("{} {:.4g} mm", shape, 1e3 * side);
            const double inside = std::max(0.0, side - 2.0 * cut.wallM);
            const double area = (typed->boom.square ? 1.0 : 0.25 * kPi) * (side * side - inside * inside);
            const double mass = kAluminiumKgM3 * area * boom.tubeM();
            boom.massKg += mass;
            moment += mass * 0.5 * boom.lengthM;
        }
    }
    if (boom.massKg > 0.0) boom.balanceM = moment / boom.massKg;
    return boom;
}

}  // namespace

std::vector<BoomPlan> boomPlans(const model::Design& design, const model::Expansion& expansion,
                                const CutList& list, const BoomCut& cut) {
    const quantity::Scope scope{expansion.dimensionValue, expansion.designFrequencyHz > 0.0
                                                              ? wavelengthM(expansion.designFrequencyHz)
                                                              : 0.0};
    std::vector<BoomPlan> plans;
    for (const auto& row : expansion.rows) {
        const model::ElementRow* typed = nullptr;
        for (const auto& part : design.parts)
            if (part.name == row.part) typed = std::get_if<model::ElementRow>(&part.shape);
        plans.push_back(planOf(row, typed, scope, list, cut));
    }
    return plans;
}

}  // namespace rm::build
