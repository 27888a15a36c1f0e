#include "app/stages/shape/support_scene.h"

#include <algorithm>

#include "app/look/text.h"

namespace rm::app {

namespace {

/// A tree's crown, as shares of its height.
constexpr double kCrownMiddle = 0.68;
constexpr double kCrownTall = 0.34;
constexpr double kCrownWide = 0.24;

Vec3 footOf(const Vec3& top) {
    return {top.x(), top.y(), 0.0};
}

}  // namespace

std::vector<std::pair<Vec3, Vec3>> outlineOf(const model::PlainSupport& support) {
    const Vec3& top = support.topM;
    std::vector<std::pair<Vec3, Vec3>> lines{{footOf(top), top}};
    if (!model::isEdge(support.kind)) return lines;
    const Vec3& other = support.otherM;
    lines.emplace_back(top, other);
    lines.emplace_back(footOf(other), other);
    return lines;
}

void SupportScene::paint() {
    // The farther ones first.
    auto supports = s_.expansion->supports;
    const auto depth = [&](const model::PlainSupport& support) {
        return s_.camera.project(support.topM, s_.size).depth;
    };
    std::sort(supports.begin(), supports.end(),
              [&](const auto& a, const auto& b) { return depth(a) > depth(b); });
    for (const auto& one : supports) support(one);
    for (const auto& hung : s_.expansion->hung) {
        rope(hung.ropeStartM);
        rope(hung.ropeEndM);
        // Insulators, where the wire ends and the rope begins.
        p_.setPen(QPen(s_.theme.ink, 1.1));
        p_.setBrush(s_.theme.panel);
        if (hung.ropeStartM.size() > 1) p_.drawEllipse(s_.at(hung.wireM.front()), 2.6, 2.6);
        if (hung.ropeEndM.size() > 1) p_.drawEllipse(s_.at(hung.wireM.back()), 2.6, 2.6);
    }
}

void SupportScene::crown(const Vec3& top, const QColor& colour) {
    const double height = top.z();
    const QPointF middle = s_.at({top.x(), top.y(), kCrownMiddle * height});
    const double pixels = std::abs(s_.at(top).y() - s_.at({top.x(), top.y(), 0.0}).y());
    const double wide = std::max(6.0, kCrownWide * height * s_.camera.pixelsPerM(s_.size));
    QRadialGradient fade(middle, std::max(wide, kCrownTall * pixels));
    QColor leaf = colour;
    leaf.setAlphaF(0.30F);
    fade.setColorAt(0.0, leaf);
    leaf.setAlphaF(0.16F);
    fade.setColorAt(1.0, leaf);
    p_.setPen(Qt::NoPen);
    p_.setBrush(fade);
    p_.drawEllipse(middle, wide, std::max(wide * 0.5, kCrownTall * pixels));
}

void SupportScene::support(const model::PlainSupport& support) {
    const bool selected = s_.support == text(support.name);
    const QColor colour = selected ? s_.theme.reed : s_.theme.softInk;
    const Vec3& top = support.topM;
    const Vec3& other = support.otherM;
    const QPen pole(colour, support.kind == model::SupportKind::Peg ? 2.2 : 3.0, Qt::SolidLine, Qt::RoundCap);
    if (model::isEdge(support.kind)) {
        QColor face = colour;
        face.setAlphaF(support.kind == model::SupportKind::Wall ? 0.22F : 0.10F);
        p_.setPen(Qt::NoPen);
        p_.setBrush(face);
        p_.drawPolygon(QPolygonF({s_.at(footOf(top)), s_.at(top), s_.at(other), s_.at(footOf(other))}));
        p_.setPen(pole);
        p_.drawLine(s_.at(top), s_.at(other));
    } else {
        if (support.kind == model::SupportKind::Tree) crown(top, s_.theme.reed);
        p_.setPen(pole);
        p_.drawLine(s_.at(footOf(top)), s_.at(top));
        p_.setPen(Qt::NoPen);
        p_.setBrush(colour);
        p_.drawEllipse(s_.at(footOf(top)), 4.0, 2.0);
    }
    p_.setFont(textFont(kTinyPt, selected));
    label_(s_.at(0.5 * (top + other)) + QPointF(7, -15), text(support.name), colour);
}

void SupportScene::rope(const std::vector<Vec3>& points) {
    if (points.size() < 2) return;
    p_.setPen(QPen(s_.theme.softInk, 1.3, Qt::DashLine, Qt::FlatCap));
    p_.setBrush(Qt::NoBrush);
    QPolygonF line;
    for (const Vec3& point : points) line << s_.at(point);
    p_.drawPolyline(line);
}

}  // namespace rm::app
