#include "core/em/near_field.h"

#include <algorithm>
#include <cmath>

#include "core/em/ground/kernel_jet.h"
#include "core/em/kernel_arrays.h"
#include "core/em/parallel.h"
#include "core/em/quadrature.h"
#include "core/em/span_basis.h"
#include "core/model/geometry.h"
#include "core/stopped.h"

namespace rm::em {

namespace {

/// Farther than this many half lengths of a span the shortest rule serves, farther than that the middle one.
constexpr double kFar = 6.0;
constexpr double kMiddle = 2.5;
/// Points of the rules for far ones: this many, and so many more for a radian over half of the span. The
/// kernel is as good as a polynomial there, so that of the current only the orders below the number of points
/// count; they are integrated exactly. What is left out goes like (2 d)^-n at d half lengths.
constexpr double kFarPoints = 3.4;
constexpr double kMiddlePoints = 6.4;
constexpr double kPointsPerRadian = 2.8;
/// Of the rule for near ones above half of the degree of the current: a kernel that is singular d half
/// lengths away leaves an error of (d + sqrt(1 + d^2))^-2n.
constexpr int kNearPoints = 8;
/// Parts of a span are halved until they are no longer than this much of the distance, which counts as at
/// least half of the radius.
constexpr double kPartPerDistance = 1.0;
/// Of the tables of the ground: fields are their derivatives and want finer ones than the engine.
constexpr double kTableTolerance = 1e-5;
/// Heights above the surface count as at least this, where source and observer meet, m.
constexpr double kClosestM = 1e-5;
/// Points of a piece of a plane that is interpolated, per side, and how few are not worth it.
constexpr int kSide = 8;
constexpr std::size_t kFewPoints = 120;
/// How far a piece has to be from all wires and images, in halves of its diagonal, and how long it may be in
/// radians of phase from its centre.
constexpr double kClear = 0.6;
constexpr double kPhase = 2.4;

Eigen::Vector3cd vectorOf(const double* sums) {
    return {Complex(sums[0], sums[1]), Complex(sums[2], sums[3]), Complex(sums[4], sums[5])};
}

}  // namespace

/// Points of current for one observer, one array per quantity.
struct NearField::Nodes {
    static constexpr int kColumns = 11;
    std::array<std::vector<double>, kColumns> column;

