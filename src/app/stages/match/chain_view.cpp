#include "app/stages/match/chain_view.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

#include "app/look/focus_frame.h"
#include "app/look/text.h"
#include "app/plan/block_choices.h"
#include "app/stages/match/block_symbol.h"
#include "core/circuit/reflection.h"
#include "core/quantity/format.h"

namespace rm::app {

namespace {

constexpr double kCardWidth = 84.0;
constexpr double kCardTop = 20.0;
constexpr double kCardHeight = 92.0;
constexpr double kEnd = 46.0;          ///< room for the antenna and for the radio
constexpr double kLeastPitch = 122.0;  ///< from one card to the next
constexpr double kLineY = kCardTop + 32.0;
constexpr double kDragFrom = 6.0;

}  // namespace

ChainView::ChainView(QWidget* parent) : Themed(parent) {
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(tr("Feed path"));
    setToolTip(tr(
        "Click a block to change it, drag it to another place, click its dot to switch it off. Click a joint "
        "to "
        "match there."));
}

void ChainView::setPath(const std::vector<model::FeedBlock>& blocks) {
    blocks_ = blocks;
    if (selected_ && *selected_ >= count()) selected_.reset();
    updateGeometry();
    update();
}

void ChainView::setReport(const study::PathReport& report, double powerW, const model::SwrLimits& limits) {
    report_ = report;
    powerW_ = powerW;
    limits_ = limits;
    update();
}

int ChainView::joint() const {
    return joint_ ? std::min(*joint_, joints() - 1) : joints() - 1;
}

void ChainView::setStale(bool stale) {
    stale_ = stale;
    update();
}

void ChainView::select(std::optional<int> block) {
    if (selected_ == block) return;
    selected_ = block;
    update();
}

void ChainView::setHighlight(std::optional<int> block) {
    highlight_ = block;
    update();
}

void ChainView::selectJoint(int joint) {
    joint_ = joint;
    update();
}

QSize ChainView::sizeHint() const {
    return {static_cast<int>(2.0 * kEnd + kLeastPitch * std::max(1, count())), 172};
}

int ChainView::joints() const {
    return 1 + static_cast<int>(std::count_if(blocks_.begin(), blocks_.end(),
                                              [](const model::FeedBlock& b) { return b.enabled; }));
}

double ChainView::pitch() const {
    return (width() - 2.0 * kEnd) / std::max(1, count());
}

/// Middle of the card of a block.
double ChainView::slotX(int slot) const {
    return kEnd + (slot + 0.5) * pitch();
}

QRectF ChainView::cardRect(int block) const {
    return {slotX(block) - 0.5 * kCardWidth, kCardTop, kCardWidth, kCardHeight};
}

/// How many enabled blocks stand before this one.
int ChainView::enabledIndex(int block) const {
    return static_cast<int>(std::count_if(blocks_.begin(), blocks_.begin() + block,
                                          [](const model::FeedBlock& b) { return b.enabled; }));
}

QPointF ChainView::jointPoint(int joint) const {
    if (joint <= 0) return {count() == 0 ? kEnd + 12.0 : kEnd + 4.0, kLineY};
    // After the last block that counts before it; the last joint stands at the radio.
    if (joint >= joints() - 1) return {width() - kEnd - 4.0, kLineY};
    int seen = 0;
    for (int b = 0; b < count(); ++b) {
        if (!blocks_[static_cast<std::size_t>(b)].enabled) continue;
        if (++seen == joint) return {slotX(b) + 0.5 * pitch(), kLineY};
    }
    return {width() - kEnd - 4.0, kLineY};
}

QPointF ChainView::addPoint(int joint) const {
    return jointPoint(joint) - QPointF(0.0, kLineY - 9.0);
}

QStringList ChainView::jointLines(int joint) const {
    const auto j = static_cast<std::size_t>(joint);
    if (j >= report_.joints.size() || static_cast<int>(report_.joints.size()) != joints()) return {};
    const Complex z = report_.joints[j].impedanceOhm;
    const QString impedance = text(quantity::formatImpedance(z));
    const auto sign = impedance.lastIndexOf(' ', impedance.lastIndexOf('j'));
    return {impedance.left(sign - 1).trimmed(), impedance.mid(sign - 1).trimmed() + " Ω",
            "SWR " + text(quantity::formatSwr(circuit::swr(z, report_.referenceOhm)))};
}

QString ChainView::lossText(int block) const {
    const auto b = static_cast<std::size_t>(block);
    if (b >= blocks_.size() || !blocks_[b].enabled || static_cast<int>(report_.joints.size()) != joints())
        return {};
    const auto j = static_cast<std::size_t>(enabledIndex(block));
    const double watts = report_.lostW(powerW_).at(j);
    return QString("%1 dB, %2 W")
        .arg(written(report_.joints[j + 1].blockLossDb, 'f', 2))
        .arg(written(watts, 'f', watts < 9.95 ? 1 : 0));
}

void ChainView::paintEnds(QPainter& p) const {
    p.setPen(QPen(theme_.softInk, 1.6));
    p.drawLine(QPointF(28, kLineY), QPointF(width() - 30, kLineY));
    // The antenna: a wire that rises from its feedpoint, whose mark is that of the yard.
    p.setPen(QPen(theme_.copper, 2.2, Qt::SolidLine, Qt::RoundCap));
    p.drawLine(QPointF(20, kLineY - 6), QPointF(20, kCardTop - 12));
    p.drawLine(QPointF(20, kCardTop - 12), QPointF(40, kCardTop - 12));
    p.setPen(QPen(theme_.paper, 1.0));
    p.setBrush(theme_.sun);
    p.drawPolygon(QPolygonF({{20, kLineY - 8}, {28, kLineY}, {20, kLineY + 8}, {12, kLineY}}));
    // The radio.
    const QRectF radio(width() - 36.0, kLineY - 15.0, 32.0, 30.0);
    p.setPen(QPen(theme_.ink, 1.4));
    p.setBrush(theme_.panel);
    p.drawRoundedRect(radio, 4, 4);
    p.drawEllipse(QPointF(radio.right() - 9, radio.center().y() + 4), 4.5, 4.5);
    p.drawLine(QPointF(radio.left() + 5, radio.top() + 8), QPointF(radio.right() - 5, radio.top() + 8));
    p.setFont(textFont(kTinyPt));
    p.setPen(theme_.softInk);
    p.drawText(QRectF(radio.left() - 8, radio.bottom() + 1, 48, 12), Qt::AlignCenter, tr("radio"));
    p.drawText(QRectF(0, kLineY + 16, 44, 12), Qt::AlignCenter, tr("antenna"));
}

void ChainView::paintCard(QPainter& p, int index, QRectF card) const {
    const auto& block = blocks_[static_cast<std::size_t>(index)];
    const bool chosen = selected_ == index;
    const bool lit = highlight_ == index;
    p.setPen(QPen(chosen || lit ? theme_.reed : theme_.line, chosen ? 2.0 : 1.2));
    p.setBrush(chosen ? theme_.reedTint : theme_.panel);
    p.drawRoundedRect(card, 7, 7);
    const QColor ink = block.enabled ? (stale_ ? theme_.softInk : theme_.ink) : theme_.line;
    p.setPen(QPen(ink, 1.5));
    p.setFont(textFont(kTinyPt));
    if (block.enabled) {
        paintBlockSymbol(p, QRectF(card.left() + 4, kLineY - 18, card.width() - 8, 36), block);
    } else {
        p.setPen(QPen(theme_.softInk, 1.5));
        p.drawLine(QPointF(card.left(), kLineY), QPointF(card.right(), kLineY));
        p.drawText(QRectF(card.left(), kLineY - 18, card.width(), 14), Qt::AlignCenter, tr("off"));
    }
    // The dot that switches it.
    p.setPen(QPen(block.enabled ? theme_.copper : theme_.softInk, 1.4));
    p.setBrush(block.enabled ? QBrush(theme_.copper) : Qt::NoBrush);
    p.drawEllipse(QPointF(card.left() + 9, card.top() + 8), 3.5, 3.5);
    const auto line = [&](double top, const QString& what, const QColor& colour, double points, bool bold) {
        p.setFont(textFont(points, bold));
        p.setPen(colour);
        p.drawText(QRectF(card.left() + 2, top, card.width() - 4, 13), Qt::AlignCenter,
                   p.fontMetrics().elidedText(what, Qt::ElideRight, static_cast<int>(card.width() - 6)));
    };
    const double below = kLineY + 20;
    line(below, text(block.name), block.enabled ? theme_.ink : theme_.softInk, kSmallPt, true);
    line(below + 13, blockText(block), theme_.softInk, kTinyPt, false);
    line(below + 25, lossText(index), theme_.clay, kTinyPt, false);
}

void ChainView::paintJoint(QPainter& p, int joint) const {
    const QPointF at = jointPoint(joint);
    const bool here = joint == this->joint();
    p.setPen(QPen(here ? theme_.reed : theme_.water, 1.6));
    p.setBrush(here ? theme_.reed : theme_.panel);
    p.drawEllipse(at, here ? 5.0 : 4.0, here ? 5.0 : 4.0);
    const QPointF add = addPoint(joint);
    p.setPen(QPen(theme_.softInk, 1.2));
    p.drawLine(add - QPointF(4, 0), add + QPointF(4, 0));
    p.drawLine(add - QPointF(0, 4), add + QPointF(0, 4));
    const QStringList lines = jointLines(joint);
    if (lines.isEmpty()) return;
    // Below the cards, so that long impedances have room; those at the ends lean inwards.
    const double wide = 92.0;
    const double left = std::clamp(at.x() - 0.5 * wide, 0.0, width() - wide);
    const int align = joint == 0 ? Qt::AlignLeft : joint == joints() - 1 ? Qt::AlignRight : Qt::AlignHCenter;
    double y = kCardTop + kCardHeight + 4.0;
    p.setPen(QPen(here ? theme_.reed : theme_.line, 1.0, Qt::DotLine));
    p.drawLine(at + QPointF(0, 6), QPointF(at.x(), y));
    const double ratio =
        circuit::swr(report_.joints[static_cast<std::size_t>(joint)].impedanceOhm, report_.referenceOhm);
    for (int i = 0; i < lines.size(); ++i) {
        p.setFont(textFont(kSmallPt, i == 2));
        p.setPen(stale_ ? theme_.softInk : i == 2 ? theme_.forSwr(ratio, limits_) : theme_.ink);
        p.drawText(QRectF(left, y, wide, 14), align | Qt::AlignVCenter, lines[i]);
        y += 14.0;
    }
}

void ChainView::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    paintEnds(p);
    for (int j = 0; j < joints(); ++j) paintJoint(p, j);
    for (int b = 0; b < count(); ++b)
        if (!(dragging_ && pressed_ == b)) paintCard(p, b, cardRect(b));
    if (count() == 0) {
        p.setFont(textFont(kSmallPt));
        p.setPen(theme_.softInk);
        p.drawText(
            QRectF(kEnd + 84.0, kLineY + 26.0, width() - 2.0 * kEnd - 110.0, 60.0),
            Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap,
            tr("The radio is at the feedpoint. Click the + to add a transformer, a cable or a network."));
    }
    if (dragging_ && pressed_) {
        const int slot = dropSlot();
        p.setPen(QPen(theme_.reed, 2.0, Qt::DashLine));
        p.setBrush(Qt::NoBrush);
        p.drawRoundedRect(cardRect(slot), 7, 7);
        QRectF card = cardRect(*pressed_);
        card.moveCenter(QPointF(dragPoint_.x(), card.center().y() - 6.0));
        p.setOpacity(0.85);
        paintCard(p, *pressed_, card);
    }
    paintFocusFrame(p, *this, theme_);
}

