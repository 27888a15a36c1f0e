#include "core/build/sheet.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/quantity/format.h"
#include "core/quantity/formula.h"
#include "core/words/words.h"

namespace rm::build {

namespace {

constexpr double kLongestM = 1e4;
/// Tubes that fit to less than this fit.
constexpr double kFits = 5e-5;

double metres(const std::string& what, const std::string& text, quantity::Kind kind,
              const quantity::Scope& scope) {
    double value = 0.0;
    try {
        value = quantity::evaluate(text, kind, scope);
    } catch (const Error& e) {
        throw Error(fmt::format("{}: {}", what, e.what()));
    }
    if (!(value >= 0.0) || value > kLongestM)
        throw Error(say("{}: \"{}\" is no length from 0 to 10 km.", what, text));
    return value;
}

/// Whether tubes go into each other, and far enough.
void judgeTubes(BuildSheet& sheet) {
    for (const auto& piece : sheet.list.pieces) {
        if (!(piece.insideOfM > 0.0)) continue;
        const double room = piece.insideOfM - 2.0 * sheet.allowances.wallM - piece.diameterM;
        if (room < -kFits || sheet.allowances.solid(piece.insideOfM))
            sheet.findings.push_back(
                {model::Severity::Warning, piece.origin,
                 say("{}: a tube of {:.4g} mm does not go into one of {:.4g} mm with walls of {:.3g} mm.",
                     piece.part, 1e3 * piece.diameterM, 1e3 * piece.insideOfM, 1e3 * sheet.allowances.wallM),
                 say("Take a thinner one, or thinner walls.")});
        for (const auto& outer : sheet.list.pieces) {
            if (outer.part != piece.part || std::abs(outer.diameterM - piece.insideOfM) > kFits) continue;
            // One that takes a tube in at either end has half of itself for each.
            const double each = outer.modelledM * outer.count / piece.count;
            if (each < sheet.allowances.overlapM)
                sheet.findings.push_back(
                    {model::Severity::Warning, piece.origin,
                     say("{}: its tube of {:.4g} mm has {:.0f} mm for what goes into it, and {:.0f} go in.",
                         piece.part, 1e3 * outer.diameterM, 1e3 * each, 1e3 * sheet.allowances.overlapM),
                     say("Lengthen it, or shorten the overlap.")});
        }
    }
}

}  // namespace

BuildSheet buildSheet(const model::Design& design) {
    const model::Expansion expansion = model::expand(design);
    const quantity::Scope scope{expansion.dimensionValue, expansion.designFrequencyHz > 0.0
                                                              ? wavelengthM(expansion.designFrequencyHz)
                                                              : 0.0};
    // A bare number is millimetres where millimetres are meant.
    const auto small = quantity::Kind::Diameter;
    Allowances allowances;
    allowances.endM = metres(say("Folded at free ends"), design.build.foldedEnd, small, scope);
    allowances.feedM = metres(say("At feeds and joints"), design.build.joint, small, scope);
    for (const auto& part : design.parts)
        if (!part.foldedEnd.empty())
            allowances.partEndM[part.name] =
                metres((part.name + say(", folded at free ends")).c_str(), part.foldedEnd, small, scope);
    allowances.overlapM = metres(say("Overlap of tubes"), design.build.overlap, small, scope);
    allowances.wallM = metres(say("Wall of tubes"), design.build.wall, small, scope);
    allowances.gapM = metres(say("Gap at the feed"), design.build.gap, small, scope);
    const double boomEndM = metres(say("Boom beyond its last element"), design.build.boomEnd, small, scope);
    const double kerfM = metres(say("Saw"), design.build.kerf, small, scope);
    BuildSheet sheet;
    sheet.allowances = allowances;
    sheet.stockM = metres(say("Stock length"), design.build.stock, quantity::Kind::Length, scope);
    if (!(sheet.stockM > 0.0)) throw Error(say("Stock length: one of 0 holds nothing."));
    const double reelM = metres(say("Reel"), design.build.reel, quantity::Kind::Length, scope);
    if (!(reelM > 0.0)) throw Error(say("Reel: one of 0 holds nothing."));
    sheet.list = cutList(design, expansion, allowances);
    sheet.booms = boomPlans(design, expansion, sheet.list, {boomEndM, allowances.wallM, sheet.stockM});
    for (const auto& piece : sheet.list.pieces)
        if (!(piece.cutM > 0.0))
            throw Error(say("{}: nothing is left of it after what is taken off for the gap.", piece.part));
    judgeTubes(sheet);
    for (const auto& total : sheet.list.totals) {
        StockLayout layout;
        layout.conductor = total.conductor;
        layout.reel = total.wire;
        layout.stockM = total.wire ? reelM : sheet.stockM;
        for (std::size_t p = 0; p < sheet.list.pieces.size(); ++p) {
            const auto& piece = sheet.list.pieces[p];
            if (piece.conductor != total.conductor || piece.wire != total.wire) continue;
            layout.lengthsM.insert(layout.lengthsM.end(), static_cast<std::size_t>(piece.count), piece.cutM);
            layout.piece.insert(layout.piece.end(), static_cast<std::size_t>(piece.count), p);
        }
        layout.plan = layOut(layout.lengthsM, layout.stockM, total.wire ? 0.0 : kerfM);
        for (std::size_t k = 0; k < layout.plan.tooLong.size(); ++k) {
            const auto& piece = sheet.list.pieces[layout.piece[layout.plan.tooLong[k]]];
            if (k > 0 && layout.piece[layout.plan.tooLong[k - 1]] == layout.piece[layout.plan.tooLong[k]])
                continue;
            sheet.findings.push_back(
                {model::Severity::Warning, piece.origin,
                 say("{} takes {} in one piece, and {} comes in {}.", piece.part,
                     quantity::said(piece.cutM, 3), piece.conductor, quantity::said(layout.stockM, 2)),
                 layout.reel ? say("Join it from two, or take a longer reel.")
                             : say("Join it from two, or take a longer stock length.")});
        }
        sheet.stock.push_back(std::move(layout));
    }
    sheet.rigging = riggingOf(design, expansion);
    sheet.fittings = fittingsOf(design, expansion);
    return sheet;
}

}  // namespace rm::build
