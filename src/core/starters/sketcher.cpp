#include "core/starters/sketcher.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/model/expand_hung.h"
#include "core/quantity/typed_like.h"
#include "core/words/words.h"

namespace rm::starters {

using namespace rm::model;

std::string Sketcher::metres(double value) {
    return quantity::typedLike("m", quantity::Kind::Length, value, std::abs(value) < 2.0 ? 0.001 : 0.01, 0.0);
}

Sketcher::Sketcher(const Order& order, const std::string& name) : order_(order) {
    if (order.bands.empty()) throw Error(say("A starter needs a band."));
    lambdaM_ = wavelengthM(order.bands.front().centreHz());
    Design& d = out_.design;
    d.name = name;
    d.designFrequency = fmt::format("{:.6g} MHz", megahertz());
    d.site = order.site;
    d.site.height = "0 m";
    bands(1);
}

std::string Sketcher::dimension(const std::string& name, DimensionKind kind, const std::string& text,
                                const std::string& low, const std::string& high, const std::string& note) {
    Dimension d;
    d.name = name;
    d.kind = kind;
    d.text = text;
    d.low = low;
    d.high = high;
    d.note = note;
    // Angles and numbers stay when an antenna is scaled.
    d.scales = kind == DimensionKind::Length;
    out_.design.dimensions.push_back(d);
    return name;
}

std::string Sketcher::length(const std::string& name, double value, const std::string& note, double low,
                             double high) {
    return dimension(name, DimensionKind::Length, metres(value), metres(low * value), metres(high * value),
                     note);
}

std::string Sketcher::height(const std::string& name, double value, const std::string& note, double low,
                             double high) {
    length(name, value, note, low, high);
    out_.design.dimensions.back().scales = false;
    return name;
}

std::string Sketcher::angle(const std::string& name, double degrees, const std::string& note, double low,
                            double high) {
    const auto text = [](double value) { return fmt::format("{:.4g} deg", value); };
    return dimension(name, DimensionKind::Angle, text(degrees), text(low), text(high), note);
}

std::string Sketcher::number(const std::string& name, double value, const std::string& note, double low,
                             double high) {
    const auto text = [](double v) { return fmt::format("{:.5g}", v); };
    return dimension(name, DimensionKind::Number, text(value), text(low), text(high), note);
}

Part& Sketcher::part(const std::string& name, const Shape& shape) {
    Part part;
    part.name = name;
    part.conductor = order_.wire;
    part.shape = shape;
    out_.design.parts.push_back(part);
    return out_.design.parts.back();
}

std::optional<std::pair<std::string, std::string>> Sketcher::supportsFor(double lengthM) const {
    // Tuning and another ground may want a little more than was sketched.
    constexpr double kRoom = 1.1;
    FieldValues values;
    const auto supports = readSupports(values, order_.site.supports, 0.0);
    std::optional<std::pair<std::string, std::string>> best;
    double reached = 0.0;
    for (std::size_t i = 0; i < supports.size(); ++i)
        for (std::size_t j = i + 1; j < supports.size(); ++j) {
            const auto& a = supports[i];
            const auto& b = supports[j];
            const Vec3 from = 0.5 * (a.topM + a.otherM);
            const Vec3 to = 0.5 * (b.topM + b.otherM);
            const double height = std::min(a.heightM(), b.heightM());
            if ((to - from).norm() < kRoom * lengthM || height < 1.0 || height <= reached) continue;
            reached = height;
            best = {a.name, b.name};
        }
    return best;
}

void Sketcher::level(const std::string& name, const std::string& span) {
    const auto found = std::find_if(out_.design.dimensions.begin(), out_.design.dimensions.end(),
                                    [&](const Dimension& d) { return d.name == span; });
    const double lengthM = quantity::evaluate(found->text, quantity::Kind::Length, {});
    const auto supports = order_.onSupports ? supportsFor(lengthM) : std::nullopt;
    if (!supports) {
        part(name, StraightWire{{"0 m", "-" + span + "/2", "0 m"}, {"0 m", span + "/2", "0 m"}});
        raise(height());
        return;
    }
    HungWire hung;
    hung.points = {{supports->first, "", "", {}}, {supports->second, "", "", {}}};
    hung.length = span;
    hung.sag = "2 %";
    part(name, hung);
    out_.design.site.height = "0 m";
}

Part& Sketcher::tube(const std::string& name, const Shape& shape, double diameterM) {
    Part& made = part(name, shape);
    made.conductor = {"aluminium-6061", fmt::format("{:.3g} mm", 1e3 * diameterM), "", "3", {}};
    return made;
}

Feed& Sketcher::feed(const std::string& on, PlaceKind kind, const std::string& value) {
    Feed feed;
    feed.name = out_.design.feeds.empty() ? say("Feed") : say("Feed {}", out_.design.feeds.size() + 1);
    feed.part = on;
    feed.place.kind = kind;
    feed.place.value = value;
    out_.design.feeds.push_back(feed);
    return out_.design.feeds.back();
}

void Sketcher::block(FeedBlock block) {
    out_.design.feedPath.push_back(std::move(block));
}

void Sketcher::transformer(const std::string& ratio) {
    FeedBlock made;
    made.kind = BlockKind::Transformer;
    made.name = say("Transformer");
    made.ratio = ratio;
    block(made);
    out_.transform = true;
}

void Sketcher::earth(const std::string& count) {
    RadialSystem radials;
    radials.count = count;
    radials.length = metres(std::min(0.25 * lambdaM_, 12.0));
    radials.depth = order_.site.ground == GroundKind::Real ? "5 cm" : "0 m";
    part(say("Radials"), radials);
}

void Sketcher::raise(double heightM) {
    if (grounded()) out_.design.site.height = metres(heightM);
}

void Sketcher::goals(const std::string& swr, const std::vector<std::string>& movers, bool counted) {
    Goal match;
    match.limit = swr;
    match.counted = counted;
    match.importance = Importance::Essential;
    out_.design.tune.goals.push_back(match);
    for (const auto& name : movers) {
        Mover mover;
        mover.dimension = name;
        out_.design.tune.movers.push_back(mover);
    }
}

void Sketcher::goal(GoalKind kind, const std::string& limit, int stage) {
    Goal goal;
    goal.kind = kind;
    goal.limit = limit;
    goal.stage = stage;
    out_.design.tune.goals.push_back(goal);
}

void Sketcher::bands(std::size_t most) {
    out_.design.bands.clear();
    for (std::size_t i = 0; i < std::min(most, order_.bands.size()); ++i)
        out_.design.bands.push_back(order_.bands[i].name);
}

}  // namespace rm::starters
