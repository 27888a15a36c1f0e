// A study that is plots under a line of words: what the pointer reads, what may differ where it is old, what
// there is to say.
#pragma once

#include <memory>

#include "app/stages/study_frame.h"

namespace rm::app {

/// `Plots` shows a `Study` (setStudy, study), has a `reading` and says when its cursor moves.
template <typename Plots, typename Study>
class PlotStudy : public StudyFrame {
  public:
    explicit PlotStudy(QWidget* parent) : StudyFrame(parent), plots_(new Plots) {
        addContent(plots_, 1);
        connect(plots_, &Plots::cursorMoved, this, [this] { refresh(); });
    }

    Plots* plots() { return plots_; }
    void setStudy(std::shared_ptr<const Study> study, const QString& title) {
        setTitle(title);
        plots_->setStudy(std::move(study));
        setStale(false);
    }
    void setStale(bool stale) override {
        StudyFrame::setStale(stale);
        refresh();
    }

  protected:
    void themeChanged() override {
        StudyFrame::themeChanged();
        refresh();
    }
    /// What may differ where the antenna has changed since.
    virtual QString old() const = 0;
    /// Without a pointer.
    virtual QString plain() const = 0;
    const Plots& shown() const { return *plots_; }
    void refresh() { setLine(plots_->reading(), old(), plain()); }

  private:
    Plots* plots_;
};

}  // namespace rm::app
