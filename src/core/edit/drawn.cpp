#include "core/edit/drawn.h"

#include <fmt/format.h>

#include <cmath>

#include "core/edit/feet.h"
#include "core/edit/ids.h"
#include "core/edit/names.h"
#include "core/edit/shape_fields.h"
#include "core/quantity/typed_like.h"
#include "core/words/words.h"

namespace rm::edit {

namespace {

using namespace rm::model;
using quantity::Kind;

/// Lengths that differ by less are one length.
constexpr double kEqualM = 0.002;

PointText typed(const Project& project, const Vec3& p) {
    return {typedIn(project, p.x()), typedIn(project, p.y()), typedIn(project, p.z())};
}

/// A term of a coordinate: "leg", "-0.5*leg"; empty where it does nothing.
std::string term(double share, const std::string& name, bool first) {
    if (std::abs(share) < 5e-7) return {};
    const std::string sign = share < 0.0 ? "-" : first ? "" : "+";
    const double size = std::abs(share);
    if (std::abs(size - 1.0) < 5e-7) return sign + name;
    return fmt::format("{}{:.6g}*{}", sign, size, name);
}

/// The points of a wire in numbers; throws where there is a formula.
std::vector<PointText*> pointsOf(Part& part) {
    std::vector<PointText*> points;
    if (auto* straight = std::get_if<StraightWire>(&part.shape)) points = {&straight->start, &straight->end};
    if (auto* bent = std::get_if<BentWire>(&part.shape))
        for (auto& point : bent->points) points.push_back(&point);
    if (points.size() < 2)
        throw Error(part.name + say(" has no points of its own: its lengths are fields already."));
    for (const auto* point : points)
        for (const auto& text : *point)
            if (!quantity::isPlainNumber(text))
                throw Error(say("{} has the formula \"{}\" in it already: name what is left by hand.",
                                part.name, text));
    return points;
}

}  // namespace

Added addDrawn(Project project, const std::vector<Vec3>& pointsM, bool closed) {
    if (pointsM.size() < 2) throw Error(say("A wire needs two points."));
    Design& design = project.active();
    Vec3 lifted(0.0, 0.0, 0.0);
    try {
        lifted.z() = quantity::evaluate(design.site.height, Kind::Length, fieldValues(design).scope);
    } catch (const Error&) {
        // A height that cannot be read is a finding already.
    }
    Part part;
    part.name = freeName(design.parts, closed ? say("Drawn loop") : say("Drawn wire"));
    for (const auto& other : design.parts)
        if (std::any_of(design.feeds.begin(), design.feeds.end(),
                        [&](const Feed& feed) { return feed.part == other.name; }) &&
            !std::holds_alternative<ElementRow>(other.shape))
            part.conductor = other.conductor;
    if (pointsM.size() == 2) {
        part.shape = StraightWire{typed(project, pointsM[0] - lifted), typed(project, pointsM[1] - lifted)};
    } else {
        BentWire bent;
        for (const Vec3& p : pointsM) bent.points.push_back(typed(project, p - lifted));
        bent.closed = closed;
        part.shape = bent;
    }
    if (design.feeds.empty()) {
        Feed feed;
        feed.part = part.name;
        design.feeds.push_back(feed);
    }
    design.parts.push_back(std::move(part));
    const std::size_t last = design.parts.size() - 1;
    giveIds(project);
    const Item item = itemAt(project.active(), ItemType::Part, last);
    return {std::move(project), item};
}

Project nameLengths(Project project, Id id) {
    Design& design = project.active();
    Part& part = at(design.parts, id);
    const auto points = pointsOf(part);
    const auto values = fieldValues(design);
    std::vector<Vec3> at;
    for (const auto* point : points) {
        Vec3 p;
        for (int a = 0; a < 3; ++a)
            p[a] = quantity::evaluate((*point)[static_cast<std::size_t>(a)], Kind::Length, values.scope);
        at.push_back(p);
    }
    struct Named {
        std::string name;
        double lengthM;
    };
    std::vector<Named> made;
    const bool one = points.size() == 2;
    // Every point is the first one plus what lies between, so that a length moves all that follows it.
    std::vector<std::array<std::string, 3>> texts(points.size());
    std::array<std::string, 3> sum;
    for (std::size_t i = 1; i < points.size(); ++i) {
        const Vec3 d = at[i] - at[i - 1];
        const double length = d.norm();
        if (length < 1e-6) throw Error(part.name + say(" has two points in one place."));
        const auto same = std::find_if(
            made.begin(), made.end(), [&](const Named& n) { return std::abs(n.lengthM - length) < kEqualM; });
        std::string name;
        if (same != made.end()) {
            name = same->name;
        } else {
            Dimension dimension;
            dimension.name =
                freeName(design.dimensions, one ? "length" : fmt::format("side{}", made.size() + 1), "_");
            dimension.text = project.feetAndInches
                                 ? feetText(length)
                                 : quantity::typedLike("m", Kind::Length, length, 0.001, 0.0);
            dimension.note = one ? say("Length of ") + part.name : say("Side {} of {}", i, part.name);
            name = dimension.name;
            made.push_back({name, length});
            design.dimensions.push_back(std::move(dimension));
        }
        for (std::size_t a = 0; a < 3; ++a)
            sum[a] += term(d[static_cast<Eigen::Index>(a)] / length, name, sum[a].empty());
        texts[i] = sum;
    }
    for (std::size_t i = 1; i < points.size(); ++i)
        for (std::size_t a = 0; a < 3; ++a) {
            const std::string& rest = texts[i][a];
            if (rest.empty()) {
                (*points[i])[a] = (*points[0])[a];
                continue;
            }
            const double begin = at[0][static_cast<Eigen::Index>(a)];
            const std::string first = (*points[0])[a];
            (*points[i])[a] = std::abs(begin) < 1e-9 ? rest : first + (rest[0] == '-' ? "" : "+") + rest;
        }
    giveIds(project);
    return project;
}

}  // namespace rm::edit
