// The fields of a cable run in the item editor.
#include <QToolButton>

#include "app/look/text.h"
#include "app/plan/item_editor.h"
#include "core/study/balance.h"

namespace rm::app {

namespace {

using namespace rm::model;
using quantity::Kind;

CableRun& runOf(Design& d, Id part) {
    return std::get<CableRun>(model::at(d.parts, part).shape);
}

const CableRun& runOf(const Design& d, Id part) {
    return std::get<CableRun>(model::at(d.parts, part).shape);
}

constexpr const char* kNoSupport = later("a point");

}  // namespace

QString ItemEditor::cableKey() const {
    const auto& d = document_.design();
    const Part* part = model::find(d.parts, selection_.id);
    const auto* run = part != nullptr ? std::get_if<CableRun>(&part->shape) : nullptr;
    if (run == nullptr) return {};
    QString key = QString(" %1 %2 %3 %4")
                      .arg(run->down)
                      .arg(static_cast<int>(run->end))
                      .arg(run->sized)
                      .arg(feedNames().join("|"));
    for (const auto& point : run->points) key += point.support.empty() ? " p" : " s";
    for (const auto& support : d.site.supports) key += "|" + text(support.name);
    return key;
}

void ItemEditor::buildCable() {
    const model::Id i = selection_.id;
    const CableRun run = runOf(document_.design(), i);
    QStringList feeds = feedNames();
    // Those that cannot be placed now are there all the same.
    for (const auto& feed : document_.design().feeds)
        if (std::none_of(feeds.begin(), feeds.end(),
                         [&](const QString& name) { return name.startsWith(text(feed.name)); }))
            feeds << text(feed.name);
    if (!feeds.contains(text(run.feed)) && !run.feed.empty()) feeds << text(run.feed);
    addChoice(
        tr("Hangs from"), feeds, feeds,
        [i](const Design& d) {
            const std::string& name = runOf(d, i).feed;
            return name.empty() && !d.feeds.empty() ? d.feeds.front().name : name;
        },
        [i](Design& d, const std::string& v) { runOf(d, i).feed = v; }, tr("The feed that it leads to"));
    addChoice(
        tr("Shield on"), {tr("the other side"), tr("the feed's own side"), tr("the middle, by a balun")},
        {"0", "1", "2"},
        [i](const Design& d) { return std::to_string(static_cast<int>(runOf(d, i).shield)); },
        [i](Design& d, const std::string& v) { runOf(d, i).shield = static_cast<ShieldOn>(std::stoi(v)); },
        tr("Which side of the feed the shield is joined to: that towards the start of the part, that of the "
           "part's "
           "own wire, or neither, where a voltage balun holds both sides alike"));
    addChoice(
        tr("Leaves it"), {tr("straight down"), tr("to its first point")}, {"down", "point"},
        [i](const Design& d) { return std::string(runOf(d, i).down ? "down" : "point"); },
        [i](Design& d, const std::string& v) { runOf(d, i).down = v == "down"; });
    const auto length = [&](const QString& label, std::string CableRun::*member, const QString& tip) {
        addQuantity(
            label, Kind::Length, [i, member](const Design& d) { return runOf(d, i).*member; },
            [i, member](Design& d, const std::string& v) { runOf(d, i).*member = v; }, tip);
    };
    if (run.down)
        length(tr("Down to"), &CableRun::level,
               tr("Height above the ground; less than zero: buried. 0: it lies on it"));
    for (std::size_t n = 0; n < run.points.size(); ++n) {
        QStringList names{tr(kNoSupport)};
        QStringList ids{""};
        for (const auto& support : document_.design().site.supports) {
            names << text(support.name);
            ids << text(support.name);
        }
        if (!ids.contains(text(run.points[n].support))) {
            names << text(run.points[n].support);
            ids << text(run.points[n].support);
        }
        if (ids.size() > 1)
            addChoice(
                tr("By way of %1").arg(n + 1), names, ids,
                [i, n](const Design& d) { return runOf(d, i).points.at(n).support; },
                [i, n](Design& d, const std::string& v) { runOf(d, i).points.at(n).support = v; },
                tr("A point, or the foot of a support"));
        if (run.points[n].support.empty())
            addPoint(tr("Point %1").arg(n + 1),
                     [i, n](Design& d) -> PointText& { return runOf(d, i).points.at(n).at; });
        else
            addQuantity(
                tr("at height %1").arg(n + 1), Kind::Length,
                [i, n](const Design& d) { return runOf(d, i).points.at(n).at[2]; },
                [i, n](Design& d, const std::string& v) { runOf(d, i).points.at(n).at[2] = v; },
                tr("Above the ground"));
    }
    const auto [add, remove] = addMoreAndLess(tr("Add point"), tr("Remove last"), !run.points.empty());
    add->setToolTip(tr("Leads it on: along the grass, to a support, to the radio"));
    connect(add, &QToolButton::clicked, this, [this, i] {
        // Eight metres on from where it is now, at the same height.
        edit(tr("Add point"), [&](Design& d) {
            CableRun& one = runOf(d, i);
            RunPoint point;
            point.at = {"-8 m", "0 m", one.down ? one.level : "1 m"};
            if (!one.points.empty()) {
                point.at = one.points.back().at;
                point.at[0] = "-(8 m) + (" + point.at[0] + ")";
            }
            one.points.push_back(point);
        });
    });
    connect(remove, &QToolButton::clicked, this,
            [this, i] { edit(tr("Remove point"), [&](Design& d) { runOf(d, i).points.pop_back(); }); });
    addChoice(
        tr("Ends"), {tr("open"), tr("at an earth rod"), tr("at the station's earth")}, {"0", "1", "2"},
        [i](const Design& d) { return std::to_string(static_cast<int>(runOf(d, i).end)); },
        [i](Design& d, const std::string& v) { runOf(d, i).end = static_cast<RunEnd>(std::stoi(v)); },
        tr("At the radio: nothing, a lead down to a rod, or the same with the resistance of the station's "
           "earth"));
    if (run.end != RunEnd::Open) length(tr("Rod"), &CableRun::rod, tr("Length of the rod in the soil"));
    if (run.end == RunEnd::Earth)
        addQuantity(
            tr("Earth in ohm"), Kind::Number, [i](const Design& d) { return runOf(d, i).earthOhm; },
            [i](Design& d, const std::string& v) { runOf(d, i).earthOhm = v; },
            tr("Resistance of the station's earth, in series with its rod"));
    const auto either = [&](const QString& label, bool CableRun::*member, const QStringList& words,
                            const QString& tip) {
        addChoice(
            label, words, {tr("yes"), tr("no")},
            [i, member](const Design& d) { return std::string(runOf(d, i).*member ? "yes" : "no"); },
            [i, member](Design& d, const std::string& v) { runOf(d, i).*member = v == "yes"; }, tip);
    };
    either(tr("Size"), &CableRun::sized, {tr("that of the feed path's cable"), tr("as typed below")},
           tr("Diameter of the shield and thickness of the jacket"));
    either(tr("Cable length"), &CableRun::measures, {tr("as long as the run"), tr("as the feed path says")},
           tr("The first cable of the feed path can be as long as this run"));
}

}  // namespace rm::app
