// The boom seen from above, to scale: elements are dragged along it and stretched at their tips.
#pragma once

#include <QWidget>
#include <optional>

#include "app/look/themed.h"
#include "core/model/expand_row.h"

namespace rm::app {

class BoomDrawing : public Themed<QWidget> {
    Q_OBJECT
  public:
    explicit BoomDrawing(QWidget* parent = nullptr);

    void setRow(const model::RowSizes& sizes, bool boom);
    void setSelected(int element);
    /// Pixels of an element on the boom and of its upper tip, for tests.
    QPointF onBoom(std::size_t element) const;
    QPointF tip(std::size_t element) const;
    double pixelsPerM() const { return scale_; }

  Q_SIGNALS:
    void chosen(int element);
    void positionDragged(int element, double metres);
    void lengthDragged(int element, double metres);
    void dragFinished();

  protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;

  private:
    enum class Grip { None, Body, Tip };
    struct Hit {
        Grip grip = Grip::None;
        int element = -1;
    };
    Hit hitAt(QPointF at) const;
    void fit();
    QPointF at(double alongM, double acrossM) const;
    QPolygonF outline(const model::ElementSize& e) const;

    model::RowSizes sizes_;
    bool boom_ = false;
    int selected_ = -1;
    Hit drag_;
    double grabM_ = 0.0;  ///< from the element to where it was taken hold of
    double scale_ = 50.0;
    QPointF origin_;
};

}  // namespace rm::app
