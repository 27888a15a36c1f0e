// The elevation and azimuth instruments: a cut of the pattern on a polar scale, with a cursor that reads
// values.
#pragma once

#include <QWidget>
#include <optional>

#include "app/look/themed.h"
#include "app/plot/backdrop.h"
#include "app/session/results.h"

namespace rm::app {

class PolarView : public Themed<QWidget> {
    Q_OBJECT
  public:
    enum class Kind { Elevation, Azimuth };

    PolarView(Kind kind, QWidget* parent = nullptr);

    /// The pattern to show; null leaves an empty scale. `headingDeg` is the compass bearing of azimuth 0.
    void setAnalysis(AnalysisPtr analysis, double headingDeg);
    /// Pins laid over the pattern.
    void setPins(PinsPtr pins);
    /// Watch angles, the layer of the hop ruler and the wanted distances.
    void setAngles(const model::Angles& angles);
    enum class Scale { Lobes, LinearDb };
    void setScale(Scale scale);
    /// Range of the linear scale in dB, from the outer ring to the middle.
    void setLinearRange(double db);
    double shareOf(double belowDb) const;
    /// What the rings stand for: dB below the strongest, gain in dBi, or dB over the baseline, which turns
    /// the curves into differences where there is a baseline.
    enum class Labels { BelowMaximum, Dbi, OverBaseline };
    void setLabels(Labels labels);
    QString ringText(double levelDb) const;
    /// Share of the radius at which a gain stands at an angle of the cut: by the scale, or, with the rings
    /// over the baseline, half of it where it equals the baseline.
    double shareAt(double gainDbi, double cutAngle) const;
    /// Dims the picture: it belongs to an older model.
    void setStale(bool stale);
    bool isStale() const { return stale_; }

    /// Puts the cursor at an angle of the cut, or takes it away.
    void setCursorAngle(std::optional<double> degrees);
    /// What the cursor reads, as shown.
    QString cursorText() const;
    /// How far the live pattern is above each shown pin at the cursor, or at the maximum: "+1.2 dB".
    QStringList differencesText() const;
    /// The line at the top right.
    QString headline() const;

    QSize minimumSizeHint() const override { return {220, 150}; }

  Q_SIGNALS:
    /// Angle of the cut under the mouse, or nothing (NaN) when it leaves.
    void cursorMoved(double degrees);
    /// Clicked at an angle of the cut; double-clicked.
    void angleChosen(double degrees);
    void resetRequested();
    void painted(quint64 generation);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent* event) override;

  private:
    const study::Cut* cut() const;
    bool halfPlane() const;
    QPointF centre() const;
    double radius() const;
    /// Screen direction of an angle of the cut, anticlockwise from the right in degrees.
    double screenAngle(double cutAngle) const;
    QPointF pointAt(double cutAngle, double r) const;
    double scale(double gainDbi) const;
    /// Angle of the cut under a point of the widget; nothing outside the pattern.
    std::optional<double> angleAt(const QPointF& point) const;
    /// Needed angles, rings, compass or hops: all that stays while the antenna changes.
    void paintScale(QPainter& p) const;
    void paintRings(QPainter& p) const;
    void paintHopRuler(QPainter& p) const;
    void paintCompass(QPainter& p) const;
    void paintCurve(QPainter& p) const;
    void paintPins(QPainter& p) const;
    void paintMarks(QPainter& p) const;
    void paintNeeded(QPainter& p) const;
    double reference() const;
    const PinResult* differences() const;
    std::vector<std::pair<double, QString>> rings() const;
    void paintCursor(QPainter& p) const;
    double bearingOf(double azimuthDeg) const;

    Kind kind_;
    AnalysisPtr analysis_;
    double headingDeg_ = 0.0;
    PinsPtr pins_;
    model::Angles angles_;
    Scale scale_ = Scale::Lobes;
    double linearDb_ = 40.0;
    Labels labels_ = Labels::BelowMaximum;
    bool stale_ = false;
    std::optional<double> cursor_;

    struct ScaleSeen {
        std::vector<std::pair<double, QString>> rings;
        model::Angles angles;
        double headingDeg = 0.0;
        bool halfPlane = false;
        bool dark = false;
        QFont font;

        bool operator==(const ScaleSeen& other) const = default;
    };
    Backdrop<ScaleSeen> scaleLayer_;
};

}  // namespace rm::app
