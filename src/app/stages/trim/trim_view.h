// The trim in the middle of the bench: what to do in one sentence, why, and the curves that say so.
#pragma once

#include <memory>

#include "app/look/themed.h"
#include "app/plot/frame.h"
#include "app/stages/study_frame.h"
#include "core/build/trim.h"

class QComboBox;
class QLabel;
class QPushButton;

namespace rm::app {

/// SWR measured, drawn, as built, and after the cut.
class TrimPlot : public Themed<QWidget> {
    Q_OBJECT
  public:
    explicit TrimPlot(QWidget* parent = nullptr);
    void setAnswer(std::shared_ptr<const build::TrimAnswer> answer);
    const build::TrimAnswer* answer() const { return answer_.get(); }

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    std::shared_ptr<const build::TrimAnswer> answer_;
};

class TrimView : public StudyFrame {
    Q_OBJECT
  public:
    explicit TrimView(QWidget* parent = nullptr);

    void setAnswer(std::shared_ptr<const build::TrimAnswer> answer, const QString& title);
    std::shared_ptr<const build::TrimAnswer> answer() const { return answer_; }
    void setStale(bool stale) override;
    /// Lengths that can be cut; the chosen one stays where it is there.
    void setDimensions(const QStringList& names);
    QString dimension() const;
    QComboBox* dimensionBox() const { return dimensions_; }
    QPushButton* takeOver() const { return take_; }
    /// What to do, as it is written.
    QString sentence() const;
    /// What differs, as it is written.
    QString causes() const;

  Q_SIGNALS:
    void dimensionChosen();
    void takeOverRequested();

  protected:
    void themeChanged() override { refresh(); }

  private:
    void refresh();

    std::shared_ptr<const build::TrimAnswer> answer_;
    QLabel* sentence_;
    QLabel* causes_;
    QComboBox* dimensions_;
    QPushButton* take_;
    TrimPlot* plot_;
};

}  // namespace rm::app
