// The bench: the one window. It lays the pieces out, hands them the newest results, and knows which stage is
// in front; what they show and do is theirs.
#pragma once

#include <QMainWindow>
#include <memory>
#include <vector>

#include "app/frame/files.h"
#include "app/frame/questions.h"
#include "app/session/editing.h"
#include "app/stages/stage.h"

class QStackedWidget;

namespace rm::app {

class BandStrip;
class Instruments;
class Ledger;
class NoticeBar;
class PlanPanel;
class TopBar;
class FirstSteps;

class Bench : public QMainWindow {
    Q_OBJECT
  public:
    explicit Bench(QWidget* parent = nullptr);
    ~Bench() override;

    Session& session() { return session_; }
    Editing& editing() { return editing_; }
    Files& files() { return files_; }
    PlanPanel* plan() { return plan_; }
    Instruments* instruments() { return instruments_; }

    const std::vector<std::unique_ptr<Stage>>& stages() const { return stages_; }
    /// By its name; null where there is none of that name.
    Stage* stage(const QString& name) const;
    Stage* front() const { return front_; }
    /// Puts a stage in front as it is.
    void showStage(const QString& name);
    /// Does what the menu entry of a stage does: some work something out first.
    void openStage(const QString& name, std::size_t action = 0);
    void showFeedPath();

    /// Everything on screen belongs to the model on screen.
    bool settled() const;
    /// Milliseconds from the last edit to its picture on the screen.
    double latencyMs() const { return latencyMs_; }
    void setNight(bool night);
    /// Ends whatever runs with what there is.
    void stop();
    /// The gallery, with what else there is to begin with.
    void showGallery() { questions_.askStarter(true); }
    /// Five steps on a project of its own, where the one on the bench may go.
    void beginFirstSteps();

  protected:
    void closeEvent(QCloseEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

  private:
    void layOut();
    void connectStages();
    void connectLedger();
    void refreshProject();
    void showResults(const ResultsPtr& results);
    void fitLedger();
    void setStale(bool stale);
    void showFindings();
    void updateTitle();
    void updateWants();

    Session session_;
    Editing editing_;
    Files files_;
    Questions questions_;
    std::vector<std::unique_ptr<Stage>> stages_;
    Stage* front_ = nullptr;

    TopBar* top_ = nullptr;
    BandStrip* strip_ = nullptr;
    PlanPanel* plan_ = nullptr;
    NoticeBar* notice_ = nullptr;
    FirstSteps* steps_ = nullptr;
    QStackedWidget* middle_ = nullptr;
    Instruments* instruments_ = nullptr;
    Ledger* ledger_ = nullptr;
    quint64 painted_ = 0;  ///< generation of the results whose picture was seen last
    double latencyMs_ = 0.0;
};

}  // namespace rm::app
