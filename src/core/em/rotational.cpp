#include "core/em/rotational.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>

#include "core/em/parallel.h"
#include "core/em/span_basis.h"
#include "core/em/span_blocks.h"
#include "core/linear.h"
#include "core/stopped.h"

namespace rm::em {

namespace {

constexpr std::size_t kLeastSectors = 6;
/// Places and directions that differ by less, relative to the size of the system, are equal.
constexpr double kEqual = 1e-9;
constexpr double kSameBearing = 1e-7;  ///< rad

/// A span as it lies towards the axis: equal for spans that a turn brings upon each other.
using Signature = std::array<std::int64_t, 12>;

class Finder {
  public:
    explicit Finder(const Mesh& mesh) : mesh_(mesh) {}

    std::optional<Rotation> find() {
        std::vector<std::size_t> ends;
        for (const Span& span : mesh_.spans)
            for (const int node : {span.startNode, span.endNode}) {
                const auto at = static_cast<std::size_t>(node);
                if (at >= ends.size()) ends.resize(at + 1, 0);
                ++ends[at];
            }
        const auto hub = std::max_element(ends.begin(), ends.end());
        if (hub == ends.end() || *hub < kLeastSectors) return std::nullopt;
        rotation_.hubNode = static_cast<int>(hub - ends.begin());
        locateAxis();
        const Alike alike = spansAlike();
        for (const std::size_t n : candidates(alike))
            if (makeSectors(alike, n) && apartButForTheHub()) {
                rotation_.flatSectors = flatSectors();
                return rotation_;
            }
        return std::nullopt;
    }

  private:
    void locateAxis() {
        for (const Span& span : mesh_.spans) {
            if (span.startNode == rotation_.hubNode) axis_ = span.startM();
            if (span.endNode == rotation_.hubNode) axis_ = span.endM();
        }
        for (const Span& span : mesh_.spans)
            size_ = std::max(size_, (span.centreM - axis_).norm() + span.halfM());
    }

    Signature signatureOf(const Span& span) const {
        const Vec3 from = span.centreM - axis_;
        const double radius = std::hypot(from.x(), from.y());
        const double c = radius > 0.0 ? from.x() / radius : 1.0;
        const double s = radius > 0.0 ? from.y() / radius : 0.0;
        const auto length = [this](double metres) { return std::llround(metres / (kEqual * size_)); };
        const auto plain = [](double value) { return std::llround(value / kEqual); };
        const WireMaterial& material = mesh_.wireMaterial[span.wire];
        return {length(radius),
                length(from.z()),
                plain(c * span.direction.x() + s * span.direction.y()),
                plain(c * span.direction.y() - s * span.direction.x()),
                plain(span.direction.z()),
                length(span.lengthM),
                length(span.radiusM),
                span.order,
                static_cast<std::int64_t>(span.kind) * 2 + (span.inSoil ? 1 : 0),
                std::isfinite(material.conductivitySm) ? std::llround(material.conductivitySm * 1e-3) : -1,
                length(material.conductorRadiusM),
                std::llround(material.inductancePerM * 1e15)};
    }

    double bearingOf(std::size_t span) const {
        const Vec3 from = mesh_.spans[span].centreM - axis_;
        return std::atan2(from.y(), from.x());
    }

    using Alike = std::map<Signature, std::vector<std::size_t>>;

    /// Spans off the axis by what they look like from it. Rounding may put the like of two into neighbouring
    /// signatures: then they stay in the rest.
    Alike spansAlike() const {
        Alike alike;
        for (std::size_t i = 0; i < mesh_.spans.size(); ++i) {
            const Vec3 from = mesh_.spans[i].centreM - axis_;
            if (std::hypot(from.x(), from.y()) > kEqual * size_)
                alike[signatureOf(mesh_.spans[i])].push_back(i);
        }
        return alike;
    }

