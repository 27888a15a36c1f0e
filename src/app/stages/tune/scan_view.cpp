#include "app/stages/tune/scan_view.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QMouseEvent>
#include <QPainter>
#include <QPushButton>
#include <QRegularExpression>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "app/look/key_pointer.h"
#include "app/look/lengths.h"
#include "app/look/text.h"
#include "app/look/typed_number.h"
#include "app/plot/ticks.h"
#include "core/model/dimension_kind.h"
#include "core/model/expand.h"
#include "core/quantity/format.h"
#include "core/study/tuning/tune_axes.h"

namespace rm::app {

namespace {

constexpr int kCurvePoints = 41;
constexpr int kMapPoints = 21;
/// Above this an SWR is all the same.
constexpr double kMostSwr = 6.0;

QColor blend(const QColor& a, const QColor& b, double share) {
    const auto mix = [&](int from, int to) {
        return static_cast<int>(std::lround(from + share * (to - from)));
    };
    return {mix(a.red(), b.red()), mix(a.green(), b.green()), mix(a.blue(), b.blue())};
}

/// What a scale of such a dimension counts in.
LengthUnit scaleOf(model::DimensionKind kind) {
    if (kind == model::DimensionKind::Length) return lengthUnit();
    return kind == model::DimensionKind::Angle
               ? LengthUnit{1.0, "°", QCoreApplication::translate("rm::app::ScanPlot", "degrees")}
               : LengthUnit{};
}

}  // namespace

ScanPlot::ScanPlot(QWidget* parent) : Themed(parent) {
    setMouseTracking(true);
    new KeyPointer(*this);  // of the view
    setMinimumSize(260, 160);
    setAccessibleName(tr("Scan"));
    setToolTip(tr("Click a point to set the dimension there"));
}

void ScanPlot::setNow(double x, double y) {
    xNow_ = x;
    yNow_ = y;
    update();
}

void ScanPlot::setScan(const study::Scan& scan, study::ScanFigure figure, const model::Dimension& x,
                       const model::Dimension& y) {
    scan_ = scan;
    figure_ = figure;
    x_ = x;
    y_ = y;
    low_ = 1e300;
    high_ = -1e300;
    for (double v : scan_.value) {
        if (std::isnan(v)) continue;
        if (figure_ == study::ScanFigure::Swr) v = std::min(v, kMostSwr);
        low_ = std::min(low_, v);
        high_ = std::max(high_, v);
    }
    if (high_ - low_ < 1e-9) high_ = low_ + 1.0;
    update();
}

QRectF ScanPlot::area() const {
    return QRectF(rect()).adjusted(50, 22, map() ? -66 : -14, -32);
}

QPointF ScanPlot::at(int i, int j) const {
    const QRectF r = area();
    const double x = r.left() + r.width() * i / std::max(1, scan_.x.count - 1);
    return {x, map() ? r.bottom() - r.height() * j / (scan_.y.count - 1) : r.center().y()};
}

double ScanPlot::xAt(double pixel) const {
    const QRectF r = area();
    return scan_.x.from + (scan_.x.to - scan_.x.from) * std::clamp((pixel - r.left()) / r.width(), 0.0, 1.0);
}

double ScanPlot::yAt(double pixel) const {
    const QRectF r = area();
    return scan_.y.from +
           (scan_.y.to - scan_.y.from) * std::clamp((r.bottom() - pixel) / r.height(), 0.0, 1.0);
}

QString ScanPlot::figure(double value) const {
    using study::ScanFigure;
    if (std::isnan(value)) return tr("not to be worked out");
    switch (figure_) {
        case ScanFigure::Swr:
            return "SWR " + QString::fromStdString(quantity::formatSwr(value));
        case ScanFigure::Gain:
        case ScanFigure::GainAt:
            return QString::fromStdString(quantity::formatDb(value, 2)) + " dBi";
        case ScanFigure::FrontToRear:
        case ScanFigure::FrontToBack:
        case ScanFigure::SideLobe:
            return QString::fromStdString(quantity::formatDb(value, 1)) + " dB";
        case ScanFigure::Takeoff:
        case ScanFigure::Beamwidth:
            return QString("%1°").arg(written(value, 'f', 1));
        case ScanFigure::Efficiency:
        case ScanFigure::GroundShare:
            return QString("%1 %").arg(written(value, 'f', 1));
        default:
            return QString("%1 Ω").arg(written(value, 'f', 1)).replace('-', QChar(0x2212));
    }
}

QString ScanPlot::place(int i, int j) const {
    const auto one = [](const model::Dimension& d, double value) {
        static const QRegularExpression zeros("(\\.\\d*?)0+(?=\\D|$)");
        static const QRegularExpression point("\\.(?=\\D|$)");
        return d.kind == model::DimensionKind::Length
                   ? shownTyped(text(quantity::lengthLike(d.text, value))
                                    .replace(zeros, "\\1")
                                    .remove(point)
                                    .toStdString())
                   : QString("%1%2").arg(written(value, 'g', 5), scaleOf(d.kind).name);
    };
    return one(x_, scan_.x.at(i)) + (map() ? ", " + one(y_, scan_.y.at(j)) : QString());
}

bool ScanPlot::lowIsGood() const {
    using study::ScanFigure;
    return figure_ == ScanFigure::Swr || figure_ == ScanFigure::Takeoff || figure_ == ScanFigure::SideLobe ||
           figure_ == ScanFigure::GroundShare;
}

/// Where the figure is best; R and the width of a beam have no best.
std::optional<std::size_t> ScanPlot::best() const {
    using study::ScanFigure;
    std::optional<std::size_t> found;
    if (figure_ == ScanFigure::Resistance || figure_ == ScanFigure::Beamwidth) return found;
    const auto rank = [this](double v) {
        return lowIsGood() ? v : figure_ == ScanFigure::Reactance ? std::abs(v) : -v;
    };
    for (std::size_t i = 0; i < scan_.value.size(); ++i)
        if (!std::isnan(scan_.value[i]) && (!found || rank(scan_.value[i]) < rank(scan_.value[*found])))
            found = i;
    return found;
}

void ScanPlot::paintAxis(QPainter& p) const {
    const QRectF r = area();
    p.setFont(textFont(kTinyPt));
    const LengthUnit unit = scaleOf(x_.kind);
    for (const double v : ticks(scan_.x.from / unit.metres, scan_.x.to / unit.metres, 7)) {
        const double x =
            r.left() + r.width() * (v * unit.metres - scan_.x.from) / (scan_.x.to - scan_.x.from);
        p.setPen(QPen(theme_.line, 0.8));
        p.drawLine(QPointF(x, r.bottom()), QPointF(x, map() ? r.bottom() + 3 : r.top()));
        p.setPen(theme_.softInk);
        p.drawText(QRectF(x - 30, r.bottom() + 4, 60, 13), Qt::AlignCenter, written(v, 'g', 5));
    }
    p.drawText(
        QRectF(r.left(), r.bottom() + 17, r.width(), 14), Qt::AlignCenter,
        QString::fromStdString(scan_.x.dimension) + (unit.whole.isEmpty() ? QString() : ", " + unit.whole));
}

void ScanPlot::paintCurve(QPainter& p) const {
    const QRectF r = area();
    const double room = 0.06 * (high_ - low_);
    const double bottom = figure_ == study::ScanFigure::Swr ? 1.0 : low_ - room;
    const double top = high_ + room;
    const auto y = [&](double v) {
        return r.bottom() - r.height() * (std::min(v, top) - bottom) / (top - bottom);
    };
    const double step = roundStep(top - bottom, 5);
    for (const double v : ticksBy(bottom, top, step)) {
        p.setPen(QPen(theme_.line, 0.8));
        p.drawLine(QPointF(r.left(), y(v)), QPointF(r.right(), y(v)));
        p.setPen(theme_.softInk);
        p.drawText(QRectF(0, y(v) - 7, r.left() - 5, 14), Qt::AlignRight | Qt::AlignVCenter,
                   written(std::abs(v) < 1e-9 * step ? 0.0 : v, 'g', 4).replace('-', QChar(0x2212)));
    }
    p.setPen(QPen(theme_.copper, 2.0));
    QPolygonF line;
    for (int i = 0; i < scan_.x.count; ++i) {
        const double v = scan_.value[static_cast<std::size_t>(i)];
        if (std::isnan(v)) {
            p.drawPolyline(line);
            line.clear();
        } else {
            line << QPointF(at(i, 0).x(), y(v));
        }
    }
    p.drawPolyline(line);
}

void ScanPlot::paintMap(QPainter& p) const {
    const QRectF r = area();
    const int nx = scan_.x.count;
    const int ny = scan_.y.count;
    const double w = r.width() / (nx - 1);
    const double h = r.height() / (ny - 1);
    const QColor pale = theme_.dark ? theme_.sunken : theme_.panel;
    const auto shade = [&](double v) {
        if (figure_ == study::ScanFigure::Swr) v = std::min(v, kMostSwr);
        const double share = (v - low_) / (high_ - low_);
        return blend(pale, theme_.water, lowIsGood() ? 1.0 - share : share);
    };
    p.save();
    p.setClipRect(r);
    p.setRenderHint(QPainter::Antialiasing, false);
    for (int j = 0; j < ny; ++j)
        for (int i = 0; i < nx; ++i) {
            const double v = scan_.value[static_cast<std::size_t>(j * nx + i)];
            p.fillRect(QRectF(at(i, j).x() - 0.5 * w, at(i, j).y() - 0.5 * h, w + 0.7, h + 0.7),
                       std::isnan(v) ? theme_.line : shade(v));
        }
    p.restore();
    p.setRenderHint(QPainter::Antialiasing);
    p.setFont(textFont(kTinyPt));
    const LengthUnit unit = scaleOf(y_.kind);
    const double step = roundStep((scan_.y.to - scan_.y.from) / unit.metres, 6);
    p.setPen(theme_.softInk);
    for (const double v : ticksBy(scan_.y.from / unit.metres, scan_.y.to / unit.metres, step)) {
        const double y =
            r.bottom() - r.height() * (v * unit.metres - scan_.y.from) / (scan_.y.to - scan_.y.from);
        p.drawLine(QPointF(r.left() - 3, y), QPointF(r.left(), y));
        p.drawText(QRectF(0, y - 7, r.left() - 6, 14), Qt::AlignRight | Qt::AlignVCenter, written(v, 'g', 4));
    }
    p.drawText(
        QRectF(2, 2, r.left() + 200, 16), Qt::AlignLeft | Qt::AlignVCenter,
        QString::fromStdString(scan_.y.dimension) + (unit.name.isEmpty() ? QString() : ", " + unit.name));
    // The key to the shades.
    const QRectF key(r.right() + 10, r.top(), 12, r.height());
    for (int i = 0; i < static_cast<int>(key.height()); ++i)
        p.fillRect(QRectF(key.left(), key.bottom() - i - 1, key.width(), 1.0),
                   shade(low_ + (high_ - low_) * i / key.height()));
    const double labels = roundStep(high_ - low_, 5);
    for (const double v : ticksBy(low_, high_, labels))
        p.drawText(
            QRectF(key.right() + 4, key.bottom() - key.height() * (v - low_) / (high_ - low_) - 7, 44, 14),
            Qt::AlignLeft | Qt::AlignVCenter,
            written(std::abs(v) < 1e-9 * labels ? 0.0 : v, 'g', 3).replace('-', QChar(0x2212)));
}

void ScanPlot::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    if (scan_.value.size() < 2 || low_ > high_) {
        p.setPen(theme_.softInk);
        p.setFont(textFont(kTextPt));
        p.drawText(rect().adjusted(40, 0, -40, 0), Qt::AlignCenter | Qt::TextWordWrap,
                   tr("Choose a dimension and a figure, and press Scan. With a second dimension the curve "
                      "becomes a map."));
        return;
    }
    if (!isEnabled()) p.setOpacity(0.35);
    const QRectF r = area();
    paintAxis(p);
    map() ? paintMap(p) : paintCurve(p);
    const auto xOf = [&](double v) {
        return r.left() + r.width() * (v - scan_.x.from) / (scan_.x.to - scan_.x.from);
    };
    const auto yOf = [&](double v) {
        return r.bottom() - r.height() * (v - scan_.y.from) / (scan_.y.to - scan_.y.from);
    };
    // Where the design is.
    p.setPen(QPen(theme_.sun, 1.4, Qt::DashLine));
    if (xNow_ >= scan_.x.from && xNow_ <= scan_.x.to)
        p.drawLine(QPointF(xOf(xNow_), r.top()), QPointF(xOf(xNow_), r.bottom()));
    if (map() && yNow_ >= scan_.y.from && yNow_ <= scan_.y.to)
        p.drawLine(QPointF(r.left(), yOf(yNow_)), QPointF(r.right(), yOf(yNow_)));
    if (const auto found = best()) {
        const int i = static_cast<int>(*found) % scan_.x.count;
        const int j = static_cast<int>(*found) / scan_.x.count;
        p.setFont(textFont(kSmallPt, true));
        p.setPen(theme_.reed);
        p.drawText(QRectF(r.left(), 3, width() - r.left() - 8, 16), Qt::AlignRight | Qt::AlignVCenter,
                   tr("best %1 at %2").arg(figure(scan_.value[*found]), place(i, j)));
        if (map()) {
            p.setPen(QPen(theme_.reed, 2.0));
            p.setBrush(Qt::NoBrush);
            p.drawEllipse(at(i, j), 6, 6);
        }
    }
    if (!cursor_) return;
    const auto nearest = [](double share, int count) {
        return std::clamp(static_cast<int>(std::lround(share * (count - 1))), 0, count - 1);
    };
    const int i = nearest((cursor_->x() - r.left()) / r.width(), scan_.x.count);
    const int j = map() ? nearest((r.bottom() - cursor_->y()) / r.height(), scan_.y.count) : 0;
    p.setPen(QPen(theme_.heather, 1.3));
    p.drawLine(QPointF(at(i, j).x(), r.top()), QPointF(at(i, j).x(), r.bottom()));
    if (map()) p.drawLine(QPointF(r.left(), at(i, j).y()), QPointF(r.right(), at(i, j).y()));
    const QString said = QString("%1: %2").arg(
        place(i, j), figure(scan_.value[static_cast<std::size_t>(j * scan_.x.count + i)]));
    p.setFont(textFont(kSmallPt));
    const QRectF box(r.left() + 6, r.top() + 4, p.fontMetrics().horizontalAdvance(said) + 12.0, 18);
    p.setPen(Qt::NoPen);
    p.setBrush(theme_.panel);
    p.drawRoundedRect(box, 4, 4);
    p.setPen(theme_.heather);
    p.drawText(box, Qt::AlignCenter, said);
}

