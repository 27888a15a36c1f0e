#include "app/stages/shape/pen_tool.h"

#include <QLineF>
#include <algorithm>
#include <cmath>

#include "app/look/text.h"
#include "app/look/typed_number.h"
#include "app/plot/ticks.h"
#include "core/quantity/formula.h"

namespace rm::app {

namespace {

constexpr double kClosePx = 10.0;
constexpr double kSameM = 1e-3;

}  // namespace

PenTool::PenTool(Session& session, Editing& editing, Yard& yard)
    : YardTool(&yard), session_(session), editing_(editing), yard_(yard) {}

void PenTool::start() {
    active_ = true;
    designId_ = session_.design().id;
    points_.clear();
    aim_.reset();
    typed_.clear();
    said_.clear();
    kind_ = Plane::Suited;
    // Over ground the pen begins at the height of the antenna, in free space on its level.
    levelM_ = session_.expansion() ? session_.expansion()->heightM : 0.0;
    yard_.setFocus();
    session_.say(
        {Notice::Tone::Good,
         tr("Click corner after corner; on the first one it closes to a loop, a double-click or Enter "
            "ends it."),
         tr("Put the pen down"), [this] { stop(); }});
    Q_EMIT changed();
}

void PenTool::stop() {
    if (!active_) return;
    active_ = false;
    points_.clear();
    aim_.reset();
    Q_EMIT changed();
}

HandPlane PenTool::plane() const {
    const YardState& yard = yard_.state();
    const Vec3 through =
        points_.empty() ? Vec3(yard.camera.target.x(), yard.camera.target.y(), levelM_) : points_.back();
    const Vec3 along = points_.size() > 1 ? Vec3(points_.back() - points_[points_.size() - 2]) : Vec3::Zero();
    if (kind_ == Plane::Level) return HandPlane::level({through.x(), through.y(), levelM_});
    if (kind_ == Plane::Upright) return HandPlane::upright(through, along, yard.camera);
    return HandPlane::suited(through, along, yard.camera);
}

void PenTool::aim(const QPointF& at) {
    pointer_ = at;
    snap_.clear();
    closes_ = false;
    const YardState& yard = yard_.state();
    if (points_.size() > 2 && QLineF(yard.at(points_.front()), at).length() < kClosePx) {
        closes_ = true;
        aim_ = points_.front();
        snap_ = tr("closes the loop");
        return;
    }
    const HandPlane hand = plane();
    aim_ = hand.under(at, yard);
    if (!aim_) return;
    const auto expansion = session_.expansion();
    if (!noSnap_ && expansion) {
        edit::SnapScene scene = edit::snapScene(*expansion, {});
        if (!points_.empty()) scene.anchorM = points_.back();
        if (points_.size() > 1) scene.beforeAnchorM = points_[points_.size() - 2];
        for (std::size_t i = 0; i + 1 < points_.size(); ++i) {
            scene.points.push_back({points_[i], i == 0 ? say("the start") : say("corner {}", i)});
            const double length = (points_[i + 1] - points_[i]).norm();
            scene.lengths.push_back({length, say("as long as side {}", i + 1)});
        }
        model::PlainWire like;
        const auto waves = edit::waveLengths(like, wavelengthM(session_.frequencyHz()));
        scene.lengths.insert(scene.lengths.begin(), waves.begin(), waves.end());
        const auto snapped = edit::snapped(scene, *aim_, hand.u, hand.v, onScreen(yard), kSnapPx);
        if (!snapped.name.empty()) {
            snap_ = text(snapped.name);
            aim_ = snapped.atM;
            return;
        }
    }
    // Round numbers, no finer than the hand can see.
    const double step = feet() ? 0.0254 : std::max(0.01, roundStep(metresPerPixel(*aim_, yard), 2));
    for (int a = 0; a < 3; ++a) {
        const double rounded = step * std::round((*aim_)[a] / step);
        // Within the plane only: what the plane fixes stays.
        if (std::abs(hand.normal()[a]) < 1e-6) (*aim_)[a] = rounded;
    }
}

bool PenTool::press(const QPointF& at, Qt::KeyboardModifiers keys, Qt::MouseButton button) {
    if (!active_) return false;
    if (button == Qt::RightButton) {
        end(false);
        return true;
    }
    if (button != Qt::LeftButton || (keys & Qt::ShiftModifier)) return false;
    aim(at);
    put();
    return true;
}

void PenTool::put() {
    if (!aim_) return;
    if (closes_) return end(true);
    if (!points_.empty() && (*aim_ - points_.back()).norm() < kSameM) return;
    points_.push_back(*aim_);
    levelM_ = aim_->z();
    said_.clear();
    Q_EMIT changed();
}

bool PenTool::doubleClick(const QPointF&) {
    if (!active_) return false;
    // Its first click has put a corner here already.
    end(false);
    return true;
}

void PenTool::end(bool closed) {
    if (points_.size() < 2) {
        said_ = tr("A wire needs two points.");
        Q_EMIT changed();
        return;
    }
    const auto drawn = points_;
    stop();
    editing_.addDrawn(drawn, closed);
}

std::optional<QString> PenTool::hover(const QPointF& at) {
    if (!active_) return std::nullopt;
    aim(at);
    Q_EMIT changed();
    return QString();  // the tag says it all
}

void PenTool::lookAway() {
    if (typed_.isEmpty()) return;
    typed_.clear();
    Q_EMIT changed();
}

void PenTool::interrupted() {
    if (!active_) return;
    const auto drawn = points_;
    const model::Id design = designId_;
    stop();
    const model::Design* of = model::find(session_.project().designs, design);
    if (drawn.size() < 2 || of == nullptr || design == session_.design().id) return;
    session_.say(
        {Notice::Tone::Caution,
         tr("The pen was put down: the %1 corners drawn belong to %2.").arg(drawn.size()).arg(text(of->name)),
         tr("Draw them there"), [this, drawn, design] {
             session_.chooseDesign(design);
             if (session_.design().id == design) editing_.addDrawn(drawn, false);
         }});
}

QStringList PenTool::tag() const {
    QStringList lines;
    if (!active_) return lines;
    if (!typed_.isEmpty()) {
        lines << typed_ + QChar(0x2502)
              << (points_.empty() ? tr("height of the first point, Enter to take it")
                                  : tr("length of this side, Enter to take it"));
    } else if (!points_.empty() && aim_) {
        const double length = (*aim_ - points_.back()).norm();
        lines << QString("%1   %2 λ")
                     .arg(lengthWords(length, feet()))
                     .arg(written(length / wavelengthM(session_.frequencyHz()), 'f', 3));
        lines << tr("%1 up").arg(lengthWords(aim_->z(), feet()));
    } else if (aim_) {
        lines << tr("%1 up").arg(lengthWords(aim_->z(), feet()));
    }
    if (!said_.isEmpty()) lines << said_;
    if (!snap_.isEmpty()) lines << snap_;
    const bool level = !plane().upright();
    lines << tr("%1   V upright  L level  G ground  %2")
                 .arg(level ? tr("on the level") : tr("upright"),
                      noSnap_ ? tr("[N no snap]") : tr("N no snap"));
    return lines;
}

void PenTool::paint(QPainter& p, const YardState& yard) {
    if (!active_) return;
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(yard.theme.reed, 2.4, Qt::SolidLine, Qt::RoundCap));
    for (std::size_t i = 0; i + 1 < points_.size(); ++i)
        p.drawLine(yard.at(points_[i]), yard.at(points_[i + 1]));
    if (aim_) {
        p.setPen(QPen(yard.theme.reed, 1.6, Qt::DashLine));
        if (!points_.empty()) p.drawLine(yard.at(points_.back()), yard.at(*aim_));
        if (yard.overGround()) {
            p.setPen(QPen(yard.theme.softInk, 0.8, Qt::DotLine));
            p.drawLine(yard.at(*aim_), yard.at({aim_->x(), aim_->y(), 0.0}));
        }
        p.setPen(QPen(snap_.isEmpty() ? yard.theme.reed : yard.theme.heather, 1.4));
        p.drawEllipse(yard.at(*aim_), snap_.isEmpty() ? 3.5 : 8.0, snap_.isEmpty() ? 3.5 : 8.0);
    }
    p.setPen(QPen(yard.theme.reed, 1.4));
    p.setBrush(yard.theme.panel);
    for (const auto& point : points_) p.drawEllipse(yard.at(point), 4.0, 4.0);
    if (aim_ || !said_.isEmpty()) paintTag(p, yard, pointer_, tag());
}

