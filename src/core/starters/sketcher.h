// Puts a starter together: parts, dimensions and goals in a few words each.
#pragma once

#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "core/starters/starter.h"

namespace rm::starters {

/// How a sketch is finished: what is multiplied until it is resonant, on which of the bands of the order.
struct Resonate {
    std::vector<std::string> dimensions;
    std::size_t band = 0;
};

struct Sketched {
    model::Design design;
    std::vector<Resonate> resonate;  ///< one after the other, and again where there are several
    bool transform = false;          ///< the first transformer takes the ratio that suits
    bool tune = false;               ///< the goals of the design are tuned for
    bool reactance = false;     ///< the first coil or capacitor of the feed path takes the reactance away
    bool match = false;         ///< a network is put before the radio
    std::string loopCapacitor;  ///< dimension (pF) that brings the first load to resonance; empty: none
    std::string loopCoupling;   ///< and the one that matches it then
};

class Sketcher {
  public:
    Sketcher(const Order& order, const std::string& name);

    double lambda() const { return lambdaM_; }
    double height() const { return order_.heightM; }
    const Order& order() const { return order_; }
    bool grounded() const { return order_.site.ground != model::GroundKind::FreeSpace; }
    /// Design frequency in MHz.
    double megahertz() const { return order_.bands.front().centreHz() / 1e6; }

    /// A length that the sketch may move; its slider runs from `low` to `high` times its value.
    std::string length(const std::string& name, double metres, const std::string& note, double low = 0.8,
                       double high = 1.2);
    /// One that says where it hangs and not how long it is: "scale to frequency" leaves it alone.
    std::string height(const std::string& name, double metres, const std::string& note, double low = 0.8,
                       double high = 1.2);
    std::string angle(const std::string& name, double degrees, const std::string& note, double low,
                      double high);
    std::string number(const std::string& name, double value, const std::string& note, double low,
                       double high);

    model::Part& part(const std::string& name, const model::Shape& shape);
    model::Part& tube(const std::string& name, const model::Shape& shape, double diameterM);
    model::Feed& feed(const std::string& part, model::PlaceKind kind = model::PlaceKind::Middle,
                      const std::string& value = "");
    void transformer(const std::string& ratio);
    void block(model::FeedBlock block);
    /// A straight wire from left to right as long as this dimension says: hung from two supports of the site
    /// where that is wanted and any two hold it, otherwise at the height that supports reach.
    void level(const std::string& name, const std::string& span);
    /// Radials or a counterpoise under a vertical whose foot is at the origin.
    void earth(const std::string& count = "16");
    /// At `heightM` above the ground, where there is any.
    void raise(double heightM);

    /// SWR on the bands of the design, and what may move for it.
    void goals(const std::string& swr, const std::vector<std::string>& movers, bool counted = false);
    void goal(model::GoalKind kind, const std::string& limit, int stage = 1);
    void bands(std::size_t most);

    Sketched done() { return std::move(out_); }
    Sketched& out() { return out_; }

    /// "10.35 m", to the centimetre; to the millimetre below 2 m.
    static std::string metres(double value);

  private:
    /// The two supports with the most height that are this far apart, and not much further than need be.
    std::optional<std::pair<std::string, std::string>> supportsFor(double lengthM) const;
    std::string dimension(const std::string& name, model::DimensionKind kind, const std::string& text,
                          const std::string& low, const std::string& high, const std::string& note);

    Order order_;
    double lambdaM_;
    Sketched out_;
};

/// A kind with its sketch.
struct Recipe {
    Kind kind;
    Sketched (*sketch)(const Order& order);
};

std::vector<Recipe> wireRecipes();
std::vector<Recipe> loopRecipes();
std::vector<Recipe> verticalRecipes();
std::vector<Recipe> rowRecipes();

}  // namespace rm::starters
