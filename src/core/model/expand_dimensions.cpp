#include "core/model/expand_dimensions.h"

#include <fmt/format.h>

#include <map>

#include "core/model/dimension_kind.h"
#include "core/words/words.h"

namespace rm::model {

namespace {

/// Evaluates dimensions in the order that their formulas need.
class Dimensions {
  public:
    Dimensions(const std::vector<Dimension>& dimensions, quantity::Scope& scope,
               std::vector<Finding>& findings)
        : dimensions_(dimensions),
          scope_(scope),
          findings_(findings),
          state_(dimensions.size(), State::Open) {
        for (std::size_t i = 0; i < dimensions.size(); ++i) byName_.emplace(dimensions[i].name, i);
        for (std::size_t i = 0; i < dimensions.size(); ++i) evaluate(i);
    }

  private:
    enum class State { Open, Busy, Done, Failed };

    void fail(std::size_t i, const std::string& sentence, const std::string& mend) {
        state_[i] = State::Failed;
        findings_.push_back({Severity::Error, dimensions_[i].name, sentence, mend});
    }

    bool evaluate(std::size_t i) {
        const Dimension& d = dimensions_[i];
        if (state_[i] == State::Done) return true;
        if (state_[i] == State::Failed) return false;
        if (state_[i] == State::Busy) {
            fail(i, say("Dimension {} depends on itself through its formula \"{}\".", d.name, d.text),
                 say("Give one of the dimensions in the circle a number."));
            return false;
        }
        state_[i] = State::Busy;
        if (!quantity::isUsableName(d.name)) {
            fail(
                i, say("\"{}\" cannot name a dimension.", d.name),
                say("Use a letter, then letters, digits or underscores, and none of the words of formulas."));
            return false;
        }
        try {
            for (const auto& name : quantity::namesIn(d.text)) {
                const auto [from, to] = byName_.equal_range(name);
                for (auto it = from; it != to; ++it) {
                    if (evaluate(it->second)) continue;
                    if (state_[i] != State::Failed)
                        fail(i, say("Dimension {} needs {}, which has no value.", d.name, name),
                             say("Mend {} first.", name));
                    return false;
                }
            }
            const double value = quantity::evaluate(d.text, kindOf(d.kind), scope_);
            if (scope_.values.count(d.name) != 0) {
                fail(i, say("There are two dimensions named {}.", d.name), say("Rename one of them."));
                return false;
            }
            scope_.values[d.name] = value;
            state_[i] = State::Done;
            return true;
        } catch (const Error& e) {
            fail(i, say("Dimension {}: {}", d.name, e.what()), say("Type a length or a formula."));
            return false;
        }
    }

    const std::vector<Dimension>& dimensions_;
    quantity::Scope& scope_;
    std::vector<Finding>& findings_;
    std::vector<State> state_;
    std::multimap<std::string, std::size_t> byName_;
};

}  // namespace

void evaluateDimensions(FieldValues& values, const std::vector<Dimension>& dimensions) {
    Dimensions(dimensions, values.scope, values.findings);
}

}  // namespace rm::model
