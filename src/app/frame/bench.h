// The bench: the one window. It hands values down to the views and takes their signals up to the document.
#pragma once

#include <QMainWindow>
#include <QTimer>
#include <optional>

#include "app/session/document.h"
#include "app/instruments/band_data.h"
#include "app/session/selection.h"
#include "app/session/runner.h"
#include "app/look/theme.h"
#include "core/study/resonance.h"
#include "core/study/tune.h"

class QComboBox;
class QLabel;
class QProgressBar;
class QToolButton;
class QMenu;
class QStackedWidget;

namespace rm::app {

class BandStage;
class BoomView;
class CouplingView;
class DriveView;
class SpacingView;
class TuneStage;
class TuneView;
class MattersView;
class ToleranceView;
class ScanView;
struct Proposal;
class CompareView;
class CurrentView;
class BandStrip;
class GroundView;
class HeightView;
class BandView;
class ItemEditor;
class Ledger;
class MatchView;
class NoticeBar;
class Outline;
class PolarView;
class Yard;

class Bench : public QMainWindow {
    Q_OBJECT
  public:
    explicit Bench(QWidget* parent = nullptr);
    ~Bench() override;

    Document& document() { return document_; }
    Yard* yard() { return yard_; }
    Outline* outline() { return outline_; }
    ItemEditor* editor() { return editor_; }
    PolarView* elevation() { return elevation_; }
    PolarView* azimuth() { return azimuth_; }
    BandView* band() { return band_; }
    BandStrip* bandStrip() { return strip_; }
    Ledger* ledger() { return ledger_; }
    NoticeBar* notice() { return notice_; }
    QStackedWidget* stage() { return stage_; }
    HeightView* heightView() { return heightView_; }
    GroundView* groundView() { return groundView_; }
    MatchView* matchView() { return matchView_; }
    BandStage* bandStage() { return bandStage_; }
    CompareView* compareView() { return compareView_; }
    CurrentView* currentView() { return currentView_; }
    BoomView* boomView() { return boomView_; }
    DriveView* driveView() { return driveView_; }
    CouplingView* couplingView() { return couplingView_; }
    SpacingView* spacingView() { return spacingView_; }
    TuneStage* tuneStage() { return tuneStage_; }
    TuneView* tuneView() { return tuneView_; }
    MattersView* mattersView() { return mattersView_; }
    ToleranceView* toleranceView() { return toleranceView_; }
    ScanView* scanView() { return scanView_; }
    bool tuning() const { return tuneTask_.running(); }
    const Runner& runner() const { return runner_; }

    /// Opens a file, or says in the notice bar why it cannot.
    bool open(const QString& path);
    bool save(const QString& path);

    /// Everything on screen belongs to the model on screen.
    bool settled() const {
        return settled_ == serial_ && !task_.running() && !compareTask_.running() && !goalsTask_.running() &&
               !mattersTask_.running();
    }
    /// The newest picture belongs to the newest model (sweeps may still run).
    bool live() const { return analysed_ == serial_; }
    AnalysisPtr analysis() const { return analysis_; }
    SweepPtr sweep() const { return sweep_; }
    double workingFrequencyHz() const { return frequencyHz_; }
    /// Milliseconds from the last edit to its picture on the screen.
    double latencyMs() const { return latencyMs_; }
    /// What the last search for resonance found.
    std::optional<study::Resonance> resonance() const { return resonance_; }

  public Q_SLOTS:
    void setNight(bool night);
    void findResonance();
    void askScale();
    void scaleTo(const std::vector<std::string>& dimensions, double targetHz);
    void askSweep();
    void studyHeights();
    void studyGrounds();
    void showYard();
    void showSite();
    void exportSweepTo(const QString& path);
    void importMeasured(const QStringList& paths);
    void showFeedPath();
    void showMatch();
    void pin();
    void pinWithAndWithout();
    void setComponent(rm::study::Component component);
    void askAngles();
    void cutAzimuthAt(std::optional<double> elevationDeg);
    void showBand();
    void showCompare();
    void showCurrents();
    void showBoom();  // this and the next ones: bench_array.cpp
    void showDrives();
    void showCoupling();
    void addCopy(rm::model::CopyKind kind);
    void addDrivePattern(rm::study::DrivePattern pattern, double bearingDeg);
    void chooseDriveSet(int set);
    void adviseStacking(std::size_t copy);
    void scanStacking(std::size_t copy);
    void loosen();
    void setQuickFreeSpace(bool on);
    void showTune();  // this and the next three: bench_tune.cpp
    void tuneNow() { startTune({}); }
    void acceptProposal();
    void dropProposal();
    void showMatters();  // this and the next four: bench_build.cpp
    void showTolerance();
    void buildMany();
    void showScan();
    void runScan();
    void showLobe(bool show);
    void exportPicture(QWidget* view);
    void exportPatternTo(const QString& path);
    void showQuantity(rm::app::BandQuantity quantity, rm::study::Plane plane);
    void sweepRange(double lowHz, double highHz, int points);
    void chooseBand(int band);
    void chooseDesign(int design);
    void setWorkingFrequency(double hz);
    void addPart(const QString& kind);
    /// Puts a block into the feed path at this place, or at its end.
    void addBlock(const rm::model::FeedBlock& block, int place = -1);
    void addItem(rm::app::Selection::Type type);
    void addLoad(bool trap);
    void removeSelected();
    void duplicateSelected();

  protected:
    void closeEvent(QCloseEvent* event) override;

