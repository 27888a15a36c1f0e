#include "core/export/report.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/export/build_drawing.h"
#include "core/export/build_tables.h"
#include "core/export/report_plots.h"
#include "core/model/soils.h"
#include "core/quantity/format.h"
#include "core/stopped.h"
#include "core/study/tolerance.h"
#include "core/words/words.h"

namespace rm::io {

namespace {

using namespace rm::model;

constexpr int kSweepPoints = 81;
constexpr int kStripsOnPage = 2;

/// What the antenna does on one band.
struct BandFigures {
    Band band;
    study::Sweep sweep;
    std::shared_ptr<const study::Analysis> analysis;
};

class Reporter {
  public:
    Reporter(const Project& project, const Design& design, const ReportOptions& options, std::stop_token stop,
             const std::function<void(double)>& progress)
        : project_(project),
          design_(design),
          options_(options),
          stop_(std::move(stop)),
          progress_(progress),
          expansion_(expand(design)) {
        study::requireUsable(expansion_);
    }

    std::vector<Sheet> run() {
        measureBands();
        overview();
        bandPages();
        tables();
        const TitleBlock block{design_.name, project_.title, aboutWords(), options_.date, ""};
        DrawingOptions drawing;
        drawing.paper = options_.paper;
        drawing.feetAndInches = options_.feetAndInches;
        drawing.project = project_.title;
        drawing.date = options_.date;
        // Of the drawing the views alone: its tables are here already.
        const DrawnViews drawn = drawViews(design_, drawing);
        pages_.push_back(drawn.page);
        std::vector<Sheet> sheets;
        for (std::size_t i = 0; i < pages_.size(); ++i) {
            const bool last = i + 1 == pages_.size();
            pages_[i].title(last ? drawn.title : block, i + 1, pages_.size());
            sheets.push_back(pages_[i].sheet());
        }
        tell(1.0);
        return sheets;
    }

  private:
    void tell(double share) {
        endWhere(stop_);
        if (progress_) progress_(share);
    }
    std::string length(double metres) const {
        return quantity::formatLength(metres, options_.feetAndInches ? quantity::LengthStyle::FeetInches
                                                                     : quantity::LengthStyle::Metric);
    }
    bool grounded() const { return expansion_.model.ground.kind != GroundKind::FreeSpace; }

    void measureBands() {
        std::vector<Band> bands;
        for (const auto& band : project_.bands)
            if (design_.bands.empty() ||
                std::find(design_.bands.begin(), design_.bands.end(), band.name) != design_.bands.end())
                bands.push_back(band);
        for (std::size_t i = 0; i < bands.size(); ++i) {
            BandFigures figures;
            figures.band = bands[i];
            figures.sweep =
                study::sweep(expansion_, bands[i].lowHz, bands[i].highHz, kSweepPoints, stop_, {}, &fields_);
            tell(0.6 * (static_cast<double>(i) + 0.7) / static_cast<double>(bands.size()));
            study::AnalysisOptions analysis;
            analysis.stop = stop_;
            analysis.fields = &fields_;
            figures.analysis = std::make_shared<const study::Analysis>(
                study::analyse(expansion_, bands[i].centreHz(), analysis));
            bands_.push_back(std::move(figures));
            tell(0.6 * (static_cast<double>(i) + 1.0) / static_cast<double>(bands.size()));
        }
    }

    std::string groundWords() const {
        const auto& ground = expansion_.model.ground;
        if (ground.kind == GroundKind::FreeSpace) return say("in free space");
        if (ground.kind == GroundKind::Perfect) return say("over perfect ground");
        const Soil* soil = findSoil(design_.site.soil);
        return soil != nullptr ? soil->name : std::string(say("ground of its own figures"));
    }
    std::string aboutWords() const {
        return say("for {:.4g} MHz, {}", expansion_.designFrequencyHz / 1e6, groundWords());
    }

