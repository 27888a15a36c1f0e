#include "core/build/sheet.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/quantity/formula.h"

namespace rm::build {

namespace {

constexpr double kLongestM = 1e4;

double metres(const char* what, const std::string& text, quantity::Kind kind, const quantity::Scope& scope) {
    double value = 0.0;
    try {
        value = quantity::evaluate(text, kind, scope);
    } catch (const Error& e) {
        throw Error(fmt::format("{}: {}", what, e.what()));
    }
    if (!(value >= 0.0) || value > kLongestM)
        throw Error(fmt::format("{}: \"{}\" is no length from 0 to 10 km.", what, text));
    return value;
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
    allowances.endM = metres("Folded at free ends", design.build.foldedEnd, small, scope);
    allowances.feedM = metres("At feeds and joints", design.build.joint, small, scope);
    for (const auto& part : design.parts)
        if (!part.foldedEnd.empty())
            allowances.partEndM[part.name] =
                metres((part.name + ", folded at free ends").c_str(), part.foldedEnd, small, scope);
    const double kerfM = metres("Saw", design.build.kerf, small, scope);
    BuildSheet sheet;
    sheet.stockM = metres("Stock length", design.build.stock, quantity::Kind::Length, scope);
    if (!(sheet.stockM > 0.0)) throw Error("Stock length: one of 0 holds nothing.");
    sheet.list = cutList(design, expansion, allowances);
    for (const auto& row : expansion.rows) {
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
        boom.lengthM = row.boomLengthM();
        sheet.booms.push_back(std::move(boom));
    }
    for (const auto& total : sheet.list.totals) {
        if (total.wire) continue;
        StockLayout layout;
        layout.conductor = total.conductor;
        for (std::size_t p = 0; p < sheet.list.pieces.size(); ++p) {
            const auto& piece = sheet.list.pieces[p];
            if (piece.conductor != total.conductor || piece.wire) continue;
            layout.lengthsM.insert(layout.lengthsM.end(), static_cast<std::size_t>(piece.count), piece.cutM);
            layout.piece.insert(layout.piece.end(), static_cast<std::size_t>(piece.count), p);
        }
        layout.plan = layOut(layout.lengthsM, sheet.stockM, kerfM);
        for (std::size_t k = 0; k < layout.plan.tooLong.size(); ++k) {
            const auto& piece = sheet.list.pieces[layout.piece[layout.plan.tooLong[k]]];
            if (k > 0 && layout.piece[layout.plan.tooLong[k - 1]] == layout.piece[layout.plan.tooLong[k]])
                continue;
            sheet.findings.push_back({model::Severity::Warning, piece.origin,
                                      fmt::format("{} takes {:.3f} m in one piece, and {} comes in {:.2f} m.",
                                                  piece.part, piece.cutM, piece.conductor, sheet.stockM),
                                      "Join it from two, or take a longer stock length."});
        }
        sheet.stock.push_back(std::move(layout));
    }
    sheet.rigging = riggingOf(design, expansion);
    sheet.fittings = fittingsOf(design, expansion);
    sheet.order = orderFor(sheet);
    return sheet;
}

}  // namespace rm::build