  private:
    void buildWindow();
    void buildActions();
    void buildArray();  // this and the next three: bench_array.cpp
    void refreshArray();
    void fillPatterns(QMenu* menu);
    void addDriveSets(const std::vector<model::DriveSet>& sets);
    void buildTune();  // this and the next ten: bench_tune.cpp
    void forgetTuning();
    void refreshTune();
    void refreshGoals();
    void startTune(std::map<std::string, double> resume);
    void showBest(const model::Design& design, const study::TuneState& state);
    void propose(const model::Design& design, const std::vector<model::Band>& bands,
                 const study::TuneResult& result);
    void showTrial(const model::Design& design, const QString& name);
    void showChosen();
    ProjectPtr shownProject() const;
    bool pinned(int pin);
    void buildBuildStudies();  // bench_build.cpp, as the next one
    void refreshBuildStudies();
    void buildStudies();  // this and the next two: bench_studies.cpp
    void refreshStudies();
    void refreshBand();
    void refreshCompare();  // bench_pins.cpp, as the next
    void openCompared(int row, int band);
    void connectPins();  // bench_pins.cpp
    void showPins(PinsPtr pins);
    void addPin(const QString& name, const model::Design& design);
    std::function<void(double)> progressOfTask();
    void refreshAll();
    void startWork();
    void showFindings();
    void markStale();
    void updateTitle();
    void offerRecovery();
    void askOpen();
    void askSave(bool always);
    void newProject();
    void askBands();
    void askMeasured();
    void newDesign(bool copy);
    void removeDesign();
    void setFeetAndInches(bool feet);
    void exportSweep();
    void exportPattern();
    void askBlock(int place, QPoint where);
    void showMode(QWidget* view);
    void fail(const QString& sentence);
    bool mayDiscard();
    void useDefaultFrequency();
    model::Band workingBand() const;
    Selection selection() const;
    void selectEverywhere(Selection selection);

    Document document_;
    Runner runner_;
    Task task_;
    study::FieldStore compareFields_;  // outlives the task that uses it
    Task compareTask_;
    Task tuneTask_;
    Task goalsTask_;
    Task mattersTask_;
    std::string mattered_;  ///< what the sensitivities shown rest on
    ProjectPtr built_;      ///< what the many builds rest on
    ProjectPtr goalsRead_;  ///< whose goals were read
    QTimer trialTimer_;
    std::string tuned_;                   ///< name of the design that is tuned
    std::optional<model::Design> best_;   ///< found so far
    std::optional<model::Design> trial_;  ///< laid over the design on the bench
    QString trialName_;
    std::shared_ptr<const Proposal> proposal_;
    unsigned tuneTurn_ = 0;
    ProjectPtr compared_;   ///< what the comparison shows
    ProjectPtr comparing_;  ///< what is being compared
    Theme theme_ = Theme::light();

    BandStrip* strip_ = nullptr;
    Outline* outline_ = nullptr;
    ItemEditor* editor_ = nullptr;
    NoticeBar* notice_ = nullptr;
    Yard* yard_ = nullptr;
    QStackedWidget* stage_ = nullptr;  ///< the middle: the yard or a study
    HeightView* heightView_ = nullptr;
    GroundView* groundView_ = nullptr;
    MatchView* matchView_ = nullptr;
    BandStage* bandStage_ = nullptr;
    CompareView* compareView_ = nullptr;
    CurrentView* currentView_ = nullptr;
    BoomView* boomView_ = nullptr;
    DriveView* driveView_ = nullptr;
    CouplingView* couplingView_ = nullptr;
    SpacingView* spacingView_ = nullptr;
    TuneStage* tuneStage_ = nullptr;
    TuneView* tuneView_ = nullptr;
    MattersView* mattersView_ = nullptr;
    ToleranceView* toleranceView_ = nullptr;
    ScanView* scanView_ = nullptr;
    std::size_t scanned_ = 0;         ///< the stack that the scan of spacings is of
    std::optional<double> advisedM_;  ///< what the half-power rule called for
    bool lobeShown_ = false;
    std::vector<QToolButton*> modes_;  ///< Shape, Match, Tune, Compare
    std::string studied_;              ///< what the study on the stage rests on
    PolarView* elevation_ = nullptr;
    PolarView* azimuth_ = nullptr;
    BandView* band_ = nullptr;
    Ledger* ledger_ = nullptr;
    QComboBox* designs_ = nullptr;
    QLabel* title_ = nullptr;
    QLabel* status_ = nullptr;
    QProgressBar* progress_ = nullptr;
    QToolButton* cancel_ = nullptr;

    ExpansionPtr expansion_;
    AnalysisPtr analysis_;
    SweepPtr sweep_;
    PatternSweepPtr patterns_;
    MeasuredPtr measured_;
    PinsPtr pins_;
    std::optional<double> bearing_;  ///< compass, of the elevation cut where the designer chose one
    study::Component component_ = study::Component::Total;
    quint64 serial_ = 0;    ///< of the newest request
    quint64 analysed_ = 0;  ///< of the request whose picture is shown
    quint64 settled_ = 0;   ///< of the request whose work is done
    double frequencyHz_ = 14.15e6;
    bool frequencyChosen_ = false;
    std::optional<double> azimuthElevation_;  ///< of the azimuth cut where the designer chose one
    std::optional<study::Resonance> resonance_;
    struct Range {
        double lowHz;
        double highHz;
        int points;
    };
    std::optional<Range> range_;
    double latencyMs_ = 0.0;
    bool awaitingPaint_ = false;
    bool findingShown_ = false;
    QTimer staleTimer_;
};

}  // namespace rm::app