    /// Picture, what it holds for, and the figures of every band.
    void overview() {
        Page page(options_.paper);
        const PageBox box = page.content();
        page.text({box.left, box.top + 6.0}, design_.name, "frame", Align::Left, 5.0, false, true);
        page.text({box.left, box.top + 12.0}, project_.title, "frame", Align::Left, 3.0);
        const double split = box.left + 0.62 * box.width();
        const double below = box.top + 0.60 * box.height();
        drawAntenna(page, {box.left, box.top + 16.0, split - 6.0, below}, expansion_);
        double y = box.top + 20.0;
        page.text({split, y}, say("It holds for"), "frame", Align::Left, 2.9, false, true);
        std::vector<std::string> lines{groundWords()};
        const auto& ground = expansion_.model.ground;
        if (ground.kind == GroundKind::Real)
            lines.push_back(
                say("permittivity {:.3g}, {:.3g} S/m", ground.relativePermittivity, ground.conductivitySm));
        const Bounds bounds = expansion_.model.bounds();
        if (grounded())
            lines.push_back(
                say("highest wire {}, lowest {}", length(bounds.high.z()), length(bounds.low.z())));
        lines.push_back(say("front towards {:03.0f}°", std::fmod(expansion_.headingDeg + 360.0, 360.0)));
        lines.push_back(
            say("SWR to {:g} ohm at the radio, {:g} W", expansion_.referenceOhm, project_.powerW));
        for (const auto& part : design_.parts)
            if (part.enabled)
                lines.push_back(fmt::format(
                    "{}: {} {}{}", part.name, part.conductor.material, part.conductor.diameter,
                    part.conductor.coat.empty() ? "" : say(", {} of insulation", part.conductor.coat)));
        const std::size_t most = 14;
        for (std::size_t i = 0; i < std::min(most, lines.size()); ++i) {
            y += kTableRowMm;
            Table one{"", {{"", 1.0, Align::Left}}, {}};
            putRow(page, one, {lines[i]}, {split, 0.0, box.right, 0.0}, y);
        }
        std::vector<TableColumn> columns{
            {say("band"), 1.0, Align::Left},       {"SWR", 1.6, Align::Right},
            {say("2:1 width"), 1.3, Align::Right}, {say("at the antenna"), 2.2, Align::Right},
            {say("peak"), 1.3, Align::Right},      {say("at"), 0.9, Align::Right}};
        for (const double angle : project_.angles.watchDeg)
            columns.push_back({say("at {:g}°", angle), 1.0, Align::Right});
        columns.push_back({"F/B", 1.1, Align::Right});
        columns.push_back({say("to the sky"), 1.5, Align::Right});
        const Table table{say("On its bands"), columns, {}};
        y = putHead(page, table, box, below + 8.0);
        for (const auto& one : bands_) {
            if (y > box.bottom) break;
            const auto& f = one.analysis->figures;
            std::vector<std::string> cells{one.band.name,
                                           say("{:.2f} to {:.2f}", one.sweep.bestSwr(), one.sweep.worstSwr()),
                                           figure("{:.0f} kHz", one.sweep.bandwidthHz(2.0) / 1e3),
                                           quantity::formatImpedance(f.antennaOhm),
                                           figure("{:.1f} dBi", f.peak.gainDbi),
                                           figure("{:.0f}°", f.peak.direction.elevationDeg)};
            for (const double angle : project_.angles.watchDeg)
                cells.push_back(figure("{:.1f}", one.analysis->elevation.at(angle)));
            cells.push_back(figure("{:.1f} dB", f.frontToBackDb));
            cells.push_back(figure("{:.0f} %", 100.0 * f.skyShare));
            y = putRow(page, table, cells, box, y);
        }
        pages_.push_back(page);
    }

