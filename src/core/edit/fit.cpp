#include "core/edit/fit.h"

#include <fmt/format.h>

#include <Eigen/Core>
#include <algorithm>
#include <cmath>
#include <set>

#include "core/edit/shape_fields.h"
#include "core/linear.h"
#include "core/model/dimension_kind.h"
#include "core/model/expand_dimensions.h"
#include "core/quantity/typed_like.h"
#include "core/words/words.h"

namespace rm::edit {

namespace {

using namespace rm::model;
using quantity::Kind;

constexpr double kSame = 1e-7;
constexpr int kIterations = 12;
/// A dimension counts as reaching further where this share of what it does is not done by the others.
constexpr double kNewShare = 0.05;
constexpr double kFarthest = 1e5;

double stepOf(const Steps& steps, Kind kind) {
    return kind == Kind::Length ? steps.lengthM : kind == Kind::Angle ? steps.angleDeg : 1e-3;
}

/// What one unit of a residual weighs: a degree as much as a few centimetres.
double weightOf(Kind kind) {
    return kind == Kind::Length ? 1.0 : 0.05;
}

class Fitter {
  public:
    Fitter(Design& design, const std::vector<FieldTarget>& targets, const Steps& steps)
        : design_(design), targets_(targets), steps_(steps) {}

    Fit run() {
        lambdaM_ = lambdaOf(design_);
        values_ = scopeWith(design_.dimensions);
        std::vector<const FieldTarget*> formulas;
        try {
            for (const auto& target : targets_) {
                if (!std::isfinite(target.wanted) || std::abs(target.wanted) > kFarthest) continue;
                const double now = quantity::evaluate(*target.text, target.kind, values_);
                if (!quantity::isPlainNumber(*target.text)) {
                    formulas.push_back(&target);
                    continue;
                }
                const double step = stepOf(steps_, target.kind);
                const double wanted = step > 0.0 ? step * std::round(target.wanted / step) : target.wanted;
                if (std::abs(target.wanted - now) < kSame || std::abs(wanted - now) < kSame) continue;
                *target.text = quantity::typedLike(*target.text, target.kind, target.wanted, step, lambdaM_);
            }
            if (!formulas.empty()) fitFormulas(formulas);
        } catch (const Error&) {
            // What cannot be read is a finding already.
        }
        return std::move(fit_);
    }

  private:
    /// Values of the dimensions as they would be with these texts.
    quantity::Scope scopeWith(const std::vector<Dimension>& dimensions) const {
        FieldValues values;
        values.scope.lambdaM = lambdaM_;
        evaluateDimensions(values, dimensions);
        return values.scope;
    }

    /// Places of the plain dimensions behind a formula.
    void leavesOf(const std::string& text, std::set<std::string>& seen, std::vector<std::size_t>& leaves) {
        for (const auto& name : quantity::namesIn(text)) {
            if (!seen.insert(name).second) continue;
            for (std::size_t i = 0; i < design_.dimensions.size(); ++i) {
                const Dimension& d = design_.dimensions[i];
                if (d.name != name) continue;
                if (quantity::isPlainNumber(d.text))
                    leaves.push_back(i);
                else
                    leavesOf(d.text, seen, leaves);
            }
        }
    }

    /// Weighted misses of the formulas with these values of the leaves.
    Eigen::VectorXd misses(const std::vector<const FieldTarget*>& formulas,
                           const std::vector<std::size_t>& leaves, const Eigen::VectorXd& at) const {
        auto dimensions = design_.dimensions;
        for (std::size_t k = 0; k < leaves.size(); ++k) {
            Dimension& d = dimensions[leaves[k]];
            d.text = exactText(d.kind, at[static_cast<Eigen::Index>(k)]);
        }
        const auto scope = scopeWith(dimensions);
        Eigen::VectorXd r(static_cast<Eigen::Index>(formulas.size()));
        for (std::size_t i = 0; i < formulas.size(); ++i)
            r[static_cast<Eigen::Index>(i)] =
                weightOf(formulas[i]->kind) *
                (quantity::evaluate(*formulas[i]->text, formulas[i]->kind, scope) - formulas[i]->wanted);
        return r;
    }

    double unitOf(std::size_t leaf, double value) const {
        return design_.dimensions[leaf].kind == DimensionKind::Angle ? 1.0
                                                                     : std::max(0.01, 0.01 * std::abs(value));
    }

    Eigen::MatrixXd slopes(const std::vector<const FieldTarget*>& formulas,
                           const std::vector<std::size_t>& leaves, const Eigen::VectorXd& at) const {
        Eigen::MatrixXd j(static_cast<Eigen::Index>(formulas.size()),
                          static_cast<Eigen::Index>(leaves.size()));
        for (std::size_t k = 0; k < leaves.size(); ++k) {
            const auto c = static_cast<Eigen::Index>(k);
            const double h = 1e-3 * unitOf(leaves[k], at[c]);
            Eigen::VectorXd up = at;
            Eigen::VectorXd down = at;
            up[c] += h;
            down[c] -= h;
            j.col(c) = (misses(formulas, leaves, up) - misses(formulas, leaves, down)) / (2.0 * h);
        }
        return j;
    }

