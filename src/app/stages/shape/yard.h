// The yard: the antenna standing on its site, true to scale, with the current along its wires. It shows,
// looks from anywhere, and lends the mouse to its tools.
#pragma once

#include <QWidget>
#include <optional>
#include <vector>

#include "app/look/themed.h"
#include "app/session/near_look.h"
#include "app/stages/shape/yard_scene.h"

namespace rm::app {

class YardTool;

class Yard : public Themed<QWidget> {
    Q_OBJECT
  public:
    explicit Yard(QWidget* parent = nullptr);

    /// Offers the mouse and the keys to a tool, after those that were there before it.
    void addTool(YardTool* tool);

    /// An antenna that nothing is known of yet but its wires.
    void setWires(ExpansionPtr expansion);
    /// An antenna with its currents, its lobe and what there is to say about it.
    void setResults(const ResultsPtr& results);
    ExpansionPtr expansion() const { return state_.expansion; }
    void setStale(bool stale);
    void setSelectedParts(const QStringList& names);
    void setSelectedSupport(const QString& name);
    void setCaption(const QString& caption);
    QString caption() const { return caption_; }
    void setShowCurrents(bool show);
    void setShowLobe(bool show);
    LobePtr lobe() const { return state_.lobe; }
    const QStringList& remarks() const { return state_.remarks; }
    /// A ray towards the direction that the mouse is on in one of the cuts.
    void setRay(std::optional<em::Direction> direction);
    /// Colours the glow of the current by its phase: copper with the largest, water against it.
    void setShowPhase(bool show);
    /// Lays the field on its plane, see-through; null takes it away.
    void setField(const FieldMapPtr& map, const NearLook& look);
    bool showsField() const { return !state_.field.isNull(); }
    /// The lines behind which people may stay; null takes them away.
    void setKeep(const study::ClearRow* row);

    /// Fits the next antenna that comes, keeping the direction of view.
    void fitNext() { fitted_ = false; }
    /// Fits with the ground under the antenna and the compass in view, or the antenna alone.
    void fitTo(bool site);

    const YardState& state() const { return state_; }
    const Camera& camera() const { return state_.camera; }
    /// Where a point of the site appears.
    QPointF screenPoint(const Vec3& point) const { return state_.at(point); }
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
    /// `together`: beside what is selected already.
    void partClicked(QString name, bool together);
    void supportClicked(QString name);
    /// The handle was dragged: the wanted height of the site in m.
    void heightDragged(double metres);
    void dragFinished();

  protected:
    bool event(QEvent* event) override;
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;
    void themeChanged() override;

  private:
    enum class Drag { None, Turn, Pan, Height, Tool };

    QString partAt(const QPointF& point) const;
    QString supportAt(const QPointF& point) const;
    void hover(const QPointF& at);
    YardTool* toolFor(const QKeyEvent& key) const;
    void look(double azimuthDeg, double elevationDeg);
    void zoom(double factor);
    QRectF shadow() const;
    void keepInSight();

    void paintField();

    FieldMapPtr fieldMap_;
    NearLook fieldLook_;
    YardState state_;
    YardLayers layers_;
    std::vector<YardTool*> tools_;
    YardTool* holding_ = nullptr;  ///< the tool that has the mouse
    QString caption_;
    bool fitted_ = false;
    bool fitSite_ = true;
    double fittedPx_ = 0.0;  ///< the longer side of the wires on the screen after the last fit
    bool touched_ = false;   ///< turned or moved by hand since the last fit
    Drag drag_ = Drag::None;
    Qt::MouseButton button_ = Qt::NoButton;  ///< that began it
    QPointF pressed_;
    QPointF last_;
    double heightAtPress_ = 0.0;
};

}  // namespace rm::app