void ScanPlot::mouseMoveEvent(QMouseEvent* event) {
    cursor_ = event->position();
    update();
}

void ScanPlot::mousePressEvent(QMouseEvent* event) {
    if (scan_.value.size() < 2 || !area().adjusted(-2, -2, 2, 2).contains(event->position())) return;
    Q_EMIT clicked(xAt(event->position().x()), map() ? yAt(event->position().y()) : 0.0);
}

void ScanPlot::leaveEvent(QEvent*) {
    cursor_.reset();
    update();
}

ScanView::ScanView(Document& document, QWidget* parent) : QWidget(parent), document_(document) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(4);
    const auto label = [](const QString& s) {
        auto* l = new QLabel(s);
        l->setFont(textFont(kSmallPt));
        return l;
    };
    for (int which = 0; which < 2; ++which) {
        auto* row = new QHBoxLayout;
        row->setSpacing(5);
        dimensions_[which] = new QComboBox;
        dimensions_[which]->setObjectName(QString("scanDimension%1").arg(which));
        dimensions_[which]->setToolTip(which == 0 ? tr("The dimension to scan")
                                                  : tr("A second one makes a map"));
        from_[which] = new QLineEdit;
        to_[which] = new QLineEdit;
        dimensions_[which]->setAccessibleName(which == 0 ? tr("Over") : tr("And over"));
        from_[which]->setAccessibleName(tr("From"));
        to_[which]->setAccessibleName(tr("To"));
        row->addWidget(label(which == 0 ? tr("Over") : tr("and")));
        row->addWidget(dimensions_[which], 1);
        row->addWidget(label(tr("from")));
        row->addWidget(from_[which]);
        row->addWidget(label(tr("to")));
        row->addWidget(to_[which]);
        for (auto* field : {from_[which], to_[which]}) {
            field->setFixedWidth(72);
            connect(field, &QLineEdit::returnPressed, this, &ScanView::runRequested);
        }
        for (QWidget* w : std::initializer_list<QWidget*>{dimensions_[which], from_[which], to_[which]})
            w->setFont(textFont(kSmallPt));
        connect(dimensions_[which], &QComboBox::activated, this, [this, which] { fillRange(which); });
        if (which == 0) {
            figures_ = new QComboBox;
            figures_->setObjectName("scanFigure");
            figures_->setFont(textFont(kSmallPt));
            figures_->addItems({"SWR", tr("gain"), tr("front-to-rear"), tr("front-to-back"),
                                tr("takeoff angle"), "R", "X", tr("efficiency"), tr("lost in the ground"),
                                tr("beamwidth"), tr("side lobe")});
            figures_->setToolTip(tr("What to look at, at the working frequency"));
            row->addWidget(figures_);
        } else {
            run_ = new QPushButton(tr("Scan"));
            run_->setObjectName("scanRun");
            run_->setProperty("main", true);
            run_->setFont(textFont(kTextPt, true));
            connect(run_, &QPushButton::clicked, this, &ScanView::runRequested);
            row->addWidget(run_);
        }
        column->addLayout(row);
    }
    said_ = label({});
    said_->setObjectName("scanSaid");
    said_->setProperty("soft", true);
    said_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    column->addWidget(said_);
    plot_ = new ScanPlot;
    column->addWidget(plot_, 1);
    connect(plot_, &ScanPlot::clicked, this, [this](double x, double y) {
        const auto& scan = plot_->scan();
        Q_EMIT valuesChosen(QString::fromStdString(scan.x.dimension), x,
                            scan.y.count > 1 ? QString::fromStdString(scan.y.dimension) : QString(), y);
    });
}

