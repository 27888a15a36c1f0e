// The near field of a whole plane: what is far is interpolated, what is near is read at every point. The tree
// of J. Barnes and P. Hut (Nature 324, 1986) with the observers in place of the sources: they lie in a plane.
#include <algorithm>
#include <cmath>
#include <limits>

#include "core/em/ground/chebyshev.h"
#include "core/em/near_field.h"
#include "core/em/near_field_nodes.h"
#include "core/em/parallel.h"
#include "core/model/geometry.h"
#include "core/stopped.h"

namespace rm::em {

namespace {

/// Points of a grid that is interpolated, per side, and of how few points a piece is not cut any more.
constexpr int kSide = kSeriesTerms;
constexpr std::size_t kFewPoints = 120;
/// How far a piece has to be from wires and images, in halves of its diagonal, and how long it may be in
/// radians of phase from its centre.
constexpr double kClear = 0.6;
constexpr double kPhase = 2.4;

using Six = Eigen::Matrix<Complex, 6, 1>;
/// [row][column]
using Grid = std::array<std::array<Six, kSide>, kSide>;
using Weights = std::array<double, kSide>;

/// Of the nodes on an interval at `x`: the series that passes through them.
Weights weightsAt(const Interval& interval, double x) {
    // A single row of points: all nodes are where they are.
    if (interval.from == interval.to) return {1.0};
    double row[kSeriesTerms];
    chebyshevRow(interval.scaled(x), row);
    Weights weights{};
    for (std::size_t i = 0; i < kSide; ++i)
        for (int term = 0; term < kSeriesTerms; ++term)
            weights[i] += row[term] * chebyshevTransform().weight[term][i];
    return weights;
}

}  // namespace

class NearField::Pieces {
  public:
    Pieces(const NearField& field, const PointPlane& plane, Share share)
        : field_(field), plane_(plane), share_(share) {
        cut({0, 0, plane.columns, plane.rows}, field.every_);
    }

    /// Adds to `fields`, of which every point of the plane has one.
    void read(std::vector<PointField>& fields, const std::stop_token& stop) {
        inParallel(stop, [&](Piece& piece, Scratch& scratch) { lay(piece, scratch); });
        for (std::size_t i = 0; i < pieces_.size(); ++i) {
            Piece& piece = pieces_[i];
            if (piece.isLast || !piece.grid) continue;
            handOn(piece, pieces_[i + 1]);
            handOn(piece, pieces_[piece.second]);
            piece.grid.reset();
        }
        inParallel(stop, [&](Piece& piece, Scratch& scratch) {
            if (piece.isLast) fill(piece, fields, scratch);
        });
    }

  private:
    struct Area {
        int firstColumn = 0;
        int firstRow = 0;
        int columns = 0;
        int rows = 0;

        std::size_t count() const {
            return static_cast<std::size_t>(columns) * static_cast<std::size_t>(rows);
        }
        Interval inColumns() const {
            return {static_cast<double>(firstColumn), static_cast<double>(firstColumn + columns - 1)};
        }
        Interval inRows() const {
            return {static_cast<double>(firstRow), static_cast<double>(firstRow + rows - 1)};
        }
        std::pair<Area, Area> leftAndRight() const {
            const int left = columns / 2;
            return {{firstColumn, firstRow, left, rows},
                    {firstColumn + left, firstRow, columns - left, rows}};
        }
        std::pair<Area, Area> firstAndLastRows() const {
            const int first = rows / 2;
            return {{firstColumn, firstRow, columns, first},
                    {firstColumn, firstRow + first, columns, rows - first}};
        }
    };
    struct Piece {
        Area area;
        std::size_t second = 0;  ///< of the two that it is cut into; the first one is next to it
        bool isLast = false;     ///< not cut any further
        Spans far;
        Spans near;                  ///< of the last ones
        std::unique_ptr<Grid> grid;  ///< none where nothing is interpolated
    };

    /// Appends the piece and all that it is cut into; returns where it is.
    std::size_t cut(const Area& area, const Spans& spans) {
        const std::size_t own = pieces_.size();
        Piece& piece = pieces_.emplace_back();
        piece.area = area;
        Spans near;
        if (area.count() <= kFewPoints)
            near = spans;
        else
            tell(piece, spans, near);
        piece.isLast = near.empty() || area.count() <= kFewPoints;
        if (piece.isLast) {
            piece.near = std::move(near);
            return own;
        }
        const bool isWide = area.rows == 1 || (area.columns > 1 && area.columns * plane_.rightM.norm() >
                                                                       area.rows * plane_.upM.norm());
        const auto [first, second] = isWide ? area.leftAndRight() : area.firstAndLastRows();
        cut(first, near);
        const std::size_t later = cut(second, near);
        pieces_[own].second = later;
        return own;
    }

    /// Which of these are far from a piece, and which are near.
    void tell(Piece& piece, const Spans& spans, Spans& near) const {
        const Interval columns = piece.area.inColumns();
        const Interval rows = piece.area.inRows();
        const Vec3 corners[] = {plane_.at(columns.from, rows.from), plane_.at(columns.to, rows.to),
                                plane_.at(columns.to, rows.from), plane_.at(columns.from, rows.to)};
        const double half =
            0.5 * std::max((corners[1] - corners[0]).norm(), (corners[3] - corners[2]).norm());
        const auto [lowest, highest] =
            std::minmax({corners[0].z(), corners[1].z(), corners[2].z(), corners[3].z()});
        const bool ground = field_.mesh().ground.kind != model::GroundKind::FreeSpace;
        const bool isBelow = ground && highest < 0.0;
        const double k =
            isBelow && field_.tables_ ? std::abs(field_.tables_->halfSpace().kGround()) : field_.k_;
        if ((ground && lowest < 0.0 && !isBelow) || k * half >= kPhase) {
            near = spans;
            return;
        }
        const Vec3 middle = 0.5 * (corners[0] + corners[1]);
        for (const std::size_t s : spans) {
            const double distance = field_.clearanceM(share_, field_.mesh().spans[s], middle);
            if (distance == std::numeric_limits<double>::infinity()) continue;
            (distance > (1.0 + kClear) * half ? piece.far : near).push_back(s);
        }
    }

