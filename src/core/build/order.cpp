#include "core/build/order.h"

#include <fmt/format.h>

#include <cmath>
#include <map>

#include "core/build/sheet.h"

namespace rm::build {

namespace {

constexpr double kSpareWire = 1.1;
constexpr double kSpareRope = 1.2;
/// For a knot at each end of a rope.
constexpr double kKnotsM = 1.0;

std::string wholeMetres(double metres) {
    return fmt::format("{:.0f} m", std::ceil(metres - 1e-9));
}

}  // namespace

std::vector<OrderRow> orderFor(const BuildSheet& sheet) {
    std::vector<OrderRow> rows;
    int freeEnds = 0;
    for (const auto& total : sheet.list.totals) {
        if (!total.wire) continue;
        rows.push_back({total.conductor, wholeMetres(kSpareWire * total.cutM),
                        fmt::format("{:.2f} m in {} {}, and a tenth to spare", total.cutM, total.pieces,
                                    total.pieces == 1 ? "piece" : "pieces")});
    }
    for (const auto& piece : sheet.list.pieces)
        if (piece.wire) freeEnds += piece.count * piece.freeEnds;
    for (const auto& stock : sheet.stock) {
        if (stock.reel) continue;
        // What is longer than the stock is joined from as many as it takes.
        std::size_t bars = stock.plan.bars.size();
        for (const std::size_t i : stock.plan.tooLong)
            bars += static_cast<std::size_t>(std::ceil(stock.lengthsM[i] / stock.stockM - 1e-9));
        rows.push_back({stock.conductor, fmt::format("{} x {:g} m", bars, stock.stockM),
                        fmt::format("{} {} {} {}", stock.lengthsM.size(),
                                    stock.lengthsM.size() == 1 ? "piece" : "pieces",
                                    stock.plan.tooLong.empty() ? "laid out on" : "laid out on or joined from",
                                    bars == 1 ? "it" : "them")});
    }
    for (const auto& boom : sheet.booms)
        if (!boom.tube.empty())
            rows.push_back(
                {"boom tube, " + boom.tube,
                 fmt::format("{} x {:g} m", static_cast<std::size_t>(boom.count) * boom.tubesM.size(),
                             sheet.stockM),
                 fmt::format("{}{:.2f} m for {}{}",
                             boom.count > 1 ? fmt::format("{} of ", boom.count) : std::string(), boom.tubeM(),
                             boom.part,
                             boom.jointsM.empty()
                                 ? std::string()
                                 : fmt::format(", joined in {} {}", boom.jointsM.size(),
                                               boom.jointsM.size() == 1 ? "place" : "places"))});
    int telescoped = 0;
    for (const auto& piece : sheet.list.pieces) telescoped += piece.insideOfM > 0.0 ? piece.count : 0;
    if (telescoped > 0)
        rows.push_back({"clamps or rivets for tubes", fmt::format("{}", telescoped),
                        "one for each place where a tube goes into another"});
    std::map<std::string, int> spreaders;
    for (const auto& row : sheet.fittings.spreaders)
        spreaders[fmt::format("spreader, {:.2f} m", std::ceil(100.0 * row.lengthM - 1e-9) / 100.0)] +=
            row.count;
    for (const auto& [what, count] : spreaders)
        rows.push_back({what, fmt::format("{}", count), "from the middle to each corner"});
    if (freeEnds > 0)
        rows.push_back({"end insulators", fmt::format("{}", freeEnds), "one for each free end of wire"});
    double rope = 0.0;
    int ropes = 0;
    for (const auto& row : sheet.rigging.hung)
        if (row.ropeM > 0.01) {
            rope += row.ropeM + kKnotsM;
            ++ropes;
        }
    if (ropes > 0)
        rows.push_back({"rope", wholeMetres(kSpareRope * rope),
                        fmt::format("{} {} with a metre each for knots, and a fifth to spare", ropes,
                                    ropes == 1 ? "piece" : "pieces")});
    int pegs = 0;
    for (const auto& peg : sheet.rigging.pegs) pegs += peg.upM < 1.0 && peg.upM > -1e-3 ? 1 : 0;
    if (pegs > 0) rows.push_back({"pegs", fmt::format("{}", pegs), "as the table says where"});
    std::map<std::string, std::pair<double, int>> lines;
    for (const auto& line : sheet.fittings.lines) {
        lines[line.kind].first += line.lengthM;
        ++lines[line.kind].second;
    }
    for (const auto& [kind, sum] : lines)
        rows.push_back({kind, wholeMetres(kSpareWire * sum.first),
                        fmt::format("{:.2f} m in {} {}, and a tenth to spare", sum.first, sum.second,
                                    sum.second == 1 ? "piece" : "pieces")});
    for (const auto& coil : sheet.fittings.coils)
        rows.push_back({fmt::format("former {:.0f} mm, {}", 1e3 * coil.winding.formerM, coil.name),
                        fmt::format("{:.0f} mm", std::ceil(1e3 * coil.winding.lengthM + 20.0)),
                        fmt::format("{:.1f} turns of {:.1f} mm copper, {:.2f} m of it", coil.winding.turns,
                                    1e3 * coil.winding.wireM, coil.winding.wireLengthM)});
    for (const auto& c : sheet.fittings.capacitors)
        rows.push_back({fmt::format("capacitor {:g} pF, {}", c.standardPf, c.name), "1",
                        fmt::format("{:.4g} pF wanted", c.picofarad)});
    for (const auto& t : sheet.fittings.transformers)
        rows.push_back(
            {fmt::format("transformer {}, {}", t.ratio, t.name), "1",
             fmt::format("{} turns to the antenna on {} to the radio", t.antennaTurns, t.radioTurns)});
    return rows;
}

}  // namespace rm::build
