#include "app/stages/tune/tolerance_view.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <QPushButton>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "app/look/key_pointer.h"
#include "app/look/text.h"
#include "app/look/typed_number.h"
#include "app/plot/ticks.h"
#include "core/quantity/format.h"
#include "core/quantity/formula.h"

namespace rm::app {

TolerancePlot::TolerancePlot(QWidget* parent) : Themed(parent) {
    setMouseTracking(true);
    new KeyPointer(*this);  // of the view
    setMinimumSize(260, 140);
    setAccessibleName(tr("SWR of many builds"));
}

void TolerancePlot::setResult(const study::Tolerance& result, double limit) {
    result_ = result;
    limit_ = limit;
    update();
}

void TolerancePlot::setBuilding(int builds) {
    building_ = builds;
    update();
}

void TolerancePlot::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const QRectF r = QRectF(rect()).adjusted(38, 22, -12, -32);
    if (result_.hz.size() < 2) {
        p.setPen(theme_.softInk);
        p.setFont(textFont(kTextPt));
        p.drawText(
            rect().adjusted(40, 0, -40, 0), Qt::AlignCenter | Qt::TextWordWrap,
            building_ > 0
                ? tr("Building %1 antennas…").arg(building_)
                : tr("Say how well you build, and press Build: the program builds that many antennas with "
                     "errors of "
                     "this size, and shows where their curves lie."));
        return;
    }
    if (!isEnabled()) p.setOpacity(0.35);
    const double from = result_.hz.front();
    const double to = result_.hz.back();
    double most = 1.2;
    for (const double v : result_.highSwr) most = std::max(most, std::min(10.0, v));
    // The limit is drawn where it is near.
    const double top = 1.0 + 1.15 * (std::max(most, limit_ < 1.0 + 2.0 * (most - 1.0) ? limit_ : most) - 1.0);
    const auto x = [&](double hz) { return r.left() + r.width() * (hz - from) / (to - from); };
    const auto y = [&](double swr) {
        return r.bottom() - r.height() * (std::min(swr, top) - 1.0) / (top - 1.0);
    };
    p.setFont(textFont(kTinyPt));
    const double step = roundStep(top - 1.0, 5);
    for (const double s : ticksBy(1.0, top, step)) {
        p.setPen(QPen(theme_.line, 0.8));
        p.drawLine(QPointF(r.left(), y(s)), QPointF(r.right(), y(s)));
        p.setPen(theme_.softInk);
        p.drawText(QRectF(0, y(s) - 7, r.left() - 5, 14), Qt::AlignRight | Qt::AlignVCenter,
                   written(s, 'g', 3));
    }
    const double mega = roundStep((to - from) / 1e6, 6);
    for (const double f : ticksBy(from / 1e6, to / 1e6, mega)) {
        p.setPen(QPen(theme_.line, 0.8));
        p.drawLine(QPointF(x(f * 1e6), r.top()), QPointF(x(f * 1e6), r.bottom()));
        p.setPen(theme_.softInk);
        p.drawText(QRectF(x(f * 1e6) - 28, r.bottom() + 3, 56, 13), Qt::AlignCenter, written(f, 'g', 6));
    }
    p.drawText(QRectF(r.left(), r.bottom() + 17, r.width(), 14), Qt::AlignCenter, "MHz");
    const auto curve = [&](const std::vector<double>& values) {
        QPolygonF line;
        for (std::size_t i = 0; i < values.size(); ++i) line << QPointF(x(result_.hz[i]), y(values[i]));
        return line;
    };
    QPolygonF band = curve(result_.highSwr);
    const QPolygonF low = curve(result_.lowSwr);
    for (qsizetype i = low.size(); i-- > 0;) band << low[i];
    QColor tint = theme_.water;
    tint.setAlphaF(0.22F);
    p.setPen(Qt::NoPen);
    p.setBrush(tint);
    p.drawPolygon(band);
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(theme_.sun, 1.2, Qt::DashLine));
    if (limit_ < top) p.drawLine(QPointF(r.left(), y(limit_)), QPointF(r.right(), y(limit_)));
    p.setPen(QPen(theme_.water, 1.8));
    p.drawPolyline(curve(result_.middleSwr));
    p.setPen(QPen(theme_.copper, 1.8, Qt::DashLine));
    p.drawPolyline(curve(result_.drawnSwr));
    // Names at the curves' own colours.
    const struct {
        QString name;
        QColor colour;
    } keys[] = {{tr("where nine of ten lie"), tint},
                {tr("median"), theme_.water},
                {tr("as drawn"), theme_.copper},
                {tr("limit %1").arg(written(limit_, 'g', 4)), theme_.sun}};
    double left = r.left();
    p.setFont(textFont(kSmallPt));
    for (const auto& key : keys) {
        p.setPen(QPen(key.colour, key.colour.alphaF() < 1.0F ? 9.0 : 3.0, Qt::SolidLine, Qt::FlatCap));
        p.drawLine(QPointF(left, 10), QPointF(left + 14, 10));
        p.setPen(theme_.ink);
        const double width = p.fontMetrics().horizontalAdvance(key.name);
        p.drawText(QRectF(left + 18, 2, width + 4, 16), Qt::AlignLeft | Qt::AlignVCenter, key.name);
        left += width + 34;
    }
    if (cursor_ < r.left() || cursor_ > r.right()) return;
    const double share = (cursor_ - r.left()) / r.width();
    const auto i = static_cast<std::size_t>(std::lround(share * static_cast<double>(result_.hz.size() - 1)));
    p.setPen(QPen(theme_.heather, 1.2));
    p.drawLine(QPointF(x(result_.hz[i]), r.top()), QPointF(x(result_.hz[i]), r.bottom()));
    p.drawText(r.adjusted(4, 2, -4, 0), Qt::AlignRight | Qt::AlignTop,
               tr("%1: %2 to %3, median %4")
                   .arg(QString::fromStdString(quantity::formatFrequency(result_.hz[i])),
                        QString::fromStdString(quantity::formatSwr(result_.lowSwr[i])),
                        QString::fromStdString(quantity::formatSwr(result_.highSwr[i])),
                        QString::fromStdString(quantity::formatSwr(result_.middleSwr[i]))));
}

