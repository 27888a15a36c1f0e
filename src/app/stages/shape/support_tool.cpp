#include "app/stages/shape/support_tool.h"

#include <QLineF>
#include <algorithm>
#include <cmath>

#include "app/look/text.h"
#include "app/plot/hand_steps.h"
#include "core/edit/supports.h"

namespace rm::app {

namespace {

constexpr double kHandlePixels = 8.0;

}  // namespace

SupportTool::SupportTool(Session& session, Yard& yard)
    : YardTool(&yard), session_(session), yard_(yard), hand_(session.document()) {}

void SupportTool::refresh() {
    const Selection s = session_.selection();
    support_ = s.type == Selection::Type::Support ? s.id : 0;
    const auto* support = model::find(session_.design().site.supports, support_);
    // Changed by something else, the hand holds what is not there any more.
    if (support == nullptr || (held_ && hand_.lost())) held_.reset();
    yard_.setSelectedSupport(support == nullptr ? QString() : text(support->name));
}

const model::PlainSupport* SupportTool::plain() const {
    const auto* support = model::find(session_.design().site.supports, support_);
    const auto& expansion = yard_.state().expansion;
    if (support == nullptr || !expansion) return nullptr;
    for (const auto& one : expansion->supports)
        if (one.name == support->name) return &one;
    return nullptr;
}

std::vector<SupportTool::Handle> SupportTool::handles() const {
    const auto* support = plain();
    if (support == nullptr) return {};
    const auto foot = [](const Vec3& top) { return Vec3(top.x(), top.y(), 0.0); };
    std::vector<Handle> all{{What::Foot, tr("foot"), foot(support->topM)},
                            {What::Top, tr("top"), support->topM}};
    if (model::isEdge(support->kind))
        all.push_back({What::OtherFoot, tr("other foot"), foot(support->otherM)});
    return all;
}

std::optional<QPointF> SupportTool::handleAt(const QString& name) const {
    for (const auto& handle : handles())
        if (handle.name == name) return yard_.screenPoint(handle.atM);
    return std::nullopt;
}

std::optional<SupportTool::Handle> SupportTool::under(const QPointF& at) const {
    for (const auto& handle : handles())
        if (QLineF(yard_.screenPoint(handle.atM), at).length() < kHandlePixels) return handle;
    return std::nullopt;
}

QStringList SupportTool::tag() const {
    const auto* support = plain();
    if (support == nullptr || !held_) return {};
    const bool feet = session_.project().feetAndInches;
    const Vec3 at = model::toCompass(held_->what == What::OtherFoot ? support->otherM : support->topM,
                                     yard_.state().expansion->headingDeg);
    QStringList lines;
    if (held_->what == What::Top)
        lines << lengthWords(support->heightM(), feet) + tr(" high");
    else
        lines << tr("%1 east, %2 north").arg(lengthWords(at.x(), feet), lengthWords(at.y(), feet));
    for (const auto& moved : fit_.moved) lines << tr("moves ") + text(moved);
    for (const auto& held : fit_.held) lines << text(held);
    for (const auto& finding : session_.expansion()->findings)
        if (finding.severity == model::Severity::Error) {
            lines << text(finding.sentence);
            break;
        }
    return lines;
}

void SupportTool::paint(QPainter& p, const YardState& yard) {
    for (const auto& handle : handles()) {
        const QPointF at = yard.at(handle.atM);
        const bool hot = held_ && held_->what == handle.what;
        p.setPen(QPen(yard.theme.reed, 1.5));
        p.setBrush(hot ? yard.theme.reed : yard.theme.panel);
        if (handle.what == What::Top)
            p.drawEllipse(at, 5.0, 5.0);
        else
            p.drawPolygon(QPolygonF(
                {at + QPointF(-8, 0), at + QPointF(0, -5), at + QPointF(8, 0), at + QPointF(0, 5)}));
    }
    if (held_) paintTag(p, yard, pointer_, tag());
}

std::optional<QString> SupportTool::hover(const QPointF& at) {
    const auto handle = under(at);
    if (!handle) return std::nullopt;
    return handle->what == What::Top ? tr("Drag to change its height")
                                     : tr("Drag to move it: what hangs on it follows");
}

bool SupportTool::press(const QPointF& at, Qt::KeyboardModifiers, Qt::MouseButton button) {
    if (button != Qt::LeftButton) return false;
    const auto handle = under(at);
    if (!handle) return false;
    session_.document().settleHand();
    held_ = handle;
    moved_ = false;
    hand_.take();
    fit_ = {};
    pressed_ = pointer_ = at;
    plane_ = handle->what == What::Top ? HandPlane::upright(handle->atM, Vec3::Zero(), yard_.camera())
                                       : HandPlane::level(handle->atM);
    grabbedM_ = plane_.under(at, yard_.state()).value_or(handle->atM) - handle->atM;
    Q_EMIT changed();
    return true;
}

void SupportTool::drag(const QPointF& at, Qt::KeyboardModifiers keys) {
    if (!held_ || (!moved_ && QLineF(pressed_, at).length() < 3.0)) return;
    moved_ = true;
    pointer_ = at;
    const auto under = plane_.under(at, yard_.state());
    if (!under) return;
    const Vec3 to = *under - grabbedM_;
    const bool fine = keys & Qt::ShiftModifier;
    const bool feet = session_.project().feetAndInches;
    edit::Steps steps = handSteps(fine ? 1e-6 : metresPerPixel(held_->atM, yard_.state()), feet);
    // What stands is not placed to the centimetre by hand.
    if (!fine) steps.lengthM = std::max(steps.lengthM, feet ? 0.0762 : 0.05);
    const Vec3 compass = model::toCompass(to, yard_.state().expansion->headingDeg);
    hand_.apply(held_->what == What::Top ? tr("Change height") : tr("Move support"), [&](model::Design& d) {
        fit_ = held_->what == What::Top ? edit::raiseSupport(d, support_, to.z(), steps)
                                        : edit::placeSupport(d, support_, held_->what == What::OtherFoot,
                                                             compass.x(), compass.y(), steps);
    });
    Q_EMIT changed();
}

void SupportTool::letGo() {
    held_.reset();
    hand_.letGo();
    Q_EMIT changed();
}

void SupportTool::release(const QPointF&, Qt::KeyboardModifiers) {
    if (held_) letGo();
}

bool SupportTool::wantsKey(const QKeyEvent& key) const {
    return held_ && key.key() == Qt::Key_Escape;
}

void SupportTool::key(QKeyEvent&) {
    const bool undo = moved_;
    letGo();
    if (undo) session_.document().undo();
}

}  // namespace rm::app
