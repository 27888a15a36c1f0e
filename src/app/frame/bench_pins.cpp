// Pins on the bench: made with one key, laid over the curves, and kept in the project.
#include <QComboBox>
#include <QStackedWidget>
#include <QUndoStack>
#include <algorithm>

#include "app/frame/bench.h"
#include "app/stages/compare/compare_view.h"
#include "app/dialogs/angles_dialog.h"
#include "app/instruments/polar_view.h"
#include "app/instruments/ledger.h"
#include "app/frame/notice_bar.h"
#include "app/stages/shape/yard.h"
#include "core/model/difference.h"

namespace rm::app {

namespace {

QString text(const std::string& s) {
    return QString::fromStdString(s);
}

}  // namespace

void Bench::connectPins() {
    const auto edit = [this](const QString& label, const std::function<void(model::Project&)>& change) {
        document_.finishMerging();
        document_.edit(label, change);
    };
    connect(ledger_, &Ledger::pinToggled, this, [this, edit](int pin) {
        if (!pinned(pin)) return;
        edit("Show or hide pin", [pin](model::Project& p) {
            auto& shown = p.pins.at(static_cast<std::size_t>(pin)).shown;
            shown = !shown;
        });
    });
    connect(ledger_, &Ledger::baselineChosen, this, [this, edit](int pin) {
        if (pin >= 0 && !pinned(pin)) return;
        edit("Choose baseline", [pin](model::Project& p) { p.baseline = pin; });
    });
    connect(ledger_, &Ledger::pinRenamed, this, [this, edit](int pin, const QString& name) {
        if (!pinned(pin)) return;
        // The marks that stand behind a name in the ledger are not part of it.
        QString plain = name;
        for (const char* mark : {"  (baseline)", "  (hidden)", "  (not for this band)"}) plain.remove(mark);
        edit("Rename pin", [pin, plain](model::Project& p) {
            if (!plain.isEmpty()) p.pins.at(static_cast<std::size_t>(pin)).name = plain.toStdString();
        });
    });
    connect(ledger_, &Ledger::pinColoured, this, [this, edit](int pin, int colour) {
        if (!pinned(pin)) return;
        edit("Colour pin",
             [=](model::Project& p) { p.pins.at(static_cast<std::size_t>(pin)).colour = colour; });
    });
    connect(ledger_, &Ledger::pinRemoved, this, [this, edit](int pin) {
        if (!pinned(pin)) return;
        edit("Remove pin", [pin](model::Project& p) {
            p.pins.erase(p.pins.begin() + pin);
            if (p.baseline == pin)
                p.baseline = -1;
            else if (p.baseline > pin)
                --p.baseline;
        });
    });
    connect(ledger_, &Ledger::pinMoved, this, [this, edit](int pin, int by) {
        if (!pinned(pin)) return;
        edit("Move pin", [pin, by](model::Project& p) {
            const int to = std::clamp(pin + by, 0, static_cast<int>(p.pins.size()) - 1);
            std::swap(p.pins.at(static_cast<std::size_t>(pin)), p.pins.at(static_cast<std::size_t>(to)));
            if (p.baseline == pin)
                p.baseline = to;
            else if (p.baseline == to)
                p.baseline = pin;
        });
    });
    connect(ledger_, &Ledger::pinRestored, this, [this, edit](int pin) {
        if (!pinned(pin)) return;
        edit("Restore pin", [pin](model::Project& p) {
            const model::Design& design = p.pins.at(static_cast<std::size_t>(pin)).design;
            // It goes back to the design it came from, where that is still there.
            for (std::size_t i = 0; i < p.designs.size(); ++i)
                if (p.designs[i].name == design.name) p.activeDesign = i;
            p.designs[p.activeDesign] = design;
        });
        yard_->fitNext();
    });
    connect(ledger_, &Ledger::pinBranched, this, [this, edit](int pin) {
        if (!pinned(pin)) return;
        edit("Branch from pin", [pin](model::Project& p) {
            const model::Pin& from = p.pins.at(static_cast<std::size_t>(pin));
            model::Design design = from.design;
            design.name =
                from.name == design.name ? design.name + ", branch" : design.name + ": " + from.name;
            p.designs.push_back(design);
            p.activeDesign = p.designs.size() - 1;
        });
        yard_->fitNext();
    });
}

/// Whether this row of the ledger is a pin of the project; what tuning lays over it is not one yet.
bool Bench::pinned(int pin) {
    if (pin >= 0 && static_cast<std::size_t>(pin) < document_.project().pins.size()) return true;
    notice_->show(NoticeBar::Tone::Caution,
                  "This is what tuning has found so far: pin it in the Tune mode first.");
    ledger_->setProject(*shownProject());
    return false;
}

void Bench::showPins(PinsPtr pins) {
    if (!pins && !pins_) return;
    pins_ = std::move(pins);
    for (PolarView* view : {elevation_, azimuth_}) view->setPins(pins_);
    ledger_->setPins(pins_);
    refreshBand();
}

void Bench::addPin(const QString& name, const model::Design& design) {
    document_.edit("Pin", [&](model::Project& p) {
        std::string free = name.toStdString();
        for (int n = 2;
             std::any_of(p.pins.begin(), p.pins.end(), [&](const auto& pin) { return pin.name == free; });
             ++n)
            free = name.toStdString() + " (" + std::to_string(n) + ")";
        p.pins.push_back({free, design, true, -1, {}});
    });
}

void Bench::pin() {
    const auto& p = document_.project();
    const model::Design& design = p.active();
    // Named by what changed since the last pin of this design.
    QString name = text(design.name);
    for (const auto& pin : p.pins)
        if (pin.design.name == design.name) {
            const QString change = text(model::describeChange(pin.design, design));
            name = change.isEmpty() ? name : change;
        }
    document_.finishMerging();
    addPin(name, design);
}

void Bench::pinWithAndWithout() {
    const Selection s = selection();
    const auto& d = document_.design();
    if (s.type != Selection::Type::Part || s.index >= d.parts.size())
        return fail("Select the part first that the antenna is to be pinned with and without.");
    model::Design with = d;
    model::Design without = d;
    with.parts[s.index].enabled = true;
    without.parts[s.index].enabled = false;
    const QString part = text(d.parts[s.index].name);
    document_.finishMerging();
    addPin("with " + part, with);
    addPin("without " + part, without);
}

void Bench::showCompare() {
    showMode(compareView_);
    refreshCompare();
}

/// Works the comparison out anew where it is looked at and the project is another one.
void Bench::refreshCompare() {
    if (stage_->currentWidget() != compareView_ || compared_ == document_.share()) return;
    const ProjectPtr project = document_.share();
    if (comparing_ == project && compareTask_.running()) return;
    comparing_ = project;
    compareView_->setStale(true);
    compareTask_.start([this, project](std::stop_token stop) -> std::function<void()> {
        const auto comparison =
            std::make_shared<const study::Comparison>(study::compare(*project, &compareFields_, stop));
        return [this, project, comparison] {
            if (!comparison->complete) return;
            compared_ = project;
            compareView_->setComparison(comparison, project->swrLimits,
                                        static_cast<int>(project->workingBand));
            // Changed meanwhile: once more.
            refreshCompare();
        };
    });
}

void Bench::openCompared(int row, int band) {
    const auto comparison = compareView_->comparison();
    const auto& chosen = comparison->rows.at(static_cast<std::size_t>(row));
    document_.finishMerging();
    document_.edit("Open from the comparison", [&](model::Project& p) {
        if (chosen.pin) {
            model::Design design = p.pins.at(chosen.index).design;
            design.name = design.name + ": " + p.pins.at(chosen.index).name;
            const auto same = std::find_if(p.designs.begin(), p.designs.end(),
                                           [&](const model::Design& d) { return d.name == design.name; });
            p.activeDesign = static_cast<std::size_t>(same - p.designs.begin());
            if (same == p.designs.end()) p.designs.push_back(design);
        } else {
            p.activeDesign = chosen.index;
        }
        p.workingBand = static_cast<std::size_t>(band);
    });
    frequencyChosen_ = false;
    range_.reset();
    yard_->fitNext();
    showYard();
    startWork();
}

void Bench::setComponent(study::Component component) {
    component_ = component;
    startWork();
}

void Bench::cutAzimuthAt(std::optional<double> elevationDeg) {
    azimuthElevation_ = elevationDeg;
    startWork();
}

void Bench::askAngles() {
    AnglesDialog dialog(document_.project().angles, this);
    if (dialog.exec() != QDialog::Accepted) return;
    const model::Angles angles = dialog.angles();
    document_.edit("Change angles", [&](model::Project& p) { p.angles = angles; });
}

}  // namespace rm::app