const model::Dimension* ScanView::chosen(int which) const {
    const auto name = dimensions_[which]->currentData().toString().toStdString();
    for (const auto& d : document_.design().dimensions)
        if (d.name == name) return &d;
    return nullptr;
}

void ScanView::refresh() {
    for (int which = 0; which < 2; ++which) {
        const QVariant before = dimensions_[which]->currentData();
        dimensions_[which]->clear();
        if (which == 1) dimensions_[which]->addItem(tr("nothing else"), QString());
        for (const auto& d : document_.design().dimensions)
            if (quantity::isPlainNumber(d.text))
                dimensions_[which]->addItem(QString::fromStdString(d.name), QString::fromStdString(d.name));
        const int index = dimensions_[which]->findData(before);
        if (index >= 0) dimensions_[which]->setCurrentIndex(index);
        if (index < 0 || from_[which]->text().isEmpty()) fillRange(which);
    }
    // After the figures of every antenna, the gains at the watch angles.
    const auto& watch = document_.project().angles.watchDeg;
    for (std::size_t i = 0; i < watch.size(); ++i) {
        const int at = static_cast<int>(study::ScanFigure::GainAt) + static_cast<int>(i);
        const QString name = tr("gain at %1°").arg(written(watch[i], 'g', 6));
        if (at < figures_->count())
            figures_->setItemText(at, name);
        else
            figures_->addItem(name);
    }
    // The mark follows the design.
    const auto scope = model::scopeOf(document_.design());
    const auto now = [&](const std::string& name) {
        const auto found = scope.values.find(name);
        return found == scope.values.end() ? std::nan("") : found->second;
    };
    plot_->setNow(now(plot_->scan().x.dimension), now(plot_->scan().y.dimension));
}

