// Stock lengths to scale: which pieces come out of each, and what is left.
#pragma once

#include <QWidget>

#include "app/look/themed.h"
#include "core/build/sheet.h"

namespace rm::app {

class StockDrawing : public Themed<QWidget> {
    Q_OBJECT
  public:
    explicit StockDrawing(QWidget* parent = nullptr);

    void setSheet(const build::BuildSheet& sheet);
    /// The piece of the cut list that is marked; -1: none.
    void setMarked(int piece);
    /// Where a piece lies; for tests.
    QRectF rectOf(std::size_t layout, std::size_t bar, std::size_t place) const;
    QSize sizeHint() const override;

  Q_SIGNALS:
    void pieceClicked(int piece);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;

  private:
    double topOf(std::size_t layout, std::size_t bar) const;
    double scale(std::size_t layout) const;

    build::BuildSheet sheet_;
    int marked_ = -1;
};

}  // namespace rm::app
