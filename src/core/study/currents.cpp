#include "core/study/currents.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>
#include <set>

#include "core/em/span_basis.h"
#include "core/model/checks.h"
#include "core/words/words.h"

namespace rm::study {

namespace {

constexpr int kPointsPerSpan = 25;

/// Parts that hang together with a feed, over joints and lines.
std::set<std::string> partsOfFeeds(const model::Expansion& design) {
    std::set<std::string> reached;
    const auto& m = design.model;
    for (const auto& feed : m.feeds) reached.insert(m.wires[feed.place.wire].group());
    std::vector<std::vector<std::string>> groups;
    for (const auto& joint : design.joints) groups.push_back(joint.parts);
    const auto ports = m.places();
    for (const auto& line : m.lines)
        groups.push_back({m.wires[ports[line.fromPort].place.wire].group(),
                          m.wires[ports[line.toPort].place.wire].group()});
    for (bool grew = true; grew;) {
        grew = false;
        for (const auto& group : groups) {
            const bool touched =
                std::any_of(group.begin(), group.end(), [&](const auto& p) { return reached.count(p) != 0; });
            for (const auto& part : group)
                if (touched && reached.insert(part).second) grew = true;
        }
    }
    return reached;
}

/// The design without the wires of one part and what stands on them.
model::Expansion without(const model::Expansion& design, const std::string& part) {
    model::Expansion less = design;
    auto& m = less.model;
    std::vector<std::size_t> place(m.wires.size(), 0);
    std::vector<model::PlainWire> kept;
    for (std::size_t w = 0; w < m.wires.size(); ++w) {
        place[w] = kept.size();
        if (m.wires[w].group() != part) kept.push_back(m.wires[w]);
    }
    const auto onIt = [&](const auto& item) { return design.model.wires[item.place.wire].group() == part; };
    std::erase_if(m.loads, onIt);
    for (auto& feed : m.feeds) {
        feed.place.wire = place[feed.place.wire];
        for (auto* ends : {&feed.together, &feed.against})
            for (auto& other : *ends) other.wire = place[other.wire];
    }
    for (auto& load : m.loads) load.place.wire = place[load.place.wire];
    for (auto& tap : m.taps) tap.place.wire = place[tap.place.wire];
    m.wires = std::move(kept);
    return less;
}

}  // namespace

Complex currentOn(const em::Span& span, const Eigen::VectorXcd& local, double t) {
    double row[em::kLanes];
    em::legendreRow(t, row);
    Complex sum = 0.0;
    for (std::size_t n = 0; n <= static_cast<std::size_t>(span.order); ++n)
        sum += row[n] * em::legendreSeries(span, local, n);
    return sum;
}

std::vector<CurrentPoint> currentAlong(const model::Expansion& design, const Analysis& analysis,
                                       const std::string& part) {
    std::vector<CurrentPoint> points;
    double before = 0.0;
    for (std::size_t w = 0; w < design.model.wires.size(); ++w) {
        if (design.model.wires[w].part != part) continue;
        std::vector<const em::Span*> spans;
        for (const auto& span : analysis.mesh->spans)
            if (span.wire == w) spans.push_back(&span);
        std::sort(spans.begin(), spans.end(),
                  [](const auto* a, const auto* b) { return a->startOnWireM < b->startOnWireM; });
        for (const em::Span* span : spans)
            for (int i = 0; i < kPointsPerSpan; ++i) {
                const double t = -1.0 + 2.0 * i / (kPointsPerSpan - 1);
                points.push_back({before + std::clamp(span->startOnWireM + 0.5 * (t + 1.0) * span->lengthM,
                                                      0.0, design.model.wires[w].lengthM()),
                                  currentOn(*span, analysis.reading.localCurrent, t)});
            }
        before += design.model.wires[w].lengthM();
    }
    return points;
}

std::string Bystander::sentence() const {
    const std::string effect =
        std::abs(costDb) < 0.05
            ? std::string(say("changes nothing"))
            : figure("{} {:.1f} dB", costDb > 0.0 ? say("costs") : say("brings"), std::abs(costDb));
    return say("{} carries {:.0f} % of the largest current and {} towards {:.0f}° elevation.", part,
               100.0 * share, effect, elevationDeg);
}

std::vector<Bystander> bystanders(const model::Expansion& design, const Analysis& analysis, std::size_t most,
                                  FieldStore* fields, std::stop_token stop) {
    std::map<std::string, double> largest;
    double all = 0.0;
    for (const auto& span : analysis.mesh->spans)
        for (int i = 0; i < kPointsPerSpan; ++i) {
            const double t = -1.0 + 2.0 * i / (kPointsPerSpan - 1);
            const double size = std::abs(currentOn(span, analysis.reading.localCurrent, t));
            double& own = largest[design.model.wires[span.wire].group()];
            own = std::max(own, size);
            all = std::max(all, size);
        }
    const auto fed = partsOfFeeds(design);
    std::vector<Bystander> found;
    for (const auto& [part, size] : largest)
        if (fed.count(part) == 0 && size >= kLeastShare * all) found.push_back({part, size / all, 0.0, 0.0});
    std::sort(found.begin(), found.end(), [](const auto& a, const auto& b) { return a.share > b.share; });
    if (found.size() > most) found.resize(most);
    FieldStore own;
    FieldStore& store = fields != nullptr ? *fields : own;
    const double hz = analysis.figures.frequencyHz;
    const em::Direction& towards = analysis.figures.peak.direction;
    std::vector<Bystander> standing;
    for (Bystander& bystander : found) {
        if (stop.stop_requested()) return {};
        const model::Expansion less = without(design, bystander.part);
        // What the antenna stands on is no bystander.
        if (model::hasError(model::checkWires(less.model, hz))) continue;
        const auto mesh = store.mesh(less.model, hz);
        const auto reading = circuit::closePorts(less.model, *store.solve(mesh, hz, stop));
        const double gain = em::gainDbi(em::farField(*mesh, reading.localCurrent, hz, {towards}).front(),
                                        reading.inputPowerW);
        bystander.costDb = gain - analysis.figures.peak.gainDbi;
        bystander.elevationDeg = towards.elevationDeg;
        standing.push_back(bystander);
    }
    return standing;
}

}  // namespace rm::study
