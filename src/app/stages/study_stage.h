// What the stages of studies share: a view in a frame, one task that works the study out, and when it has
// become old.
#pragma once

#include "app/look/text.h"
#include "app/stages/stage.h"
#include "app/stages/study_basis.h"
#include "app/stages/study_frame.h"
#include "core/study/site_study.h"

namespace rm::app {

class StudyStage : public Stage {
    Q_OBJECT
  public:
    QWidget* widget() override { return frame_; }
    bool settled() const override { return !task_.running(); }
    void stop() override { task_.stop(); }

  protected:
    /// The frame belongs to whoever shows it.
    StudyStage(QString name, Session& session, StudyFrame* frame);

    /// Works it out, for the first time or again.
    virtual void study() = 0;

    /// Works out `work(design, hz, look, stop, progress)` for the antenna on the bench. `shown(result,
    /// title)` gets what `whole` calls whole and comes to the front with it; of what was stopped it is said.
    template <typename Work, typename Whole, typename Shown>
    void begin(const QString& called, Varied varied, const Work& work, const Whole& whole,
               const Shown& shown) {
        task_.start([this, called, work, whole, shown, design = session().design(),
                     hz = session().frequencyHz(), look = look(), basis = studyBasis(session(), varied)](
                        std::stop_token stop, const Task::Progress& progress) -> Task::After {
            auto result = work(design, hz, look, stop, progress);
            return [this, called, whole, shown, basis, title = titleOf(called, design, hz),
                    result = std::move(result)] {
                if (!whole(result)) return session().caution(tr("The %1 was stopped.").arg(called.toLower()));
                studied_ = basis;
                shown(result, title);
                Q_EMIT frontRequested();
            };
        });
    }

    /// The antenna has changed by more than what the study varies.
    bool isOld(Varied varied) const { return studyBasis(session(), varied) != studied_; }

    Task& task() { return task_; }

  private:
    /// Towards the bearing of the elevation cut, at the watch angles.
    study::Look look() const;
    static QString titleOf(const QString& called, const model::Design& design, double hz);

    StudyFrame* frame_;
    Task task_;
    std::string studied_;  ///< what the study on the screen rests on
};

}  // namespace rm::app