int ChainView::blockAt(QPointF point) const {
    for (int b = 0; b < count(); ++b)
        if (cardRect(b).contains(point)) return b;
    return -1;
}

int ChainView::jointAt(QPointF point) const {
    for (int j = 0; j < joints(); ++j) {
        const QPointF at = jointPoint(j);
        if (std::hypot(point.x() - at.x(), point.y() - at.y()) < 11.0) return j;
        const double below = kCardTop + kCardHeight;
        if (point.y() > below && std::abs(point.x() - at.x()) < 40.0) return j;
    }
    return -1;
}

int ChainView::dropSlot() const {
    const int slot = static_cast<int>(std::floor((dragPoint_.x() - kEnd) / pitch()));
    return std::clamp(slot, 0, count() - 1);
}

void ChainView::mousePressEvent(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton) return;
    setFocus();
    const QPointF at = event->position();
    for (int j = 0; j < joints(); ++j) {
        const QPointF add = addPoint(j);
        if (std::hypot(at.x() - add.x(), at.y() - add.y()) < 8.0) {
            Q_EMIT jointChosen(j);
            Q_EMIT addRequested(j, event->globalPosition().toPoint());
            return;
        }
    }
    const int block = blockAt(at);
    if (block < 0) {
        if (const int joint = jointAt(at); joint >= 0) Q_EMIT jointChosen(joint);
        return;
    }
    const QRectF card = cardRect(block);
    if (std::hypot(at.x() - card.left() - 9, at.y() - card.top() - 8) < 7.0) {
        Q_EMIT blockToggled(block);
        return;
    }
    pressed_ = block;
    pressPoint_ = at;
    dragging_ = false;
    Q_EMIT blockChosen(block);
}

