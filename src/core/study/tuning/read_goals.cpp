#include "core/study/tuning/read_goals.h"

#include <tbb/parallel_for.h>

#include <memory>

#include "core/study/figures.h"

namespace rm::study {

Goals::Samples sampled(const Goals& goals, const model::Design& design, const std::stop_token& stop) {
    const auto drives = goals.expand(design);
    for (const auto& expansion : drives) requireUsable(expansion);
    Goals::Samples all;
    for (const auto& range : goals.ranges()) {
        const auto mesh = std::make_shared<const em::Mesh>(em::makeMesh(drives.front().model, range.highHz));
        std::vector<GoalSample> read(range.hz.size());
        tbb::parallel_for(std::size_t{0}, range.hz.size(), [&](std::size_t i) {
            // The same whatever this thread has worked on before.
            em::forgetPairs();
            read[i] = goals.read(drives, em::solvePorts(mesh, range.hz[i], stop));
        });
        all.push_back(std::move(read));
    }
    return all;
}

std::vector<GoalState> readGoals(const model::Design& design, const std::vector<model::Band>& bands,
                                 int samples, const std::stop_token& stop) {
    const Goals goals(design, bands, samples);
    return goals.states(sampled(goals, design, stop));
}

}  // namespace rm::study