    /// Numbers of sectors that may be: those that take in most spans first.
    static std::vector<std::size_t> candidates(const Alike& alike) {
        std::map<std::size_t, std::size_t> covered;
        for (const auto& [signature, spans] : alike)
            if (spans.size() >= kLeastSectors) covered[spans.size()] = 0;
        for (auto& [n, count] : covered)
            for (const auto& [signature, spans] : alike)
                if (spans.size() % n == 0) count += spans.size();
        std::vector<std::size_t> sizes;
        for (const auto& [n, count] : covered) sizes.push_back(n);
        std::stable_sort(sizes.begin(), sizes.end(),
                         [&](std::size_t x, std::size_t y) { return covered[x] > covered[y]; });
        return sizes;
    }

    /// n sectors, each with one span of every n that lie evenly round the axis; what does not is the rest.
    bool makeSectors(const Alike& alike, std::size_t n) {
        const double step = 2.0 * kPi / static_cast<double>(n);
        rotation_.sectorSpans.assign(n, {});
        rotation_.restSpans.clear();
        std::vector<bool> taken(mesh_.spans.size(), false);
        std::optional<double> first;
        for (const auto& [signature, spans] : alike) {
            if (spans.size() % n != 0) continue;
            if (!first) first = bearingOf(spans.front()) - 0.25 * step;
            // Turned back into the first sector, spans of one set lie on one bearing.
            struct Set {
                double base = 0.0;
                std::vector<std::size_t> at;
                std::size_t count = 0;
            };
            std::vector<Set> sets;
            for (const std::size_t span : spans) {
                double turns = (bearingOf(span) - *first) / step;
                turns -= std::floor(turns / static_cast<double>(n)) * static_cast<double>(n);
                const double whole = std::floor(turns);
                const double base = turns - whole;
                const auto sector = static_cast<std::size_t>(whole) % n;
                auto set = std::find_if(sets.begin(), sets.end(), [&](const Set& known) {
                    return std::abs(known.base - base) * step < kSameBearing;
                });
                if (set == sets.end())
                    set = sets.insert(sets.end(), {base, std::vector<std::size_t>(n, mesh_.spans.size()), 0});
                if (set->at[sector] == mesh_.spans.size()) ++set->count;
                set->at[sector] = span;
            }
            if (std::any_of(sets.begin(), sets.end(), [&](const Set& set) { return set.count != n; }))
                continue;
            for (const Set& set : sets)
                for (std::size_t sector = 0; sector < n; ++sector) {
                    rotation_.sectorSpans[sector].push_back(set.at[sector]);
                    taken[set.at[sector]] = true;
                }
        }
        for (std::size_t i = 0; i < mesh_.spans.size(); ++i)
            if (!taken[i]) rotation_.restSpans.push_back(i);
        return !rotation_.sectorSpans.front().empty();
    }

    /// Sectors are joined to each other and to the rest at the hub alone.
    bool apartButForTheHub() const {
        constexpr int kRest = -1;
        std::map<int, int> ownerOfNode;
        const auto claim = [&](std::size_t span, int owner) {
            for (const int node : {mesh_.spans[span].startNode, mesh_.spans[span].endNode}) {
                if (node == rotation_.hubNode) continue;
                const auto [place, fresh] = ownerOfNode.emplace(node, owner);
                if (!fresh && place->second != owner) return false;
            }
            return true;
        };
        for (const std::size_t span : rotation_.restSpans)
            if (!claim(span, kRest)) return false;
        for (std::size_t sector = 0; sector < rotation_.sectorSpans.size(); ++sector)
            for (const std::size_t span : rotation_.sectorSpans[sector])
                if (!claim(span, static_cast<int>(sector))) return false;
        return true;
    }

    bool flatSectors() const {
        const auto& sector = rotation_.sectorSpans.front();
        const double bearing = bearingOf(sector.front());
        const auto across = [&](const Vec3& v) {
            return std::abs(v.y() * std::cos(bearing) - v.x() * std::sin(bearing));
        };
        return std::all_of(sector.begin(), sector.end(), [&](std::size_t i) {
            const Span& span = mesh_.spans[i];
            return across(span.centreM - axis_) < kEqual * size_ && across(span.direction) < kEqual;
        });
    }

