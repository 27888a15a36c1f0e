// Fields of the editor for what stands on the site and for wires hung from it.
#include <QLabel>
#include <QToolButton>

#include "app/look/text.h"
#include "app/plan/item_editor.h"
#include "app/plan/quantity_field.h"
#include "core/edit/supports.h"
#include "core/model/rename.h"

namespace rm::app {

namespace {

using namespace rm::model;
using quantity::Kind;

constexpr const char* kKindNames[] = {later("mast"), later("tree"), later("roof edge"), later("wall"),
                                      later("peg")};
constexpr const char* kHolds[] = {later("rope at its start"), later("same rope at both ends"),
                                  later("its middle at a corner")};
const QStringList kHoldIds = {"start", "middle", "corner"};

HungWire& hungOf(Design& d, Id part) {
    return std::get<HungWire>(model::at(d.parts, part).shape);
}

const HungWire& hungOf(const Design& d, Id part) {
    return std::get<HungWire>(model::at(d.parts, part).shape);
}

}  // namespace

QString ItemEditor::supportKey() const {
    const auto& d = document_.design();
    QString key;
    if (const Support* support = model::find(d.site.supports, selection_.id))
        key += QString(" %1").arg(static_cast<int>(support->kind));
    const Part* part = model::find(d.parts, selection_.id);
    const auto* hung = part != nullptr ? std::get_if<HungWire>(&part->shape) : nullptr;
    if (hung == nullptr) return key;
    key += QString(" %1 %2 ").arg(static_cast<int>(hung->by)).arg(hung->sag.empty());
    for (const auto& point : hung->points)
        for (const auto& support : d.site.supports)
            if (support.name == point.support) key += isEdge(support.kind) ? "e" : "p";
    key += QString::number(hung->points.size());
    for (const auto& support : d.site.supports) key += "|" + text(support.name);
    return key;
}

void ItemEditor::buildSupport() {
    const model::Id i = selection_.id;
    const auto& support = model::at(document_.design().site.supports, i);
    const QString kind = text(supportName(support.kind));
    title_->setText(kind.left(1).toUpper() + kind.mid(1));
    addText(
        tr("Name"), [i](const Design& d) { return model::at(d.site.supports, i).name; },
        [i](Design& d, const std::string& v) {
            if (v.empty()) throw Error(say("A support needs a name: wires are tied to it by that."));
            model::renameSupport(d, model::indexOf(d.site.supports, i), v);
        });
    QStringList ids;
    for (int k = 0; k < static_cast<int>(std::size(kKindNames)); ++k) ids << QString::number(k);
    addChoice(
        tr("Kind"), trAll(kKindNames), ids,
        [i](const Design& d) { return std::to_string(static_cast<int>(model::at(d.site.supports, i).kind)); },
        [i](Design& d, const std::string& v) {
            model::at(d.site.supports, i).kind = static_cast<SupportKind>(text(v).toInt());
        });
    const auto length = [&](const QString& label, std::string Support::*member, const QString& tip) {
        addQuantity(
            label, Kind::Length,
            [i, member](const Design& d) { return model::at(d.site.supports, i).*member; },
            [i, member](Design& d, const std::string& v) { model::at(d.site.supports, i).*member = v; }, tip);
    };
    length(tr("East"), &Support::east, tr("Of the middle of the site; less than 0: to the west"));
    length(tr("North"), &Support::north, tr("Of the middle of the site; less than 0: to the south"));
    length(tr("Height"), &Support::height,
           support.kind == SupportKind::Peg ? tr("Of the place where the rope is tied") : tr("Of its top"));
    if (isEdge(support.kind)) {
        length(tr("Far end east"), &Support::toEast, tr("Of the middle of the site"));
        length(tr("Far end north"), &Support::toNorth, tr("Of the middle of the site"));
    }
    if (support.kind != SupportKind::Tree && support.kind != SupportKind::Peg) {
        auto* metal = addButton(tr("Make it a wire, too"),
                                tr("A conductor along it that moves with it, so that its currents count"));
        connect(metal, &QToolButton::clicked, this, [this, i] { Q_EMIT asWireRequested(i); });
    }
}

void ItemEditor::buildHung() {
    const model::Id i = selection_.id;
    const HungWire hung = hungOf(document_.design(), i);
    QStringList supports;
    for (const auto& support : document_.design().site.supports) supports << text(support.name);
    for (std::size_t n = 0; n < hung.points.size(); ++n) {
        const QString label = n == 0 ? tr("From") : n + 1 == hung.points.size() ? tr("To") : tr("Over");
        const QString number = n == 0 || n + 1 == hung.points.size() ? QString() : QString(" %1").arg(n);
        QStringList names = supports;
        // One that is gone is still what it is tied to.
        if (!names.contains(text(hung.points[n].support))) names << text(hung.points[n].support);
        addChoice(
            label + number, names, names,
            [i, n](const Design& d) { return hungOf(d, i).points.at(n).support; },
            [i, n](Design& d, const std::string& v) { hungOf(d, i).points.at(n).support = v; },
            tr("The support that it is tied to"));
        addQuantity(
            tr("tied at") + number +
                (n == 0                        ? tr(" start")
                 : n + 1 == hung.points.size() ? tr(" end")
                                               : ""),
            Kind::Length, [i, n](const Design& d) { return hungOf(d, i).points.at(n).height; },
            [i, n](Design& d, const std::string& v) { hungOf(d, i).points.at(n).height = v; },
            tr("Height above the ground; empty: at its top"), true);
        for (const auto& support : document_.design().site.supports)
            if (support.name == hung.points[n].support && isEdge(support.kind))
                addQuantity(
                    tr("along it") + number, Kind::Length,
                    [i, n](const Design& d) { return hungOf(d, i).points.at(n).along; },
                    [i, n](Design& d, const std::string& v) { hungOf(d, i).points.at(n).along = v; },
                    tr("From its first end; empty: in its middle"), true);
    }
    const auto [add, remove] = addMoreAndLess(tr("One more"), tr("One less"), hung.points.size() > 2);
    add->setToolTip(tr("Led on to another support"));
    add->setEnabled(!supports.isEmpty());
    remove->setToolTip(tr("Leaves out the last support"));
    connect(add, &QToolButton::clicked, this, [this, i] {
        edit(tr("Lead it on"), [&](Design& d) {
            auto& points = hungOf(d, i).points;
            // The first support that it does not hang on yet.
            for (const auto& support : d.site.supports)
                if (std::none_of(points.begin(), points.end(),
                                 [&](const HangPoint& p) { return p.support == support.name; }))
                    return points.push_back({support.name, "", ""});
            points.push_back({d.site.supports.front().name, "", ""});
        });
    });
    connect(remove, &QToolButton::clicked, this, [this, i] {
        edit(tr("Leave out a support"), [&](Design& d) { hungOf(d, i).points.pop_back(); });
    });
    const auto field = [&](const QString& label, Kind kind, std::string HungWire::*member, const QString& tip,
                           bool optional) {
        addQuantity(
            label, kind, [i, member](const Design& d) { return hungOf(d, i).*member; },
            [i, member](Design& d, const std::string& v) { hungOf(d, i).*member = v; }, tip, optional);
    };
    field(tr("Length"), Kind::Length, &HungWire::length,
          tr("Of the wire along its bends; the rope is what is left. Empty: all the way"), true);
    addChoice(
        tr("Held by"), trAll(kHolds), kHoldIds,
        [i](const Design& d) { return kHoldIds[static_cast<int>(hungOf(d, i).by)].toStdString(); },
        [i](Design& d, const std::string& v) {
            hungOf(d, i).by = static_cast<HungBy>(std::max<qsizetype>(0, kHoldIds.indexOf(text(v))));
        },
        tr("What decides where on its way the wire is"));
    if (hung.by == HungBy::Start)
        field(tr("Rope"), Kind::Length, &HungWire::rope,
              tr("Before its start; 0: the wire itself is tied there"), false);
    if (hung.by == HungBy::Corner)
        field(tr("Corner"), Kind::Number, &HungWire::corner,
              tr("Which of the supports between holds its middle"), false);
    addText(
        tr("Sag"), [i](const Design& d) { return hungOf(d, i).sag; },
        [i](Design& d, const std::string& v) { hungOf(d, i).sag = v; },
        tr("Of the middle of each span, as a share of it: 3 %. Empty: by its pull"));
    if (hung.sag.empty())
        field(
            tr("Pull"), Kind::Number, &HungWire::pull,
            tr("Newton, in the rope; the sag follows from the weight of the wire. 100 N is what 10 kg pull. "
               "Empty: taut"),
            true);
    hungNote_ = new QLabel;
    hungNote_->setObjectName("hungNote");
    hungNote_->setWordWrap(true);
    hungNote_->setProperty("soft", true);
    hungNote_->setFont(textFont(kSmallPt));
    grid_->addWidget(hungNote_, grid_->rowCount(), 0, 1, 3);
}

/// What is left for ropes, and how deep it hangs.
void ItemEditor::refreshHungNote() {
    const Part* part = model::find(document_.design().parts, selection_.id);
    QStringList lines;
    for (const auto& hung : session_.expansion()->hung) {
        if (part == nullptr || hung.part != part->name) continue;
        const auto length = [&](double m) { return lengthWords(m, document_.project().feetAndInches); };
        lines << tr("Rope: %1 at %2, %3 at %4.")
                     .arg(length(hung.ropeStartLengthM), text(hung.spans.front().from),
                          length(hung.ropeEndLengthM), text(hung.spans.back().to));
        for (const auto& span : hung.spans)
            if (span.sagM > 0.005)
                lines << tr("%1 to %2: sags %3%4.")
                             .arg(text(span.from), text(span.to), length(span.sagM),
                                  span.pullN > 0.0 ? tr(" with %1 N").arg(written(span.pullN, 'f', 0))
                                                   : QString());
    }
    hungNote_->setText(lines.join("\n"));
}

}  // namespace rm::app
