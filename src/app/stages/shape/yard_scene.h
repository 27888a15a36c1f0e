// Draws the yard: ground, compass, shadows, heights, wires with what sits on them, and what the antenna does.
#pragma once

#include <QHash>
#include <QImage>
#include <QPainter>
#include <QStaticText>
#include <vector>

#include "app/plot/backdrop.h"
#include "app/stages/shape/yard_state.h"

namespace rm::app {

/// The ground's grid: corners and lines stand at round numbers, and stay where they are while the antenna
/// moves.
struct YardGrid {
    Vec3 centreM = Vec3::Zero();
    double stepM = 1.0;
    int lines = 0;  ///< to each side of the middle

    double edgeM() const { return lines * stepM; }
    bool operator==(const YardGrid& other) const = default;
};

/// What is kept from frame to frame.
struct YardLayers {
    struct GroundSeen {
        Camera camera;
        YardGrid grid;
        bool dark = false;

        bool operator==(const GroundSeen& other) const = default;
    };
    Backdrop<GroundSeen> ground;
    QImage strokes;                     ///< that let through what is behind them, on their way to the picture
    QHash<QString, QStaticText> words;  ///< as they were set, by the font and what they are
};

class YardScene {
  public:
    /// What does not change from frame to frame is kept in `layers`, where there is one.
    YardScene(const YardState& state, QPainter& painter, YardLayers* layers = nullptr)
        : s_(state), view_(state.camera.through(state.size)), p_(painter), layers_(layers) {}

    void paint();
    /// The antenna alone, for small pictures of it.
    void paintBare();

  private:
    void ground();
    YardGrid grid() const;
    void paintGround(QPainter& painter, const YardGrid& grid);
    void gridLabel();
    void compass();
    void shadows();
    void heights();
    void currents(bool inSoil);
    /// A straight stroke with flat ends that lets through what is behind it.
    struct Stroke {
        QPointF from;
        QPointF to;
        QColor colour;
        double width = 1.0;
    };
    /// As drawText, for one line; what was written before is not set anew.
    void write(const QRectF& place, Qt::Alignment alignment, const QString& words);
    void drawTogether(const std::vector<Stroke>& strokes);
    void wires(bool inSoil);
    void marks();
    void field();
    void keepLines();
    void lobe();
    void remarks();
    void keepForHandle();
    void handle();

    bool fromBelow() const { return s_.overGround() && s_.camera.elevationDeg < 0.0; }
    QPointF onScreen(const Vec3& point) const { return view_(point).at; }
    void line(const Vec3& from, const Vec3& to) { p_.drawLine(onScreen(from), onScreen(to)); }
    /// Writes a label where no other stands already; false where one does.
    bool label(const QPointF& at, const QString& words, const QColor& colour, double width = 0.0);
    /// Above or below a point, to its right or left: where no wire and no other label is, as far as there is
    /// one.
    void labelBeside(const QPointF& at, double away, const QString& words);
    /// Where words of this size go: the first of these places beside a point that no wire and no other label
    /// is in, or the first of all.
    QPointF freePlace(const QPointF& at, const QSizeF& size, std::initializer_list<QPointF> beside);
    QSizeF sizeOf(const QString& words) const;
    /// The wires as they lie on the screen.
    struct SeenWire {
        QLineF line;
        QRectF box;
    };
    const std::vector<SeenWire>& seenWires();
    QColor lobeColour(double belowDb) const;

    const YardState& s_;
    const Projection view_;
    QPainter& p_;
    YardLayers* layers_;
    std::vector<QRectF> taken_;
    std::vector<SeenWire> seen_;
};

}  // namespace rm::app
