// The ways to match as rows to choose from: what it is made of, what it loses, its SWR over the band as a
// small curve.
#pragma once

#include <QWidget>
#include <vector>

#include "app/look/themed.h"
#include "core/model/design.h"
#include "core/study/path_study.h"

namespace rm::app {

class MatchRows : public Themed<QWidget> {
    Q_OBJECT
  public:
    explicit MatchRows(QWidget* parent = nullptr);

    void setStudy(std::shared_ptr<const study::PathStudy> study, const model::SwrLimits& limits);
    void setStale(bool stale);
    int count() const { return static_cast<int>(rows_.size()); }
    QRect rowRect(int row) const;
    QString title(int row) const;

  Q_SIGNALS:
    void optionChosen(rm::study::MatchOption option);
    void ratioChosen(QString ratio);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void leaveEvent(QEvent* event) override;
    QSize sizeHint() const override;

  private:
    /// A heading, an option or a ratio.
    struct Row {
        QString heading;
        int option = -1;
        int ratio = -1;
        int top = 0;
        int height = 0;
    };
    void layOut();
    void choose(int row);
    void paintOption(QPainter& painter, const Row& row, bool hovered) const;
    void paintRatio(QPainter& painter, const Row& row) const;

    std::shared_ptr<const study::PathStudy> study_;
    model::SwrLimits limits_ = model::kUsualSwrLimits;
    std::vector<Row> rows_;
    int hover_ = -1;
    bool stale_ = false;
};

}  // namespace rm::app
