// Pairs of wires that lie to each other as another pair does, found before anything is computed: a stack or a
// grid of equal antennas costs the pairs that differ, and its matrix is filled from them (block-Toeplitz
// where the spacing is even: P. J. Davis, Circulant Matrices (1979), chapter 3).
#pragma once

#include <algorithm>
#include <array>
#include <cstdint>
#include <stop_token>
#include <vector>

#include "core/em/solver.h"

namespace rm::em {

/// Two pairs are equal where a shift along the ground, a turn about the vertical, a mirror image in an
/// upright plane, a wire run through backwards, or the exchange of the two brings one upon the other. A wire
/// is a run of spans along one wire of the model, compared by how it is cut, not by what it is made of.
class EqualWires {
  public:
    /// `mesh` has to outlive this. Throws rm::Stopped where it is asked to stop.
    EqualWires(const Mesh& mesh, double wavenumber, const std::stop_token& stop = {});

    std::size_t wires() const { return wires_.size(); }
    /// Pairs of wires that have to be computed, of wires() (wires() + 1)/2.
    std::size_t different() const { return different_; }

    /// Some spans of one wire.
    struct Rows {
        std::size_t wire = 0;
        std::size_t first = 0;
        std::size_t end = 0;
    };
    /// All spans, in pieces of a wire that one thread can take: small enough for the others not to wait, and
    /// large enough for what two wires have in common to be met close together.
    std::vector<Rows> rows() const;

    /// Calls `fill(row, column)`, row <= column, for the pairs of these spans and those of their own wire and
    /// of the wires behind it that have to be computed, wire by wire.
    template <typename Fill>
    void forPairs(const Rows& rows, const Fill& fill) const {
        for (std::size_t b = rows.wire; b < wires_.size(); ++b) {
            if (sameAs_[index(rows.wire, b)].a != kNone) continue;
            const std::size_t end = wires_[b].firstSpan + wires_[b].spans;
            for (std::size_t row = rows.first; row < rows.end; ++row)
                for (std::size_t column = std::max(row, wires_[b].firstSpan); column < end; ++column)
                    fill(row, column);
        }
    }

    /// Of the lower triangle of the interactions of all local functions, what forPairs left out.
    void copyEqual(MatrixXc& local, const std::stop_token& stop = {}) const;

  private:
    /// The local functions of a wire in one sense of it: which, counted from its first, and with which sign.
    struct Sense {
        std::vector<Eigen::Index> local;
        std::vector<double> sign;
    };
    /// Wires that are cut alike, seen from one end or from the other.
    struct Kind {
        Sense sense[2][2];  ///< [wire turned][against the canonical sense of the kind]
        bool even = false;  ///< looks the same from both ends
    };
    struct Cut {
        std::size_t firstSpan = 0;
        std::size_t spans = 0;
        Eigen::Index firstLocal = 0;
        std::size_t kind = 0;
        bool turned = false;  ///< it runs against the canonical sense of its kind
        Vec3 centreM = Vec3::Zero();
        Vec3 direction = Vec3::UnitZ();
    };
    /// The canonical view of a pair.
    struct View {
        bool exchanged = false;
        bool backwards[2] = {false,
                             false};  ///< first and second wire of the view, against the canonical sense
    };
    using Key = std::array<std::int64_t, 10>;
    using Shape = std::vector<std::int64_t>;
    struct Pair {
        std::uint32_t a = kNone;
        std::uint32_t b = kNone;
    };

    static constexpr std::uint32_t kNone = 0xffffffffU;

    std::size_t index(std::size_t a, std::size_t b) const { return a * wires_.size() - a * (a + 1) / 2 + b; }
    void cutIntoWires();
    Shape shapeOf(const Cut& cut, bool backwards) const;
    Sense functionsOf(const Cut& cut, bool backwards) const;
    void sortIntoKinds();
    View viewOf(std::size_t a, std::size_t b, Key& key) const;
    void findEqual(const std::stop_token& stop);
    const Sense& senseOf(const Cut& cut, const View& view, int which) const {
        return kinds_[cut.kind].sense[cut.turned ? 1 : 0][view.backwards[which] ? 1 : 0];
    }
    void copy(const Pair& from, const Pair& to, MatrixXc& local) const;

    const Mesh& mesh_;
    double quantaPerM_;
    std::vector<Cut> wires_;
    std::vector<Kind> kinds_;
    std::vector<Pair> sameAs_;  ///< by index(a, b): the pair that it equals, if any
    std::size_t different_ = 0;
};

}  // namespace rm::em