bool PenTool::wantsKey(const QKeyEvent& key) const {
    if (!active_) return false;
    switch (key.key()) {
        case Qt::Key_Escape:
        case Qt::Key_Return:
        case Qt::Key_Enter:
        case Qt::Key_Backspace:
            return true;
        default:
            break;
    }
    if (key.modifiers() & (Qt::ControlModifier | Qt::AltModifier)) return false;
    if (key.text().isEmpty() || !key.text()[0].isPrint()) return false;
    return !typed_.isEmpty() || key.text()[0].isDigit() || key.text()[0] == '.' ||
           QString("VLGN").contains(key.text().toUpper());
}

void PenTool::key(QKeyEvent& key) {
    said_.clear();
    switch (key.key()) {
        case Qt::Key_Escape:
            if (!typed_.isEmpty())
                typed_.clear();
            else
                stop();
            return;
        case Qt::Key_Return:
        case Qt::Key_Enter:
            return typed_.isEmpty() ? end(false) : applyTyped();
        case Qt::Key_Backspace:
            if (!typed_.isEmpty())
                typed_.chop(1);
            else if (!points_.empty())
                points_.pop_back();
            return;
        default:
            break;
    }
    if (!typed_.isEmpty() || key.text()[0].isDigit() || key.text()[0] == '.') {
        if (typed_.size() < 40) typed_ += key.text();
        return;
    }
    if (key.key() == Qt::Key_N) noSnap_ = !noSnap_;
    if (key.key() == Qt::Key_V) kind_ = Plane::Upright;
    if (key.key() == Qt::Key_L) kind_ = Plane::Level;
    if (key.key() == Qt::Key_G) {
        kind_ = Plane::Level;
        levelM_ = 0.0;
    }
    aim(pointer_);
}

void PenTool::applyTyped() {
    try {
        const double metres = quantity::evaluate(keptTyped(typed_, quantity::Kind::Length),
                                                 quantity::Kind::Length, model::scopeOf(session_.design()));
        typed_.clear();
        if (points_.empty()) {
            kind_ = Plane::Level;
            levelM_ = metres;
            return aim(pointer_);
        }
        if (!aim_ || !((*aim_ - points_.back()).norm() > kSameM))
            throw Error(say("Point where it goes first."));
        if (!(metres > 0.0)) throw Error(say("A length is above zero."));
        aim_ = points_.back() + metres * (*aim_ - points_.back()).normalized();
        closes_ = false;
        put();
    } catch (const Error& e) {
        said_ = text(e.what());
    }
}

}  // namespace rm::app