    void bandPages() {
        for (std::size_t i = 0; i < bands_.size(); ++i) {
            if (i % kStripsOnPage == 0) pages_.emplace_back(options_.paper);
            Page& page = pages_.back();
            const PageBox box = page.content();
            const double tall = box.height() / kStripsOnPage;
            const double top = box.top + static_cast<double>(i % kStripsOnPage) * tall;
            const auto& one = bands_[i];
            page.text({box.left, top + 4.5},
                      say("{}: {:.1f} dBi at {:.0f}° up", one.band.name, one.analysis->figures.peak.gainDbi,
                          one.analysis->figures.peak.direction.elevationDeg),
                      "frame", Align::Left, 2.9, false, true);
            const auto third = [&](int n) {
                const double wide = box.width() / 3.0;
                return PageBox{box.left + n * wide, top + 7.0, box.left + (n + 1) * wide - 3.0,
                               top + tall - 3.0};
            };
            plotSwr(page, third(0), one.sweep, project_.swrLimits);
            plotElevation(page, third(1), one.analysis->elevation, expansion_.headingDeg, grounded());
            plotAzimuth(page, third(2), one.analysis->azimuth, expansion_.headingDeg);
        }
    }

    Table feedPath() const {
        Table t{say("From the antenna to the radio"),
                {{say("after"), 2.0, Align::Left},
                 {say("impedance"), 2.0, Align::Right},
                 {"SWR", 1.0, Align::Right},
                 {say("loses"), 1.0, Align::Right},
                 {say("band"), 1.0, Align::Left}},
                {}};
        for (const auto& one : bands_) {
            const auto& joints = one.analysis->figures.joints;
            std::size_t next = 0;
            for (const auto& block : design_.feedPath) {
                if (!block.enabled || ++next >= joints.size()) continue;
                const auto& joint = joints[next];
                t.rows.push_back(
                    {block.name, quantity::formatImpedance(joint.impedanceOhm),
                     quantity::formatSwr(study::swr(joint.impedanceOhm, expansion_.referenceOhm)),
                     figure("{:.2f} dB", joint.blockLossDb), one.band.name});
            }
        }
        return t;
    }

    Table tolerance() {
        Table t{say("How well it must be built"),
                {{say("band"), 1.0, Align::Left},
                 {say("SWR as drawn"), 1.0, Align::Right},
                 {say("9 of 10 builds below"), 1.6, Align::Right},
                 {say("with errors of"), 3.6, Align::Left}},
                {}};
        if (options_.builds <= 0) return t;
        const study::BuildErrors errors;
        for (std::size_t i = 0; i < bands_.size(); ++i) {
            const auto& one = bands_[i];
            const auto run = study::studyTolerance(design_, {one.band}, one.band.lowHz, one.band.highHz,
                                                   options_.builds, errors, 1, stop_);
            tell(0.6 + 0.35 * (static_cast<double>(i) + 1.0) / static_cast<double>(bands_.size()));
            t.rows.push_back(
                {one.band.name, figure("{:.2f}", one.sweep.worstSwr()), figure("{:.2f}", run.mostOfNine),
                 say("{:.0f} mm in length, {:g}° in angle, {:.0f} cm in height, {:.0f} % in "
                     "the soil",
                     1e3 * errors.lengthM, errors.angleDeg, run.restsOnGround ? 0.0 : 100.0 * errors.heightM,
                     100.0 * errors.groundShare)});
        }
        return t;
    }

    void tables() {
        std::vector<Table> all{feedPath(), tolerance()};
        const auto build = buildTables(build::buildSheet(design_), options_.feetAndInches);
        all.insert(all.end(), build.begin(), build.end());
        const auto laid = layTables(all, options_.paper);
        pages_.insert(pages_.end(), laid.begin(), laid.end());
    }

    const Project& project_;
    const Design& design_;
    const ReportOptions& options_;
    std::stop_token stop_;
    const std::function<void(double)>& progress_;
    Expansion expansion_;
    study::FieldStore fields_;
    std::vector<BandFigures> bands_;
    std::vector<Page> pages_;
};

}  // namespace

std::vector<Sheet> report(const Project& project, const Design& design, const ReportOptions& options,
                          std::stop_token stop, const std::function<void(double)>& progress) {
    return Reporter(project, design, options, std::move(stop), progress).run();
}

}  // namespace rm::io