    const Mesh& mesh_;
    Rotation rotation_;
    Vec3 axis_ = Vec3::Zero();
    double size_ = 0.0;
};

/// A function of one part of the system: local functions by the place of their span in the list of the part.
struct PartTerm {
    std::size_t place = 0;
    std::size_t offset = 0;
    double sign = 0.0;
};
struct PartFunction {
    PartTerm first;
    PartTerm second;
    bool atHub = false;
};

class RotationalSolver {
  public:
    RotationalSolver(const Mesh& mesh, const Rotation& rotation, double frequencyHz,
                     const std::stop_token& stop)
        : mesh_(mesh),
          rotation_(rotation),
          blocks_(mesh, frequencyHz, stop),
          stop_(stop),
          sectors_(rotation.sectorSpans.size()) {
        sectorFunctions_ = functionsOf(rotation.sectorSpans.front());
        restFunctions_ = functionsOf(rotation.restSpans);
        p_ = static_cast<Eigen::Index>(sectorFunctions_.size());
        r_ = static_cast<Eigen::Index>(restFunctions_.size());
    }

    /// Currents of all local functions for a unit voltage at each port.
    MatrixXc solve(const MatrixXc& localWeights) {
        prepareTables();
        const auto ports = localWeights.cols();
        // Unknowns beside the sectors: the rest, and the potential of the hub.
        const Eigen::Index border = r_ + 1;
        MatrixXc schur = MatrixXc::Zero(border, border);
        schur.topLeftCorner(r_, r_) = restMatrix();
        MatrixXc rhs = MatrixXc::Zero(border, ports);
        for (Eigen::Index f = 0; f < r_; ++f) {
            const auto& function = restFunctions_[static_cast<std::size_t>(f)];
            rhs.row(f) = weightsOf(function, rotation_.restSpans, localWeights);
            if (function.atHub) schur(f, r_) = schur(r_, f) = 1.0;
        }
        // Right sides of the sectors, [sector] p x (border + ports), and their transforms.
        std::vector<MatrixXc> sides(sectors_);
        coupleRest(sides, localWeights);
        const std::vector<MatrixXc> spectrum = transformed(sides);
        std::vector<std::size_t> excited;
        for (std::size_t m = 0; m < sectors_; ++m)
            if (!spectrum[m].isZero(0.0)) excited.push_back(m);
        const std::vector<MatrixXc> answers = answersTo(spectrum, excited);
        // sum over sectors of K_i^T X_i = n sum over modes of K^_{-m}^T X^_m.
        const double n = static_cast<double>(sectors_);
        for (const std::size_t m : excited) {
            const MatrixXc& opposite = spectrum[(sectors_ - m) % sectors_];
            const MatrixXc product = n * (opposite.leftCols(border).transpose() * answers[m]);
            schur -= product.leftCols(border);
            rhs -= product.rightCols(ports);
        }
        const MatrixXc outside = solveRegular(schur, rhs);
        return collect(answers, excited, outside, localWeights.rows());
    }

    Eigen::Index unknowns() const { return static_cast<Eigen::Index>(sectors_) * p_ + r_ + 1; }

  private:
    /// Inner functions of every span, one for every node but the hub where two or more of these meet, and a
    /// half function for every end at the hub.
    std::vector<PartFunction> functionsOf(const std::vector<std::size_t>& spans) const {
        std::vector<PartFunction> functions;
        std::map<int, std::vector<PartTerm>> outward;
        for (std::size_t place = 0; place < spans.size(); ++place) {
            const Span& span = mesh_.spans[spans[place]];
            if (span.kind == SpanKind::Inner)
                for (int order = 2; order <= span.order; ++order)
                    functions.push_back({{place, static_cast<std::size_t>(order), 1.0}, {}, false});
            // The half functions of its ends, positive out of the node; an open end has none.
            if (span.kind != SpanKind::OpenStart) outward[span.startNode].push_back({place, 0, 1.0});
            if (span.kind == SpanKind::Inner) outward[span.endNode].push_back({place, 1, -1.0});
            if (span.kind == SpanKind::OpenStart) outward[span.endNode].push_back({place, 0, -1.0});
        }
        for (const auto& [node, ends] : outward) {
            if (node == rotation_.hubNode) {
                for (const PartTerm& end : ends) functions.push_back({end, {}, true});
                continue;
            }
            for (std::size_t i = 1; i < ends.size(); ++i)
                functions.push_back({{ends[0].place, ends[0].offset, -ends[0].sign}, ends[i], false});
        }
        return functions;
    }

