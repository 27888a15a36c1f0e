// What the antenna does, drawn in the yard: the glow of its currents, its lobe, and remarks about them.
#include <QPainter>
#include <algorithm>
#include <cmath>

#include "app/stages/shape/yard.h"
#include "core/em/span_basis.h"

namespace rm::app {

void Yard::paintCurrents(QPainter& p) const {
    if (!currents_ || !analysis_ || stale_) return;
    // Magnitude at points along every span; the widest stroke is the largest current.
    const em::Mesh& mesh = *analysis_->mesh;
    const auto& local = analysis_->reading.localCurrent;
    struct Stroke {
        Vec3 from;
        Vec3 to;
        Complex current;
    };
    std::vector<Stroke> strokes;
    Complex largest = 0.0;
    for (const auto& span : mesh.spans) {
        const auto at = [&](double t) {
            double row[em::kLanes];
            em::legendreRow(t, row);
            Complex sum = 0.0;
            for (std::size_t n = 0; n <= static_cast<std::size_t>(span.order); ++n)
                sum += row[n] * em::legendreSeries(span, local, n);
            return sum;
        };
        const int pieces = std::clamp(static_cast<int>(span.lengthM / extent() * 40.0), 1, 12);
        for (int i = 0; i < pieces; ++i) {
            const double t0 = -1.0 + 2.0 * i / pieces;
            const double t1 = -1.0 + 2.0 * (i + 1) / pieces;
            const Complex current = at(0.5 * (t0 + t1));
            if (std::abs(current) > std::abs(largest)) largest = current;
            strokes.push_back({span.centreM + t0 * span.halfM() * span.direction,
                               span.centreM + t1 * span.halfM() * span.direction, current});
        }
    }
    if (std::abs(largest) <= 0.0) return;
    for (const auto& s : strokes) {
        const Complex share = s.current / largest;
        QColor glow = theme_.copper;
        if (phase_) {
            // With the largest current copper, a quarter turn off between, against it water.
            const double against = 0.5 * (1.0 - std::cos(std::arg(share)));
            const auto mix = [&](double a, double b) { return static_cast<float>(a + against * (b - a)); };
            glow = QColor::fromRgbF(mix(theme_.copper.redF(), theme_.water.redF()),
                                    mix(theme_.copper.greenF(), theme_.water.greenF()),
                                    mix(theme_.copper.blueF(), theme_.water.blueF()));
        }
        glow.setAlphaF(static_cast<float>((phase_ ? 0.35 : 0.16) + 0.34 * std::abs(share)));
        p.setPen(QPen(glow, 1.0 + 13.0 * std::abs(share), Qt::SolidLine, Qt::FlatCap));
        line(p, s.from, s.to);
    }
    if (!phase_) return;
    p.setFont(textFont(kTinyPt));
    p.setPen(theme_.copper);
    p.drawText(QRectF(0, 24, width() - 12, 14), Qt::AlignRight, "in phase with the largest current");
    p.setPen(theme_.water);
    p.drawText(QRectF(0, 38, width() - 12, 14), Qt::AlignRight, "against it");
}

/// From water over reed to copper: quiet where little goes, warm where it goes.
QColor Yard::lobeColour(double belowDb) const {
    const double share = std::clamp(1.0 + belowDb / 25.0, 0.0, 1.0);
    const QColor& from = share < 0.6 ? theme_.water : theme_.reed;
    const QColor& to = share < 0.6 ? theme_.reed : theme_.copper;
    const double t = share < 0.6 ? share / 0.6 : (share - 0.6) / 0.4;
    return QColor::fromRgbF(static_cast<float>(from.redF() + t * (to.redF() - from.redF())),
                            static_cast<float>(from.greenF() + t * (to.greenF() - from.greenF())),
                            static_cast<float>(from.blueF() + t * (to.blueF() - from.blueF())), 0.20F);
}

void Yard::paintLobe(QPainter& p) const {
    if (!lobe_ || !analysis_ || !grid_ || stale_) return;
    const double size = 0.6 * extent();
    const Vec3 origin(centreM_.x(), centreM_.y(), overGround() ? 0.0 : centreM_.z());
    const double peak = analysis_->figures.peak.gainDbi;
    struct Corner {
        Projected at;
        double gain;
    };
    std::vector<Corner> corners;
    for (int r = 0; r < grid_->rows; ++r)
        for (int c = 0; c < grid_->columns; ++c) {
            const double gain = grid_->at(r, c) - peak;
            const double radius = size * std::pow(10.0, std::clamp(gain, -60.0, 0.0) / 40.0);
            const double e = grid_->elevationDeg(r) * kDegree;
            const double a = grid_->azimuthDeg(c) * kDegree;
            const Vec3 out(std::cos(e) * std::cos(a), std::cos(e) * std::sin(a), std::sin(e));
            corners.push_back({camera_.project(origin + radius * out, this->size()), gain});
        }
    struct Facet {
        QPolygonF shape;
        double depth;
        double gain;
    };
    std::vector<Facet> facets;
    for (int r = 0; r + 1 < grid_->rows; ++r)
        for (int c = 0; c < grid_->columns; ++c) {
            const auto corner = [&](int row, int column) -> const Corner& {
                return corners[static_cast<std::size_t>(row * grid_->columns + column % grid_->columns)];
            };
            const Corner* four[] = {&corner(r, c), &corner(r, c + 1), &corner(r + 1, c + 1),
                                    &corner(r + 1, c)};
            Facet facet{{}, 0.0, -99.0};
            for (const Corner* at : four) {
                facet.shape << at->at.at;
                facet.depth += at->at.depth;
                facet.gain = std::max(facet.gain, at->gain);
            }
            facets.push_back(facet);
        }
    // From the back to the front, so that what is near lies over what is far.
    std::sort(facets.begin(), facets.end(), [](const Facet& a, const Facet& b) { return a.depth > b.depth; });
    for (const Facet& facet : facets) {
        const QColor fill = lobeColour(facet.gain);
        QColor edge = fill;
        edge.setAlphaF(0.30F);
        p.setBrush(fill);
        p.setPen(QPen(edge, 0.5));
        p.drawPolygon(facet.shape);
    }
}

void Yard::paintRemarks(QPainter& p) const {
    if (remarks_.isEmpty() || stale_) return;
    p.setFont(textFont(kSmallPt));
    QColor behind = theme_.panel;
    behind.setAlphaF(0.75F);
    const double tall = 15.0 * static_cast<double>(remarks_.size());
    p.setPen(Qt::NoPen);
    p.setBrush(behind);
    p.drawRoundedRect(QRectF(6, height() - 33.0 - tall, width() - 12, tall + 6), 4, 4);
    p.setPen(theme_.ink);
    double y = height() - 30.0 - 15.0 * static_cast<double>(remarks_.size());
    for (const QString& remark : remarks_) {
        p.drawText(QRectF(12, y, width() - 24, 15), Qt::AlignLeft | Qt::AlignVCenter,
                   p.fontMetrics().elidedText(remark, Qt::ElideRight, width() - 24));
        y += 15.0;
    }
}

}  // namespace rm::app