void TolerancePlot::mouseMoveEvent(QMouseEvent* event) {
    cursor_ = event->position().x();
    update();
}

void TolerancePlot::leaveEvent(QEvent*) {
    cursor_ = -1.0;
    update();
}

ToleranceView::ToleranceView(Document& document, QWidget* parent) : QWidget(parent), document_(document) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(4);
    const auto line = [&] {
        auto* row = new QHBoxLayout;
        row->setSpacing(5);
        column->addLayout(row);
        return row;
    };
    const auto field = [&](QHBoxLayout* row, const QString& label, const char* name, const QString& value,
                           const QString& tip) {
        auto* l = new QLabel(label);
        l->setFont(textFont(kSmallPt));
        auto* f = new QLineEdit(shownTyped(value.toStdString()));
        f->setObjectName(name);
        f->setAccessibleName(label);
        f->setToolTip(tip + tr(" (standard deviation; 0: none)"));
        f->setFixedWidth(58);
        f->setFont(textFont(kSmallPt));
        row->addWidget(l);
        row->addWidget(f);
        connect(f, &QLineEdit::returnPressed, this, &ToleranceView::runRequested);
        connect(f, &QLineEdit::textChanged, this, &ToleranceView::typedChanged);
    };
    auto* first = line();
    field(first, tr("Lengths ±"), "errLength", "3 mm", tr("Error of every chosen length"));
    field(first, tr("angles ±"), "errAngle", "0.5 deg", tr("Error of every chosen angle"));
    field(first, tr("diameters ±"), "errDiameter", "2 %", tr("Error of the conductors' diameters"));
    first->addStretch(1);
    which_ = new QToolButton;
    which_->setText(tr("on every dimension"));
    which_->setObjectName("errWhich");
    which_->setToolTip(tr("Which dimensions err; untick those that are measured well"));
    which_->setFont(textFont(kSmallPt));
    which_->setPopupMode(QToolButton::InstantPopup);
    whichMenu_ = new QMenu(which_);
    which_->setMenu(whichMenu_);
    connect(whichMenu_, &QMenu::aboutToShow, this, &ToleranceView::fillWhich);
    first->addWidget(which_);
    auto* second = line();
    field(second, tr("Height ±"), "errHeight", "0.1 m", tr("Error of the height of the whole antenna"));
    field(second, tr("ground ±"), "errGround", "30 %",
          tr("Error of the conductivity of real ground, and of its permittivity by the root of it"));
    field(second, tr("builds"), "errBuilds", "100", tr("How many antennas are built"));
    second->addStretch(1);
    run_ = new QPushButton(tr("Build"));
    run_->setObjectName("errRun");
    run_->setProperty("main", true);
    run_->setFont(textFont(kTextPt, true));
    run_->setToolTip(tr("Build that many antennas with random errors"));
    connect(run_, &QPushButton::clicked, this, &ToleranceView::runRequested);
    second->addWidget(run_);
    sentence_ = new QLabel;
    sentence_->setFont(textFont(kTitlePt, true));
    sentence_->setWordWrap(true);
    sentence_->setAccessibleName(tr("What to expect"));
    column->addWidget(sentence_);
    each_ = new QLabel;
    each_->setFont(textFont(kSmallPt));
    each_->setProperty("soft", true);
    each_->hide();
    column->addWidget(each_);
    plot_ = new TolerancePlot;
    column->addWidget(plot_, 1);
}

