#include "core/export/boom_template.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/quantity/format.h"
#include "core/words/words.h"

namespace rm::io {

namespace {

constexpr std::size_t kStripsOfBoom = 3;
/// Left and right of a strip, for the letters that the next one is joined at.
constexpr double kBeside = 9.0;
constexpr double kStripMm = 50.0;  ///< from one strip to the next
constexpr double kAbove = 36.0;    ///< above the edge, for what is written along the marks
constexpr double kTick = 1.6;
constexpr double kCheckMm = 100.0;

struct BoomMark {
    std::string words;
    double atM = 0.0;  ///< from the beginning of the first strip
    bool hole = true;
};

class Strips {
  public:
    Strips(const build::BoomPlan& boom, const DrawingOptions& options, std::vector<Page>& pages)
        : boom_(boom), options_(options), pages_(pages), page_(options.paper) {
        const double wide = page_.content().width() - 2.0 * kBeside;
        stripM_ = std::floor(wide / 10.0) * 0.01;
    }

    void run() {
        std::vector<BoomMark> marks;
        for (const auto& hole : boom_.holes) marks.push_back({hole.element, hole.atM + boom_.endM});
        for (const double at : boom_.jointsM)
            marks.push_back({say("joint of the boom"), at + boom_.endM, false});
        if (!boom_.tube.empty()) {
            marks.push_back({say("end of the boom"), 0.0, false});
            marks.push_back({say("end of the boom"), boom_.tubeM(), false});
        }
        const double whole = boom_.lengthM + 2.0 * boom_.endM;
        const auto count =
            std::max<std::size_t>(1, static_cast<std::size_t>(std::ceil(whole / stripM_ - 1e-9)));
        for (std::size_t i = 0; i < count; ++i) {
            if (i % kStripsOfBoom == 0) begin();
            strip(i, count, whole, marks);
        }
        pages_.push_back(page_);
    }

  private:
    std::string position(double metres) const {
        return options_.feetAndInches ? quantity::formatTape(metres, 32) : figure("{:.1f} mm", 1e3 * metres);
    }

    void begin() {
        if (started_) pages_.push_back(page_);
        started_ = true;
        page_ = Page(options_.paper);
        const PageBox box = page_.content();
        // Printers like to fit a page in: then nothing of it is true.
        const double y = box.bottom + 9.0;
        page_.line({box.left, y}, {box.left + kCheckMm, y}, 0.3, "dimensions");
        for (const double x : {box.left, box.left + kCheckMm})
            page_.line({x, y - 2.0}, {x, y + 2.0}, 0.3, "dimensions");
        page_.text({box.left, y + 6.0},
                   say("{:.0f} mm: measure it. Print at 100 %, fit nothing in.", kCheckMm), "frame");
    }

    void strip(std::size_t i, std::size_t count, double whole, const std::vector<BoomMark>& marks) {
        const PageBox box = page_.content();
        const double left = box.left + kBeside;
        const double y = box.top + kAbove + static_cast<double>(i % kStripsOfBoom) * kStripMm;
        const double fromM = static_cast<double>(i) * stripM_;
        const double toM = std::min(fromM + stripM_, whole);
        const auto at = [&](double metres) { return left + 1000.0 * (metres - fromM); };
        page_.line({at(fromM), y}, {at(toM), y}, 0.3, "frame");
        // Ends of strips that are joined carry one letter.
        const auto joint = [&](double x, std::size_t number, double aside) {
            page_.line({x, y - kAbove + 8.0}, {x, y + 4.0}, 0.2, "dimensions", true);
            page_.text({x + aside, y - 3.0}, fmt::format("{}", number), "dimensions", Align::Middle, 3.4,
                       false, true);
        };
        if (i > 0) joint(at(fromM), i, -5.0);
        if (i + 1 < count) joint(at(toM), i + 1, 5.0);
        // Centimetres below the edge, every tenth with its number.
        const auto first = static_cast<int>(std::ceil(100.0 * fromM - 1e-6));
        const auto last = static_cast<int>(std::floor(100.0 * toM + 1e-6));
        for (int cm = first; cm <= last; ++cm) {
            const double x = at(0.01 * cm);
            page_.line({x, y}, {x, y + (cm % 10 == 0 ? 2.0 * kTick : kTick)}, 0.15, "dimensions");
            if (cm % 10 == 0 && cm > first)
                page_.text({x, y + 2.0 * kTick + 3.2}, fmt::format("{}", cm), "dimensions",
                           cm == last ? Align::Right : Align::Middle);
        }
        for (const BoomMark& mark : marks) {
            if (mark.atM < fromM - 1e-9 || mark.atM > toM + 1e-9) continue;
            // What falls on a joint belongs to the strip that begins there.
            if (std::abs(mark.atM - toM) < 1e-9 && i + 1 < count) continue;
            const double x = at(mark.atM);
            page_.line({x, y - kAbove + 8.0}, {x, y}, mark.hole ? 0.25 : 0.2,
                       mark.hole ? "wires" : "dimensions", !mark.hole);
            if (mark.hole) page_.circle({x, y - 4.0}, 0.9, false);
            // What it is on its left, where it is on its right.
            const auto write = [&](double baseLine, const std::string& words) {
                page_.text({baseLine, y - 6.5}, cutTo(words, kAbove - 9.0), "wires", Align::Left, kWordsMm,
                           true);
            };
            const std::string place = mark.hole ? position(mark.atM) : std::string();
            const double right = x + 0.9 + kWordsMm;
            if (x > at(fromM) + 4.0) {
                write(x - 0.9, mark.words);
                write(right, place);
            } else {
                write(right, mark.hole ? mark.words + ", " + place : mark.words);
            }
        }
    }

    const build::BoomPlan& boom_;
    const DrawingOptions& options_;
    std::vector<Page>& pages_;
    Page page_;
    double stripM_ = 0.25;
    bool started_ = false;
};

}  // namespace

std::vector<Sheet> boomTemplate(const model::Design& design, const DrawingOptions& options) {
    const auto built = build::buildSheet(design);
    if (built.booms.empty())
        throw Error(
            say("{} has no elements on a boom: there is nothing to drill at true size.", design.name));
    std::vector<Sheet> sheets;
    for (const auto& boom : built.booms) {
        if (boom.tubeM() > kLongestTemplateM)
            throw Error(say("The boom of {} is {:.2f} m long: at true size that is more paper than {:.0f} m.",
                            boom.part, boom.tubeM(), kLongestTemplateM));
        std::vector<Page> pages;
        Strips(boom, options, pages).run();
        const auto laid = titled(std::move(pages),
                                 {design.name, options.project,
                                  say("the boom of {} at its true size", boom.part), options.date, "1 : 1"},
                                 true);
        sheets.insert(sheets.end(), laid.begin(), laid.end());
    }
    return sheets;
}

}  // namespace rm::io
