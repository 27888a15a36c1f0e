// The yard: the antenna standing on its site, true to scale, with the current along its wires.
#pragma once

#include <QWidget>
#include <optional>

#include "app/look/themed.h"
#include "app/session/results.h"
#include "app/stages/shape/camera.h"

namespace rm::app {

class Yard : public Themed<QWidget> {
    Q_OBJECT
  public:
    explicit Yard(QWidget* parent = nullptr);

    /// An antenna that nothing is known of yet but its wires.
    void setWires(ExpansionPtr expansion);
    /// An antenna with its currents, its lobe and what there is to say about it.
    void setResults(const ResultsPtr& results);
    ExpansionPtr expansion() const { return expansion_; }
    void setStale(bool stale);
    void setSelectedPart(const QString& name);
    void setCaption(const QString& caption);
    QString caption() const { return caption_; }
    void setShowCurrents(bool show);
    void setShowLobe(bool show);
    LobePtr lobe() const { return grid_; }
    const QStringList& remarks() const { return remarks_; }
    /// Horizontal bearing of the cursor of the azimuth instrument (azimuth in degrees), if there is one.
    /// A ray towards the direction that the mouse is on in one of the cuts.
    void setRay(std::optional<em::Direction> direction);
    /// Colours the glow of the current by its phase: copper with the largest, water against it.
    void setShowPhase(bool show);

    /// Fits the next antenna that comes, keeping the direction of view.
    void fitNext() { fitted_ = false; }

    const Camera& camera() const { return camera_; }
    /// Where a point of the site appears.
    QPointF screenPoint(const Vec3& point) const { return camera_.project(point, size()).at; }
    /// Where the handle is that raises and lowers the antenna; null in free space.
    std::optional<QPointF> heightHandle() const;

    QSize minimumSizeHint() const override { return {260, 220}; }

  public Q_SLOTS:
    void fit();
    void viewFromFront();
    void viewFromSide();
    void viewFromAbove();
    void viewAtAnAngle();

  Q_SIGNALS:
    void partClicked(QString name);
    /// The handle was dragged: the wanted height of the site in m.
    void heightDragged(double metres);
    void dragFinished();

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

  private:
    enum class Drag { None, Turn, Pan, Height };

    bool overGround() const;
    double extent() const;
    double compassReach() const;
    QString partAt(const QPointF& point) const;
    void line(QPainter& p, const Vec3& from, const Vec3& to) const;
    void paintGround(QPainter& p) const;
    void paintCompass(QPainter& p) const;
    void paintHeights(QPainter& p) const;
    void paintCurrents(QPainter& p) const;
    void paintWires(QPainter& p) const;
    void paintMarks(QPainter& p) const;
    void paintLobe(QPainter& p) const;
    void paintRemarks(QPainter& p) const;
    QColor lobeColour(double belowDb) const;
    void paintHandle(QPainter& p) const;
    Vec3 portPoint(const model::WirePlace& place) const;
    Vec3 handlePoint() const;

    ExpansionPtr expansion_;
    AnalysisPtr analysis_;
    Camera camera_;
    QString selected_;
    QString caption_;
    bool stale_ = false;
    bool currents_ = true;
    bool lobe_ = false;
    LobePtr grid_;
    QStringList remarks_;
    bool fitted_ = false;
    bool touched_ = false;  ///< turned or moved by hand since the last fit
    Vec3 centreM_ = Vec3::Zero();
    std::optional<em::Direction> cursor_;
    bool phase_ = false;
    Drag drag_ = Drag::None;
    QPointF pressed_;
    QPointF last_;
    double heightAtPress_ = 0.0;
};

}  // namespace rm::app
