#include "core/model/expand_hung.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/model/limits.h"
#include "core/quantity/format.h"
#include "core/words/words.h"

namespace rm::model {

namespace {

using quantity::Kind;

/// Of one span with sag. The chord of an eighth of a parabola is within a 64th of its depth of it.
constexpr int kPieces = 8;
constexpr double kDeepestSag = 0.25;  ///< of the chord: beyond it a parabola is no rope
constexpr double kGravity = 9.80665;  ///< m/s^2, standard
/// What is left over of a length or missing from it by rounding.
constexpr double kRoundingM = 1e-6;
/// Bends closer to an end of the wire than this are left out: no conductor is that short.
constexpr double kShortestM = 2e-3;

/// A way through space with the lengths along it.
class Way {
  public:
    void add(const Vec3& point, bool corner) {
        if (!points_.empty())
            lengths_.push_back(total() + (point - points_.back()).norm());
        else
            lengths_.push_back(0.0);
        points_.push_back(point);
        corners_.push_back(corner);
    }
    double total() const { return lengths_.empty() ? 0.0 : lengths_.back(); }
    /// Along the way, of its corner `n`.
    double atCorner(std::size_t n) const {
        for (std::size_t i = 0; i < points_.size(); ++i)
            if (corners_[i] && n-- == 0) return lengths_[i];
        return total();
    }
    /// The piece between two lengths along the way.
    void cut(double from, double to, std::vector<Vec3>& points, std::vector<bool>* corners) const {
        if (!(to - from > kRoundingM)) return;
        const auto put = [&](const Vec3& point, bool corner) {
            points.push_back(point);
            if (corners != nullptr) corners->push_back(corner);
        };
        put(pointAt(from), false);
        for (std::size_t i = 0; i < points_.size(); ++i)
            if (lengths_[i] > from + kShortestM && lengths_[i] < to - kShortestM)
                put(points_[i], corners_[i]);
        put(pointAt(to), false);
    }

  private:
    Vec3 pointAt(double metres) const {
        for (std::size_t i = 1; i < points_.size(); ++i)
            if (metres <= lengths_[i]) {
                const double piece = lengths_[i] - lengths_[i - 1];
                const double share = piece > 0.0 ? std::max(0.0, metres - lengths_[i - 1]) / piece : 0.0;
                return points_[i - 1] + share * (points_[i] - points_[i - 1]);
            }
        return points_.back();
    }

    std::vector<Vec3> points_;
    std::vector<bool> corners_;
    std::vector<double> lengths_;
};

class Hanger {
  public:
    Hanger(FieldValues& values, const std::string& part, const HungWire& wire, double kgPerM,
           const std::vector<PlainSupport>& supports)
        : values_(values), wire_(wire), supports_(supports) {
        out_.part = part;
        out_.kgPerM = kgPerM;
    }

    HungSizes run() {
        tie();
        readSag();
        if (values_.failed) return out_;
        layWay();
        place();
        return out_;
    }

  private:
    void problem(const std::string& sentence, const std::string& mend) {
        values_.problem(out_.part, sentence, mend);
    }

    void tie() {
        if (wire_.points.size() < 2)
            return problem(say("{} hangs from fewer than two places.", out_.part),
                           say("Choose another support for it."));
        if (wire_.points.size() > kMostHangPoints)
            return problem(say("{} hangs from {} places.", out_.part, wire_.points.size()),
                           say("Use at most {}.", kMostHangPoints));
        for (const HangPoint& point : wire_.points) {
            const auto found = std::find_if(supports_.begin(), supports_.end(),
                                            [&](const PlainSupport& s) { return s.name == point.support; });
            if (found == supports_.end())
                return problem(say("{} hangs on {}, which is not there.", out_.part,
                                   point.support.empty() ? say("nothing") : "\"" + point.support + "\""),
                               say("Choose a support of the site for it."));
            names_.push_back(found->name);
            const double height = point.height.empty() ? found->heightM()
                                                       : values_.value(point.height, Kind::Length, out_.part,
                                                                       say("the height at ") + found->name);
            const double reach = (found->otherM - found->topM).norm();
            const double along = point.along.empty() ? 0.5 * reach
                                                     : values_.value(point.along, Kind::Length, out_.part,
                                                                     say("the place along ") + found->name);
            if (values_.failed) return;
            if (height > found->heightM() + kRoundingM)
                return problem(say("{} is tied to {} at {}, which is {} high.", out_.part, found->name,
                                   quantity::said(height, 2), quantity::said(found->heightM(), 2)),
                               say("Tie it lower, or make the support higher."));
            if (along < -kRoundingM || along > reach + kRoundingM)
                return problem(say("{} is tied to {} at {} along it, which is {} long.", out_.part,
                                   found->name, quantity::said(along, 2), quantity::said(reach, 2)),
                               say("Choose a place on it."));
            out_.tiedM.push_back(found->at(along, height));
            const auto n = out_.tiedM.size();
            if (n > 1 && (out_.tiedM[n - 1] - out_.tiedM[n - 2]).norm() < 1e-3)
                return problem(
                    say("{} is tied to {} and to {} at one place.", out_.part, names_[n - 2], names_[n - 1]),
                    say("Choose another height or another support."));
        }
    }

