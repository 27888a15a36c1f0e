#include "app/stages/wide/wide_plot.h"

#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

#include "app/look/key_pointer.h"
#include "app/look/text.h"
#include "app/stages/field_colours.h"

namespace rm::app {

namespace {

constexpr double kMark = 3.0;
constexpr double kDot = 1.4;
constexpr double kReach = 14.0;
/// Beyond so many a mark is a dot.
constexpr std::size_t kManyMarks = 5000;

}  // namespace

WidePlot::WidePlot(QWidget* parent) : Themed(parent) {
    setMouseTracking(true);
    new KeyPointer(*this);  // of the view
    setMinimumSize(260, 200);
    setAccessibleName(tr("Cases of the study"));
    setToolTip(tr("Click a case to choose it"));
}

void WidePlot::setTable(std::shared_ptr<const wide::Table> table, const Columns& columns) {
    if (table != table_) chosen_.reset();
    table_ = std::move(table);
    columns_ = columns;
    cursor_.reset();
    measure();
    measureColour();
    repaintAll();
}

void WidePlot::setRows(std::vector<std::size_t> rows) {
    rows_ = std::move(rows);
    shown_.assign(table_ ? table_->rows() : 0, false);
    for (const std::size_t row : rows_)
        if (row < shown_.size()) shown_[row] = true;
    measureColour();
    repaintAll();
}

void WidePlot::repaintAll() {
    picture_ = {};
    update();
}

void WidePlot::themeChanged() {
    repaintAll();
}

void WidePlot::setChosen(std::optional<std::size_t> row) {
    chosen_ = row;
    update();
}

void WidePlot::measure() {
    x_ = y_ = Range::nothing();
    cell_ = {};
    if (!table_) return;
    for (const double x : table_->numbers(columns_.across)) x_.include(x);
    for (const double y : table_->numbers(columns_.up)) y_.include(y);
    // What was varied makes cells that touch; everything else marks.
    const bool map = columns_.colour && table_->varied(columns_.across) && table_->varied(columns_.up);
    if (map) cell_ = {table_->step(columns_.across), table_->step(columns_.up)};
    const auto widen = [](Range& r, double step) {
        if (r.empty()) r = {0.0, 1.0};
        const double least = std::max(1e-9, 1e-6 * std::max(std::abs(r.low), std::abs(r.high)));
        const double by = step > 0.0 ? 0.5 * step : std::max(0.04 * r.span(), least);
        r = {r.low - by, r.high + by};
    };
    widen(x_, cell_.width());
    widen(y_, cell_.height());
}

/// The colours reach over what meets the conditions.
void WidePlot::measureColour() {
    colour_ = Range::nothing();
    if (table_ && columns_.colour)
        for (const std::size_t row : rows_)
            if (row < table_->rows()) colour_.include(table_->number(row, *columns_.colour));
    if (colour_.empty()) colour_ = {0.0, 1.0};
    if (colour_.span() <= 0.0) colour_.high = colour_.low + 1.0;
}

Frame WidePlot::frame() const {
    return {QRectF(rect()).adjusted(62, 12, columns_.colour ? -74 : -16, -38), x_, y_};
}

std::optional<QPointF> WidePlot::at(std::size_t row) const {
    if (!table_ || row >= table_->rows()) return std::nullopt;
    const double x = table_->number(row, columns_.across);
    const double y = table_->number(row, columns_.up);
    if (!std::isfinite(x) || !std::isfinite(y)) return std::nullopt;
    return frame().at(x, y);
}

QColor WidePlot::colourOf(double value) const {
    if (!std::isfinite(value)) return theme_.line;
    return fieldColour(theme_, std::clamp((value - colour_.low) / colour_.span(), 0.0, 1.0), false);
}

std::optional<std::size_t> WidePlot::nearest(const QPointF& point) const {
    std::optional<std::size_t> found;
    if (!table_) return found;
    const Frame f = frame();
    const auto& across = table_->numbers(columns_.across);
    const auto& up = table_->numbers(columns_.up);
    double least = kReach;
    for (const std::size_t row : rows_) {
        const double distance = std::hypot(f.xOf(across[row]) - point.x(), f.yOf(up[row]) - point.y());
        if (distance < least) {
            least = distance;
            found = row;
        }
    }
    return found;
}

QString WidePlot::reading() const {
    if (!cursor_ || !table_) return {};
    QStringList words{tr("case %1").arg(table_->result().rows[*cursor_].number + 1)};
    for (std::size_t c = 1; c < table_->columns(); ++c) {
        const bool asked = c == columns_.across || c == columns_.up || c == columns_.colour;
        if (asked || table_->varied(c))
            words << text(table_->heading(c) + " " + table_->text(*cursor_, c))
                         .replace(" -", QString(" ") + QChar(0x2212));
    }
    return words.join(" · ");
}

void WidePlot::paintKey(QPainter& p, const QRectF& area) const {
    const QRectF key(area.right() + 14, area.top(), 12, area.height());
    for (int i = 0; i < static_cast<int>(key.height()); ++i)
        p.fillRect(QRectF(key.left(), key.bottom() - i - 1, key.width(), 1.0),
                   fieldColour(theme_, i / key.height(), false));
    p.setFont(textFont(kTinyPt));
    p.setPen(theme_.softInk);
    const double step = roundStep(colour_.span(), 6);
    for (const double v : ticksBy(colour_.low, colour_.high, step))
        p.drawText(QRectF(key.right() + 4,
                          key.bottom() - key.height() * (v - colour_.low) / colour_.span() - 7, 44, 14),
                   Qt::AlignLeft | Qt::AlignVCenter, tickText(v, step));
}

void WidePlot::paintMarks(QPainter& p, const Frame& f) const {
    const auto& across = table_->numbers(columns_.across);
    const auto& up = table_->numbers(columns_.up);
    const bool cells = !cell_.isEmpty();
    const double dot = 2.0 * kDot;
    const QSizeF box = cells ? QSizeF(cell_.width() / x_.span() * f.area.width() + 0.7,
                                      cell_.height() / y_.span() * f.area.height() + 0.7)
                             : QSizeF(dot, dot);
    const bool round = !cells && table_->rows() <= kManyMarks;
    p.setRenderHint(QPainter::Antialiasing, round);
    p.setPen(Qt::NoPen);
    // What the conditions leave out, then what they let through on top of it.
    for (const bool through : {false, true})
        for (std::size_t row = 0; row < table_->rows(); ++row) {
            if (row >= shown_.size() || shown_[row] != through) continue;
            if (!std::isfinite(across[row]) || !std::isfinite(up[row])) continue;
            const QPointF there = f.at(across[row], up[row]);
            const QColor colour = !through          ? theme_.line
                                  : columns_.colour ? colourOf(table_->number(row, *columns_.colour))
                                                    : theme_.water;
            if (round) {
                p.setBrush(colour);
                p.drawEllipse(there, kMark, kMark);
            } else {
                p.fillRect(QRectF(there - QPointF(0.5 * box.width(), 0.5 * box.height()), box), colour);
            }
        }
    p.setRenderHint(QPainter::Antialiasing);
}

QImage WidePlot::picture() const {
    QImage image(size() * devicePixelRatioF(), QImage::Format_ARGB32_Premultiplied);
    image.setDevicePixelRatio(devicePixelRatioF());
    image.fill(Qt::transparent);
    QPainter p(&image);
    p.setRenderHint(QPainter::Antialiasing);
    const Frame f = frame();
    f.paintGrid(p, theme_, 6, 6);
    f.paintTitles(p, theme_, text(table_->heading(columns_.across)), text(table_->heading(columns_.up)));
    paintMarks(p, f);
    if (columns_.colour) paintKey(p, f.area);
    return image;
}

void WidePlot::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    if (!table_ || table_->rows() == 0) {
        p.setPen(theme_.softInk);
        p.setFont(textFont(kTextPt));
        p.drawText(rect().adjusted(40, 0, -40, 0), Qt::AlignCenter | Qt::TextWordWrap,
                   table_ ? tr("No case is there yet.")
                          : tr("Open the result of a study: it was made by reedmast-cli study."));
        return;
    }
    if (picture_.isNull() || picture_.deviceIndependentSize() != QSizeF(size()) ||
        picture_.devicePixelRatio() != devicePixelRatioF())
        picture_ = picture();
    p.drawImage(QPointF(), picture_);
    const auto ring = [&](std::optional<std::size_t> row, const QColor& colour, double width) {
        const auto there = row ? at(*row) : std::nullopt;
        if (!there) return;
        p.setPen(QPen(colour, width));
        p.setBrush(Qt::NoBrush);
        p.drawEllipse(*there, 7.0, 7.0);
    };
    ring(cursor_, theme_.heather, 1.4);
    ring(chosen_, theme_.copper, 2.2);
}

void WidePlot::mouseMoveEvent(QMouseEvent* event) {
    const auto under = nearest(event->position());
    if (under == cursor_) return;
    cursor_ = under;
    update();
    Q_EMIT cursorMoved();
}

void WidePlot::mousePressEvent(QMouseEvent* event) {
    if (const auto under = nearest(event->position())) Q_EMIT rowChosen(*under);
}

void WidePlot::leaveEvent(QEvent*) {
    if (!cursor_) return;
    cursor_.reset();
    update();
    Q_EMIT cursorMoved();
}

}  // namespace rm::app