    std::size_t count() const { return column[0].size(); }
    void clear() {
        for (auto& c : column) c.clear();
    }
    void add(const Span& span, const std::array<Complex, kLanes>& current,
             const std::array<Complex, kLanes>& charge, double t, double weight, double more2) {
        double row[kLanes];
        legendreRow(t, row);
        Complex i = 0.0;
        Complex q = 0.0;
        for (std::size_t n = 0; n < kLanes; ++n) {
            i += current[n] * row[n];
            q += charge[n] * row[n];
        }
        i *= weight * span.halfM();
        q *= weight;
        const Vec3 place = span.centreM + t * span.halfM() * span.direction;
        const double values[kColumns] = {
            place.x(),          place.y(),          place.z(), span.direction.x(),
            span.direction.y(), span.direction.z(), i.real(),  i.imag(),
            q.real(),           q.imag(),           more2};
        for (std::size_t c = 0; c < kColumns; ++c) column[c].push_back(values[c]);
    }
    void append(const Nodes& other) {
        for (std::size_t c = 0; c < kColumns; ++c)
            column[c].insert(column[c].end(), other.column[c].begin(), other.column[c].end());
    }
    CurrentNodes arrays() const {
        const auto& c = column;
        return {static_cast<int>(count()),
                c[0].data(),
                c[1].data(),
                c[2].data(),
                c[3].data(),
                c[4].data(),
                c[5].data(),
                c[6].data(),
                c[7].data(),
                c[8].data(),
                c[9].data(),
                c[10].data()};
    }
};

/// What a thread works with, one point after the other.
struct NearField::Scratch {
    Nodes nodes;
    AcrossTable::Lines lines;
};

/// The nodes of a span for points at two distances.
struct NearField::Rule {
    Nodes far;
    Nodes middle;
};

NearField::~NearField() = default;

NearField::NearField(std::shared_ptr<const Mesh> mesh, const Eigen::VectorXcd& local, double frequencyHz)
    : mesh_(std::move(mesh)), frequencyHz_(frequencyHz), k_(wavenumber(frequencyHz)) {
    if (mesh_->ground.kind == model::GroundKind::Real)
        tables_ = groundTables(mesh_->ground, frequencyHz, kTableTolerance);
    for (const Span& span : mesh_->spans) {
        (span.inSoil ? anyInSoil_ : anyInAir_) = true;
        std::array<Complex, kLanes> current{};
        std::array<Complex, kLanes> charge{};
        const SpanBasis& basis = basisOf(span);
        for (std::size_t n = 0; n < kLanes; ++n) {
            current[n] = legendreSeries(span, local, n);
            for (std::size_t f = 0; f < static_cast<std::size_t>(basis.count); ++f)
                charge[n] += basis.charge[f][n] * local(static_cast<Eigen::Index>(span.firstLocal + f));
        }
        Rule rule;
        const double k =
            span.inSoil && tables_ ? std::abs(tables_->halfSpace().kGround()) : wavenumber(frequencyHz);
        for (auto [nodes, least] : {std::pair{&rule.far, kFarPoints}, {&rule.middle, kMiddlePoints}}) {
            const auto points = static_cast<std::size_t>(
                std::ceil(std::min(least + kPointsPerRadian * k * span.halfM(), kMaxGauss - 1.0)));
            auto low = current;
            auto lowCharge = charge;
            for (std::size_t n = points; n < kLanes; ++n) low[n] = lowCharge[n] = 0.0;
            const GaussRule& gauss = gaussRule(static_cast<int>(points));
            for (std::size_t g = 0; g < points; ++g)
                nodes->add(span, low, lowCharge, gauss.node[g], gauss.weight[g], 0.0);
        }
        current_.push_back(current);
        charge_.push_back(charge);
        rules_.push_back(std::move(rule));
    }
}

void NearField::gatherPart(std::size_t index, const Vec3& point, double from, double to, Nodes& nodes) const {
    const Span& span = mesh_->spans[index];
    const Vec3 start = span.centreM + from * span.halfM() * span.direction;
    const Vec3 end = span.centreM + to * span.halfM() * span.direction;
    const double half = 0.5 * (to - from) * span.halfM();
    const double distance = std::max(model::pointToSegment(point, start, end), 0.5 * span.radiusM);
    if (half > kPartPerDistance * distance) {
        const double middle = 0.5 * (from + to);
        gatherPart(index, point, from, middle, nodes);
        gatherPart(index, point, middle, to, nodes);
        return;
    }
    // Inside of the wire its field falls off towards the axis.
    const Vec3 away = point - span.centreM;
    const double off2 = std::max(away.squaredNorm() - std::pow(away.dot(span.direction), 2), 0.0);
    const double more2 = std::max(span.radiusM * span.radiusM - off2, 0.0);
    const GaussRule& gauss = gaussRule(span.order / 2 + 1 + kNearPoints);
    for (std::size_t g = 0; g < static_cast<std::size_t>(gauss.size); ++g)
        nodes.add(span, current_[index], charge_[index],
                  0.5 * (from + to) + 0.5 * (to - from) * gauss.node[g], 0.5 * (to - from) * gauss.weight[g],
                  more2);
}

void NearField::gather(const Vec3& point, bool fromSoil, Nodes& nodes) const {
    nodes.clear();
    for (std::size_t s = 0; s < mesh_->spans.size(); ++s) {
        const Span& span = mesh_->spans[s];
        if (span.inSoil != fromSoil) continue;
        const double half = span.halfM();
        // The distance from the middle is enough where it is large.
        const double fromCentre = (point - span.centreM).norm() - half;
        const double distance =
            fromCentre > kFar * half ? fromCentre : model::pointToSegment(point, span.startM(), span.endM());
        if (distance > kFar * half)
            nodes.append(rules_[s].far);
        else if (distance > kMiddle * half)
            nodes.append(rules_[s].middle);
        else
            gatherPart(s, point, -1.0, 1.0, nodes);
    }
}

void NearField::addDirect(const Nodes& nodes, const Vec3& point, bool inSoil, PointField& field) const {
    const Complex eps = inSoil ? tables_->halfSpace().permittivity() : Complex(1.0);
    const Wavenumber k = inSoil ? Wavenumber(tables_->halfSpace().kGround()) : Wavenumber(k_);
    FieldSums sums;
    fieldSums(nodes.arrays(), point.x(), point.y(), point.z(), k, sums);
    const double w = k_ * kSpeedOfLight;
    field.electricVm += Complex(0.0, -w * kMu0 / (4.0 * kPi)) * vectorOf(sums.vector) +
                        1.0 / (Complex(0.0, 4.0 * kPi * w * kEps0) * eps) * vectorOf(sums.gradient);
    field.magneticAm += vectorOf(sums.curl) / (4.0 * kPi);
}

void NearField::addGround(Scratch& scratch, const Vec3& point, bool fromSoil, PointField& field) const {
    using Jet = KernelSlopes;
    using Kernel = GroundKernel;
    const bool inSoil = point.z() < 0.0;
    const double s = inSoil ? -1.0 : 1.0;
    const double t = fromSoil ? -1.0 : 1.0;
    Eigen::Vector3cd potential = Eigen::Vector3cd::Zero();
    Eigen::Vector3cd gradient = Eigen::Vector3cd::Zero();
    Eigen::Vector3cd curl = Eigen::Vector3cd::Zero();
    const CurrentNodes n = scratch.nodes.arrays();
    for (std::size_t i = 0; i < scratch.nodes.count(); ++i) {
        const double dx = point.x() - n.x[i];
        const double dy = point.y() - n.y[i];
        const double rho = std::sqrt(dx * dx + dy * dy);
        double a = std::abs(point.z());
        const double b = std::abs(n.z[i]);
        if (rho < kClosestM && a + b < kClosestM) a = kClosestM - b;
        const KernelJet jet = inSoil != fromSoil
                                  ? KernelJet::across(*tables_->across, rho, a, b, !fromSoil, scratch.lines)
                                  : KernelJet::together(fromSoil ? *tables_->soil : *tables_->air, rho, a, b);
        const KernelSlopes kernel(jet, k_, rho, a + b);
        const double cosine = rho > 0.0 ? dx / rho : 1.0;
        const double sine = rho > 0.0 ? dy / rho : 0.0;
        const double ux = n.ux[i];
        const double uy = n.uy[i];
        const double uz = n.uz[i];
        const double along = ux * cosine + uy * sine;  // level part of the current away from the source
        const double cross = uy * cosine - ux * sine;
        const Complex current(n.currentRe[i], n.currentIm[i]);
        const Complex charge(n.chargeRe[i], n.chargeIm[i]);

        const Complex level = kernel.value(Kernel::Horizontal);
        const Complex wRho = kernel.first(Jet::Rho, Kernel::Mixed) / k_;
        const Complex upright =
            kernel.value(Kernel::Vertical) -
            (s * kernel.first(Jet::A, Kernel::Mixed) + t * kernel.first(Jet::B, Kernel::Mixed)) / k_;
        potential += current * Eigen::Vector3cd(level * ux - wRho * cosine * uz,
                                                level * uy - wRho * sine * uz, upright * uz + wRho * along);
        const Complex kRho = kernel.first(Jet::Rho, Kernel::Scalar);
        gradient +=
            charge * Eigen::Vector3cd(kRho * cosine, kRho * sine, s * kernel.first(Jet::A, Kernel::Scalar));

        // curl F. Of W_rho: by x and y, its part along rho and that across it.
        const Complex wBend = kernel.second(Jet::RhoRho, Jet::Rho, Jet::Rho, Kernel::Mixed) / k_;
        const Complex wTurn = rho > 0.0 ? wRho / rho : wBend;
        const Complex byX = wBend * along * cosine - wTurn * cross * sine;
        const Complex byY = wBend * along * sine + wTurn * cross * cosine;
        const Complex levelA = s * kernel.first(Jet::A, Kernel::Horizontal);
        const Complex levelRho = kernel.first(Jet::Rho, Kernel::Horizontal);
        const Complex round = uz * (kernel.first(Jet::Rho, Kernel::Vertical) -
                                    t * kernel.second(Jet::RhoB, Jet::Rho, Jet::B, Kernel::Mixed) / k_);
        curl += current * Eigen::Vector3cd(byY - levelA * uy + round * sine,
                                           -byX + levelA * ux - round * cosine, levelRho * cross);
    }
    const double w = k_ * kSpeedOfLight;
    field.electricVm += Complex(0.0, -w * kMu0 / (4.0 * kPi)) * potential +
                        1.0 / Complex(0.0, 4.0 * kPi * w * kEps0) * gradient;
    field.magneticAm += curl / (4.0 * kPi);
}

void NearField::addShare(Share share, const Vec3& point, Scratch& scratch, PointField& field) const {
    Nodes& nodes = scratch.nodes;
    const model::GroundKind ground = mesh_->ground.kind;
    const bool below = point.z() < 0.0 && ground != model::GroundKind::FreeSpace;
    if (below && ground == model::GroundKind::Perfect) return;
    const Vec3 mirrored(point.x(), point.y(), -point.z());
    for (const bool fromSoil : {false, true}) {
        if (!(fromSoil ? anyInSoil_ : anyInAir_)) continue;
        if (share == Share::Ground) {
            gather(below == fromSoil ? mirrored : point, fromSoil, nodes);
            addGround(scratch, point, fromSoil, field);
            continue;
        }
        if (below != fromSoil) continue;
        gather(point, fromSoil, nodes);
        addDirect(nodes, point, fromSoil, field);
        if (ground != model::GroundKind::Perfect) continue;
        // The field of the image currents is the mirror image of the field at the mirrored point, reversed.
        PointField image;
        gather(mirrored, false, nodes);
        addDirect(nodes, mirrored, false, image);
        field.electricVm +=
            Eigen::Vector3cd(-image.electricVm.x(), -image.electricVm.y(), image.electricVm.z());
        field.magneticAm +=
            Eigen::Vector3cd(image.magneticAm.x(), image.magneticAm.y(), -image.magneticAm.z());
    }
}

PointField NearField::at(const Vec3& pointM) const {
    Scratch scratch;
    PointField field;
    for (const Share share : shares()) addShare(share, pointM, scratch, field);
    return field;
}

std::vector<PointField> NearField::at(const std::vector<Vec3>& pointsM, const std::stop_token& stop) const {
    std::vector<PointField> fields(pointsM.size());
    parallelRanges(pointsM.size(), 16, [&](const auto& range) {
        const StopScope scope(stop);
        Scratch scratch;
        for (std::size_t i = range.begin(); i != range.end(); ++i) {
            endWhere(stop);
            for (const Share share : shares()) addShare(share, pointsM[i], scratch, fields[i]);
        }
    });
    return fields;
}

double NearField::clearanceM(Share share, const Vec3& point) const {
    const Vec3 mirrored(point.x(), point.y(), -point.z());
    const bool perfect = mesh_->ground.kind == model::GroundKind::Perfect;
    const bool inSoil = mesh_->ground.kind == model::GroundKind::Real && point.z() < 0.0;
    double nearest = 1e99;
    const auto near = [&](const Vec3& p, const Span& span) {
        nearest = std::min(nearest, model::pointToSegment(p, span.startM(), span.endM()));
    };
    for (const Span& span : mesh_->spans) {
        const bool own = span.inSoil == inSoil;
        if (share == Share::Ground) near(own ? mirrored : point, span);
        if (share == Share::Direct && own) near(point, span);
        if (share == Share::Direct && perfect) near(mirrored, span);
    }
    return nearest;
}

std::vector<NearField::Share> NearField::shares() const {
    if (mesh_->ground.kind == model::GroundKind::Real) return {Share::Direct, Share::Ground};
    return {Share::Direct};
}

/// A plane cut into pieces, each of which is interpolated or evaluated at every point.
struct NearField::Tiles {
    struct Tile {
        int firstColumn = 0;
        int firstRow = 0;
        int columns = 0;
        int rows = 0;
        bool smooth = false;

