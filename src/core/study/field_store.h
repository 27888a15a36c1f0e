// Keeps field solutions, so that a change of what is connected to an antenna never repeats one.
#pragma once

#include <list>
#include <map>
#include <memory>
#include <mutex>
#include <stop_token>
#include <string>
#include <vector>

#include "core/em/solver.h"

namespace rm::study {

/// Meshes by geometry and their solutions by frequency. The values of loads, lines, feed voltages and the
/// feed path are no part of the geometry; where the ports are is. Safe to use from several threads. What was
/// not used for longest goes when there is too much.
class FieldStore {
  public:
    FieldStore() = default;
    /// One that keeps less.
    FieldStore(std::size_t meshes, std::size_t bytes) : mostMeshes_(meshes), mostBytes_(bytes) {}
    ~FieldStore();
    FieldStore(const FieldStore&) = delete;
    FieldStore& operator=(const FieldStore&) = delete;

    /// The mesh of `model` cut for this frequency in Hz, as fine as it asks for (em::makeMesh); the same
    /// pointer for the same geometry.
    std::shared_ptr<const em::Mesh> mesh(const model::WireModel& model, double frequencyHz);

    /// The solution on a mesh from this store, solved at the first call. Throws rm::Stopped as
    /// em::solvePorts does.
    std::shared_ptr<const em::PortSolution> solve(const std::shared_ptr<const em::Mesh>& mesh,
                                                  double frequencyHz, const std::stop_token& stop = {});

    /// Frequencies in Hz already solved on this mesh, in the order in which they were.
    std::vector<double> solvedHz(const std::shared_ptr<const em::Mesh>& mesh) const;

    /// How many field solutions were made so far.
    int solutions() const;

    /// Bytes of the solutions that all stores of the program keep now.
    static std::size_t keptByAll();

  private:
    struct Entry {
        std::string key;
        std::shared_ptr<const em::Mesh> mesh;
        std::map<double, std::shared_ptr<const em::PortSolution>> byHz;
        std::vector<double> order;
        std::size_t bytes = 0;
    };

    Entry* find(const em::Mesh* mesh);
    void forget();

    std::size_t mostMeshes_ = 40;
    std::size_t mostBytes_ = std::size_t{256} << 20;
    mutable std::mutex mutex_;
    std::list<Entry> entries_;  ///< used last first
    int solutions_ = 0;
};

}  // namespace rm::study
