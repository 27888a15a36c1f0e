// The ground study in the middle of the bench: one row per kind of ground.
#pragma once

#include <QWidget>

#include "app/look/themed.h"
#include "app/stages/study_frame.h"
#include "core/study/site_study.h"

namespace rm::app {

/// For every ground where the power goes as a bar, impedance, takeoff, and the gain at the watch angles as
/// marks on a common scale of dBi.
class GroundRows : public Themed<QWidget> {
    Q_OBJECT
  public:
    explicit GroundRows(QWidget* parent = nullptr);

    void setStudy(study::GroundStudy study);
    /// Ground of the design on the bench.
    void setNow(const QString& soil);
    QRectF rowRect(std::size_t row) const;
    const std::vector<study::SitePoint>& points() const { return study_.points; }

  Q_SIGNALS:
    void groundChosen(QString soil);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent* event) override;

  private:
    void paintRow(QPainter& painter, std::size_t row, double low, double high) const;
    QRectF scaleArea() const;

    study::GroundStudy study_;
    QString now_;
    int hover_ = -1;
};

class GroundView : public StudyFrame {
    Q_OBJECT
  public:
    explicit GroundView(QWidget* parent = nullptr);

    GroundRows* rows() { return rows_; }
    void setStudy(study::GroundStudy study, const QString& title);

  private:
    GroundRows* rows_;
};

}  // namespace rm::app