    void readSag() {
        if (values_.failed) return;
        if (!wire_.sag.empty()) {
            const double v = values_.value(wire_.sag, Kind::Number, out_.part, say("the sag"));
            sag_ = wire_.sag.find('%') != std::string::npos ? v : v / 100.0;
            if (!values_.failed && !(sag_ >= 0.0 && sag_ <= kDeepestSag))
                problem(say("{} has a sag of {:g} % of its span.", out_.part, 100.0 * sag_),
                        say("Use 0 to {:g} %; a wire well pulled has 2 to 4 %.", 100.0 * kDeepestSag));
        } else if (!wire_.pull.empty()) {
            pullN_ = values_.value(wire_.pull, Kind::Number, out_.part, say("the pull"));
            if (!values_.failed && !(pullN_ > 0.0 && pullN_ < 1e6))
                problem(say("{} has a pull of {:g} N.", out_.part, pullN_),
                        say("Use a pull above zero; 50 to 150 N suit thin wire."));
        }
    }

    void layWay() {
        way_.add(out_.tiedM.front(), true);
        for (std::size_t i = 0; i + 1 < out_.tiedM.size(); ++i) {
            const Vec3& from = out_.tiedM[i];
            const Vec3& to = out_.tiedM[i + 1];
            const Vec3 chord = to - from;
            HungSpan span;
            span.from = names_[i];
            span.to = names_[i + 1];
            span.chordM = chord.norm();
            const double level = std::hypot(chord.x(), chord.y());
            const double weight = out_.kgPerM * kGravity;
            if (sag_ > 0.0)
                span.sagM = sag_ * level;
            else if (pullN_ > 0.0)
                span.sagM = weight * span.chordM * level / (8.0 * pullN_);
            if (span.sagM > kDeepestSag * span.chordM)
                return problem(
                    say("{} hangs {} deep between {} and {}, {} apart.", out_.part,
                        quantity::said(span.sagM, 2), span.from, span.to, quantity::said(span.chordM, 2)),
                    say("Pull it harder."));
            if (span.sagM > 0.0 && weight > 0.0)
                span.pullN = weight * span.chordM * level / (8.0 * span.sagM);
            span.slopeDeg =
                std::atan2(chord.z(), level) / kDegree - std::atan(4.0 * span.sagM / span.chordM) / kDegree;
            // Down and across the chord.
            const Vec3 down = level > 0.0
                                  ? Vec3((chord * chord.z() / (span.chordM * span.chordM) - Vec3::UnitZ()) *
                                         (span.chordM / level))
                                  : Vec3(Vec3::Zero());
            const int pieces = span.sagM > 1e-4 * span.chordM ? kPieces : 1;
            for (int k = 1; k <= pieces; ++k) {
                const double t = static_cast<double>(k) / pieces;
                way_.add(k == pieces ? to : Vec3(from + t * chord + 4.0 * span.sagM * t * (1.0 - t) * down),
                         k == pieces);
            }
            out_.spans.push_back(span);
        }
    }