void ScanView::fillRange(int which) {
    const auto* d = chosen(which);
    from_[which]->setEnabled(d != nullptr);
    to_[which]->setEnabled(d != nullptr);
    if (d == nullptr) {
        from_[which]->clear();
        to_[which]->clear();
        return;
    }
    // The range of its slider, or a quarter to both sides.
    double now = 0.0;
    try {
        now = quantity::evaluate(d->text, model::kindOf(d->kind), {});
    } catch (const Error&) {
        // The finding about the dimension says what is wrong.
    }
    const auto end = [&](const std::string& typed, double factor) {
        return shownTyped(typed.empty() ? study::dimensionText(d->kind, factor * now) : typed);
    };
    from_[which]->setText(end(d->low, 0.75));
    to_[which]->setText(end(d->high, 1.25));
}

void ScanView::chooseSecond(int index) {
    // The list begins with nothing and the first dimension itself.
    dimensions_[1]->setCurrentIndex(index == 0 ? 0 : index + 1);
    fillRange(1);
}

study::ScanAxis ScanView::axis(int which) const {
    const auto* d = chosen(which);
    if (d == nullptr && which == 1) return {"", 0.0, 0.0, 1};
    if (d == nullptr)
        throw Error(say("Choose a dimension to scan: this design has none with a number of its own."));
    const auto scope = model::scopeOf(document_.design());
    study::ScanAxis axis;
    axis.dimension = d->name;
    try {
        axis.from = quantity::evaluate(keptTyped(from_[which]->text(), model::kindOf(d->kind)),
                                       model::kindOf(d->kind), scope);
        axis.to = quantity::evaluate(keptTyped(to_[which]->text(), model::kindOf(d->kind)),
                                     model::kindOf(d->kind), scope);
    } catch (const Error& e) {
        throw Error(say("The range of {}: {}", d->name, e.what()));
    }
    if (!(axis.to > axis.from))
        throw Error(say("The range of {} has to go from a lower to a higher value.", d->name));
    if (which == 1 && dimensions_[0]->currentData() == dimensions_[1]->currentData())
        throw Error(say("Both dimensions are the same: choose another one for the second."));
    axis.count = chosen(1) != nullptr ? kMapPoints : kCurvePoints;
    return axis;
}

