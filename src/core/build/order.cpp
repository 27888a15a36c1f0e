#include "core/build/order.h"

#include <fmt/format.h>

#include <cmath>
#include <map>

#include "core/build/sheet.h"
#include "core/words/words.h"

namespace rm::build {

namespace {

constexpr double kSpareWire = 1.1;
constexpr double kSpareRope = 1.2;
constexpr double kFootM = 0.3048;

/// Lengths as a shop is told them.
class Shopping {
  public:
    explicit Shopping(quantity::LengthStyle style) : feet_(style == quantity::LengthStyle::FeetInches) {}

    bool feet() const { return feet_; }
    /// For a knot at each end of a rope: a metre or a yard.
    double knotsM() const { return feet_ ? 3.0 * kFootM : 1.0; }
    /// What is sold by the metre or the foot, rounded up.
    std::string whole(double metres) const {
        return feet_ ? fmt::format("{:.0f} ft", std::ceil(metres / kFootM - 1e-9))
                     : fmt::format("{:.0f} m", std::ceil(metres - 1e-9));
    }
    /// What is sold in one length.
    std::string stock(double metres) const {
        return feet_ ? figure("{:.4g} ft", metres / kFootM) : figure("{:g} m", metres);
    }
    std::string length(double metres) const {
        return feet_ ? quantity::formatLength(metres, quantity::LengthStyle::FeetInches)
                     : figure("{:.2f} m", metres);
    }
    /// The same, never too short.
    std::string atLeast(double metres) const {
        constexpr double kEighthM = 0.0254 / 8.0;
        return feet_ ? quantity::formatTape(kEighthM * std::ceil(metres / kEighthM - 1e-6), 8)
                     : figure("{:.2f} m", std::ceil(100.0 * metres - 1e-9) / 100.0);
    }
    std::string lengthAndPieces(double metres, int pieces) const {
        return sayMany(pieces, "{} in {} piece, and a tenth to spare",
                       "{} in {} pieces, and a tenth to spare", length(metres), pieces);
    }

