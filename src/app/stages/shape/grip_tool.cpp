#include "app/stages/shape/grip_tool.h"

#include <QLineF>
#include <algorithm>
#include <cmath>

#include "app/look/text.h"
#include "app/look/typed_number.h"
#include "app/plot/hand_steps.h"
#include "core/edit/reshape.h"
#include "core/model/geometry.h"
#include "core/quantity/formula.h"

namespace rm::app {

namespace {

bool isLetter(const QKeyEvent& key, const char* letters) {
    return key.modifiers() == Qt::NoModifier && key.text().size() == 1 &&
           QString(letters).contains(key.text().toUpper());
}

}  // namespace

GripTool::GripTool(Session& session, Yard& yard)
    : YardTool(&yard), session_(session), yard_(yard), handles_(yard), hand_(session.document()) {}

void GripTool::refresh() {
    // What is on the bench was changed by something else: the hand holds what is not there any more.
    if (held_ && hand_.lost()) letGo();
    const model::Part* selected = session_.selectedPart();
    std::erase_if(parts_, [&](model::Id id) { return model::find(session_.design().parts, id) == nullptr; });
    // Another part chosen in the plan is chosen alone.
    const model::Id now = selected == nullptr ? 0 : selected->id;
    if (now == 0)
        parts_.clear();
    else if (now != selected_ || parts_.empty())
        parts_ = {now};
    selected_ = now;
    handles_.lay(session_.design(), session_.expansion(), parts_);
    if (hot_) {
        const auto* still = handles_.same(*hot_);
        if (still == nullptr)
            letGo();
        else
            hot_ = *still;
    }
    QStringList names;
    for (const model::Id id : parts_) names << text(model::at(session_.design().parts, id).name);
    yard_.setSelectedParts(names);
}

void GripTool::choose(const std::vector<model::Id>& parts, model::Id selected) {
    if (session_.selectedPart() == nullptr || session_.selectedPart()->id != selected)
        session_.select({Selection::Type::Part, selected});
    parts_ = parts;
    refresh();
}

void GripTool::toggle(model::Id part) {
    auto parts = parts_;
    if (std::erase(parts, part) == 0) parts.push_back(part);
    if (parts.empty()) return;
    const bool kept = std::find(parts.begin(), parts.end(), selected_) != parts.end();
    choose(parts, kept ? selected_ : parts.front());
}

void GripTool::only(model::Id part) {
    choose({part}, part);
}

std::optional<QPointF> GripTool::handleAt(const QString& name) const {
    for (const auto& handle : handles_.all())
        if (handle.name == name) return handles_.seenAt(handle);
    return std::nullopt;
}

void GripTool::paint(QPainter& p, const YardState& yard) {
    handles_.paint(p, yard, hot_);
    if (!hot_) return;
    if (held_ && !snap_.isEmpty()) {
        p.setPen(QPen(yard.theme.heather, 1.4));
        p.setBrush(Qt::NoBrush);
        p.drawEllipse(yard.at(hot_->atM), 9, 9);
    }
    paintTag(p, yard, held_ ? pointer_ : handles_.seenAt(*hot_), tag());
}

QString GripTool::typedMeaning() const {
    if (!hot_) return {};
    if (hot_->kind == GripHandle::Kind::Turn || mode_ == Mode::Turn)
        return tr("turn to the right by, degrees");
    if (hot_->kind == GripHandle::Kind::Scale) return tr("scale to, as 0.5 or 50 %");
    if (mode_ == Mode::Up || mode_ == Mode::Whole || !hot_->grip.anchorM) return tr("height");
    return tr("length");
}

QStringList GripTool::tag() const {
    if (!hot_) return {};
    QStringList lines;
    if (!typed_.isEmpty()) {
        lines << typed_ + QChar(0x2502) << typedMeaning() + tr(", Enter to take it");
    } else if (hot_->kind != GripHandle::Kind::Grip || (mode_ == Mode::Turn && held_)) {
        lines << (figure_.isEmpty() ? hot_->name : figure_);
    } else {
        const edit::Grip& grip = hot_->grip;
        if (grip.anchorM) {
            const Vec3 d = grip.atM - *grip.anchorM;
            const double lambda = wavelengthM(session_.frequencyHz());
            lines << QString("%1   %2 λ")
                         .arg(lengthWords(d.norm(), feet()))
                         .arg(written(d.norm() / lambda, 'f', 3));
            const double slope =
                d.norm() > 0.0 ? std::asin(std::clamp(d.z() / d.norm(), -1.0, 1.0)) / kDegree : 0.0;
            const double bearing = model::compassDeg(d, session_.expansion()->headingDeg);
            lines << tr("%1 up, %2° %3, towards %4°")
                         .arg(lengthWords(grip.atM.z(), feet()))
                         .arg(written(std::abs(slope), 'f', 0))
                         .arg(slope < -0.5  ? tr("down")
                              : slope > 0.5 ? tr("rising")
                                            : tr("level"))
                         .arg(written(bearing, 'f', 0));
        } else {
            lines << tr("%1 up").arg(lengthWords(grip.atM.z(), feet()));
            lines << tr("%1 forward, %2 left")
                         .arg(lengthWords(grip.atM.x(), feet()), lengthWords(grip.atM.y(), feet()));
        }
    }
    if (!said_.isEmpty()) lines << said_;
    if (!snap_.isEmpty() && held_) lines << snap_;
    if (!fit_.moved.empty() && held_) {
        QStringList names;
        for (const auto& name : fit_.moved) names << text(name);
        lines << tr("moves ") + names.join(", ");
    }
    if (held_)
        for (const auto& held : fit_.held) lines << text(held);
    if (typed_.isEmpty() && hot_->kind == GripHandle::Kind::Grip) {
        const auto mark = [&](bool on, const QString& words) {
            return on ? QString("[%1]").arg(words) : QString(words);
        };
        QStringList keys;
        if (hot_->grip.anchorM) keys << mark(mode_ == Mode::Along, tr("D along"));
        keys << mark(mode_ == Mode::Up, tr("U up")) << mark(mode_ == Mode::Whole, tr("M whole"))
             << mark(mode_ == Mode::Turn, tr("R turn")) << mark(fine_, tr("F fine"))
             << mark(noSnap_, tr("N no snap"));
        lines << keys.join("  ");
        if (!held_) lines << tr("or type the ") + typedMeaning();
    } else if (typed_.isEmpty() && !held_) {
        lines << tr("drag it, or type what to ") + typedMeaning();
    }
    return lines;
}

std::optional<QString> GripTool::hover(const QPointF& at) {
    const GripHandle* handle = handles_.under(at);
    if (handle == nullptr) return std::nullopt;
    if (handle->kind == GripHandle::Kind::Turn) return tr("Drag to turn what is selected about its middle");
    if (handle->kind == GripHandle::Kind::Scale) return tr("Drag to scale what is selected about its middle");
    return handle->name.toHtmlEscaped() + tr(": drag it, or click it and type a length");
}

edit::Steps GripTool::steps(bool fine) const {
    if (fine || fine_) return {feet() ? 0.0254 / 8.0 : 0.001, 0.1};
    return handSteps(hot_ ? metresPerPixel(hot_->atM, yard_.state()) : 0.01, feet());
}

/// What turning and scaling go about: the other end of the conductor in hand, or the middle of all, as it was
/// when the hand took it.
void GripTool::take(const GripHandle& handle) {
    start_ = handle;
    hand_.take();
    offsetM_ = edit::gripOffset(hand_.before(), *session_.expansion(), handle.grip.part);
    centreM_ = handles_.centreM();
    pivotM_ = handle.kind == GripHandle::Kind::Grip && handle.grip.anchorM ? *handle.grip.anchorM : centreM_;
}

QString GripTool::nameOf(model::Id part) const {
    return text(edit::nameOf(hand_.before(), {edit::ItemType::Part, part}));
}

void GripTool::beginSnapping() {
    const auto expansion = session_.expansion();
    std::vector<std::string> own;
    for (const model::Id id : parts_) own.push_back(model::at(session_.design().parts, id).name);
    scene_ = edit::snapScene(*expansion, own);
    scene_.anchorM = start_.grip.anchorM;
    scene_.beforeAnchorM = start_.grip.beforeAnchorM;
    // The corners of the part itself that stay where they are.
    if (start_.grip.kind == edit::GripKind::Point)
        for (const auto& handle : handles_.all())
            if (handle.grip.kind == edit::GripKind::Point && handle.kind == GripHandle::Kind::Grip &&
                !handle.grip.is(start_.grip))
                scene_.points.push_back({handle.atM, handle.grip.name});
    for (const auto& wire : expansion->model.wires)
        if (wire.origin() == own.front()) {
            const auto waves = edit::waveLengths(wire, wavelengthM(session_.frequencyHz()));
            scene_.lengths.insert(scene_.lengths.begin(), waves.begin(), waves.end());
            break;
        }
}

bool GripTool::press(const QPointF& at, Qt::KeyboardModifiers, Qt::MouseButton button) {
    if (button != Qt::LeftButton) return false;
    const GripHandle* handle = handles_.under(at);
    if (handle == nullptr) {
        if (hot_) letGo();
        return false;
    }
    // What is half typed in the plan belongs to the design as it is.
    session_.document().settleHand();
    const GripHandle taken = *handle;
    if (!hot_ || !hot_->is(taken)) mode_ = Mode::Free;
    hot_ = taken;
    take(taken);
    held_ = true;
    moved_ = false;
    typed_.clear();
    said_.clear();
    fit_ = {};
    figure_.clear();
    pointer_ = pressed_ = at;
    const Vec3 along = taken.grip.anchorM ? Vec3(taken.atM - *taken.grip.anchorM) : Vec3::Zero();
    plane_ = HandPlane::suited(taken.atM, along, yard_.camera());
    pressedM_ = plane_.under(at, yard_.state()).value_or(taken.atM);
    beginSnapping();
    Q_EMIT changed();
    return true;
}

void GripTool::drag(const QPointF& at, Qt::KeyboardModifiers keys) {
    if (!held_) return;
    if (!moved_ && QLineF(pointer_, at).length() < 3.0) return;
    moved_ = true;
    pointer_ = at;
    moveTo(at, keys & Qt::ShiftModifier);
}

void GripTool::moveTo(const QPointF& at, bool fine) {
    const YardState& yard = yard_.state();
    snap_.clear();
    const auto step = steps(fine);
    if (start_.kind == GripHandle::Kind::Turn || mode_ == Mode::Turn) {
        const Vec3& about = pivotM_;
        HandPlane level = HandPlane::level({about.x(), about.y(), start_.atM.z()});
        // Seen along the ground the hand goes sideways.
        const auto under = level.under(at, yard);
        const auto from = level.under(pressed_, yard);
        double degrees = 0.0;
        if (under && from && std::abs(yard.camera.elevationDeg) > 8.0) {
            degrees =
                std::remainder(model::bearingDeg(*under - about) - model::bearingDeg(*from - about), 360.0);
        } else {
            degrees = 0.5 * (at.x() - pressed_.x());
        }
        const double grain = fine || fine_ ? 1.0 : noSnap_ ? 5.0 : 15.0;
        turnBy(grain * std::round(degrees / grain), {1e-3, 1e-2});
        return;
    }
    if (start_.kind == GripHandle::Kind::Scale) {
        const QPointF centre = yard.at(centreM_);
        const double whole = QLineF(centre, pressed_).length();
        const double factor = whole > 1.0 ? QLineF(centre, at).length() / whole : 1.0;
        const double grain = fine || fine_ ? 0.01 : 0.05;
        scaleBy(std::max(grain, grain * std::round(factor / grain)), {step.lengthM, step.angleDeg});
        return;
    }
    if (mode_ == Mode::Up) {
        const auto up = onLine(start_.atM, Vec3::UnitZ(), at, yard);
        if (up) placeAt({start_.atM.x(), start_.atM.y(), up->z()}, step);
        return;
    }
    if (mode_ == Mode::Along && start_.grip.anchorM) {
        const auto on = onLine(start_.atM, start_.atM - *start_.grip.anchorM, at, yard);
        if (on) placeAt(*on, {0.5 * step.lengthM, step.angleDeg});
        return;
    }
    const auto under = plane_.under(at, yard);
    if (!under) return;
    Vec3 to = start_.atM + *under - pressedM_;
    if (mode_ == Mode::Whole || start_.grip.kind == edit::GripKind::Whole) {
        shiftBy(to - start_.atM, step);
        return;
    }
    if (!noSnap_) {
        // Round numbers where nothing holds it; what a guide fixes is as exact as what it follows.
        for (int a = 0; a < 3; ++a)
            if (std::abs(to[a] - start_.atM[a]) > 1e-9)
                to[a] = step.lengthM * std::round(to[a] / step.lengthM);
        const auto snapped = edit::snapped(scene_, to, plane_.u, plane_.v, onScreen(yard), kSnapPx);
        // What it clicks into already does not hold it.
        if (!snapped.name.empty() && QLineF(yard.at(snapped.atM), yard.at(start_.atM)).length() > 1.0) {
            snap_ = text(snapped.name);
            placeAt(snapped.atM, {0.0, 0.0});
            return;
        }
    }
    placeAt(to, step);
}

void GripTool::apply(const QString& what, const std::function<edit::Fit(model::Design&)>& change) {
    edit::Fit fit;
    const bool done = hand_.apply(what, [&](model::Design& d) { fit = change(d); });
    if (!done) return;
    fit_ = fit;
    Q_EMIT changed();
}

void GripTool::placeAt(const Vec3& to, const edit::Steps& step) {
    apply(tr("Move ") + start_.name + tr(" of ") + nameOf(start_.grip.part), [&](model::Design& d) {
        auto dragged = edit::dragGrip(std::move(d), start_.grip, to, offsetM_, step);
        d = std::move(dragged.design);
        return dragged.fit;
    });
}

void GripTool::shiftBy(const Vec3& by, const edit::Steps& step) {
    apply(parts_.size() > 1 ? tr("Move parts") : tr("Move ") + nameOf(parts_.front()),
          [&](model::Design& d) { return edit::shiftParts(d, parts_, by, step); });
}

void GripTool::turnBy(double degrees, const edit::Steps& step) {
    figure_ = tr("%1° to the %2")
                  .arg(written(std::abs(degrees), 'f', 0))
                  .arg(degrees < 0.0 ? tr("left") : tr("right"));
    const Vec3 about = pivotM_ - offsetM_;
    apply(parts_.size() > 1 ? tr("Turn parts") : tr("Turn ") + nameOf(parts_.front()),
          [&](model::Design& d) { return edit::turnParts(d, parts_, about, degrees, step); });
}

void GripTool::scaleBy(double factor, const edit::Steps& step) {
    figure_ = QString("× %1").arg(written(factor, 'f', 2));
    const Vec3 about = centreM_ - offsetM_;
    apply(parts_.size() > 1 ? tr("Scale parts") : tr("Scale ") + nameOf(parts_.front()),
          [&](model::Design& d) { return edit::scaleParts(d, parts_, about, factor, step); });
}

void GripTool::release(const QPointF&, Qt::KeyboardModifiers) {
    if (!held_) return;
    held_ = false;
    session_.document().finishMerging();
    figure_.clear();
    refresh();
    Q_EMIT changed();
}

void GripTool::letGo() {
    hot_.reset();
    held_ = false;
    mode_ = Mode::Free;
    fine_ = noSnap_ = false;
    typed_.clear();
    said_.clear();
    Q_EMIT changed();
}

/// What is half typed was typed for the antenna as it is: looking elsewhere drops it.
void GripTool::lookAway() {
    if (typed_.isEmpty()) return;
    typed_.clear();
    Q_EMIT changed();
}

bool GripTool::wantsKey(const QKeyEvent& key) const {
    if (!hot_) return false;
    if (key.key() == Qt::Key_Escape) return true;
    if (key.modifiers() & (Qt::ControlModifier | Qt::AltModifier)) return false;
    if (!typed_.isEmpty())
        return key.key() == Qt::Key_Return || key.key() == Qt::Key_Enter || key.key() == Qt::Key_Backspace ||
               (!key.text().isEmpty() && key.text()[0].isPrint());
    if (key.text().size() == 1 && (key.text()[0].isDigit() || key.text()[0] == '.' || key.text()[0] == '-'))
        return true;
    return hot_->kind == GripHandle::Kind::Grip && isLetter(key, "DUMRFN");
}

void GripTool::key(QKeyEvent& key) {
    said_.clear();
    if (key.key() == Qt::Key_Escape) {
        // Back to where it was taken, or out of hand.
        if (held_ && moved_) {
            held_ = false;
            session_.document().finishMerging();
            session_.document().undo();
        }
        if (!typed_.isEmpty())
            typed_.clear();
        else
            letGo();
        return;
    }
    if (!typed_.isEmpty() && (key.key() == Qt::Key_Return || key.key() == Qt::Key_Enter)) return applyTyped();
    if (key.key() == Qt::Key_Backspace) {
        typed_.chop(1);
        return;
    }
    const bool number =
        !key.text().isEmpty() && (key.text()[0].isDigit() || key.text()[0] == '.' || key.text()[0] == '-');
    if (!typed_.isEmpty() || number) {
        if (typed_.size() < 40) typed_ += key.text();
        return;
    }
    const auto flip = [&](Mode mode) { mode_ = mode_ == mode ? Mode::Free : mode; };
    switch (key.key()) {
        case Qt::Key_D:
            flip(Mode::Along);
            break;
        case Qt::Key_U:
            flip(Mode::Up);
            break;
        case Qt::Key_M:
            flip(Mode::Whole);
            break;
        case Qt::Key_R:
            flip(Mode::Turn);
            break;
        case Qt::Key_F:
            fine_ = !fine_;
            break;
        case Qt::Key_N:
            noSnap_ = !noSnap_;
            break;
        default:
            break;
    }
    if (held_ && moved_) moveTo(pointer_, key.modifiers() & Qt::ShiftModifier);
}

void GripTool::applyTyped() {
    const QString typed = typed_;
    try {
        const bool turn = hot_->kind == GripHandle::Kind::Turn || mode_ == Mode::Turn;
        const bool scale = hot_->kind == GripHandle::Kind::Scale;
        const quantity::Kind kind = turn    ? quantity::Kind::Angle
                                    : scale ? quantity::Kind::Number
                                            : quantity::Kind::Length;
        const double value =
            quantity::evaluate(keptTyped(typed, kind), kind, model::scopeOf(session_.design()));
        // A drag that is under way counts as far as it went.
        if (held_) session_.document().finishMerging();
        held_ = false;
        take(*hot_);
        const edit::Steps exact{0.0, 0.0};
        if (turn) {
            turnBy(value, {1e-5, 1e-3});
        } else if (scale) {
            if (!(value > 0.0)) throw Error(say("A scale is above zero."));
            scaleBy(value, {1e-3, 0.1});
        } else if (mode_ == Mode::Up || mode_ == Mode::Whole || !start_.grip.anchorM) {
            const Vec3 to(start_.atM.x(), start_.atM.y(), value);
            if (mode_ == Mode::Whole)
                shiftBy(to - start_.atM, exact);
            else
                placeAt(to, exact);
        } else {
            const Vec3 d = start_.atM - *start_.grip.anchorM;
            if (!(value > 0.0)) throw Error(say("A length is above zero."));
            placeAt(*start_.grip.anchorM + value / std::max(1e-9, d.norm()) * d, exact);
        }
        typed_.clear();
        session_.document().finishMerging();
        if (!fit_.held.empty()) said_ = text(fit_.held.front());
        figure_.clear();
        refresh();
    } catch (const Error& e) {
        said_ = text(e.what());
    }
}

}  // namespace rm::app
