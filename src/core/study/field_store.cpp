#include "core/study/field_store.h"

#include <algorithm>
#include <atomic>

#include "core/study/field_key.h"

namespace rm::study {

namespace {

std::atomic<std::size_t> keptNow = 0;

std::string keyOf(const model::WireModel& model, double frequencyHz) {
    std::string key = fieldKey(model);
    addBytes(key, frequencyHz);
    return key;
}

std::size_t bytesOf(const em::PortSolution& s) {
    return static_cast<std::size_t>(s.localCurrents.size() + s.admittance.size()) * sizeof(Complex);
}

}  // namespace

FieldStore::Entry* FieldStore::find(const em::Mesh* mesh) {
    for (auto entry = entries_.begin(); entry != entries_.end(); ++entry)
        if (entry->mesh.get() == mesh) {
            entries_.splice(entries_.begin(), entries_, entry);
            return &entries_.front();
        }
    return nullptr;
}

FieldStore::~FieldStore() {
    for (const auto& entry : entries_) keptNow -= entry.bytes;
}

std::size_t FieldStore::keptByAll() {
    return keptNow;
}

void FieldStore::forget() {
    std::size_t bytes = 0;
    std::size_t count = 0;
    for (auto entry = entries_.begin(); entry != entries_.end();) {
        bytes += entry->bytes;
        // What is in use stays, whatever its size.
        if (++count > 1 && (bytes > mostBytes_ || count > mostMeshes_)) {
            keptNow -= entry->bytes;
            entry = entries_.erase(entry);
        } else {
            ++entry;
        }
    }
}

std::shared_ptr<const em::Mesh> FieldStore::mesh(const model::WireModel& model, double frequencyHz) {
    const std::string key = keyOf(model, frequencyHz);
    const std::scoped_lock lock(mutex_);
    for (auto entry = entries_.begin(); entry != entries_.end(); ++entry)
        if (entry->key == key) {
            entries_.splice(entries_.begin(), entries_, entry);
            return entries_.front().mesh;
        }
    entries_.push_front({key, std::make_shared<const em::Mesh>(em::makeMesh(model, frequencyHz)), {}, {}, 0});
    forget();
    return entries_.front().mesh;
}

std::shared_ptr<const em::PortSolution> FieldStore::solve(const std::shared_ptr<const em::Mesh>& mesh,
                                                          double frequencyHz, const std::stop_token& stop) {
    {
        const std::scoped_lock lock(mutex_);
        if (const Entry* entry = find(mesh.get())) {
            const auto known = entry->byHz.find(frequencyHz);
            if (known != entry->byHz.end()) return known->second;
        }
    }
    auto solution = std::make_shared<const em::PortSolution>(em::solvePorts(mesh, frequencyHz, stop));
    const std::scoped_lock lock(mutex_);
    ++solutions_;
    Entry* entry = find(mesh.get());
    if (entry == nullptr) return solution;  // forgotten meanwhile
    const auto [place, isNew] = entry->byHz.emplace(frequencyHz, solution);
    if (isNew) {
        entry->order.push_back(frequencyHz);
        entry->bytes += bytesOf(*solution);
        keptNow += bytesOf(*solution);
        forget();
    }
    return solution;
}

std::vector<double> FieldStore::solvedHz(const std::shared_ptr<const em::Mesh>& mesh) const {
    const std::scoped_lock lock(mutex_);
    for (const auto& entry : entries_)
        if (entry.mesh == mesh) return entry.order;
    return {};
}

int FieldStore::solutions() const {
    const std::scoped_lock lock(mutex_);
    return solutions_;
}

}  // namespace rm::study
