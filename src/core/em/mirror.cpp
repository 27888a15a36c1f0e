#include "core/em/mirror.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>

#include "core/em/parallel.h"
#include "core/em/span_basis.h"
#include "core/stopped.h"

namespace rm::em {

namespace {

/// Places that differ by less than this share of the size of the antenna, and directions by less than this,
/// are equal.
constexpr double kSamePlace = 1e-9;

class MirrorFinder {
  public:
    explicit MirrorFinder(const Mesh& mesh) : mesh_(mesh), imageOfLocal_(mesh.localCount) {
        locate();
        for (std::size_t i = 0; i < mesh.spans.size(); ++i) byPlace_.emplace(mark(mesh.spans[i].centreM), i);
    }

    std::optional<Mirror> find() {
        for (const Vec3& normal : normals()) {
            auto mirror = across(normal);
            // What lies in the plane is its own image and takes nothing apart.
            if (mirror && mirror->pairs > 0) return mirror;
        }
        return std::nullopt;
    }

  private:
    void locate() {
        double length = 0.0;
        for (const Span& span : mesh_.spans) {
            length += span.lengthM;
            middle_ += span.lengthM * span.centreM;
        }
        middle_ /= length;
        for (const Span& span : mesh_.spans) {
            const Vec3 from = span.centreM - middle_;
            size_ = std::max(size_, from.norm() + span.halfM());
            inertia_ += span.lengthM * from.head<2>() * from.head<2>().transpose();
        }
        grain_ = std::max(kSamePlace * size_, 1e-12);
    }

    /// Places one behind the other along a direction in which no antenna is drawn: those with equal marks are
    /// few, and the same place has the same mark, or one beside it.
    long long mark(const Vec3& place) const {
        static const Vec3 along = Vec3(0.5710, 0.6137, 0.5453).normalized();
        return std::llround(along.dot(place) / grain_);
    }

    std::array<Vec3, 4> normals() const {
        // The axes of a plan that is as long as wide are any.
        const double turn = 0.5 * std::atan2(2.0 * inertia_(0, 1), inertia_(0, 0) - inertia_(1, 1));
        return {Vec3::UnitY(), Vec3::UnitX(), Vec3(std::cos(turn), std::sin(turn), 0.0),
                Vec3(-std::sin(turn), std::cos(turn), 0.0)};
    }

    bool alike(const Span& a, const Span& b) const {
        const WireMaterial& one = mesh_.wireMaterial[a.wire];
        const WireMaterial& other = mesh_.wireMaterial[b.wire];
        return std::abs(a.lengthM - b.lengthM) < grain_ && std::abs(a.radiusM - b.radiusM) < grain_ &&
               a.order == b.order && a.inSoil == b.inSoil && one.conductivitySm == other.conductivitySm &&
               one.conductorRadiusM == other.conductorRadiusM && one.inductancePerM == other.inductancePerM &&
               one.elastanceM == other.elastanceM;
    }

    /// The span that a mirror image lies on, with 1 where it runs the same way and -1 where it runs back.
    std::optional<std::pair<std::size_t, double>> spanAt(const Vec3& centre, const Vec3& direction,
                                                         const Span& of) const {
        const long long place = mark(centre);
        for (auto at = byPlace_.lower_bound(place - 3); at != byPlace_.end() && at->first <= place + 3;
             ++at) {
            const Span& span = mesh_.spans[at->second];
            if ((span.centreM - centre).cwiseAbs().maxCoeff() > grain_ || !alike(of, span)) continue;
            const double along = span.direction.dot(direction);
            if ((span.direction - (along > 0.0 ? 1.0 : -1.0) * direction).norm() > kSamePlace) continue;
            const bool back = along < 0.0;
            const bool open = of.kind != SpanKind::Inner;
            if (open ? (of.kind == span.kind) == back || span.kind == SpanKind::Inner
                     : span.kind != SpanKind::Inner)
                continue;
            return std::pair(at->second, back ? -1.0 : 1.0);
        }
        return std::nullopt;
    }

    std::optional<Mirror> across(const Vec3& normal) {
        for (const Span& span : mesh_.spans) {
            const Vec3 centre = span.centreM - 2.0 * normal.dot(span.centreM - middle_) * normal;
            const Vec3 direction = span.direction - 2.0 * normal.dot(span.direction) * normal;
            const auto image = spanAt(centre, direction, span);
            if (!image) return std::nullopt;
            mapFunctions(span, mesh_.spans[image->first], image->second);
        }
        return mapped();
    }

    /// Run through backwards, the functions of the two ends change places and even ones change their sign.
    void mapFunctions(const Span& span, const Span& image, double way) {
        const auto count = static_cast<std::size_t>(basisOf(span).count);
        for (std::size_t f = 0; f < count; ++f) {
            const bool end = span.kind != SpanKind::Inner || f < 2;
            const std::size_t same = way < 0.0 && span.kind == SpanKind::Inner && f < 2 ? 1 - f : f;
            imageOfLocal_[span.firstLocal + f] = {image.firstLocal + same, end || f % 2 == 0 ? way : 1.0};
        }
    }

