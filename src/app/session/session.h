// What the whole window shares: the document, what is selected and looked at, and the newest results. Views
// get the session, or only what they need of it, and never each other.
#pragma once

#include <QObject>
#include <QTimer>
#include <functional>
#include <optional>

#include "app/look/text.h"
#include "app/session/band_quantity.h"
#include "app/session/document.h"
#include "app/session/near_look.h"
#include "app/session/results.h"
#include "app/session/runner.h"
#include "app/session/selection.h"
#include "app/session/task.h"
#include "core/study/resonance.h"

namespace rm::app {

/// A sentence for the line above the yard, with up to two answers.
struct Notice {
    enum class Tone { Good, Caution, Bad };
    /// What it speaks of, and so how long it is true: for good, until anything is changed, until the design
    /// has other findings, until there are figures.
    enum class About { Deed, Step, Findings, Figures };
    Tone tone = Tone::Good;
    QString sentence;
    QString firstAnswer = {};
    std::function<void()> first = {};
    QString secondAnswer = {};
    std::function<void()> second = {};
    About about = About::Deed;
};

/// A design that lies over the one on the bench for the time being: the best so far while tuning, a proposal.
struct Trial {
    model::Id of = 0;  ///< the design that it is for
    model::Design design;
    QString name;
};

class Session : public QObject {
    Q_OBJECT
  public:
    explicit Session(QObject* parent = nullptr);
    ~Session() override;

    Document& document() { return document_; }
    const Document& document() const { return document_; }
    const model::Project& project() const { return document_.project(); }
    const model::Design& design() const { return document_.design(); }
    /// The design on the bench, worked out to wires: once per edit, here and nowhere else.
    ExpansionPtr expansion() const { return expansion_; }
    /// How often that was done.
    int expansions() const { return expansions_; }

    Selection selection() const { return selection_; }
    /// None where the design has no such item.
    void select(Selection selection);
    /// The selected part; null where something else is selected.
    const model::Part* selectedPart() const;

    // ---- what is looked at
    void chooseBand(int band);
    void chooseDesign(model::Id design);
    double frequencyHz() const { return frequencyHz_; }
    void setFrequency(double hz);
    model::Band band() const;
    struct Range {
        double lowHz = 0.0;
        double highHz = 0.0;
        int points = 0;
    };
    const std::optional<Range>& range() const { return range_; }
    void setRange(Range range);
    void setComponent(study::Component component);
    study::Component component() const { return component_; }
    /// Elevation of the azimuth cut; nothing: the takeoff angle.
    void cutAzimuthAt(std::optional<double> elevationDeg);
    /// Compass bearing of the elevation cut; nothing: that of the strongest lobe.
    void cutElevationAt(std::optional<double> bearingDeg);
    /// What the band instrument shows, in the small and in the large, and seen from where.
    void showQuantity(rm::app::BandQuantity quantity, rm::study::Plane plane);
    BandQuantity quantity() const { return quantity_; }
    study::Plane plane() const { return plane_; }
    /// Where the reactance was found to be zero; forgotten with the next edit.
    const std::optional<study::Resonance>& resonance() const { return resonance_; }
    void setResonance(std::optional<study::Resonance> resonance);

    /// What of the field close to the antenna is looked at.
    const NearLook& nearLook() const { return nearLook_; }
    void setNearLook(const NearLook& look);
    /// How far people have to stay, as it was worked out last; null before and after the design changed.
    ClearPtr clear() const { return clear_; }
    void setClear(ClearPtr clear);

    /// The direction that the mouse is on in one of the cuts; nothing: on none.
    void point(std::optional<em::Direction> direction) { Q_EMIT pointed(direction); }

