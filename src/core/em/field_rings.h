// Far fields all round the compass. A ring of the pattern of an antenna of radius R about the middle of its
// plan has little more than k R harmonics: it is read in as many directions as say all of them, and what lies
// between follows as a trigonometric sum.
//
// After O. M. Bucci and G. Franceschetti, On the degrees of freedom of scattered fields, IEEE Trans. Antennas
// and Propagation 37 (1989), 918: the harmonics end where those of J_n(k R) do, some (k R)^(1/3) beyond k R.
#pragma once

#include <vector>

#include "core/em/far_field.h"

namespace rm::em {

/// Directions at one elevation, in degrees: azimuths from 0 in `count` equal steps.
struct Ring {
    double elevationDeg = 0.0;
    int count = 1;
};

/// Fields towards the directions of all rings, one after the other: as farField() towards each of them, to
/// 1e-7 of the strongest of their ring. Rings that have no more directions than harmonics are read in all of
/// them.
std::vector<FarField> fieldRings(const Mesh& mesh, const Eigen::VectorXcd& local, double frequencyHz,
                                 const std::vector<Ring>& rings);

/// A ring that has been read in equal steps from azimuth 0, in `count` such steps: what lies between follows
/// from as many harmonics as its directions tell apart.
std::vector<FarField> finerRing(const Mesh& mesh, double frequencyHz, double elevationDeg,
                                const std::vector<FarField>& read, int count);

}  // namespace rm::em
