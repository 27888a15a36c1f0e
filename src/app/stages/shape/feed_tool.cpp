#include "app/stages/shape/feed_tool.h"

#include <QLineF>
#include <algorithm>
#include <cmath>

#include "app/look/text.h"

namespace rm::app {

namespace {

constexpr double kMarkPx = 9.0;
/// Farther from every wire than this the feed stays where it was.
constexpr double kOffWirePx = 60.0;
constexpr double kClickPx = 9.0;

}  // namespace

FeedTool::FeedTool(Session& session, Yard& yard) : YardTool(&yard), session_(session), yard_(yard) {}

std::vector<FeedTool::Mark> FeedTool::marks() const {
    std::vector<Mark> all;
    const auto& expansion = yard_.state().expansion;
    if (!expansion) return all;
    const auto& design = session_.design();
    // "Feed (upper)" is one of the copies of "Feed".
    const auto isOf = [](const std::string& name, const std::string& base) {
        return name == base || name.rfind(base + " (", 0) == 0;
    };
    for (std::size_t f = 0; f < expansion->model.feeds.size(); ++f)
        for (const auto& feed : design.feeds)
            if (isOf(expansion->model.feeds[f].name, feed.name)) {
                all.push_back(
                    {{Selection::Type::Feed, feed.id}, text(feed.name), expansion->model.feeds[f].place, f});
                break;
            }
    for (const auto& plain : expansion->model.loads)
        for (const auto& load : design.loads)
            if (isOf(plain.name, load.name)) {
                all.push_back({{Selection::Type::Load, load.id}, text(load.name), plain.place, 0});
                break;
            }
    std::erase_if(all, [&](const Mark& mark) { return mark.place.wire >= expansion->model.wires.size(); });
    return all;
}

std::optional<QPointF> FeedTool::markAt(const QString& name) const {
    for (const auto& mark : marks())
        if (mark.name == name) return yard_.screenPoint(yard_.state().pointOf(mark.place));
    return std::nullopt;
}

std::optional<FeedTool::Mark> FeedTool::under(const QPointF& at) const {
    std::optional<Mark> best;
    double nearest = kMarkPx;
    for (const auto& mark : marks()) {
        const double d = QLineF(yard_.screenPoint(yard_.state().pointOf(mark.place)), at).length();
        if (d >= nearest) continue;
        nearest = d;
        best = mark;
    }
    return best;
}

std::optional<edit::Spot> FeedTool::spotUnder(const QPointF& at) const {
    const YardState& yard = yard_.state();
    const auto expansion = session_.expansion();
    const auto& wires = expansion->model.wires;
    double nearest = kOffWirePx;
    std::size_t wire = wires.size();
    for (std::size_t w = 0; w < wires.size(); ++w) {
        const double d = pixelsToLine(at, yard.at(wires[w].startM), yard.at(wires[w].endM));
        if (d >= nearest - 1e-9) continue;
        nearest = d;
        wire = w;
    }
    if (wire == wires.size()) return std::nullopt;
    const QPointF from = yard.at(wires[wire].startM);
    const QPointF along = yard.at(wires[wire].endM) - from;
    const double length2 = QPointF::dotProduct(along, along);
    const double share =
        length2 > 0.0 ? std::clamp(QPointF::dotProduct(at - from, along) / length2, 0.0, 1.0) : 0.5;
    // A marked spot near the place on the wire, not near the pointer, which may be off it.
    const QPointF on = from + share * along;
    std::optional<edit::Spot> best;
    double click = kClickPx;
    for (const auto& spot : edit::markedSpots(session_.design(), *expansion, wires[wire].origin())) {
        const double d = QLineF(yard.at(spot.atM), on).length();
        if (d >= click) continue;
        click = d;
        best = spot;
    }
    return best ? best : edit::spotAt(session_.design(), *expansion, wire, share);
}

std::optional<QString> FeedTool::hover(const QPointF& at) {
    const auto mark = under(at);
    if (!mark) return std::nullopt;
    QString tip = mark->name.toHtmlEscaped() + tr(": drag it along the conductors");
    if (mark->item.type == Selection::Type::Feed)
        tip += "\n" + text(edit::sidesOf(*yard_.state().expansion, mark->feed));
    return tip;
}

void FeedTool::paint(QPainter& p, const YardState& yard) {
    if (held_ && moved_) paintTag(p, yard, pointer_, {where_});
}

bool FeedTool::press(const QPointF& at, Qt::KeyboardModifiers keys, Qt::MouseButton button) {
    if (button != Qt::LeftButton || keys != Qt::NoModifier) return false;
    held_ = under(at);
    moved_ = false;
    pressed_ = pointer_ = at;
    ++run_;
    return held_.has_value();
}

void FeedTool::drag(const QPointF& at, Qt::KeyboardModifiers) {
    if (!held_ || (!moved_ && QLineF(pressed_, at).length() < 3.0)) return;
    moved_ = true;
    pointer_ = at;
    const auto spot = spotUnder(at);
    if (!spot) return;
    where_ = text(spot->name);
    const Selection item = held_->item;
    session_.document().editDesign(
        tr("Move ") + held_->name,
        [&](model::Design& d) {
            if (item.type == Selection::Type::Load) {
                auto& load = model::at(d.loads, item.id);
                load.part = spot->part;
                load.place = spot->place;
                return;
            }
            auto& feed = model::at(d.feeds, item.id);
            if (feed.part != spot->part || !(feed.place == spot->place)) feed.with.clear();
            feed.part = spot->part;
            feed.place = spot->place;
        },
        tr("feed %1").arg(run_));
    Q_EMIT changed();
}

void FeedTool::release(const QPointF&, Qt::KeyboardModifiers) {
    if (!held_) return;
    const Selection item = held_->item;
    const bool clicked = !moved_;
    held_.reset();
    session_.document().finishMerging();
    if (clicked) session_.select(item);
    Q_EMIT changed();
}

bool FeedTool::wantsKey(const QKeyEvent& key) const {
    return held_ && key.key() == Qt::Key_Escape;
}

void FeedTool::key(QKeyEvent&) {
    const bool undo = moved_;
    held_.reset();
    session_.document().finishMerging();
    if (undo) session_.document().undo();
}

}  // namespace rm::app
