// What the near field of one point after the other is summed from.
#pragma once

#include <array>
#include <vector>

#include "core/em/kernel_arrays.h"
#include "core/em/near_field.h"
#include "core/em/span_basis.h"

namespace rm::em {

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

}  // namespace rm::em
