// What the antenna does, drawn in the yard: the glow of its currents, its lobe, and remarks about them.
#include <QPaintEngine>
#include <QPainter>
#include <algorithm>
#include <array>
#include <cmath>

#include "app/look/lengths.h"
#include "app/look/text.h"
#include "app/stages/shape/yard_scene.h"
#include "core/em/span_basis.h"

namespace rm::app {

namespace {

/// Of a colour, what is left on the other side of the ground.
constexpr double kThroughGround = 0.55;
/// Currents below this share of the largest glow no wider than the wire that is drawn over them.
constexpr double kFaint = 0.03;

}  // namespace

void YardScene::field() {
    if (s_.field.isNull() || s_.stale) return;
    const auto& plane = s_.fieldPlane;
    const double columns = plane.columns - 1.0;
    const double rows = plane.rows - 1.0;
    // The picture has its first row at the bottom of the plane; perspective makes any four-sided figure of
    // it.
    const QPolygonF place({onScreen(plane.at(0.0, rows)), onScreen(plane.at(columns, rows)),
                           onScreen(plane.at(columns, 0.0)), onScreen(plane.at(0.0, 0.0))});
    const QRectF picture(s_.field.rect());
    QTransform turn;
    if (!QTransform::quadToQuad(
            QPolygonF({picture.topLeft(), picture.topRight(), picture.bottomRight(), picture.bottomLeft()}),
            place, turn))
        return;  // seen from its edge
    p_.save();
    p_.setRenderHint(QPainter::SmoothPixmapTransform);
    p_.setTransform(turn, true);
    p_.drawImage(QPointF(0, 0), s_.field);
    p_.restore();
    p_.setFont(textFont(kTinyPt));
    p_.setPen(s_.theme.softInk);
    p_.drawText(QRectF(0, s_.size.height() - 18, s_.size.width() - 12, 14), Qt::AlignRight, s_.fieldCaption);
}

void YardScene::keepLines() {
    if (s_.stale) return;
    for (const auto& keep : s_.keep) {
        p_.setPen(
            QPen(s_.theme.clay, 1.8, keep.heightM == s_.keep.front().heightM ? Qt::SolidLine : Qt::DashLine));
        QPointF rightmost(-1e9, 0.0);
        for (const auto& [from, to] : keep.pieces) {
            line(from, to);
            if (onScreen(from).x() > rightmost.x()) rightmost = onScreen(from);
        }
        if (!keep.pieces.empty())
            label(rightmost + QPointF(4, 0),
                  tr("keep clear at %1: %2")
                      .arg(lengthUnit().near(keep.heightM), lengthText(keep.farthestM, 1)),
                  s_.theme.clay);
    }
}

/// On a picture they are laid beside each other on a layer of their own, which is mixed into it at once: the
/// raster engine wakes threads for every stroke that it mixes by itself. Where two cross, the later one
/// shows.
void YardScene::drawTogether(const std::vector<Stroke>& strokes) {
    const auto draw = [&](QPainter& painter) {
        // Neighbours of one kind at once.
        std::vector<QLineF> lines;
        for (std::size_t i = 0; i < strokes.size(); ++i) {
            const Stroke& stroke = strokes[i];
            lines.emplace_back(stroke.from, stroke.to);
            if (i + 1 < strokes.size() && strokes[i + 1].width == stroke.width &&
                strokes[i + 1].colour == stroke.colour)
                continue;
            painter.setPen(QPen(stroke.colour, stroke.width, Qt::SolidLine, Qt::FlatCap));
            painter.drawLines(lines.data(), static_cast<int>(lines.size()));
            lines.clear();
        }
    };
    if (layers_ == nullptr || p_.paintEngine()->type() != QPaintEngine::Raster) return draw(p_);
    QRectF reach;
    for (const Stroke& stroke : strokes) {
        const double side = 0.5 * stroke.width + 1.0;
        reach |= QRectF(stroke.from, stroke.to).normalized().adjusted(-side, -side, side, side);
    }
    const QRect place = (reach & QRectF(QPointF(), s_.size)).toAlignedRect();
    if (place.isEmpty()) return;
    const double ratio = p_.device()->devicePixelRatioF();
    const QSize all = (s_.size * ratio).toSize();
    if (layers_->strokes.size() != all) layers_->strokes = QImage(all, QImage::Format_ARGB32_Premultiplied);
    layers_->strokes.setDevicePixelRatio(ratio);
    const QRect corner(QPoint(), place.size());
    {
        QPainter painter(&layers_->strokes);
        painter.setRenderHint(QPainter::Antialiasing);
        painter.setCompositionMode(QPainter::CompositionMode_Source);
        painter.fillRect(corner, Qt::transparent);
        painter.setClipRect(corner);
        painter.translate(-place.topLeft());
        draw(painter);
    }
    p_.drawImage(QRectF(place), layers_->strokes, QRectF(QPointF(), QSizeF(place.size()) * ratio));
}

void YardScene::currents(bool inSoil) {
    if (!s_.showCurrents || !s_.analysis || s_.stale) return;
    // Magnitude at points along every span; the widest stroke is the largest current.
    const em::Mesh& mesh = *s_.analysis->mesh;
    if (inSoil && std::none_of(mesh.spans.begin(), mesh.spans.end(), [](const auto& s) { return s.inSoil; }))
        return;
    const auto& local = s_.analysis->reading.localCurrent;
    struct Piece {
        Vec3 from;
        Vec3 to;
        Complex current;
    };
    std::vector<Piece> pieces;
    Complex largest = 0.0;
    double most = 0.0;  // its square: roots are for what is drawn
    const double extentM = s_.extent();
    for (const auto& span : mesh.spans) {
        const auto orders = static_cast<std::size_t>(span.order) + 1;
        std::array<Complex, em::kLanes> series;
        double bound = 0.0;
        for (std::size_t n = 0; n < orders; ++n) {
            series[n] = em::legendreSeries(span, local, n);
            bound += std::abs(series[n].real()) + std::abs(series[n].imag());
        }
        // No polynomial is larger than one: here it is too faint to be seen.
        if (bound * bound < kFaint * kFaint * most) continue;
        const auto at = [&](double t) {
            double row[em::kLanes];
            em::legendreRow(t, row);
            Complex sum = 0.0;
            for (std::size_t n = 0; n < orders; ++n) sum += row[n] * series[n];
            return sum;
        };
        const int parts = std::clamp(static_cast<int>(span.lengthM / extentM * 40.0), 1, 12);
        for (int i = 0; i < parts; ++i) {
            const double t0 = -1.0 + 2.0 * i / parts;
            const double t1 = -1.0 + 2.0 * (i + 1) / parts;
            const Complex current = at(0.5 * (t0 + t1));
            if (std::norm(current) > most) {
                most = std::norm(current);
                largest = current;
            }
            if (span.inSoil != inSoil) continue;
            pieces.push_back({span.centreM + t0 * span.halfM() * span.direction,
                              span.centreM + t1 * span.halfM() * span.direction, current});
        }
    }
    if (most <= 0.0) return;
    std::vector<Stroke> strokes;
    for (const auto& s : pieces) {
        if (std::norm(s.current) < kFaint * kFaint * most) continue;
        const Complex share = s.current / largest;
        QColor glow = s_.theme.copper;
        if (s_.showPhase) {
            // With the largest current copper, a quarter turn off between, against it water.
            const double against = 0.5 * (1.0 - std::cos(std::arg(share)));
            const auto mix = [&](double a, double b) { return static_cast<float>(a + against * (b - a)); };
            glow = QColor::fromRgbF(mix(s_.theme.copper.redF(), s_.theme.water.redF()),
                                    mix(s_.theme.copper.greenF(), s_.theme.water.greenF()),
                                    mix(s_.theme.copper.blueF(), s_.theme.water.blueF()));
        }
        // What glows under the ground shines through it, as the wires do.
        const double through = inSoil != fromBelow() ? kThroughGround : 1.0;
        glow.setAlphaF(static_cast<float>(through * ((s_.showPhase ? 0.35 : 0.16) + 0.34 * std::abs(share))));
        strokes.push_back({onScreen(s.from), onScreen(s.to), glow, 1.0 + 13.0 * std::abs(share)});
    }
    drawTogether(strokes);
    if (!s_.showPhase || inSoil) return;
    p_.setFont(textFont(kTinyPt));
    p_.setPen(s_.theme.copper);
    p_.drawText(QRectF(0, 24, s_.size.width() - 12, 14), Qt::AlignRight,
                tr("in phase with the largest current"));
    p_.setPen(s_.theme.water);
    p_.drawText(QRectF(0, 38, s_.size.width() - 12, 14), Qt::AlignRight, tr("against it"));
}

/// From water over reed to copper: quiet where little goes, warm where it goes.
QColor YardScene::lobeColour(double belowDb) const {
    const double share = std::clamp(1.0 + belowDb / 25.0, 0.0, 1.0);
    const QColor& from = share < 0.6 ? s_.theme.water : s_.theme.reed;
    const QColor& to = share < 0.6 ? s_.theme.reed : s_.theme.copper;
    const double t = share < 0.6 ? share / 0.6 : (share - 0.6) / 0.4;
    return QColor::fromRgbF(static_cast<float>(from.redF() + t * (to.redF() - from.redF())),
                            static_cast<float>(from.greenF() + t * (to.greenF() - from.greenF())),
                            static_cast<float>(from.blueF() + t * (to.blueF() - from.blueF())), 0.20F);
}

void YardScene::lobe() {
    if (!s_.showLobe || !s_.analysis || !s_.lobe || s_.stale) return;
    const double size = 0.6 * s_.extent();
    const Vec3 origin(s_.centreM.x(), s_.centreM.y(), s_.overGround() ? 0.0 : s_.centreM.z());
    const double peak = s_.analysis->figures.peak.gainDbi;
    struct Corner {
        Projected at;
        double gain;
    };
    std::vector<Corner> corners;
    for (int r = 0; r < s_.lobe->rows; ++r)
        for (int c = 0; c < s_.lobe->columns; ++c) {
            const double gain = s_.lobe->at(r, c) - peak;
            const double radius = size * std::pow(10.0, std::clamp(gain, -60.0, 0.0) / 40.0);
            const double e = s_.lobe->elevationDeg(r) * kDegree;
            const double a = s_.lobe->azimuthDeg(c) * kDegree;
            const Vec3 out(std::cos(e) * std::cos(a), std::cos(e) * std::sin(a), std::sin(e));
            corners.push_back({view_(origin + radius * out), gain});
        }
    struct Facet {
        QPolygonF shape;
        double depth;
        double gain;
    };
    std::vector<Facet> facets;
    for (int r = 0; r + 1 < s_.lobe->rows; ++r)
        for (int c = 0; c < s_.lobe->columns; ++c) {
            const auto corner = [&](int row, int column) -> const Corner& {
                return corners[static_cast<std::size_t>(row * s_.lobe->columns + column % s_.lobe->columns)];
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
        p_.setBrush(fill);
        p_.setPen(QPen(edge, 0.5));
        p_.drawPolygon(facet.shape);
    }
}

void YardScene::remarks() {
    if (s_.remarks.isEmpty() || s_.stale) return;
    p_.setFont(textFont(kSmallPt));
    QColor behind = s_.theme.panel;
    behind.setAlphaF(0.75F);
    const double tall = 15.0 * static_cast<double>(s_.remarks.size());
    p_.setPen(Qt::NoPen);
    p_.setBrush(behind);
    p_.drawRoundedRect(QRectF(6, s_.size.height() - 33.0 - tall, s_.size.width() - 12, tall + 6), 4, 4);
    p_.setPen(s_.theme.ink);
    double y = s_.size.height() - 30.0 - 15.0 * static_cast<double>(s_.remarks.size());
    for (const QString& remark : s_.remarks) {
        p_.drawText(
            QRectF(12, y, s_.size.width() - 24, 15), Qt::AlignLeft | Qt::AlignVCenter,
            p_.fontMetrics().elidedText(remark, Qt::ElideRight, static_cast<int>(s_.size.width()) - 24));
        y += 15.0;
    }
}

}  // namespace rm::app
