// A line above the yard for findings, results and questions: never a box in the way.
#pragma once

#include <QFrame>
#include <functional>

#include "app/look/theme.h"

class QLabel;
class QHBoxLayout;
class QToolButton;

namespace rm::app {

class NoticeBar : public QFrame {
    Q_OBJECT
  public:
    enum class Tone { Good, Caution, Bad };

    explicit NoticeBar(QWidget* parent = nullptr);
    void setTheme(const Theme& theme);
    /// Shows a sentence with up to two answers; no answers: it can only be closed.
    void show(Tone tone, const QString& sentence, const QString& firstAnswer = {},
              std::function<void()> first = {}, const QString& secondAnswer = {},
              std::function<void()> second = {});
    void clear();
    QString sentence() const;
    QToolButton* answer(int number) const { return number == 0 ? first_ : second_; }

  private:
    void paint();

    Theme theme_ = Theme::light();
    Tone tone_ = Tone::Good;
    QLabel* mark_;
    QLabel* label_;
    QToolButton* first_;
    QToolButton* second_;
    std::function<void()> onFirst_;
    std::function<void()> onSecond_;
};

}  // namespace rm::app
