// The feed path drawn from the antenna to the radio: a card for every block, the values at every joint.
#pragma once

#include <QWidget>
#include <optional>

#include "app/look/themed.h"
#include "core/model/design.h"
#include "core/study/path_study.h"

namespace rm::app {

/// Blocks are selected with a click, dragged to another place in the chain, and switched on and off by their
/// dot; joints are selected with a click. Indices of blocks count those that are off too.
class ChainView : public Themed<QWidget> {
    Q_OBJECT
  public:
    explicit ChainView(QWidget* parent = nullptr);

    void setPath(const std::vector<model::FeedBlock>& blocks);
    void setReport(const study::PathReport& report, double powerW, const model::SwrLimits& limits);
    void setStale(bool stale);
    void select(std::optional<int> block);
    void setHighlight(std::optional<int> block);
    void selectJoint(int joint);
    /// The chosen joint, counted from the antenna; the radio end where none was chosen.
    int joint() const;

    QRectF cardRect(int block) const;
    /// Of the joint after so many enabled blocks.
    QPointF jointPoint(int joint) const;
    /// What stands at a joint, line by line.
    QStringList jointLines(int joint) const;
    /// "−0.42 dB, 9.2 W" of a block; empty where it is off or not known yet.
    QString lossText(int block) const;
    QSize sizeHint() const override;
    QSize minimumSizeHint() const override { return sizeHint(); }

  Q_SIGNALS:
    void blockChosen(int block);
    void blockHovered(int block);
    void blockMoved(int from, int to);
    void blockToggled(int block);
    void jointChosen(int joint);
    void addRequested(int joint, QPoint globalPosition);
    void removeRequested(int block);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void leaveEvent(QEvent* event) override;

  private:
    int count() const { return static_cast<int>(blocks_.size()); }
    int joints() const;
    double pitch() const;
    double slotX(int slot) const;
    int jointBefore(int block) const;
    int enabledIndex(int block) const;
    int blockAt(QPointF point) const;
    int jointAt(QPointF point) const;
    QPointF addPoint(int joint) const;
    int dropSlot() const;
    void paintEnds(QPainter& painter) const;
    void paintCard(QPainter& painter, int block, QRectF card) const;
    void paintJoint(QPainter& painter, int joint) const;

    std::vector<model::FeedBlock> blocks_;
    study::PathReport report_;
    model::SwrLimits limits_ = model::kUsualSwrLimits;
    double powerW_ = 100.0;
    std::optional<int> joint_;
    std::optional<int> selected_;
    std::optional<int> highlight_;
    std::optional<int> pressed_;
    QPointF pressPoint_;
    QPointF dragPoint_;
    bool dragging_ = false;
    bool stale_ = false;
};

}  // namespace rm::app