    /// The interactions of all functions of two lists of spans.
    MatrixXc interactions(const std::vector<std::size_t>& spansA, const std::vector<PartFunction>& functionsA,
                          const std::vector<std::size_t>& spansB,
                          const std::vector<PartFunction>& functionsB) const {
        return interactions(spansA, functionsA, spansB, functionsB, false);
    }

    /// Of equal lists whose matrix is symmetric: half of the blocks is enough.
    MatrixXc symmetric(const std::vector<std::size_t>& spansA, const std::vector<std::size_t>& spansB,
                       const std::vector<PartFunction>& functions) const {
        return interactions(spansA, functions, spansB, functions, true);
    }

    MatrixXc interactions(const std::vector<std::size_t>& spansA, const std::vector<PartFunction>& functionsA,
                          const std::vector<std::size_t>& spansB, const std::vector<PartFunction>& functionsB,
                          bool half) const {
        std::vector<Block> blocks(spansA.size() * spansB.size());
        for (std::size_t a = 0; a < spansA.size(); ++a) {
            endWhere(stop_);
            for (std::size_t b = half ? a : 0; b < spansB.size(); ++b)
                blocks_.fill(spansA[a], spansB[b], blocks[a * spansB.size() + b]);
        }
        const auto value = [&](const PartTerm& a, const PartTerm& b) -> Complex {
            if (a.sign == 0.0 || b.sign == 0.0) return 0.0;
            const bool swapped = half && a.place > b.place;
            const PartTerm& row = swapped ? b : a;
            const PartTerm& column = swapped ? a : b;
            const Block& block = blocks[row.place * spansB.size() + column.place];
            return a.sign * b.sign *
                   Complex(-block.im[row.offset][column.offset],
                           block.re[row.offset][column.offset]);  // times j
        };
        MatrixXc matrix(static_cast<Eigen::Index>(functionsA.size()),
                        static_cast<Eigen::Index>(functionsB.size()));
        for (Eigen::Index i = 0; i < matrix.rows(); ++i)
            for (Eigen::Index j = half ? i : 0; j < matrix.cols(); ++j) {
                const PartFunction& f = functionsA[static_cast<std::size_t>(i)];
                const PartFunction& g = functionsB[static_cast<std::size_t>(j)];
                matrix(i, j) = value(f.first, g.first) + value(f.first, g.second) + value(f.second, g.first) +
                               value(f.second, g.second);
                if (half) matrix(j, i) = matrix(i, j);
            }
        return matrix;
    }

    MatrixXc restMatrix() const {
        return symmetric(rotation_.restSpans, rotation_.restSpans, restFunctions_);
    }

    /// One sector and the rest, against all that they are filled in against.
    void prepareTables() const {
        std::vector<std::size_t> from = rotation_.sectorSpans.front();
        from.insert(from.end(), rotation_.restSpans.begin(), rotation_.restSpans.end());
        std::vector<std::size_t> to = rotation_.restSpans;
        for (std::size_t d = 0; d <= sectors_ / 2; ++d)
            to.insert(to.end(), rotation_.sectorSpans[d].begin(), rotation_.sectorSpans[d].end());
        blocks_.prepare(from, to);
    }