        std::size_t count() const {
            return static_cast<std::size_t>(columns) * static_cast<std::size_t>(rows);
        }
    };

    const NearField& field;
    const PointPlane& plane;
    Share share;
    std::vector<Tile> tiles;

    void cut(const Tile& tile) {
        const double lastColumn = tile.firstColumn + tile.columns - 1;
        const double lastRow = tile.firstRow + tile.rows - 1;
        const Vec3 low = plane.at(tile.firstColumn, tile.firstRow);
        const Vec3 high = plane.at(lastColumn, lastRow);
        const double half =
            0.5 *
            std::max((high - low).norm(),
                     (plane.at(lastColumn, tile.firstRow) - plane.at(tile.firstColumn, lastRow)).norm());
        if (tile.count() <= kFewPoints) {
            tiles.push_back(tile);
            return;
        }
        const bool ground = field.mesh().ground.kind != model::GroundKind::FreeSpace;
        double lowest = 1e99;
        double highest = -1e99;
        for (const double column : {static_cast<double>(tile.firstColumn), lastColumn})
            for (const double row : {static_cast<double>(tile.firstRow), lastRow}) {
                const double z = plane.at(column, row).z();
                lowest = std::min(lowest, z);
                highest = std::max(highest, z);
            }
        const bool oneSide = !ground || lowest >= 0.0 || highest < 0.0;
        const double k = oneSide && ground && highest < 0.0 && field.tables_
                             ? std::abs(field.tables_->halfSpace().kGround())
                             : field.k_;
        const double clear = field.clearanceM(share, 0.5 * (low + high)) - half;
        if (oneSide && clear > kClear * half && k * half < kPhase) {
            Tile smooth = tile;
            smooth.smooth = true;
            tiles.push_back(smooth);
            return;
        }
        Tile first = tile;
        Tile second = tile;
        if (tile.columns * plane.rightM.norm() > tile.rows * plane.upM.norm()) {
            first.columns = tile.columns / 2;
            second.firstColumn += first.columns;
            second.columns -= first.columns;
        } else {
            first.rows = tile.rows / 2;
            second.firstRow += first.rows;
            second.rows -= first.rows;
        }
        cut(first);
        cut(second);
    }

