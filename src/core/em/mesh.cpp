#include "core/em/mesh.h"

#include <algorithm>
#include <limits>

#include "core/em/span_basis.h"
#include "core/em/span_sizes.h"
#include "core/em/stretches.h"
#include "core/model/checks.h"

namespace rm::em {

namespace {

/// Order of the current by the length of the span in wavelengths: the first entry that is long enough.
constexpr struct {
    double wavelengths;
    int order;
} kOrders[] = {{0.03, 3}, {0.27, 4}, {0.4, 5}, {1e9, 6}};

class Mesher {
  public:
    Mesher(const model::WireModel& model, double frequencyHz, const MeshOptions& options)
        : model_(model), options_(options), wavelengths_(wavelengthsOver(model.ground, frequencyHz)) {}

    Mesh build() {
        mesh_.ground = model_.ground;
        mesh_.feedCount = model_.feeds.size();
        for (const auto& wire : model_.wires)
            mesh_.wireMaterial.push_back(
                {wire.conductivitySm.value_or(std::numeric_limits<double>::infinity()), wire.radiusM,
                 coatInductancePerM(wire.radiusM, wire.coatM, wire.coatPermittivity),
                 coatElastanceM(wire.radiusM, wire.coatM, wire.coatPermittivity)});
        requireWorkable(model_, wavelengths_);
        laid_ = layStretches(model_, wavelengths_, options_);
        mesh_.ports = laid_.ports;
        nodeCount_ = static_cast<int>(laid_.endsAt.size());
        for (const auto& stretch : laid_.all) lay(stretch);
        makeFunctions();
        return std::move(mesh_);
    }

  private:
    void lay(const Stretch& stretch) {
        const auto [sizes, startFunction, stopFunction] =
            spanSizes(model_, laid_, stretch, wavelengths_, options_);
        const auto& wire = model_.wires[stretch.wire];
        const Vec3 direction = (wire.endM - wire.startM) / wire.lengthM();
        const double correction = kEndCorrectionRadii * kernelRadiusM(wire);
        // What the polynomial of the last span misses where it stands at an open end itself.
        const auto missed = [&](int end, bool function, double size) {
            if (!laid_.isOpen(end)) return 0.0;
            const int order = orderFor(size / wavelengths_.at(stretch.inSoil));
            return function ? correction : kPlainEndCorrection * size / (order * order);
        };
        const double before = missed(stretch.startNode, startFunction, sizes.front());
        const double behind = missed(stretch.endNode, stopFunction, sizes.back());
        double at = stretch.fromM - before;
        int node = stretch.startNode;
        const std::size_t first = mesh_.spans.size();
        for (std::size_t i = 0; i < sizes.size(); ++i) {
            Span span;
            span.wire = stretch.wire;
            span.direction = direction;
            span.lengthM = sizes[i];
            if (i == 0) span.lengthM += before;
            if (i + 1 == sizes.size()) span.lengthM += behind;
            span.radiusM = kernelRadiusM(wire);
            span.startOnWireM = at;
            span.centreM = wire.startM + (at + 0.5 * span.lengthM) * direction;
            span.inSoil = stretch.inSoil;
            span.order = orderFor(span.lengthM / wavelengths_.at(stretch.inSoil));
            if (isBesideGap(stretch, i, sizes.size())) span.order = std::max(span.order, gapOrder());
            if (startFunction && i == 0) span.kind = SpanKind::OpenStart;
            if (stopFunction && i + 1 == sizes.size()) span.kind = SpanKind::OpenEnd;
            if (span.kind != SpanKind::Inner) span.order = kMaxOrder;
            span.startNode = node;
            node = i + 1 == sizes.size() ? stretch.endNode : nodeCount_++;
            span.endNode = node;
            span.firstLocal = mesh_.localCount;
            mesh_.localCount += static_cast<std::size_t>(basisOf(span).count);
            mesh_.spans.push_back(span);
            at += span.lengthM;
        }
        for (const auto& gap : stretch.startGaps) mesh_.ports[gap.port].gap.push_back({first, gap.share});
        for (const auto& gap : stretch.endGaps)
            mesh_.ports[gap.port].gap.push_back({mesh_.spans.size() - 1, gap.share});
    }

    static bool isBesideGap(const Stretch& stretch, std::size_t i, std::size_t count) {
        return (i == 1 && !stretch.startGaps.empty()) || (i + 2 == count && !stretch.endGaps.empty());
    }

