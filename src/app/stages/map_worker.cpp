#include "app/stages/map_worker.h"

namespace rm::app {

MapWorker::MapWorker(QObject* parent) : QObject(parent) {
    connect(&task_, &Task::failed, this, &MapWorker::failed);
    connect(&task_, &Task::done, this, [this] {
        if (waiting_) next();
    });
}

void MapWorker::ask(const ExpansionPtr& expansion, const AnalysisPtr& analysis, double radioW,
                    const NearLook& look, int points) {
    expansion_ = expansion;
    analysis_ = analysis;
    radioW_ = radioW;
    place_ = look.place;
    place_.points = points;
    waiting_ = true;
    if (!task_.running()) next();
}

void MapWorker::stop() {
    waiting_ = false;
    task_.drop();
}

void MapWorker::next() {
    waiting_ = false;
    task_.start([this, expansion = expansion_, analysis = analysis_, radioW = radioW_, place = place_](
                    std::stop_token stop, const Task::Progress&) -> Task::After {
        auto map = std::make_shared<const study::FieldMap>(
            study::mapField(*expansion, *analysis, radioW, place, stop));
        return [this, expansion, map = std::move(map)] { Q_EMIT mapped(map, expansion); };
    });
}

}  // namespace rm::app
