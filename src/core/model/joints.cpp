#include "core/model/joints.h"

#include <map>

#include "core/model/geometry.h"
#include "core/model/wire_boxes.h"

namespace rm::model {

namespace {

/// A joint while it grows: its groups as numbers. Copies of copies lie on one another by the thousand, and
/// every pair of them meets.
class Meeting {
  public:
    Meeting(const Vec3& pointM, std::size_t groups) : pointM_(pointM), there_(groups, false) {}

    const Vec3& pointM() const { return pointM_; }
    const std::vector<std::size_t>& groups() const { return groups_; }
    bool has(std::size_t group) const { return there_[group]; }
    void add(std::size_t group) {
        if (there_[group]) return;
        there_[group] = true;
        groups_.push_back(group);
    }

  private:
    Vec3 pointM_;
    std::vector<bool> there_;
    std::vector<std::size_t> groups_;
};

class JointFinder {
  public:
    explicit JointFinder(const WireModel& model) : wires_(model.wires), boxes_(model.wires) {
        std::map<std::string, std::size_t> numbers;
        for (const auto& wire : wires_) {
            const auto [entry, isNew] = numbers.try_emplace(wire.group(), names_.size());
            if (isNew) names_.push_back(entry->first);
            groupOf_.push_back(entry->second);
        }
    }

    std::vector<Joint> run() {
        for (std::size_t wire = 0; wire < wires_.size(); ++wire)
            for (const Vec3& end : {wires_[wire].startM, wires_[wire].endM}) look(wire, end);
        std::vector<Joint> joints;
        for (const auto& meeting : meetings_) {
            joints.push_back({meeting.pointM(), {}});
            for (const std::size_t group : meeting.groups()) joints.back().parts.push_back(names_[group]);
        }
        return joints;
    }

  private:
    void look(std::size_t wire, const Vec3& end) {
        Meeting* meeting = nullptr;  // of this end, once it is known
        const double radius = wires_[wire].radiusM;
        // No tolerance is larger than that of two wires like this one.
        for (const std::size_t other : boxes_.nearTo(end, joinToleranceM(radius, radius))) {
            if (other == wire || (meeting != nullptr && meeting->has(groupOf_[other]))) continue;
            if (pointToSegment(end, wires_[other].startM, wires_[other].endM) >
                joinToleranceM(radius, wires_[other].radiusM))
                continue;
            if (meeting == nullptr) meeting = &meetingAt(end, radius);
            meeting->add(groupOf_[wire]);
            meeting->add(groupOf_[other]);
        }
    }

    Meeting& meetingAt(const Vec3& point, double radiusM) {
        for (auto& meeting : meetings_)
            if ((meeting.pointM() - point).norm() <= joinToleranceM(radiusM, radiusM)) return meeting;
        return meetings_.emplace_back(point, names_.size());
    }

    const std::vector<PlainWire>& wires_;
    WireBoxes boxes_;
    std::vector<std::string> names_;    ///< of the groups
    std::vector<std::size_t> groupOf_;  ///< each wire
    std::vector<Meeting> meetings_;
};

}  // namespace

std::vector<Joint> findJoints(const WireModel& model) {
    return JointFinder(model).run();
}

}  // namespace rm::model