study::ScanQuantity ScanView::quantity() const {
    const int watch = figures_->currentIndex() - static_cast<int>(study::ScanFigure::GainAt);
    if (watch < 0) return static_cast<study::ScanFigure>(figures_->currentIndex());
    return {study::ScanFigure::GainAt,
            document_.project().angles.watchDeg.at(static_cast<std::size_t>(watch))};
}

void ScanView::setScan(const study::Scan& scan, const study::ScanQuantity& quantity, const QString& name,
                       double frequencyHz) {
    const auto named = [&](const std::string& dimension) {
        for (const auto& d : document_.design().dimensions)
            if (d.name == dimension) return d;
        return model::Dimension{};
    };
    plot_->setScan(scan, quantity.figure, named(scan.x.dimension), named(scan.y.dimension));
    refresh();
    const bool gaps =
        std::any_of(scan.value.begin(), scan.value.end(), [](double v) { return std::isnan(v); });
    words_ = tr("%1 at %2; the dashed line is the design, a click moves it%3")
                 .arg(name, QString::fromStdString(quantity::formatFrequency(frequencyHz)),
                      gaps ? tr("; grey or empty: cannot be built") : "");
    setOld(false);
}

void ScanView::setOld(bool old) {
    plot_->setEnabled(!old);
    said_->setText(old ? tr("Of an older design: scan again.") + "  " + words_ : words_);
}

}  // namespace rm::app