    // ---- what is worked out
    /// The newest: of the design on the bench, or of the one before it until there is more. Never null.
    ResultsPtr results() const { return results_; }
    /// What the stage in front wants beside the rest.
    void setWants(const Wants& wants);
    /// Works everything out that is not known yet.
    void restart();
    /// Ends what runs with what there is.
    void stop();
    /// The newest picture belongs to the newest model (sweeps may still run).
    bool live() const { return results_->generation == generation_ && results_->analysis != nullptr; }
    /// Everything of the newest model is there.
    bool settled() const { return results_->generation == generation_ && results_->finished; }
    /// Figures of an older model have been on the screen for longer than an eye takes to notice.
    bool stale() const { return stale_; }
    int solutions() const { return runner_.solutions(); }
    /// The first figures of this generation are on the screen.
    void painted(quint64 generation);

    const std::optional<Trial>& trial() const { return trial_; }
    /// Lays a design over the one that it is for; nothing takes it away.
    void setTrial(std::optional<Trial> trial);
    /// The project as the instruments and the ledger show it: with the trial as one more pin.
    ProjectPtr shownProject() const;

    // ---- what is said
    void say(Notice notice) { Q_EMIT said(notice); }
    /// The same for what holds for the project as it is: the next change takes it away, and its answers.
    void sayForNow(Notice notice) {
        notice.about = Notice::About::Step;
        say(std::move(notice));
    }
    void good(const QString& sentence) { sayForNow({Notice::Tone::Good, sentence}); }
    void caution(const QString& sentence) { sayForNow({Notice::Tone::Caution, sentence}); }
    /// What was asked for cannot be done with the project as it is.
    void bad(const QString& sentence) { sayForNow({Notice::Tone::Bad, sentence}); }
    /// What is wrong whatever becomes of the project: work that could not be saved.
    void alarm(const QString& sentence) { say({Notice::Tone::Bad, sentence}); }
    /// With an answer that undoes it.
    void done(const QString& sentence);
    /// What a task of the bench itself is doing, in the status line; empty: nothing.
    void setDoing(const QString& what) { Q_EMIT doing(what); }

    /// One slot for what takes a while and is asked for by hand: studies, resonance, scaling. A new one takes
    /// its place.
    Task& task() { return task_; }

  Q_SIGNALS:
    /// The project, its design or what is looked at has changed; expansion() is that of the new one.
    void projectChanged();
    /// Another design or another project came to the bench: what it looks like is new.
    void benchCleared();
    void selectionChanged(rm::app::Selection selection);
    void resultsChanged(rm::app::ResultsPtr results);
    void staleChanged(bool stale);
    void frequencyChanged();
    void resonanceChanged();
    void quantityChanged(rm::app::BandQuantity quantity, rm::study::Plane plane);
    void pointed(std::optional<rm::em::Direction> direction);
    /// The design has changed and its figures are to come, or they are on the screen.
    void pictureAwaited(bool awaited);
    void nearLookChanged();
    void clearChanged();
    void progress(double share);
    void said(rm::app::Notice notice);
    void doing(QString what);

  private:
    void refresh();
    void accept(const ResultsPtr& results);
    void cutAsFineAs(int level);
    void useDefaultFrequency();
    void commitHand();

    NearLook nearLook_;
    ClearPtr clear_;
    Document document_;
    Runner runner_;
    Task task_;
    ExpansionPtr expansion_;
    ProjectPtr seen_;  ///< the project that the expansion is of
    int expansions_ = 0;
    Selection selection_;
    model::Id designId_ = 0;
    double frequencyHz_ = 14.15e6;
    bool frequencyChosen_ = false;
    std::optional<Range> range_;
    study::Component component_ = study::Component::Total;
    BandQuantity quantity_ = BandQuantity::Swr;
    study::Plane plane_ = study::Plane::Radio;
    std::optional<double> azimuthElevation_;
    std::optional<double> bearing_;
    std::optional<study::Resonance> resonance_;
    std::optional<Trial> trial_;
    Wants wants_;
    ResultsPtr results_;
    quint64 generation_ = 0;
    QTimer staleTimer_;
    bool stale_ = false;
};

}  // namespace rm::app
