// The band strip along the top: a chip for each band with its worst SWR. It is the navigation of the program
// and its summary at once.
#pragma once

#include <QAbstractButton>
#include <QWidget>
#include <optional>
#include <vector>

#include "app/look/themed.h"
#include "app/session/results.h"

class QHBoxLayout;

namespace rm::app {

class BandChip : public Themed<QAbstractButton> {
    Q_OBJECT
  public:
    /// What it shows of a band.
    struct Look {
        model::Band band = {};
        model::SwrLimits limits = model::kUsualSwrLimits;
        bool meant = true;  ///< false: the active design is not for this band
        SweepPtr sweep = nullptr;
        bool stale = true;

        bool operator==(const Look&) const = default;
    };

    explicit BandChip(QWidget* parent = nullptr);
    const Look& look() const { return look_; }
    /// Is painted anew where that is another one.
    void show(const Look& look);
    /// How far the public has to stay on this band; nothing: not known.
    void setClear(std::optional<double> metres);
    /// "SWR 1.43", or empty where it is not known.
    QString swrText() const;
    QSize sizeHint() const override { return {140, 34}; }
    QSize minimumSizeHint() const override { return {96, 34}; }

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    Look look_;
    std::optional<double> clearM_;
};

class BandStrip : public Themed<QWidget> {
    Q_OBJECT
  public:
    explicit BandStrip(QWidget* parent = nullptr);
    /// Makes the chips of the project's bands; marks the working one and those that the design is not for.
    void setProject(const model::Project& project);
    /// What is known of the bands; the others keep what was known of them before, dimmed.
    void show(const ResultsPtr& results);
    void setAllStale();
    /// How far people have to stay; null: not known.
    void setClear(const ClearPtr& clear);
    void setCaption(const QString& caption);
    BandChip* chip(int band) { return chips_.at(static_cast<std::size_t>(band)); }
    SweepPtr sweep(int band) const { return chips_.at(static_cast<std::size_t>(band))->look().sweep; }
    int count() const { return static_cast<int>(chips_.size()); }

  Q_SIGNALS:
    void bandChosen(int band);
    void editBands();

  private:
    QHBoxLayout* row_;
    QWidget* caption_;
    std::vector<BandChip*> chips_;
};

}  // namespace rm::app