QLineEdit* ToleranceView::field(const QString& name) const {
    return findChild<QLineEdit*>(name);
}

study::BuildErrors ToleranceView::errors() const {
    using quantity::Kind;
    const auto typed = [this](const char* name, Kind kind) { return keptTyped(field(name)->text(), kind); };
    auto errors = study::readErrors({typed("errLength", Kind::Length), typed("errAngle", Kind::Angle),
                                     typed("errDiameter", Kind::Number), typed("errHeight", Kind::Length),
                                     typed("errGround", Kind::Number)});
    errors.only = only_;
    return errors;
}

std::string ToleranceView::typed() const {
    std::string all;
    for (const auto* f : findChildren<QLineEdit*>()) all += f->text().toStdString() + '\n';
    for (const auto& name : only_) all += name + '\n';
    return all;
}

int ToleranceView::builds() const {
    bool good = false;
    const int n = field("errBuilds")->text().toInt(&good);
    if (!good || n < 5 || n > 5000) throw Error(say("The number of builds has to be between 5 and 5000."));
    return n;
}

void ToleranceView::fillWhich() {
    whichMenu_->clear();
    auto* every = whichMenu_->addAction(tr("every dimension"));
    every->setCheckable(true);
    every->setChecked(only_.empty());
    const auto changed = [this] {
        which_->setText(only_.empty() ? tr("on every dimension") : tr("on %1 of them").arg(only_.size()));
        Q_EMIT typedChanged();
    };
    connect(every, &QAction::triggered, this, [this, changed] {
        only_.clear();
        changed();
    });
    whichMenu_->addSeparator();
    for (const auto& d : document_.design().dimensions) {
        if (!quantity::isPlainNumber(d.text) || d.kind == model::DimensionKind::Number) continue;
        auto* one = whichMenu_->addAction(QString::fromStdString(d.name));
        one->setCheckable(true);
        one->setChecked(only_.empty() || std::find(only_.begin(), only_.end(), d.name) != only_.end());
        connect(one, &QAction::triggered, this, [this, changed, name = d.name](bool on) {
            if (only_.empty())
                for (const auto& other : document_.design().dimensions)
                    if (quantity::isPlainNumber(other.text) && other.kind != model::DimensionKind::Number)
                        only_.push_back(other.name);
            std::erase(only_, name);
            if (on) only_.push_back(name);
            changed();
        });
    }
}

void ToleranceView::setResult(const study::Tolerance& result, const QString& band, double limit) {
    plot_->setResult(result, limit);
    QString said =
        tr("%1: nine builds of ten stay below SWR %2.")
            .arg(band,
                 QString::fromStdString(quantity::formatSwr(std::ceil(100.0 * result.mostOfNine) / 100.0)));
    if (result.meeting >= 0)
        said = tr("%1 of %2 builds meet every goal.  ").arg(result.meeting).arg(result.builds) + said;
    if (result.failed > 0) said += tr("  %1 could not be worked out.").arg(result.failed);
    said_ = said;
    sayAll();
    QStringList each;
    for (const auto& [goal, met] : result.each)
        each << tr("%1: %2 of %3").arg(QString::fromStdString(goal)).arg(met).arg(result.builds);
    if (each.size() == 1) each.clear();
    if (result.restsOnGround) each << tr("It rests on the ground: its height does not err.");
    each_->setText(each.join("\n"));
    each_->setVisible(!each.isEmpty());
}

void ToleranceView::setOld(const QString& why) {
    old_ = why;
    plot_->setEnabled(why.isEmpty());
    sayAll();
}

void ToleranceView::sayAll() {
    sentence_->setText(old_.isEmpty() || said_.isEmpty() ? said_ : old_ + "  " + said_);
}

QString ToleranceView::sentence() const {
    return sentence_->text();
}

}  // namespace rm::app
