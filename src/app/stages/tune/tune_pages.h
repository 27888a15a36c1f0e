// The Tune mode: tuning and the studies beside it, as pages of one panel.
#pragma once

#include <QFrame>
#include <vector>

class QHBoxLayout;
class QStackedWidget;
class QToolButton;

namespace rm::app {

class TunePages : public QFrame {
    Q_OBJECT
  public:
    explicit TunePages(QWidget* parent = nullptr);

    void addPage(const QString& name, const QString& tip, QWidget* page);
    void showPage(QWidget* page);
    QWidget* page() const;
    QToolButton* tab(int index) { return tabs_.at(static_cast<std::size_t>(index)); }

  Q_SIGNALS:
    void pageShown();

  private:
    QHBoxLayout* row_;
    QStackedWidget* pages_;
    std::vector<QToolButton*> tabs_;
};

}  // namespace rm::app
