#include "core/model/design.h"

#include "core/words/words.h"

namespace rm::model {

Part::Part() = default;
Part::Part(const Part&) = default;
Part::Part(Part&&) noexcept = default;
Part& Part::operator=(const Part&) = default;
Part& Part::operator=(Part&&) noexcept = default;
Part::~Part() = default;
bool Part::operator==(const Part&) const = default;

FeedBlock::FeedBlock() = default;
FeedBlock::FeedBlock(const FeedBlock&) = default;
FeedBlock::FeedBlock(FeedBlock&&) noexcept = default;
FeedBlock& FeedBlock::operator=(const FeedBlock&) = default;
FeedBlock& FeedBlock::operator=(FeedBlock&&) noexcept = default;
FeedBlock::~FeedBlock() = default;
bool FeedBlock::operator==(const FeedBlock&) const = default;

Design::Design() = default;
Design::Design(const Design&) = default;
Design::Design(Design&&) noexcept = default;
Design& Design::operator=(const Design&) = default;
Design& Design::operator=(Design&&) noexcept = default;
Design::~Design() = default;
bool Design::operator==(const Design&) const = default;

Project::Project() = default;
Project::Project(const Project&) = default;
Project::Project(Project&&) noexcept = default;
Project& Project::operator=(const Project&) = default;
Project& Project::operator=(Project&&) noexcept = default;
Project::~Project() = default;
bool Project::operator==(const Project&) const = default;

std::string shapeName(const Shape& shape) {
    struct Name {
        std::string operator()(const StraightWire&) const { return say("straight wire"); }
        std::string operator()(const BentWire& w) const {
            return w.closed ? say("closed wire") : say("bent wire");
        }
        std::string operator()(const RegularLoop&) const { return say("loop"); }
        std::string operator()(const InvertedV&) const { return say("inverted V"); }
        std::string operator()(const Fan&) const { return say("fan"); }
        std::string operator()(const ElementRow&) const { return say("element row"); }
        std::string operator()(const RadialSystem&) const { return say("radial system"); }
        std::string operator()(const GroundRod&) const { return say("ground rod"); }
        std::string operator()(const HungWire&) const { return say("hung wire"); }
        std::string operator()(const CableRun&) const { return say("cable run"); }
    };
    return std::visit(Name{}, shape);
}

}  // namespace rm::model