    /// Solves every mode that something excites. The matrix of mode m is the sum over d of A_d exp(2 pi j m
    /// d/n), A_d the interactions of the first sector with sector d. By reciprocity A_{n-d} is A_d
    /// transposed, and so is mode n-m of mode m. Where the sectors are flat the plane between two of them is
    /// one of mirror symmetry, and A_d is its own transpose.
    std::vector<MatrixXc> answersTo(const std::vector<MatrixXc>& spectrum,
                                    const std::vector<std::size_t>& excited) const {
        const std::size_t half = sectors_ / 2;
        std::vector<MatrixXc> apart(sectors_);
        parallelFor(std::size_t{0}, half + 1, [&](std::size_t d) {
            const auto& first = rotation_.sectorSpans.front();
            const auto& other = rotation_.sectorSpans[d];
            apart[d] = d == 0 || rotation_.flatSectors
                           ? symmetric(first, other, sectorFunctions_)
                           : interactions(first, sectorFunctions_, other, sectorFunctions_);
        });
        for (std::size_t d = half + 1; d < sectors_; ++d) apart[d] = apart[sectors_ - d].transpose();
        std::vector<MatrixXc> answers = spectrum;
        parallelFor(std::size_t{0}, half + 1, [&](std::size_t m) {
            endWhere(stop_);
            const std::size_t opposite = (sectors_ - m) % sectors_;
            const auto is = [&](std::size_t mode) {
                return std::binary_search(excited.begin(), excited.end(), mode);
            };
            if (!is(m) && !is(opposite)) return;
            MatrixXc mode = MatrixXc::Zero(p_, p_);
            for (std::size_t d = 0; d < sectors_; ++d) mode += turn(m * d) * apart[d];
            answers[m] = solveRegular(mode, spectrum[m]);
            if (opposite != m) answers[opposite] = solveRegular(mode.transpose(), spectrum[opposite]);
        });
        return answers;
    }

    /// exp(2 pi j steps/n)
    Complex turn(std::size_t steps) const {
        return std::polar(1.0,
                          2.0 * kPi * static_cast<double>(steps % sectors_) / static_cast<double>(sectors_));
    }

    Eigen::RowVectorXcd weightsOf(const PartFunction& function, const std::vector<std::size_t>& spans,
                                  const MatrixXc& localWeights) const {
        Eigen::RowVectorXcd sum = Eigen::RowVectorXcd::Zero(localWeights.cols());
        for (const PartTerm& term : {function.first, function.second})
            if (term.sign != 0.0)
                sum += term.sign * localWeights.row(static_cast<Eigen::Index>(
                                       mesh_.spans[spans[term.place]].firstLocal + term.offset));
        return sum;
    }

    /// The rest acts on every sector alike where all of it is on the axis.
    bool restOnAxis() const {
        const Span& some = mesh_.spans[rotation_.sectorSpans.front().front()];
        const Vec3 hub = some.startNode == rotation_.hubNode ? some.startM() : some.endM();
        return std::all_of(rotation_.restSpans.begin(), rotation_.restSpans.end(), [&](std::size_t i) {
            const Span& span = mesh_.spans[i];
            const Vec3 aside = span.centreM - hub;
            return std::hypot(aside.x(), aside.y()) < kEqual &&
                   std::hypot(span.direction.x(), span.direction.y()) < kEqual;
        });
    }

    void coupleRest(std::vector<MatrixXc>& sides, const MatrixXc& localWeights) const {
        const auto couple = [&](std::size_t sector) {
            return interactions(rotation_.sectorSpans[sector], sectorFunctions_, rotation_.restSpans,
                                restFunctions_);
        };
        const bool onAxis = hubIsOfSectors() && restOnAxis();
        const MatrixXc same = onAxis ? couple(0) : MatrixXc();
        parallelFor(std::size_t{0}, sectors_, [&](std::size_t i) {
            sides[i].setZero(p_, r_ + 1 + localWeights.cols());
            sides[i].leftCols(r_) = onAxis ? same : couple(i);
            for (Eigen::Index f = 0; f < p_; ++f) {
                const auto& function = sectorFunctions_[static_cast<std::size_t>(f)];
                if (function.atHub) sides[i](f, r_) = 1.0;
                sides[i].row(f).tail(localWeights.cols()) =
                    weightsOf(function, rotation_.sectorSpans[i], localWeights);
            }
        });
    }

    bool hubIsOfSectors() const {
        const Span& first = mesh_.spans[rotation_.sectorSpans.front().front()];
        return first.startNode == rotation_.hubNode || first.endNode == rotation_.hubNode;
    }

