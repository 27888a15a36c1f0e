// Works out maps of the field in the background: the newest wish waits until the one at hand is done, so that
// a dragging hand sees every one that the machine can make.
#pragma once

#include "app/session/near_look.h"
#include "app/session/results.h"
#include "app/session/task.h"

namespace rm::app {

class MapWorker : public QObject {
    Q_OBJECT
  public:
    explicit MapWorker(QObject* parent = nullptr);

    void ask(const ExpansionPtr& expansion, const AnalysisPtr& analysis, double radioW, const NearLook& look,
             int points);
    void stop();
    bool running() const { return task_.running() || waiting_; }

  Q_SIGNALS:
    void mapped(rm::app::FieldMapPtr map, rm::app::ExpansionPtr expansion);
    void failed(QString sentence);

  private:
    void next();

    Task task_;
    bool waiting_ = false;
    ExpansionPtr expansion_;
    AnalysisPtr analysis_;
    double radioW_ = 0.0;
    study::MapPlace place_;
};

}  // namespace rm::app
