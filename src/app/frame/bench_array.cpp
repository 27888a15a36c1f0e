// Element rows, copies, drive sets and coupling: the views of arrays, and what is done to them.
#include <QInputDialog>
#include <QMenu>
#include <QStackedWidget>
#include <QTableWidget>
#include <QToolButton>
#include <algorithm>

#include "app/stages/boom/boom_view.h"
#include "app/stages/coupling/coupling_view.h"
#include "app/stages/drives/drive_view.h"
#include "app/stages/spacing/spacing_view.h"
#include "app/frame/bench.h"
#include "app/frame/notice_bar.h"
#include "app/plan/item_editor.h"
#include "app/stages/shape/yard.h"
#include "core/model/loosen.h"
#include "core/quantity/format.h"

namespace rm::app {

namespace {

bool isRow(const model::Design& d, std::size_t part) {
    return part < d.parts.size() && std::holds_alternative<model::ElementRow>(d.parts[part].shape);
}

/// The text that a spacing really comes from: the field, or the dimension that it names.
std::string& sourceOf(model::Design& d, std::string& typed) {
    for (auto& dimension : d.dimensions)
        if (dimension.name == typed) return sourceOf(d, dimension.text);
    return typed;
}

/// The spacing that a stack has to choose: of its rows, or of its columns where it has one row.
std::string& spacingOf(model::Copy& copy) {
    return copy.rows != "1" ? copy.rowSpacing : copy.columnSpacing;
}

void setSpacing(model::Design& d, std::size_t copy, double metres) {
    std::string& text = sourceOf(d, spacingOf(d.copies.at(copy)));
    text = quantity::lengthLike(quantity::isPlainNumber(text) ? text : std::string("1 m"), metres);
}

}  // namespace

void Bench::buildArray() {
    boomView_ = new BoomView(document_);
    driveView_ = new DriveView;
    couplingView_ = new CouplingView;
    spacingView_ = new SpacingView;
    for (QWidget* view : std::initializer_list<QWidget*>{boomView_, driveView_, couplingView_, spacingView_})
        stage_->addWidget(view);
    for (StudyFrame* view : std::initializer_list<StudyFrame*>{boomView_, couplingView_, spacingView_})
        connect(view, &StudyFrame::closed, this, &Bench::showYard);
    connect(driveView_, &DriveView::chosen, this, &Bench::chooseDriveSet);
    connect(driveView_, &DriveView::pinRequested, this, [this](int set) {
        auto design = document_.design();
        design.driveSet = set;
        addPin(set < 0 ? QString("every feed")
                       : QString::fromStdString(design.driveSets.at(static_cast<std::size_t>(set)).name),
               design);
    });
    auto* patterns = new QMenu(driveView_);
    fillPatterns(patterns);
    driveView_->patterns()->setMenu(patterns);
    connect(couplingView_, &CouplingView::eachAlone, this, [this](model::IdleKind idle) {
        if (!expansion_) return;
        auto sets = study::driveSetsBy(study::DrivePattern::SingleOnes, *expansion_, frequencyHz_);
        const char* const how[] = {"open", "shorted", "in 50 Ω"};
        for (auto& set : sets) {
            set.idle = idle;
            set.name += std::string(", others ") + how[static_cast<std::size_t>(idle)];
        }
        addDriveSets(sets);
    });
    connect(spacingView_->plot(), &SpacingPlot::spacingChosen, this, [this](double metres) {
        if (scanned_ >= document_.design().copies.size()) return;
        document_.finishMerging();
        document_.editDesign("Set spacing", [&](model::Design& d) { setSpacing(d, scanned_, metres); });
        spacingView_->plot()->setPoints(spacingView_->plot()->points(), advisedM_, metres);
    });
    connect(spacingView_, &SpacingView::againRequested, this, [this] { scanStacking(scanned_); });
    connect(editor_, &ItemEditor::boomRequested, this, &Bench::showBoom);
    connect(editor_, &ItemEditor::drivesRequested, this, &Bench::showDrives);
    connect(editor_, &ItemEditor::adviceRequested, this, &Bench::adviseStacking);
    connect(editor_, &ItemEditor::scanRequested, this, &Bench::scanStacking);
    connect(&runner_, &Runner::drivesStudied, this, [this](quint64 g, DrivesPtr rows) {
        if (g == serial_)
            driveView_->setRows(std::move(rows), document_.design().driveSet, document_.project().angles);
    });
}

void Bench::fillPatterns(QMenu* menu) {
    const struct {
        const char* text;
        study::DrivePattern pattern;
    } patterns[] = {{"All in phase", study::DrivePattern::AllInPhase},
                    {"Upper half reversed", study::DrivePattern::UpperHalfReversed},
                    {"Left half reversed", study::DrivePattern::LeftHalfReversed},
                    {"Each pair", study::DrivePattern::EachPair},
                    {"Each one alone", study::DrivePattern::SingleOnes},
                    {"Steered to a bearing…", study::DrivePattern::Steered}};
    for (const auto& p : patterns)
        connect(menu->addAction(p.text), &QAction::triggered, this, [this, p] {
            double bearing = expansion_ ? expansion_->headingDeg : 0.0;
            if (p.pattern == study::DrivePattern::Steered) {
                bool ok = false;
                bearing = QInputDialog::getDouble(this, "Steer", "Compass bearing, degrees", bearing, -360.0,
                                                  360.0, 1, &ok);
                if (!ok) return;
            }
            addDrivePattern(p.pattern, bearing);
        });
    connect(menu->addAction("By hand"), &QAction::triggered, this, [this] {
        model::DriveSet set;
        set.name = "Drive set";
        if (expansion_)
            for (const auto& feed : expansion_->model.feeds) set.driven.push_back({feed.name});
        addDriveSets({set});
        selectEverywhere({Selection::Type::Drive, document_.design().driveSets.size() - 1});
    });
}

void Bench::addDrivePattern(study::DrivePattern pattern, double bearingDeg) {
    if (!expansion_) return;
    const auto sets = study::driveSetsBy(pattern, *expansion_, frequencyHz_, bearingDeg);
    if (sets.empty())
        return fail(expansion_->model.feeds.size() < 2
                        ? "Drive sets need two feeds: stack the antenna, or add a feed."
                        : "The feeds of this design do not lie so: choose another pattern.");
    addDriveSets(sets);
}

void Bench::addDriveSets(const std::vector<model::DriveSet>& sets) {
    document_.finishMerging();
    document_.editDesign("Add drive sets", [&](model::Design& d) {
        for (auto set : sets) {
            // The same set again takes the place of the old one.
            const auto same = std::find_if(d.driveSets.begin(), d.driveSets.end(),
                                           [&](const auto& old) { return old.name == set.name; });
            if (same == d.driveSets.end())
                d.driveSets.push_back(set);
            else
                *same = set;
        }
        if (d.driveSet < 0) d.driveSet = 0;
    });
    showDrives();
}

void Bench::chooseDriveSet(int set) {
    if (document_.design().driveSet == set) return;
    document_.finishMerging();
    document_.editDesign("Choose drive set", [&](model::Design& d) { d.driveSet = set; });
}

void Bench::showBoom() {
    const auto& d = document_.design();
    const Selection s = selection();
    std::size_t part = s.type == Selection::Type::Part ? s.index : boomView_->part();
    for (std::size_t i = 0; !isRow(d, part) && i < d.parts.size(); ++i)
        if (isRow(d, i)) part = i;
    if (!isRow(d, part)) return fail("This design has no element row: add one to its parts.");
    boomView_->setExpansion(expansion_);
    boomView_->choose(part);
    boomView_->setFigures(analysis_.get(), sweep_.get());
    showMode(boomView_);
}

void Bench::showDrives() {
    showMode(driveView_);
    startWork();
}

void Bench::showCoupling() {
    if (expansion_ && sweep_) couplingView_->setSweep(expansion_, sweep_, frequencyHz_);
    showMode(couplingView_);
}

/// Brings the view of the array that is shown up to date.
void Bench::refreshArray() {
    if (stage_->currentWidget() == boomView_) boomView_->setFigures(analysis_.get(), sweep_.get());
    if (stage_->currentWidget() == couplingView_ && expansion_ && sweep_)
        couplingView_->setSweep(expansion_, sweep_, frequencyHz_);
}

void Bench::addCopy(model::CopyKind kind) {
    const Selection added{Selection::Type::Copy, document_.design().copies.size()};
    const Selection from = selection();
    document_.finishMerging();
    document_.editDesign("Add copies", [&](model::Design& d) {
        model::Copy copy;
        copy.kind = kind;
        const char* const names[] = {"Mirror", "Rotation", "Steps", "Stack"};
        copy.name = names[static_cast<std::size_t>(kind)];
        const auto taken = [&](const std::string& name) {
            return std::any_of(d.copies.begin(), d.copies.end(),
                               [&](const auto& c) { return c.name == name; });
        };
        for (int n = 2; taken(copy.name); ++n)
            copy.name = names[static_cast<std::size_t>(kind)] + (" " + std::to_string(n));
        copy.rowSpacing = copy.columnSpacing = "0.7*lambda";
        copy.step = {"0 m", "lambda/2", "0 m"};
        // Of the selected part where there is more than one: a stack is rarely of its mast.
        if (d.parts.size() > 1 && from.type == Selection::Type::Part && from.index < d.parts.size())
            copy.parts = {d.parts[from.index].name};
        d.copies.push_back(copy);
    });
    selectEverywhere(added);
    yard_->fitNext();
}

void Bench::adviseStacking(std::size_t copy) {
    const auto design = document_.design();
    const double hz = frequencyHz_;
    task_.start([this, design, copy, hz](std::stop_token) -> std::function<void()> {
        const auto advice = study::adviseStacking(design, copy, hz);
        const bool rows = design.copies.at(copy).rows != "1";
        return [this, advice, rows, copy] {
            const auto spacing = rows ? advice.rowSpacingM : advice.columnSpacingM;
            if (!spacing)
                return notice_->show(NoticeBar::Tone::Caution,
                                     "One of these antennas has no half-power points in that plane: the rule "
                                     "says nothing; scan the spacing instead.");
            notice_->show(
                NoticeBar::Tone::Good,
                QString("One of these is %1° wide at −3 dB: the half-power rule calls for %2 m.")
                    .arg(rows ? advice.rowBeamwidthDeg : advice.columnBeamwidthDeg, 0, 'f', 0)
                    .arg(*spacing, 0, 'f', 2),
                "Use it",
                [this, copy, metres = *spacing] {
                    document_.finishMerging();
                    document_.editDesign("Set spacing", [&](model::Design& d) {
                        setSpacing(d, copy, std::round(100.0 * metres) / 100.0);
                    });
                },
                "Scan…", [this, copy] { scanStacking(copy); });
        };
    });
}

void Bench::scanStacking(std::size_t copy) {
    const auto design = document_.design();
    const double hz = frequencyHz_;
    const auto progress = progressOfTask();
    task_.start([this, design, copy, hz, progress](std::stop_token stop) -> std::function<void()> {
        std::optional<double> advised;
        const auto advice = study::adviseStacking(design, copy, hz);
        const bool rows = design.copies.at(copy).rows != "1";
        advised = rows ? advice.rowSpacingM : advice.columnSpacingM;
        auto own = design.copies.at(copy);
        double now = 0.0;
        try {
            now = quantity::evaluate(spacingOf(own), quantity::Kind::Length, model::scopeOf(design));
        } catch (const Error&) {
            // Said by the finding about the copy.
        }
        const double lambda = wavelengthM(hz);
        const double to = std::max({1.6 * lambda, 1.5 * advised.value_or(0.0), 1.2 * now});
        const auto points = study::scanStacking(design, copy, hz, 0.25 * lambda, to, 49, stop, progress);
        const bool stopped = stop.stop_requested();
        return [this, points, advised, now, copy, stopped] {
            if (stopped) return notice_->show(NoticeBar::Tone::Caution, "The scan was stopped.");
            scanned_ = copy;
            advisedM_ = advised;
            spacingView_->plot()->setPoints(points, advised, now);
            spacingView_->setTitle(QString("Stacking distance, %1")
                                       .arg(QString::fromStdString(document_.design().copies.at(copy).name)));
            showMode(spacingView_);
        };
    });
}

void Bench::loosen() {
    try {
        const auto loose = model::loosened(document_.design());
        document_.finishMerging();
        document_.editDesign("Turn into loose wires", [&](model::Design& d) { d = loose; });
        selectEverywhere({});
        notice_->show(NoticeBar::Tone::Good, "Every part and copy is loose wires now, in numbers.", "Undo",
                      [this] { document_.undoStack()->undo(); });
    } catch (const Error& e) {
        fail(QString::fromUtf8(e.what()));
    }
}

void Bench::setQuickFreeSpace(bool on) {
    if (document_.design().site.quick == on) return;
    document_.finishMerging();
    document_.editDesign(on ? "Free space for now" : "Back to the ground",
                         [&](model::Design& d) { d.site.quick = on; });
}

}  // namespace rm::app