    /// Functions to functions: where several wires meet, a function between the first two ends becomes one
    /// that need not be there.
    std::optional<Mirror> mapped() const {
        using Ends = std::pair<std::size_t, std::size_t>;
        struct Known {
            std::size_t function;
            double first;
            double second;
        };
        const auto sorted = [](LocalTerm a, LocalTerm b) {
            if (b.sign != 0.0 && b.local < a.local) std::swap(a, b);
            return std::pair(a, b);
        };
        const auto endsOf = [](const std::pair<LocalTerm, LocalTerm>& terms) {
            return Ends{terms.first.local, terms.second.sign == 0.0 ? kNoSecond : terms.second.local};
        };
        std::map<Ends, Known> known;
        const auto& functions = mesh_.functions;
        for (std::size_t i = 0; i < functions.size(); ++i) {
            const auto terms = sorted(functions[i].first, functions[i].second);
            known[endsOf(terms)] = {i, terms.first.sign, terms.second.sign};
        }
        Mirror mirror;
        for (std::size_t i = 0; i < functions.size(); ++i) {
            const auto imageOf = [&](LocalTerm term) {
                if (term.sign != 0.0) {
                    const LocalTerm& image = imageOfLocal_[term.local];
                    term = {image.local, term.sign * image.sign};
                }
                return term;
            };
            const auto terms = sorted(imageOf(functions[i].first), imageOf(functions[i].second));
            const auto place = known.find(endsOf(terms));
            if (place == known.end()) return std::nullopt;
            const double sign = terms.first.sign * place->second.first;
            if (terms.second.sign != sign * place->second.second) return std::nullopt;
            mirror.image.push_back(place->second.function);
            mirror.sign.push_back(sign);
            if (place->second.function != i) ++mirror.pairs;
        }
        mirror.pairs /= 2;
        return mirror;
    }

    static constexpr std::size_t kNoSecond = static_cast<std::size_t>(-1);

    const Mesh& mesh_;
    Vec3 middle_ = Vec3::Zero();
    Eigen::Matrix2d inertia_ = Eigen::Matrix2d::Zero();
    double size_ = 0.0;
    double grain_ = 0.0;
    std::multimap<long long, std::size_t> byPlace_;  ///< spans by their marks
    std::vector<LocalTerm> imageOfLocal_;
};

/// One of the two halves: functions for themselves, each of them with its image where it has another.
struct Half {
    double parity = 1.0;
    std::vector<std::size_t> functions;
    MatrixXc matrix;
    MatrixXc rhs;
};

}  // namespace

std::optional<Mirror> findMirror(const Mesh& mesh) {
    if (mesh.spans.empty()) return std::nullopt;
    return MirrorFinder(mesh).find();
}

MatrixXc solveMirrored(const Mesh& mesh, const Mirror& mirror, const MatrixXc& local, const MatrixXc& rhs,
                       const std::stop_token& stop) {
    const std::size_t n = mesh.functions.size();
    // Of every pair one, and what is its own image in the half that it belongs to.
    std::array<Half, 2> halves;
    for (std::size_t h = 0; h < 2; ++h) {
        halves[h].parity = h == 0 ? 1.0 : -1.0;
        for (std::size_t i = 0; i < n; ++i)
            if (i < mirror.image[i] || (i == mirror.image[i] && mirror.sign[i] == halves[h].parity))
                halves[h].functions.push_back(i);
    }
    const auto norm = [&](std::size_t i) { return mirror.image[i] == i ? std::sqrt(0.5) : 1.0; };
    // A row of half functions against all of one half: Z_ij + parity s_j Z_ij', with images at i' and j'.
    for (Half& half : halves) {
        const auto size = static_cast<Eigen::Index>(half.functions.size());
        half.matrix.resize(size, size);
        half.rhs.resize(size, rhs.cols());
        parallelFor(Eigen::Index{0}, size, [&](Eigen::Index c) {
            endWhere(stop);
            const std::size_t j = half.functions[static_cast<std::size_t>(c)];
            const double share = half.parity * mirror.sign[j];
            for (Eigen::Index r = c; r < size; ++r) {
                const std::size_t i = half.functions[static_cast<std::size_t>(r)];
                const Complex sum =
                    norm(i) * norm(j) *
                    (joinedMoment(mesh, local, i, j) + share * joinedMoment(mesh, local, i, mirror.image[j]));
                half.matrix(r, c) = sum;
                half.matrix(c, r) = sum;
            }
            const auto row = [&](std::size_t of) { return rhs.row(static_cast<Eigen::Index>(of)); };
            half.rhs.row(c) = std::sqrt(0.5) * norm(j) * (row(j) + share * row(mirror.image[j]));
        });
    }
    const auto solve = [&](Half& half) { solveLinear(half.matrix, half.rhs, stop); };
    parallelBoth([&] { solve(halves[0]); }, [&] { solve(halves[1]); });
    MatrixXc solution = MatrixXc::Zero(rhs.rows(), rhs.cols());
    for (const Half& half : halves)
        for (std::size_t c = 0; c < half.functions.size(); ++c) {
            const std::size_t j = half.functions[c];
            const Eigen::RowVectorXcd part =
                std::sqrt(0.5) * norm(j) * half.rhs.row(static_cast<Eigen::Index>(c));
            solution.row(static_cast<Eigen::Index>(j)) += part;
            solution.row(static_cast<Eigen::Index>(mirror.image[j])) += half.parity * mirror.sign[j] * part;
        }
    return solution;
}

}  // namespace rm::em
