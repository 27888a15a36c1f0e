#include "core/em/field_rings.h"

#include <algorithm>
#include <cmath>

#include "core/em/parallel.h"

namespace rm::em {

namespace {

/// What the field of a span costs towards one direction over ground, in products of two complex numbers.
constexpr double kProductsPerSpan = 10.0;
/// Products from which on threads pay.
constexpr double kParallelProducts = 2e5;

/// The antenna in plan: about its middle the pattern has the fewest harmonics.
struct Plan {
    double x = 0.0;
    double y = 0.0;
    double radiusM = 0.0;

    explicit Plan(const Mesh& mesh) {
        if (mesh.spans.empty()) return;
        const Vec3 middle = mesh.bounds().centre();
        x = middle.x();
        y = middle.y();
        for (const auto& span : mesh.spans)
            for (const Vec3& end : {span.startM(), span.endM()})
                radiusM = std::max(radiusM, std::hypot(end.x() - x, end.y() - y));
    }
};

/// How a ring is read: in `samples` directions, from which the others follow where that is fewer than all.
struct Reading {
    std::size_t first = 0;  ///< of its directions among those that are read
    int samples = 1;
    bool derived = false;
};

/// Directions that say all of a ring: J_n(x) is below 1e-8 for n beyond x + 6 x^(1/3) + 5; one more for the
/// turning of the unit vectors.
double samplesFor(double x) {
    return 2.0 * std::ceil(x + 6.0 * std::cbrt(x) + 6.0) + 1.0;
}

/// exp(2 pi j i/count) for 0 <= i < count.
std::vector<Complex> rootsOfUnity(int count) {
    std::vector<Complex> roots(static_cast<std::size_t>(count));
    for (int i = 0; i < count; ++i)
        roots[static_cast<std::size_t>(i)] = std::polar(1.0, 2.0 * kPi * i / count);
    return roots;
}

/// Rows: `count` equal steps round the compass; columns: the harmonics from -most to most.
Eigen::MatrixXcd harmonics(int count, int most) {
    const auto roots = rootsOfUnity(count);
    Eigen::MatrixXcd rows(count, 2 * most + 1);
    for (int m = -most; m <= most; ++m)
        for (int i = 0; i < count; ++i)
            rows(i, m + most) = roots[static_cast<std::size_t>(((i * m) % count + count) % count)];
    return rows;
}

/// The ring from its samples, theta and phi side by side; `phase` is k times the way of the middle of the
/// plan, at azimuth 0 and at 90 degrees.
void derive(const FarField* samples, int sampleCount, double phaseX, double phaseY, int count,
            FarField* ring) {
    const auto middle = [&](int i, int of) {
        const double azimuth = 2.0 * kPi * i / of;
        return std::polar(1.0, phaseX * std::cos(azimuth) + phaseY * std::sin(azimuth));
    };
    Eigen::MatrixXcd read(sampleCount, 2);
    for (int i = 0; i < sampleCount; ++i) {
        const Complex back = std::conj(middle(i, sampleCount));
        read(i, 0) = samples[i].theta * back;
        read(i, 1) = samples[i].phi * back;
    }
    const int most = (sampleCount - 1) / 2;
    const Eigen::MatrixXcd series = harmonics(sampleCount, most).adjoint() * read / sampleCount;
    const Eigen::MatrixXcd all = harmonics(count, most) * series;
    for (int i = 0; i < count; ++i) {
        const Complex forth = middle(i, count);
        ring[i] = {all(i, 0) * forth, all(i, 1) * forth};
    }
}

}  // namespace

std::vector<FarField> fieldRings(const Mesh& mesh, const Eigen::VectorXcd& local, double frequencyHz,
                                 const std::vector<Ring>& rings) {
    const Plan plan(mesh);
    const double k = wavenumber(frequencyHz);
    std::vector<Reading> readings;
    std::vector<std::size_t> places;
    std::vector<Direction> directions;
    std::size_t total = 0;
    double products = 0.0;
    for (const Ring& ring : rings) {
        const double wanted = samplesFor(k * plan.radiusM * std::cos(ring.elevationDeg * kDegree));
        const double saved = (ring.count - wanted) * static_cast<double>(mesh.spans.size());
        const double cost = 2.0 * (ring.count + wanted) * wanted;
        const bool derived = kProductsPerSpan * saved > cost;
        const int samples = derived ? static_cast<int>(wanted) : ring.count;
        readings.push_back({directions.size(), samples, derived});
        for (int i = 0; i < samples; ++i) directions.push_back({ring.elevationDeg, 360.0 * i / samples});
        places.push_back(total);
        total += static_cast<std::size_t>(ring.count);
        if (derived) products += cost;
    }
    const auto read = farField(mesh, local, frequencyHz, directions);
    std::vector<FarField> fields(total);
    const auto finish = [&](std::size_t r) {
        const FarField* from = read.data() + readings[r].first;
        FarField* to = fields.data() + places[r];
        const double level = k * std::cos(rings[r].elevationDeg * kDegree);
        if (readings[r].derived)
            derive(from, readings[r].samples, level * plan.x, level * plan.y, rings[r].count, to);
        else
            std::copy_n(from, rings[r].count, to);
    };
    if (products < kParallelProducts)
        for (std::size_t r = 0; r < rings.size(); ++r) finish(r);
    else
        parallelFor(std::size_t{0}, rings.size(), finish);
    return fields;
}

std::vector<FarField> finerRing(const Mesh& mesh, double frequencyHz, double elevationDeg,
                                const std::vector<FarField>& read, int count) {
    const Plan plan(mesh);
    const double level = wavenumber(frequencyHz) * std::cos(elevationDeg * kDegree);
    std::vector<FarField> ring(static_cast<std::size_t>(count));
    derive(read.data(), static_cast<int>(read.size()), level * plan.x, level * plan.y, count, ring.data());
    return ring;
}

}  // namespace rm::em
