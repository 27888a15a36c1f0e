#include "app/stages/build/stock_drawing.h"

#include <QMouseEvent>
#include <QPainter>

#include "app/look/key_pointer.h"
#include "app/look/lengths.h"
#include "app/look/text.h"

namespace rm::app {

namespace {

constexpr double kBar = 18.0;
constexpr double kStep = 24.0;
constexpr double kHead = 18.0;
constexpr double kSide = 4.0;

}  // namespace

StockDrawing::StockDrawing(QWidget* parent) : Themed(parent) {
    setAccessibleName(tr("Stock lengths and what is cut from them"));
    new KeyPointer(*this);  // of the view
    setMinimumWidth(240);
}

void StockDrawing::setSheet(const build::BuildSheet& sheet) {
    sheet_ = sheet;
    setMinimumHeight(sizeHint().height());
    updateGeometry();
    update();
}

void StockDrawing::setMarked(int piece) {
    marked_ = piece;
    update();
}

QSize StockDrawing::sizeHint() const {
    double height = 4.0;
    for (const auto& layout : sheet_.stock)
        height += kHead + kStep * static_cast<double>(layout.plan.bars.size()) + 6.0;
    return {300, static_cast<int>(height)};
}

double StockDrawing::topOf(std::size_t layout, std::size_t bar) const {
    double top = 2.0;
    for (std::size_t l = 0; l < layout; ++l)
        top += kHead + kStep * static_cast<double>(sheet_.stock[l].plan.bars.size()) + 6.0;
    return top + kHead + kStep * static_cast<double>(bar);
}

double StockDrawing::scale(std::size_t layout) const {
    return (width() - 2.0 * kSide) / std::max(sheet_.stock.at(layout).stockM, 1e-6);
}

QRectF StockDrawing::rectOf(std::size_t layout, std::size_t bar, std::size_t place) const {
    const auto& l = sheet_.stock.at(layout);
    const auto& pieces = l.plan.bars.at(bar).pieces;
    double from = 0.0;
    for (std::size_t k = 0; k < place; ++k) from += l.lengthsM[pieces[k]];
    const double mm = scale(layout);
    return {kSide + from * mm, topOf(layout, bar), l.lengthsM[pieces.at(place)] * mm, kBar};
}

void StockDrawing::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.setFont(textFont(kTinyPt));
    for (std::size_t l = 0; l < sheet_.stock.size(); ++l) {
        const auto& layout = sheet_.stock[l];
        p.setPen(theme_.softInk);
        p.drawText(QRectF(kSide, topOf(l, 0) - kHead, width() - 2.0 * kSide, kHead - 3),
                   Qt::AlignLeft | Qt::AlignVCenter,
                   tr("%1, %2 of %3; %4 left over")
                       .arg(text(layout.conductor))
                       .arg(layout.plan.bars.size())
                       .arg(lengthUnit().text(layout.stockM / lengthUnit().metres),
                            lengthText(layout.plan.leftM(), 2)));
        for (std::size_t b = 0; b < layout.plan.bars.size(); ++b) {
            const auto& bar = layout.plan.bars[b];
            const QRectF whole(kSide, topOf(l, b), layout.stockM * scale(l), kBar);
            p.setPen(QPen(theme_.line, 1.0));
            p.setBrush(QBrush(theme_.line, Qt::BDiagPattern));
            p.drawRect(whole);
            for (std::size_t k = 0; k < bar.pieces.size(); ++k) {
                const QRectF box = rectOf(l, b, k);
                const bool marked = static_cast<int>(layout.piece[bar.pieces[k]]) == marked_;
                p.setPen(QPen(marked ? theme_.reed : theme_.softInk, marked ? 2.0 : 1.0));
                p.setBrush(marked ? theme_.reedTint : theme_.panel);
                p.drawRect(box);
                const double lengthM = layout.lengthsM[bar.pieces[k]];
                const QString length = inFeet() ? lengthWords(lengthM, true) : written(1e3 * lengthM, 'f', 0);
                if (p.fontMetrics().horizontalAdvance(length) < box.width() - 4) {
                    p.setPen(theme_.ink);
                    p.drawText(box, Qt::AlignCenter, length);
                }
            }
        }
    }
}

void StockDrawing::mousePressEvent(QMouseEvent* event) {
    for (std::size_t l = 0; l < sheet_.stock.size(); ++l)
        for (std::size_t b = 0; b < sheet_.stock[l].plan.bars.size(); ++b) {
            const auto& pieces = sheet_.stock[l].plan.bars[b].pieces;
            for (std::size_t k = 0; k < pieces.size(); ++k)
                if (rectOf(l, b, k).contains(event->position())) {
                    Q_EMIT pieceClicked(static_cast<int>(sheet_.stock[l].piece[pieces[k]]));
                    return;
                }
        }
}

}  // namespace rm::app
