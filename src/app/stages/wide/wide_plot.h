// The cases of a study as marks: one column across, one up, and where wanted one as colour, which makes a map
// of what was varied.
#pragma once

#include <QImage>
#include <QSizeF>
#include <memory>
#include <optional>
#include <vector>

#include "app/look/themed.h"
#include "app/plot/frame.h"
#include "core/wide/table.h"

namespace rm::app {

class WidePlot : public Themed<QWidget> {
    Q_OBJECT
  public:
    explicit WidePlot(QWidget* parent = nullptr);

    struct Columns {
        std::size_t across = 0;
        std::size_t up = 0;
        std::optional<std::size_t> colour = {};

        bool operator==(const Columns&) const = default;
    };
    /// `rows` are those that meet the conditions; the others stay as faint marks.
    void setTable(std::shared_ptr<const wide::Table> table, const Columns& columns);
    void setRows(std::vector<std::size_t> rows);
    void setChosen(std::optional<std::size_t> row);
    /// Where a row is drawn; nothing where it has no place.
    std::optional<QPointF> at(std::size_t row) const;
    /// The row under the pointer in words.
    QString reading() const;

  Q_SIGNALS:
    void cursorMoved();
    void rowChosen(std::size_t row);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent* event) override;
    void themeChanged() override;

  private:
    Frame frame() const;
    std::optional<std::size_t> nearest(const QPointF& at) const;
    QColor colourOf(double value) const;
    /// All but what the pointer and the choice mark.
    QImage picture() const;
    void paintMarks(QPainter& p, const Frame& f) const;
    void paintKey(QPainter& p, const QRectF& area) const;
    void repaintAll();
    void measure();
    void measureColour();

    std::shared_ptr<const wide::Table> table_;
    Columns columns_;
    std::vector<std::size_t> rows_;
    std::vector<bool> shown_;
    std::optional<std::size_t> chosen_;
    std::optional<std::size_t> cursor_;
    Range x_, y_, colour_;
    QSizeF cell_;     ///< of a map, in units of both axes; empty: marks
    QImage picture_;  ///< as it was painted last; null: something has changed
};

}  // namespace rm::app
