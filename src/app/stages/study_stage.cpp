#include "app/stages/study_stage.h"

#include "app/look/text.h"
#include "core/quantity/format.h"

namespace rm::app {

StudyStage::StudyStage(QString name, Session& s, StudyFrame* frame)
    : Stage(std::move(name), s), frame_(frame) {
    connect(frame_, &StudyFrame::closed, this, &Stage::closed);
    connect(frame_, &StudyFrame::againRequested, this, [this] { study(); });
    connect(&task_, &Task::failed, &s, &Session::bad);
    connect(&task_, &Task::progress, &s, &Session::progress);
    connect(&task_, &Task::done, &s, [&s] { Q_EMIT s.progress(1.0); });
}

study::Look StudyStage::look() const {
    const auto analysis = session().results()->analysis;
    return {analysis ? analysis->elevation.fixedAngleDeg : 0.0, session().project().angles.watchDeg};
}

QString StudyStage::titleOf(const QString& called, const model::Design& design, double hz) {
    return QString("%1: %2, %3").arg(called, text(design.name), text(quantity::formatFrequency(hz)));
}

}  // namespace rm::app