    int gapOrder() const {
        return options_.fixedOrder > 0 ? options_.fixedOrder
                                       : std::min(options_.gapOrder + options_.moreOrder, kMaxOrder);
    }

    int orderFor(double electrical) const {
        if (options_.fixedOrder > 0) return options_.fixedOrder;
        const int byLength = std::find_if(std::begin(kOrders), std::end(kOrders), [&](const auto& entry) {
                                 return electrical <= entry.wavelengths;
                             })->order;
        return std::min(byLength + options_.moreOrder, kMaxOrder);
    }

    /// Inner functions of every span, then at every node a pairing of its ends: n - 1 functions for n ends, n
    /// where the node stands on perfect ground.
    void makeFunctions() {
        std::vector<std::vector<LocalTerm>> outward(static_cast<std::size_t>(nodeCount_));
        for (const auto& span : mesh_.spans) {
            if (span.kind == SpanKind::OpenStart)
                outward[static_cast<std::size_t>(span.endNode)].push_back({span.firstLocal, -1.0});
            if (span.kind == SpanKind::OpenEnd)
                outward[static_cast<std::size_t>(span.startNode)].push_back({span.firstLocal, 1.0});
            if (span.kind != SpanKind::Inner) continue;
            outward[static_cast<std::size_t>(span.startNode)].push_back({span.firstLocal, 1.0});
            outward[static_cast<std::size_t>(span.endNode)].push_back({span.firstLocal + 1, -1.0});
            for (int p = 2; p <= span.order; ++p)
                mesh_.functions.push_back(
                    {{span.firstLocal + static_cast<std::size_t>(p), 1.0}, {span.firstLocal, 0.0}});
        }
        for (std::size_t n = 0; n < outward.size(); ++n) {
            const auto& ends = outward[n];
            const bool grounded = n < laid_.grounded.size() && laid_.grounded[n];
            if (grounded)
                for (const auto& end : ends) mesh_.functions.push_back({end, {end.local, 0.0}});
            else
                for (std::size_t i = 1; i < ends.size(); ++i)
                    mesh_.functions.push_back({{ends[0].local, -ends[0].sign}, ends[i]});
        }
    }

    const model::WireModel& model_;
    const MeshOptions& options_;
    Wavelengths wavelengths_;
    Stretches laid_;
    Mesh mesh_;
    int nodeCount_ = 0;
};

}  // namespace

Span Span::mirrored() const {
    Span image = *this;
    image.centreM.z() = -centreM.z();
    image.direction.z() = -direction.z();
    return image;
}

Mesh makeMesh(const model::WireModel& model, double frequencyHz, const MeshOptions& options) {
    model::requireSolvable(model, frequencyHz);
    return Mesher(model, frequencyHz, options).build();
}

model::Bounds Mesh::bounds() const {
    model::Bounds box;
    for (const auto& span : spans) {
        box.include(span.startM());
        box.include(span.endM());
    }
    return box;
}

Mesh makeMesh(const model::WireModel& model, double frequencyHz) {
    return makeMesh(model, frequencyHz, meshOptions(model.fineness));
}

MeshOptions meshOptions(int fineness) {
    MeshOptions o;
    if (fineness <= 0) return o;
    if (fineness == 1) {
        o.bendRadii = 1.4;
        o.gapGrowth = 10.0;
        return o;
    }
    const bool check = fineness > kFineMesh;
    o.moreOrder = 2;
    o.endFunctions = false;
    o.plainEndRadii = o.bendRadii = check ? 1.0 : 1.4;
    o.growth = o.gapGrowth = o.neighbourGrowth = check ? 16.0 : 10.0;
    o.neighbourDistances = check ? 2.0 : 1.4;
    return o;
}

std::vector<LocalTerm> portWeights(const Mesh& mesh, std::size_t port) {
    std::vector<LocalTerm> weights;
    for (const auto& piece : mesh.ports.at(port).gap) {
        const Span& span = mesh.spans[piece.span];
        // Averages of the local functions over the span: 1/2, 1/2, -1/3 for degree 2, 0 above.
        weights.push_back({span.firstLocal, 0.5 * piece.share});
        weights.push_back({span.firstLocal + 1, 0.5 * piece.share});
        if (span.order >= 2) weights.push_back({span.firstLocal + 2, -piece.share / 3.0});
    }
    return weights;
}

}  // namespace rm::em