    /// Of all leaves those that are needed.
    std::vector<std::size_t> chosen(const std::vector<const FieldTarget*>& formulas,
                                    std::vector<std::size_t> leaves) {
        std::sort(leaves.begin(), leaves.end());
        leaves.erase(std::unique(leaves.begin(), leaves.end()), leaves.end());
        std::vector<std::size_t> elsewhere(design_.dimensions.size(), 0);
        std::set<const std::string*> own;
        for (const auto& target : targets_) own.insert(target.text);
        const auto count = [&](const std::string& text) {
            if (own.count(&text) != 0 || quantity::isPlainNumber(text)) return;
            std::set<std::string> seen;
            std::vector<std::size_t> behind;
            try {
                leavesOf(text, seen, behind);
            } catch (const Error&) {
                return;
            }
            for (const std::size_t leaf : behind) ++elsewhere[leaf];
        };
        for (auto& part : design_.parts)
            for (const auto& field : fieldsOf(part)) count(*field.text);
        count(design_.site.height);
        std::stable_sort(leaves.begin(), leaves.end(),
                         [&](std::size_t a, std::size_t b) { return elsewhere[a] < elsewhere[b]; });
        const Eigen::VectorXd now = at(leaves);
        Eigen::MatrixXd j = slopes(formulas, leaves, now);
        for (std::size_t k = 0; k < leaves.size(); ++k)
            j.col(static_cast<Eigen::Index>(k)) *= unitOf(leaves[k], now[static_cast<Eigen::Index>(k)]);
        std::vector<std::size_t> taken;
        Eigen::MatrixXd reached(j.rows(), 0);  // orthonormal
        for (std::size_t k = 0; k < leaves.size(); ++k) {
            Eigen::VectorXd column = j.col(static_cast<Eigen::Index>(k));
            const double whole = column.norm();
            column -= reached * (reached.transpose() * column);
            if (whole < 1e-9 || column.norm() < kNewShare * whole) continue;
            taken.push_back(leaves[k]);
            reached.conservativeResize(Eigen::NoChange, reached.cols() + 1);
            reached.col(reached.cols() - 1) = column.normalized();
        }
        return taken;
    }

    Eigen::VectorXd at(const std::vector<std::size_t>& leaves) const {
        Eigen::VectorXd v(static_cast<Eigen::Index>(leaves.size()));
        for (std::size_t k = 0; k < leaves.size(); ++k)
            v[static_cast<Eigen::Index>(k)] = values_.values.at(design_.dimensions[leaves[k]].name);
        return v;
    }

    void fitFormulas(const std::vector<const FieldTarget*>& formulas) {
        std::vector<std::size_t> leaves;
        for (const auto* target : formulas) {
            std::set<std::string> seen;
            leavesOf(*target->text, seen, leaves);
        }
        bool there = true;  // already where it is wanted
        for (const auto* target : formulas)
            there = there && std::abs(quantity::evaluate(*target->text, target->kind, values_) -
                                      target->wanted) < kSame;
        if (there) return;
        leaves = chosen(formulas, leaves);
        if (!leaves.empty()) {
            const Eigen::VectorXd before = at(leaves);
            Eigen::VectorXd x = before;
            Eigen::VectorXd r = misses(formulas, leaves, x);
            for (int i = 0; i < kIterations && r.norm() > 1e-9; ++i) {
                const Eigen::MatrixXd j = slopes(formulas, leaves, x);
                const Eigen::VectorXd step = leastSquares(j, -r);
                // Halved until it helps: far targets bend the formulas.
                double share = 1.0;
                Eigen::VectorXd next = x + step;
                Eigen::VectorXd left = misses(formulas, leaves, next);
                for (; share > 1e-3 && !(left.norm() < r.norm()); share *= 0.5) {
                    next = x + 0.5 * share * step;
                    left = misses(formulas, leaves, next);
                }
                if (!(left.norm() < r.norm())) break;
                const bool done = r.norm() - left.norm() < 1e-12;
                x = next;
                r = left;
                if (done) break;
            }
            write(leaves, before, x);
        }
        sayHeld(formulas);
    }

    void write(const std::vector<std::size_t>& leaves, const Eigen::VectorXd& before,
               const Eigen::VectorXd& x) {
        for (std::size_t k = 0; k < leaves.size(); ++k) {
            Dimension& d = design_.dimensions[leaves[k]];
            const auto c = static_cast<Eigen::Index>(k);
            const double step = stepOf(steps_, kindOf(d.kind));
            const double rounded = step > 0.0 ? step * std::round(x[c] / step) : x[c];
            if (!std::isfinite(x[c]) || std::abs(x[c]) > kFarthest || std::abs(rounded - before[c]) < kSame ||
                std::abs(x[c] - before[c]) < kSame)
                continue;
            d.text = quantity::typedLike(d.text, kindOf(d.kind), x[c], step, lambdaM_);
            fit_.moved.push_back(d.name);
        }
    }

    void sayHeld(const std::vector<const FieldTarget*>& formulas) {
        const auto scope = scopeWith(design_.dimensions);
        for (const auto* target : formulas) {
            const double miss =
                std::abs(quantity::evaluate(*target->text, target->kind, scope) - target->wanted);
            // Rounding is no hold.
            const double room = target->kind == Kind::Length ? std::max(0.02, 4.0 * steps_.lengthM)
                                                             : std::max(1.0, 4.0 * steps_.angleDeg);
            if (miss > room)
                fit_.held.push_back(say("{} is held by its formula \"{}\"", target->name, *target->text));
        }
    }

    Design& design_;
    const std::vector<FieldTarget>& targets_;
    Steps steps_;
    double lambdaM_ = 0.0;
    quantity::Scope values_;
    Fit fit_;
};

}  // namespace

Fit fitFields(Design& design, const std::vector<FieldTarget>& targets, const Steps& steps) {
    return Fitter(design, targets, steps).run();
}

}  // namespace rm::edit