    template <typename Work>
    void inParallel(const std::stop_token& stop, const Work& work) {
        parallelRanges(pieces_.size(), 1, [&](const auto& range) {
            const StopScope scope(stop);
            Scratch scratch;
            for (std::size_t i = range.begin(); i != range.end(); ++i) {
                endWhere(stop);
                work(pieces_[i], scratch);
            }
        });
    }

    /// The field of what is far at the nodes of the grid.
    void lay(Piece& piece, Scratch& scratch) const {
        if (piece.far.empty()) return;
        piece.grid = std::make_unique<Grid>();
        for (int i = 0; i < kSide; ++i)
            for (int j = 0; j < kSide; ++j) {
                PointField f;
                field_.addShare(share_, piece.far,
                                plane_.at(chebyshevNode(piece.area.inColumns(), i),
                                          chebyshevNode(piece.area.inRows(), j)),
                                scratch, f);
                (*piece.grid)[static_cast<std::size_t>(j)][static_cast<std::size_t>(i)] << f.electricVm,
                    f.magneticAm;
            }
    }

    /// The grid of a piece to one that it is cut into.
    static void handOn(const Piece& whole, Piece& piece) {
        if (!piece.grid) {
            piece.grid = std::make_unique<Grid>();
            for (auto& row : *piece.grid) row.fill(Six::Zero());
        }
        std::array<Weights, kSide> inColumn;
        for (int i = 0; i < kSide; ++i)
            inColumn[static_cast<std::size_t>(i)] =
                weightsAt(whole.area.inColumns(), chebyshevNode(piece.area.inColumns(), i));
        for (int j = 0; j < kSide; ++j) {
            const auto along =
                row(*whole.grid, weightsAt(whole.area.inRows(), chebyshevNode(piece.area.inRows(), j)));
            for (std::size_t i = 0; i < kSide; ++i)
                (*piece.grid)[static_cast<std::size_t>(j)][i] += point(along, inColumn[i]);
        }
    }

    static std::array<Six, kSide> row(const Grid& grid, const Weights& weights) {
        std::array<Six, kSide> along;
        for (std::size_t i = 0; i < kSide; ++i) {
            along[i].setZero();
            for (std::size_t j = 0; j < kSide; ++j) along[i] += weights[j] * grid[j][i];
        }
        return along;
    }
    static Six point(const std::array<Six, kSide>& along, const Weights& weights) {
        Six sum = Six::Zero();
        for (std::size_t i = 0; i < kSide; ++i) sum += weights[i] * along[i];
        return sum;
    }

    void fill(const Piece& piece, std::vector<PointField>& fields, Scratch& scratch) const {
        const Area& area = piece.area;
        std::vector<Weights> inColumn;
        if (piece.grid)
            for (int c = 0; c < area.columns; ++c)
                inColumn.push_back(weightsAt(area.inColumns(), area.firstColumn + c));
        for (int r = area.firstRow; r < area.firstRow + area.rows; ++r) {
            std::array<Six, kSide> along;
            if (piece.grid) along = row(*piece.grid, weightsAt(area.inRows(), r));
            for (int c = 0; c < area.columns; ++c) {
                PointField& at =
                    fields[static_cast<std::size_t>(r) * static_cast<std::size_t>(plane_.columns) +
                           static_cast<std::size_t>(area.firstColumn + c)];
                if (piece.grid) {
                    const Six far = point(along, inColumn[static_cast<std::size_t>(c)]);
                    at.electricVm += far.head<3>();
                    at.magneticAm += far.tail<3>();
                }
                if (!piece.near.empty())
                    field_.addShare(share_, piece.near, plane_.at(area.firstColumn + c, r), scratch, at);
            }
        }
    }

    const NearField& field_;
    const PointPlane& plane_;
    Share share_;
    std::vector<Piece> pieces_;
};

double NearField::clearanceM(Share share, const Span& span, const Vec3& point) const {
    const Vec3 mirrored(point.x(), point.y(), -point.z());
    const bool perfect = mesh_->ground.kind == model::GroundKind::Perfect;
    const bool inSoil = mesh_->ground.kind == model::GroundKind::Real && point.z() < 0.0;
    const auto from = [&](const Vec3& p) { return model::pointToSegment(p, span.startM(), span.endM()); };
    const bool own = span.inSoil == inSoil;
    if (share == Share::Ground) return from(own ? mirrored : point);
    if (!own) return std::numeric_limits<double>::infinity();
    return perfect ? std::min(from(point), from(mirrored)) : from(point);
}

std::vector<PointField> NearField::on(const PointPlane& plane, const std::stop_token& stop) const {
    std::vector<PointField> fields(plane.count());
    if (fields.empty()) return fields;
    for (const Share share : shares()) Pieces(*this, plane, share).read(fields, stop);
    return fields;
}

}  // namespace rm::em