  private:
    bool feet_;
};

/// What rods are for: pieces cut from them, or joined from them where one is longer than a rod.
std::string laidOut(std::size_t pieces, bool joined) {
    const auto n = static_cast<long>(pieces);
    return joined
               ? sayMany(n, "{} piece cut or joined from them", "{} pieces cut or joined from them", pieces)
               : sayMany(n, "{} piece cut from them", "{} pieces cut from them", pieces);
}

}  // namespace

std::vector<OrderRow> orderFor(const BuildSheet& sheet, quantity::LengthStyle style) {
    const Shopping shop(style);
    std::vector<OrderRow> rows;
    int freeEnds = 0;
    for (const auto& total : sheet.list.totals) {
        if (!total.wire) continue;
        rows.push_back({total.conductor, shop.whole(kSpareWire * total.cutM),
                        shop.lengthAndPieces(total.cutM, total.pieces)});
    }
    for (const auto& piece : sheet.list.pieces)
        if (piece.wire) freeEnds += piece.count * piece.freeEnds;
    for (const auto& stock : sheet.stock) {
        if (stock.reel) continue;
        // What is longer than the stock is joined from as many as it takes.
        std::size_t bars = stock.plan.bars.size();
        for (const std::size_t i : stock.plan.tooLong)
            bars += static_cast<std::size_t>(std::ceil(stock.lengthsM[i] / stock.stockM - 1e-9));
        rows.push_back({stock.conductor, fmt::format("{} x {}", bars, shop.stock(stock.stockM)),
                        laidOut(stock.lengthsM.size(), !stock.plan.tooLong.empty())});
    }
    for (const auto& boom : sheet.booms)
        if (!boom.tube.empty())
            rows.push_back({say("boom tube, ") + boom.tube,
                            fmt::format("{} x {}", static_cast<std::size_t>(boom.count) * boom.tubesM.size(),
                                        shop.stock(sheet.stockM)),
                            say("{}{} for {}{}", boom.count > 1 ? say("{} of ", boom.count) : std::string(),
                                shop.length(boom.tubeM()), boom.part,
                                boom.jointsM.empty()
                                    ? std::string()
                                    : sayMany(static_cast<long>(boom.jointsM.size()), ", joined in {} place",
                                              ", joined in {} places", boom.jointsM.size()))});
    int telescoped = 0;
    for (const auto& piece : sheet.list.pieces) telescoped += piece.insideOfM > 0.0 ? piece.count : 0;
    if (telescoped > 0)
        rows.push_back({say("clamps or rivets for tubes"), fmt::format("{}", telescoped),
                        say("one for each place where a tube goes into another")});
    std::map<std::string, int> spreaders;
    for (const auto& row : sheet.fittings.spreaders)
        spreaders[say("spreader, {}", shop.atLeast(row.lengthM))] += row.count;
    for (const auto& [what, count] : spreaders)
        rows.push_back({what, fmt::format("{}", count), say("from the middle to each corner")});
    if (freeEnds > 0)
        rows.push_back(
            {say("end insulators"), fmt::format("{}", freeEnds), say("one for each free end of wire")});
    double rope = 0.0;
    int ropes = 0;
    for (const auto& row : sheet.rigging.hung)
        if (row.ropeM > 0.01) {
            rope += row.ropeM + shop.knotsM();
            ++ropes;
        }
    if (ropes > 0)
        rows.push_back({say("rope"), shop.whole(kSpareRope * rope),
                        shop.feet()
                            ? sayMany(ropes, "{} piece with a yard for knots, and a fifth to spare",
                                      "{} pieces with a yard each for knots, and a fifth to spare", ropes)
                            : sayMany(ropes, "{} piece with a metre for knots, and a fifth to spare",
                                      "{} pieces with a metre each for knots, and a fifth to spare", ropes)});
    int pegs = 0;
    for (const auto& peg : sheet.rigging.pegs) pegs += peg.upM < 1.0 && peg.upM > -1e-3 ? 1 : 0;
    if (pegs > 0) rows.push_back({say("pegs"), fmt::format("{}", pegs), say("as the table says where")});
    std::map<std::string, std::pair<double, int>> lines;
    for (const auto& line : sheet.fittings.lines) {
        lines[line.kind].first += line.lengthM;
        ++lines[line.kind].second;
    }
    for (const auto& [kind, sum] : lines)
        rows.push_back(
            {kind, shop.whole(kSpareWire * sum.first), shop.lengthAndPieces(sum.first, sum.second)});
    for (const auto& coil : sheet.fittings.coils)
        rows.push_back({say("former {:.0f} mm, {}", 1e3 * coil.winding.formerM, coil.name),
                        fmt::format("{:.0f} mm", std::ceil(1e3 * coil.winding.lengthM + 20.0)),
                        say("{:.1f} turns of {:.1f} mm copper, {} of it", coil.winding.turns,
                            1e3 * coil.winding.wireM, shop.length(coil.winding.wireLengthM))});
    for (const auto& c : sheet.fittings.capacitors)
        rows.push_back(
            {say("capacitor {:g} pF, {}", c.standardPf, c.name), "1", say("{:.4g} pF wanted", c.picofarad)});
    for (const auto& t : sheet.fittings.transformers)
        rows.push_back({say("transformer {}, {}", t.ratio, t.name), "1",
                        say("{} turns to the antenna on {} to the radio", t.antennaTurns, t.radioTurns)});
    for (const auto& c : sheet.fittings.chokes)
        rows.push_back(
            {c.choking.empty() ? say("choke, {}", c.name) : say("choke of {} Ω, {}", c.choking, c.name), "1",
             say("loses {:.2g} dB of what goes through it", c.lossDb)});
    return rows;
}

}  // namespace rm::build