    /// (1/n) sum over sectors of b_i exp(-2 pi j m i/n)
    std::vector<MatrixXc> transformed(const std::vector<MatrixXc>& sides) const {
        std::vector<MatrixXc> spectrum(sectors_);
        const double share = 1.0 / static_cast<double>(sectors_);
        bool alike = true;
        for (const MatrixXc& side : sides) alike = alike && side == sides.front();
        parallelFor(std::size_t{0}, sectors_, [&](std::size_t m) {
            spectrum[m].setZero(sides.front().rows(), sides.front().cols());
            if (alike) {
                if (m == 0) spectrum[m] = sides.front();
                return;
            }
            for (std::size_t i = 0; i < sectors_; ++i)
                spectrum[m] += (share * std::conj(turn(m * i))) * sides[i];
        });
        return spectrum;
    }

    /// Currents of all local functions: of every sector x_i = sum over modes of (x^_b - x^_K w) exp(2 pi j m
    /// i/n).
    MatrixXc collect(const std::vector<MatrixXc>& answers, const std::vector<std::size_t>& excited,
                     const MatrixXc& outside, Eigen::Index locals) const {
        const Eigen::Index ports = outside.cols();
        MatrixXc local = MatrixXc::Zero(locals, ports);
        const auto add = [&](const PartFunction& function, const std::vector<std::size_t>& spans,
                             const Eigen::RowVectorXcd& current) {
            for (const PartTerm& term : {function.first, function.second})
                if (term.sign != 0.0)
                    local.row(static_cast<Eigen::Index>(mesh_.spans[spans[term.place]].firstLocal +
                                                        term.offset)) += term.sign * current;
        };
        for (Eigen::Index f = 0; f < r_; ++f)
            add(restFunctions_[static_cast<std::size_t>(f)], rotation_.restSpans, outside.row(f));
        std::vector<MatrixXc> modes(sectors_);
        for (const std::size_t m : excited)
            modes[m] = answers[m].rightCols(ports) - answers[m].leftCols(r_ + 1) * outside;
        for (std::size_t i = 0; i < sectors_; ++i) {
            MatrixXc current = MatrixXc::Zero(p_, ports);
            for (const std::size_t m : excited) current += turn(m * i) * modes[m];
            for (Eigen::Index f = 0; f < p_; ++f)
                add(sectorFunctions_[static_cast<std::size_t>(f)], rotation_.sectorSpans[i], current.row(f));
        }
        return local;
    }

    const Mesh& mesh_;
    const Rotation& rotation_;
    SpanBlocks blocks_;
    std::stop_token stop_;
    std::size_t sectors_;
    std::vector<PartFunction> sectorFunctions_;
    std::vector<PartFunction> restFunctions_;
    Eigen::Index p_ = 0;  ///< functions of a sector
    Eigen::Index r_ = 0;  ///< functions of the rest
};

}  // namespace

std::optional<Rotation> findRotation(const Mesh& mesh) {
    return Finder(mesh).find();
}

PortSolution solveRotational(std::shared_ptr<const Mesh> mesh, const Rotation& rotation, double frequencyHz,
                             const std::stop_token& stop) {
    MatrixXc weights = MatrixXc::Zero(static_cast<Eigen::Index>(mesh->localCount),
                                      static_cast<Eigen::Index>(mesh->ports.size()));
    for (std::size_t p = 0; p < mesh->ports.size(); ++p)
        for (const LocalTerm& term : portWeights(*mesh, p))
            weights(static_cast<Eigen::Index>(term.local), static_cast<Eigen::Index>(p)) += term.sign;
    PortSolution solution;
    solution.frequencyHz = frequencyHz;
    RotationalSolver solver(*mesh, rotation, frequencyHz, stop);
    solution.localCurrents = solver.solve(weights);
    solution.admittance = weights.transpose() * solution.localCurrents;
    solution.unknowns = mesh->functions.size();
    solution.mesh = std::move(mesh);
    return solution;
}

}  // namespace rm::em