void ChainView::mouseMoveEvent(QMouseEvent* event) {
    const QPointF at = event->position();
    if (pressed_ && (event->buttons() & Qt::LeftButton) != 0) {
        dragPoint_ = at;
        if (std::abs(at.x() - pressPoint_.x()) > kDragFrom) dragging_ = true;
        if (dragging_) setCursor(Qt::ClosedHandCursor);
        update();
        return;
    }
    const int block = blockAt(at);
    setCursor(block >= 0 ? Qt::OpenHandCursor : jointAt(at) >= 0 ? Qt::PointingHandCursor : Qt::ArrowCursor);
    Q_EMIT blockHovered(block);
}

void ChainView::mouseReleaseEvent(QMouseEvent*) {
    unsetCursor();
    if (dragging_ && pressed_) {
        const int from = *pressed_;
        const int to = dropSlot();
        pressed_.reset();
        dragging_ = false;
        update();
        if (from != to) Q_EMIT blockMoved(from, to);
        return;
    }
    pressed_.reset();
    dragging_ = false;
}

void ChainView::keyPressEvent(QKeyEvent* event) {
    const int now = selected_.value_or(-1);
    const bool move = (event->modifiers() & Qt::ControlModifier) != 0;
    const int step = event->key() == Qt::Key_Right ? 1 : event->key() == Qt::Key_Left ? -1 : 0;
    if (step != 0 && count() > 0) {
        const int to = std::clamp(now + step, 0, count() - 1);
        if (move && now >= 0 && to != now)
            Q_EMIT blockMoved(now, to);
        else if (!move)
            Q_EMIT blockChosen(to);
        return;
    }
    if (event->key() == Qt::Key_Space && now >= 0) return Q_EMIT blockToggled(now);
    if (event->key() == Qt::Key_Delete && now >= 0) return Q_EMIT removeRequested(now);
    QWidget::keyPressEvent(event);
}

void ChainView::leaveEvent(QEvent*) {
    Q_EMIT blockHovered(-1);
}

}  // namespace rm::app
