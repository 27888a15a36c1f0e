#include "app/session/editing.h"
#include "app/look/text.h"

#include <fmt/format.h>

#include <QStringList>
#include <algorithm>

#include "core/edit/crossed.h"
#include "core/edit/designs.h"
#include "core/edit/drawn.h"
#include "core/edit/feet.h"
#include "core/edit/pins.h"
#include "core/edit/supports.h"
#include "core/model/loosen.h"
#include "core/quantity/format.h"
#include "core/quantity/number.h"
#include "core/study/stacking.h"

namespace rm::app {

namespace {

QString megahertz(double hz) {
    return text(quantity::formatFrequency(hz));
}

/// The first two points of a measurement, as they were understood.
QString firstRows(const model::MeasuredData& data) {
    QStringList rows;
    for (std::size_t i = 0; i < std::min<std::size_t>(2, data.points.size()); ++i) {
        const auto& p = data.points[i];
        const QString what = p.impedanceOhm ? text(quantity::formatImpedance(*p.impedanceOhm))
                                            : "SWR " + text(quantity::formatSwr(p.swr));
        rows << megahertz(p.frequencyHz) + " " + what;
    }
    return rows.join(", ");
}

}  // namespace

Editing::Editing(Session& session, QObject* parent)
    : QObject(parent), session_(session), document_(session.document()) {}

bool Editing::take(const QString& label, const std::function<edit::Added(model::Project)>& make,
                   bool byHand) {
    Selection item;
    const bool made = document_.edit(label, [&](model::Project& p) {
        edit::Added added = make(std::move(p));
        p = std::move(added.project);
        item = added.item;
    });
    if (!made) return false;
    session_.select(item);
    if (byHand) Q_EMIT madeByHand(item);
    return true;
}

bool Editing::change(const QString& label, const std::function<model::Project(model::Project)>& make) {
    return document_.edit(label, [&](model::Project& p) { p = make(std::move(p)); });
}

void Editing::addPart(edit::PartKind kind) {
    const double lambdaM = wavelengthM(session_.frequencyHz());
    take(tr("Add part"), [&](model::Project p) { return edit::addPart(std::move(p), kind, lambdaM); });
}

void Editing::addSupport(model::SupportKind kind, const std::optional<QPointF>& eastNorthM,
                         const std::optional<QPointF>& otherM) {
    constexpr double kApartM = 10.0;
    QPointF at = eastNorthM.value_or(QPointF());
    if (!eastNorthM)
        for (const auto& support : session_.expansion()->supports)
            at.setX(std::max(
                at.x(), model::toCompass(support.otherM, session_.expansion()->headingDeg).x() + kApartM));
    take(
        tr("Add support"),
        [&](model::Project p) {
            auto added = edit::addSupport(std::move(p), kind, at.x(), at.y());
            auto& design = added.project.designs.at(added.project.activeDesign);
            if (otherM)
                edit::placeSupport(design, added.item.id, true, otherM->x(), otherM->y(), edit::Steps{});
            return added;
        },
        !eastNorthM);
}

void Editing::addHung(const std::vector<std::string>& supports) {
    const double lambdaM = wavelengthM(session_.frequencyHz());
    take(
        tr("Hang a wire"), [&](model::Project p) { return edit::addHung(std::move(p), supports, lambdaM); },
        false);
}

void Editing::addAsWire(model::Id support) {
    take(
        tr("Make it a wire"), [&](model::Project p) { return edit::addAsWire(std::move(p), support); },
        false);
}

void Editing::addDrawn(const std::vector<Vec3>& pointsM, bool closed) {
    take(
        tr("Draw wire"), [&](model::Project p) { return edit::addDrawn(std::move(p), pointsM, closed); },
        false);
}

void Editing::nameLengths() {
    const auto* part = session_.selectedPart();
    if (part == nullptr) return session_.bad(tr("Select the wire first whose lengths are to be dimensions."));
    const model::Id id = part->id;
    const std::size_t before = document_.design().dimensions.size();
    if (!change(tr("Make dimensions of it"),
                [&](model::Project p) { return edit::nameLengths(std::move(p), id); }))
        return;
    QStringList names;
    const auto& dimensions = document_.design().dimensions;
    for (std::size_t i = before; i < dimensions.size(); ++i) names << text(dimensions[i].name);
    session_.done(tr("Its lengths are dimensions now: ") + names.join(", ") + ".");
}

void Editing::crossElements() {
    const auto* part = session_.selectedPart();
    if (part == nullptr) return session_.bad(tr("Select the row first whose elements are to be joined."));
    const model::Id id = part->id;
    const std::size_t before = document_.design().lines.size();
    if (!change(tr("Join the elements by crossed lines"),
                [&](model::Project p) { return edit::crossElements(std::move(p), id); }))
        return;
    session_.done(tr("%1 crossed lines join its elements, and the feed is on the shortest.")
                      .arg(document_.design().lines.size() - before));
}

void Editing::addDimension() {
    take(tr("Add dimension"), edit::addDimension);
}

void Editing::addFeed() {
    take(tr("Add feed"),
         [part = session_.selectedPart() != nullptr ? session_.selectedPart()->id : model::Id{0}](
             model::Project p) { return edit::addFeed(std::move(p), part); });
}

void Editing::addLoad(bool trap) {
    take(trap ? tr("Add trap") : tr("Add load"),
         [trap, part = session_.selectedPart() != nullptr ? session_.selectedPart()->id : model::Id{0}](
             model::Project p) { return edit::addLoad(std::move(p), trap, part); });
}

void Editing::addLine() {
    take(tr("Add line"), edit::addLine);
}

void Editing::addBlock(const model::FeedBlock& block, int place) {
    const auto at = place < 0 ? document_.design().feedPath.size() : static_cast<std::size_t>(place);
    take(tr("Add feed path block"),
         [&](model::Project p) { return edit::addBlock(std::move(p), block, at); });
}

void Editing::addCopy(model::CopyKind kind) {
    const auto* part = session_.selectedPart();
    const model::Id id = part != nullptr ? part->id : 0;
    take(tr("Add copies"), [&](model::Project p) { return edit::addCopy(std::move(p), kind, id); });
}

void Editing::addDriveSets(const std::vector<model::DriveSet>& sets) {
    if (change(tr("Add drive sets"),
               [&](model::Project p) { return edit::addDriveSets(std::move(p), sets); }))
        Q_EMIT drivesAdded();
}

void Editing::readTable(model::Id load, const QString& path) {
    if (path.isEmpty()) return;
    try {
        const auto readings = io::readMeasured(path.toStdString());
        if (readings.size() > 1)
            return session_.bad(tr("%1 can be read in two ways: write it with semicolons between the columns "
                                   "and points in the numbers.")
                                    .arg(path.section('/', -1)));
        std::vector<model::ImpedancePoint> table;
        for (const auto& point : readings.front().data.points)
            if (point.impedanceOhm) table.push_back({point.frequencyHz, *point.impedanceOhm});
        if (table.empty())
            return session_.bad(tr("%1 has no impedances: an SWR alone does not say what a choke does.")
                                    .arg(path.section('/', -1)));
        session_.document().editDesign(tr("Read a table"), [&](model::Design& d) {
            model::Load& one = model::at(d.loads, load);
            one.form = model::LoadForm::Table;
            one.table = table;
            one.tableFile = quantity::plainText(path.section('/', -1).toStdString());
        });
    } catch (const Error& e) {
        session_.bad(QString::fromUtf8(e.what()));
    }
}

void Editing::importMeasured(const QStringList& paths) {
    if (paths.isEmpty()) return;
    std::vector<MeasuredFile> read;
    try {
        for (const QString& path : paths)
            read.push_back({path.section('/', -1), io::readMeasured(path.toStdString())});
    } catch (const Error& e) {
        return session_.bad(QString::fromUtf8(e.what()));
    }
    for (std::size_t i = 0; i < read.size(); ++i)
        if (read[i].readings.size() > 1) return askHowToRead(read, i);
    takeMeasured(read);
}

/// The first points as each of two ways to read the table has them; an answer goes on with the rest.
void Editing::askHowToRead(const std::vector<MeasuredFile>& read, std::size_t which) {
    const auto answered = [this, read, which](std::size_t reading) {
        return [this, read, which, reading] {
            auto chosen = read;
            chosen[which].readings = {read[which].readings[reading]};
            for (std::size_t i = which + 1; i < chosen.size(); ++i)
                if (chosen[i].readings.size() > 1) return askHowToRead(chosen, i);
            takeMeasured(chosen);
        };
    };
    const auto& readings = read[which].readings;
    session_.say({Notice::Tone::Caution,
                  tr("%1 can be read in two ways: %2 (%3), or %4 (%5).")
                      .arg(read[which].file, firstRows(readings[0].data),
                           QString::fromStdString(readings[0].understood), firstRows(readings[1].data),
                           QString::fromStdString(readings[1].understood)),
                  tr("The first"), answered(0), tr("The second"), answered(1)});
}

void Editing::takeMeasured(const std::vector<MeasuredFile>& read) {
    std::vector<model::Measured> items;
    for (const auto& file : read) {
        model::Measured measured;
        measured.file = quantity::plainText(file.file.toStdString());
        measured.name = quantity::plainText(file.file.section('.', 0, -2).toStdString());
        measured.data = file.readings.front().data;
        items.push_back(std::move(measured));
    }
    const bool taken = take(
        tr("Import measurements"), [&](model::Project p) { return edit::addMeasured(std::move(p), items); },
        false);
    if (!taken) return;
    const auto& last = read.back();
    session_.done(tr("%1 was read as %2; it begins with %3.")
                      .arg(last.file, QString::fromStdString(last.readings.front().understood),
                           firstRows(last.readings.front().data)));
}

void Editing::addMeasured(const model::MeasuredData& data, bool atAntenna, const QString& from) {
    model::Measured measured;
    // Several in a row are told apart by their number.
    const auto& others = session_.design().measured;
    for (std::size_t n = others.size() + 1;; ++n) {
        measured.name = say("Measured {}", n);
        if (std::none_of(others.begin(), others.end(),
                         [&](const auto& o) { return o.name == measured.name; }))
            break;
    }
    measured.file = quantity::plainText(from.toStdString());
    measured.atAntenna = atAntenna;
    measured.data = data;
    const bool taken = take(
        tr("Measure"), [&](model::Project p) { return edit::addMeasured(std::move(p), {measured}); }, false);
    if (taken)
        session_.done(tr("%1: %2 points, %3. Trim by it with Ctrl+Shift+6.")
                          .arg(QString::fromStdString(measured.name))
                          .arg(data.points.size())
                          .arg(firstRows(data)));
}

void Editing::removeSelected() {
    const Selection s = session_.selection();
    if (!edit::isListed(s.type)) return;
    if (s.type == Selection::Type::Part) return removePart(s.id);
    if (s.type == Selection::Type::Support) return removeSupport(s.id);
    change(tr("Remove"), [&](model::Project p) { return edit::remove(std::move(p), s); });
}

/// What stood on the part goes with it; a feed can be handed on.
void Editing::removePart(model::Id part) {
    const auto feeds = edit::feedsOn(document_.design(), part);
    const QString name = text(edit::nameOf(document_.design(), {edit::ItemType::Part, part}));
    const model::Id design = document_.design().id;
    const Selection removed{Selection::Type::Part, part};
    if (!change(tr("Remove"), [&](model::Project p) { return edit::remove(std::move(p), removed); })) return;
    if (feeds.empty()) return;
    const model::Part* next = edit::partForFeed(document_.design());
    Notice notice{
        Notice::Tone::Caution,
        tr("%1 is gone, and %2 with it.")
            .arg(name, feeds.size() == 1 ? text(feeds.front().name)
                                         : trn("one feed", "%n feeds", static_cast<int>(feeds.size())))};
    if (next != nullptr) {
        notice.firstAnswer = tr("Put it on %1").arg(text(next->name));
        notice.first = [this, feeds, design, to = next->id] {
            if (document_.design().id != design)
                return session_.caution(
                    tr("Another design is on the bench now: the feed was not handed on."));
            change(tr("Hand the feed on"),
                   [&](model::Project p) { return edit::handOn(std::move(p), feeds, to); });
        };
    }
    notice.secondAnswer = tr("Undo");
    notice.second = [this] { document_.undo(); };
    session_.say(notice);
}

/// What hung on it hangs on the others, or says that it is gone.
void Editing::removeSupport(model::Id support) {
    const Selection removed{Selection::Type::Support, support};
    const std::string name = edit::nameOf(document_.design(), removed);
    const auto hanging = edit::hangingOn(document_.design(), name);
    if (!change(tr("Remove"), [&](model::Project p) { return edit::remove(std::move(p), removed); })) return;
    if (hanging.empty()) return;
    QStringList names;
    for (const auto& one : hanging) names << text(one);
    session_.sayForNow({Notice::Tone::Caution,
                        tr("%1 is gone, and %2 hung on it.").arg(text(name), names.join(", ")),
                        tr("Undo"),
                        [this] { document_.undo(); },
                        {},
                        {}});
}

void Editing::duplicateSelected() {
    const Selection s = session_.selection();
    if (!edit::isListed(s.type) || s.type == Selection::Type::Measured) return;
    take(
        tr("Duplicate"), [&](model::Project p) { return edit::duplicate(std::move(p), s); }, false);
}

void Editing::loosen() {
    const bool loose = document_.editDesign(tr("Turn into loose wires"), [](model::Design& d) {
        model::Design made = model::loosened(d);
        made.id = d.id;
        d = std::move(made);
    });
    if (loose) session_.done(tr("Every part and copy is loose wires now, in numbers."));
}

void Editing::setQuickFreeSpace(bool on) {
    if (document_.design().site.quick == on) return;
    document_.editDesign(on ? tr("Free space for now") : tr("Back to the ground"),
                         [on](model::Design& d) { d.site.quick = on; });
}

void Editing::setFeetAndInches(bool feet) {
    if (document_.project().feetAndInches == feet) return;
    document_.edit(tr("Change units"), [feet](model::Project& p) { p.feetAndInches = feet; });
}

void Editing::setHeight(double metres, const QString& mergeKey) {
    if (edit::hangsAltogether(document_.design()))
        return session_.caution(tr("All of this hangs from supports: their heights are its height."));
    document_.edit(
        tr("Change height"), [&](model::Project& p) { p = edit::setHeight(std::move(p), metres); }, mergeKey);
}

void Editing::chooseDriveSet(int set) {
    if (document_.design().driveSet == set) return;
    document_.editDesign(tr("Choose drive set"), [set](model::Design& d) {
        if (set < static_cast<int>(d.driveSets.size())) d.driveSet = set;
    });
}

void Editing::newDesign() {
    if (change(tr("New design"), edit::newDesign)) session_.select({Selection::Type::Design});
}

void Editing::addDesign(const model::Design& design, const std::vector<model::Band>& bands, bool inPlace) {
    const auto make = [&](model::Project p) {
        if (inPlace) p.designs.clear();
        const bool feet = p.feetAndInches;
        return edit::addDesign(edit::withBands(std::move(p), bands), feet ? edit::inFeet(design) : design);
    };
    if (!change(tr("New design"), make)) return;
    if (!bands.empty()) {
        const auto& own = document_.project().bands;
        const auto first = std::find_if(
            own.begin(), own.end(), [&](const model::Band& band) { return band.name == bands.front().name; });
        if (first != own.end()) session_.chooseBand(static_cast<int>(first - own.begin()));
    }
    session_.select(edit::itemAt(session_.design(), Selection::Type::Part, 0));
    session_.done(tr("%1 is on the bench: %2.")
                      .arg(text(session_.design().name),
                           session_.design().tune.goals.empty()
                               ? tr("drag its grips, or its dimensions in the plan")
                               : tr("its dimensions are in the plan, its goals in Tune")));
}

void Editing::copyDesign() {
    if (change(tr("Copy design"), edit::copyDesign)) session_.select({Selection::Type::Design});
}

void Editing::removeDesign() {
    change(tr("Remove design"), edit::removeDesign);
}

void Editing::pin() {
    pinDesign(text(edit::pinName(document_.project())), document_.design());
}

void Editing::pinDesign(const QString& name, const model::Design& design) {
    change(tr("Pin"),
           [&](model::Project p) { return edit::addPin(std::move(p), name.toStdString(), design); });
}

void Editing::pinWithAndWithout() {
    const auto* part = session_.selectedPart();
    if (part == nullptr)
        return session_.bad(tr("Select the part first that the antenna is to be pinned with and without."));
    const model::Id id = part->id;
    change(tr("Pin with and without"),
           [&](model::Project p) { return edit::pinWithAndWithout(std::move(p), id); });
}

void Editing::editPin(const QString& label, model::Id pin,
                      const std::function<model::Project(model::Project, model::Id)>& make) {
    if (pin == 0)
        return session_.caution(tr("This is what tuning has found so far: pin it in the Tune mode first."));
    change(label, [&](model::Project p) { return make(std::move(p), pin); });
}

void Editing::findResonance() {
    const double near = session_.frequencyHz();
    session_.setDoing(tr("looking for resonance…"));
    session_.task().start([this, expansion = session_.expansion(), near](
                              std::stop_token stop, const Task::Progress&) -> Task::After {
        const auto found = study::findResonance(*expansion, near, stop);
        const bool stopped = stop.stop_requested();
        return [this, expansion, found, near, stopped] {
            session_.setDoing({});
            // An answer about an antenna that has changed meanwhile says nothing.
            if (stopped || expansion != session_.expansion()) return;
            session_.setResonance(found);
            if (!found)
                return session_.caution(
                    tr("There is no resonance within a factor of two of %1.").arg(megahertz(near)));
            session_.sayForNow({Notice::Tone::Good,
                                tr("Resonant (X = 0) at %1, where R is %2 Ω.")
                                    .arg(megahertz(found->frequencyHz))
                                    .arg(written(found->impedanceOhm.real(), 'f', 1)),
                                tr("Work there"),
                                [this, hz = found->frequencyHz] { session_.setFrequency(hz); }, tr("Scale…"),
                                [this] { Q_EMIT scaleRequested(); }});
        };
    });
}

std::optional<std::size_t> Editing::bandAt(double hz) const {
    const auto& bands = document_.project().bands;
    const auto holds = [hz](const model::Band& b) { return hz >= b.lowHz && hz <= b.highHz; };
    const std::size_t now = document_.project().workingBand;
    if (now < bands.size() && holds(bands[now])) return now;
    const auto found = std::find_if(bands.begin(), bands.end(), holds);
    if (found == bands.end()) return std::nullopt;
    return static_cast<std::size_t>(found - bands.begin());
}

void Editing::scaleTo(const std::vector<std::string>& dimensions, double targetHz) {
    session_.setDoing(tr("scaling…"));
    session_.task().start([this, design = document_.design(), band = session_.band().name, dimensions,
                           targetHz](std::stop_token stop, const Task::Progress&) -> Task::After {
        const auto scaled = study::scaleToFrequency(design, dimensions, targetHz, stop);
        return [this, scaled, targetHz, band, before = design] {
            session_.setDoing({});
            const model::Design* now = model::find(document_.project().designs, before.id);
            if (now == nullptr || !(*now == before))
                return session_.caution(tr("The design has changed meanwhile: it was not scaled."));
            // An antenna that goes to another band is looked at there, and is for that one.
            const auto reached = bandAt(targetHz);
            document_.editDesign(before.id, tr("Scale to frequency"), [&](model::Design& d) {
                d.dimensions = scaled.design.dimensions;
                if (!reached || d.bands.empty()) return;
                const std::string& name = document_.project().bands[*reached].name;
                if (std::find(d.bands.begin(), d.bands.end(), name) != d.bands.end()) return;
                std::replace(d.bands.begin(), d.bands.end(), band, name);
                if (std::find(d.bands.begin(), d.bands.end(), name) == d.bands.end()) d.bands.push_back(name);
            });
            if (document_.design().id == before.id) {
                if (reached && document_.project().workingBand != *reached)
                    session_.chooseBand(static_cast<int>(*reached));
                session_.setFrequency(targetHz);
            }
            session_.done(tr("Scaled by %1: resonant at %2 now, %3 before; R is %4 Ω.")
                              .arg(written(scaled.factor, 'f', 4))
                              .arg(megahertz(scaled.after.frequencyHz), megahertz(scaled.before.frequencyHz))
                              .arg(written(scaled.after.impedanceOhm.real(), 'f', 1)));
        };
    });
}

void Editing::adviseStacking(model::Id copy) {
    const double hz = session_.frequencyHz();
    const auto design = document_.design();
    const std::size_t place = model::indexOf(design.copies, copy);
    if (place >= design.copies.size()) return;
    session_.task().start([this, design, copy, place, hz](std::stop_token,
                                                          const Task::Progress&) -> Task::After {
        const auto advice = study::adviseStacking(design, place, hz);
        const bool rows = design.copies.at(place).rows != "1";
        return [this, advice, rows, copy] {
            const auto spacing = rows ? advice.rowSpacingM : advice.columnSpacingM;
            if (!spacing)
                return session_.caution(
                    tr("One of these antennas has no half-power points in that plane: the rule says nothing; "
                       "scan "
                       "the spacing instead."));
            session_.sayForNow(
                {Notice::Tone::Good,
                 tr("One of these is %1° wide at −3 dB: the half-power rule calls for %2.")
                     .arg(written(rows ? advice.rowBeamwidthDeg : advice.columnBeamwidthDeg, 'f', 0))
                     .arg(lengthWords(*spacing, document_.project().feetAndInches)),
                 tr("Use it"),
                 [this, copy, metres = *spacing] {
                     change(tr("Set spacing"),
                            [&](model::Project p) { return edit::setSpacing(std::move(p), copy, metres); });
                 },
                 tr("Scan…"), [this, copy] { Q_EMIT scanRequested(copy); }});
        };
    });
}

}  // namespace rm::app