    void fill(const Tile& tile, std::vector<PointField>& out, Scratch& scratch) const {
        const auto& place = [&](int column, int row) -> PointField& {
            return out[static_cast<std::size_t>(row) * static_cast<std::size_t>(plane.columns) +
                       static_cast<std::size_t>(column)];
        };
        if (!tile.smooth) {
            for (int row = tile.firstRow; row < tile.firstRow + tile.rows; ++row)
                for (int column = tile.firstColumn; column < tile.firstColumn + tile.columns; ++column)
                    field.addShare(share, plane.at(column, row), scratch, place(column, row));
            return;
        }
        const Interval columns{static_cast<double>(tile.firstColumn),
                               static_cast<double>(tile.firstColumn + tile.columns - 1)};
        const Interval rows{static_cast<double>(tile.firstRow),
                            static_cast<double>(tile.firstRow + tile.rows - 1)};
        static_assert(kSide == kSeriesTerms);
        using Six = Eigen::Matrix<Complex, 6, 1>;
        Six node[kSide][kSide];
        for (int i = 0; i < kSide; ++i)
            for (int j = 0; j < kSide; ++j) {
                PointField f;
                field.addShare(share, plane.at(chebyshevNode(columns, i), chebyshevNode(rows, j)), scratch,
                               f);
                node[j][i] << f.electricVm, f.magneticAm;
            }
        // Weights of the nodes at every column and row: the series that passes through them.
        const auto weights = [](const Interval& interval, int first, int count) {
            std::vector<std::array<double, kSide>> all(static_cast<std::size_t>(count));
            for (int n = 0; n < count; ++n) {
                double row[kSeriesTerms];
                chebyshevRow(interval.scaled(first + n), row);
                auto& weight = all[static_cast<std::size_t>(n)];
                weight.fill(0.0);
                for (std::size_t i = 0; i < kSide; ++i)
                    for (int term = 0; term < kSeriesTerms; ++term)
                        weight[i] += row[term] * chebyshevTransform().weight[term][i];
            }
            return all;
        };
        const auto inColumn = weights(columns, tile.firstColumn, tile.columns);
        const auto inRow = weights(rows, tile.firstRow, tile.rows);
        for (int r = 0; r < tile.rows; ++r) {
            Six along[kSide];
            for (std::size_t i = 0; i < kSide; ++i) {
                along[i].setZero();
                for (std::size_t j = 0; j < kSide; ++j)
                    along[i] += inRow[static_cast<std::size_t>(r)][j] * node[j][i];
            }
            for (int c = 0; c < tile.columns; ++c) {
                Six sum = Six::Zero();
                for (std::size_t i = 0; i < kSide; ++i)
                    sum += inColumn[static_cast<std::size_t>(c)][i] * along[i];
                PointField& at = place(tile.firstColumn + c, tile.firstRow + r);
                at.electricVm += sum.head<3>();
                at.magneticAm += sum.tail<3>();
            }
        }
    }
};

std::vector<PointField> NearField::on(const PointPlane& plane, const std::stop_token& stop) const {
    std::vector<PointField> fields(plane.count());
    if (fields.empty()) return fields;
    for (const Share share : shares()) {
        Tiles tiles{*this, plane, share, {}};
        tiles.cut({0, 0, plane.columns, plane.rows, false});
        parallelRanges(tiles.tiles.size(), 1, [&](const auto& range) {
            const StopScope scope(stop);
            Scratch scratch;
            for (std::size_t i = range.begin(); i != range.end(); ++i) {
                endWhere(stop);
                tiles.fill(tiles.tiles[i], fields, scratch);
            }
        });
    }
    return fields;
}

}  // namespace rm::em