    void place() {
        if (values_.failed) return;
        const double rope = values_.value(wire_.rope, Kind::Length, out_.part, say("the rope at its start"));
        const bool all = wire_.length.empty();
        double length = all ? way_.total() - rope
                            : values_.value(wire_.length, Kind::Length, out_.part, say("the length"));
        if (values_.failed) return;
        if (wire_.by == HungBy::Start && rope < 0.0)
            return problem(say("{} has less than no rope at its start.", out_.part),
                           say("Use 0 where the wire itself is tied there."));
        if (all && wire_.by != HungBy::Start) length = way_.total();
        if (!(length > kRoundingM))
            return problem(say("{} has no length.", out_.part), say("Give it one, or less rope."));
        double from = rope;
        if (wire_.by == HungBy::Middle) from = 0.5 * (way_.total() - length);
        if (wire_.by == HungBy::Corner) {
            const int between = static_cast<int>(wire_.points.size()) - 2;
            if (between < 1)
                return problem(say("{} has no point between its ends to hold its middle.", out_.part),
                               say("Let it hang by its middle, or add a support."));
            const int corner = values_.count(wire_.corner, 1, between, out_.part, say("the corner"));
            if (values_.failed) return;
            from = way_.atCorner(static_cast<std::size_t>(corner)) - 0.5 * length;
        }
        const double before = from;
        const double behind = way_.total() - from - length;
        if (before < -kRoundingM || behind < -kRoundingM) {
            const double missing = -std::min(before, 0.0) - std::min(behind, 0.0);
            const std::string way = wire_.by == HungBy::Middle
                                        ? say("from {} to {}", names_.front(), names_.back())
                                        : say("to {}", before < behind ? names_.front() : names_.back());
            return problem(say("{} does not reach: it is {} longer than its way {}.", out_.part,
                               quantity::said(missing, 2), way),
                           say("Shorten it, tie it higher, or move the support away."));
        }
        out_.ropeStartLengthM = std::max(0.0, before);
        out_.ropeEndLengthM = std::max(0.0, behind);
        out_.wireLengthM = length;
        way_.cut(0.0, from, out_.ropeStartM, nullptr);
        way_.cut(std::max(0.0, from), std::min(way_.total(), from + length), out_.wireM, &out_.corner);
        way_.cut(from + length, way_.total(), out_.ropeEndM, nullptr);
    }

    FieldValues& values_;
    const HungWire& wire_;
    const std::vector<PlainSupport>& supports_;
    HungSizes out_;
    std::vector<std::string> names_;
    double sag_ = 0.0;
    double pullN_ = 0.0;
    Way way_;
};

}  // namespace

std::string supportName(SupportKind kind) {
    switch (kind) {
        case SupportKind::Mast:
            return say("mast");
        case SupportKind::Tree:
            return say("tree");
        case SupportKind::RoofEdge:
            return say("roof edge");
        case SupportKind::Wall:
            return say("wall");
        case SupportKind::Peg:
            return say("peg");
    }
    return "";
}

Vec3 PlainSupport::at(double alongM, double heightM) const {
    const Vec3 run = otherM - topM;
    const double reach = run.norm();
    Vec3 point = reach > 0.0 ? Vec3(topM + alongM / reach * run) : topM;
    point.z() = heightM;
    return point;
}

Vec3 fromCompass(double eastM, double northM, double upM, double headingDeg) {
    const double a = headingDeg * kDegree;
    return {northM * std::cos(a) + eastM * std::sin(a), northM * std::sin(a) - eastM * std::cos(a), upM};
}

Vec3 toCompass(const Vec3& pointM, double headingDeg) {
    const double a = headingDeg * kDegree;
    return {pointM.x() * std::sin(a) - pointM.y() * std::cos(a),
            pointM.x() * std::cos(a) + pointM.y() * std::sin(a), pointM.z()};
}

std::vector<PlainSupport> readSupports(FieldValues& values, const std::vector<Support>& supports,
                                       double headingDeg) {
    std::vector<PlainSupport> all;
    for (const Support& support : supports) {
        if (std::any_of(all.begin(), all.end(), [&](const auto& s) { return s.name == support.name; })) {
            values.problem(support.name, say("There are two supports named {}.", support.name),
                           say("Rename one of them."));
            continue;
        }
        values.failed = false;
        const auto length = [&](const std::string& text, const std::string& field) {
            return values.value(text, Kind::Length, support.name, field);
        };
        const double height = length(support.height, say("the height"));
        if (!values.failed && height < 0.0)
            values.problem(support.name, say("{} is below the ground.", support.name),
                           say("Give it a height of 0 or more."));
        PlainSupport plain;
        plain.name = support.name;
        plain.kind = support.kind;
        plain.topM = plain.otherM = fromCompass(length(support.east, say("east")),
                                                length(support.north, say("north")), height, headingDeg);
        if (isEdge(support.kind))
            plain.otherM =
                fromCompass(length(support.toEast, say("east of its other end")),
                            length(support.toNorth, say("north of its other end")), height, headingDeg);
        if (!values.failed) all.push_back(plain);
    }
    values.failed = false;
    return all;
}

HungSizes hang(FieldValues& values, const std::string& part, const HungWire& wire, double kgPerM,
               const std::vector<PlainSupport>& supports) {
    HungSizes out = Hanger(values, part, wire, kgPerM, supports).run();
    if (values.failed) out.wireM.clear();
    return out;
}

}  // namespace rm::model
