// Dragging feeds and loads along the conductors: they click into middles, ends, corners and fractions.
#pragma once

#include <optional>

#include "app/session/session.h"
#include "app/stages/shape/yard.h"
#include "app/stages/shape/yard_tool.h"
#include "core/edit/spots.h"

namespace rm::app {

class FeedTool : public YardTool {
    Q_OBJECT
  public:
    FeedTool(Session& session, Yard& yard);

    /// Where a feed or a load appears, by its name in the design.
    std::optional<QPointF> markAt(const QString& name) const;

    void paint(QPainter& painter, const YardState& yard) override;
    bool press(const QPointF& at, Qt::KeyboardModifiers keys, Qt::MouseButton button) override;
    void drag(const QPointF& at, Qt::KeyboardModifiers keys) override;
    void release(const QPointF& at, Qt::KeyboardModifiers keys) override;
    std::optional<QString> hover(const QPointF& at) override;
    bool wantsKey(const QKeyEvent& key) const override;
    void key(QKeyEvent& key) override;

  private:
    /// A feed or a load of the design, as it stands in the yard.
    struct Mark {
        Selection item;
        QString name;
        model::WirePlace place;
        std::size_t feed = 0;  ///< its place among the feeds of the model
    };
    std::vector<Mark> marks() const;
    std::optional<Mark> under(const QPointF& at) const;
    std::optional<edit::Spot> spotUnder(const QPointF& at) const;

    Session& session_;
    Yard& yard_;
    std::optional<Mark> held_;
    bool moved_ = false;
    QPointF pressed_;
    QPointF pointer_;
    QString where_;
    int run_ = 0;
};

}  // namespace rm::app
