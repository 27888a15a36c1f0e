// What errors of building do: the curves to expect of many builds, and how many of them meet the goals.
#pragma once

#include <QWidget>
#include <memory>
#include <vector>

#include "app/look/themed.h"
#include "app/session/document.h"
#include "core/study/tolerance.h"

class QLabel;
class QLineEdit;
class QMenu;
class QPushButton;
class QToolButton;

namespace rm::app {

/// SWR over the band: where nine builds of ten lie, the median, and the design as drawn.
class TolerancePlot : public Themed<QWidget> {
    Q_OBJECT
  public:
    explicit TolerancePlot(QWidget* parent = nullptr);
    void setResult(const study::Tolerance& result, double limit);
    /// So many builds are being made; 0: none.
    void setBuilding(int builds);
    const study::Tolerance& result() const { return result_; }

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent* event) override;

  private:
    study::Tolerance result_;
    double limit_ = 2.0;
    int building_ = 0;
    double cursor_ = -1.0;
};

class ToleranceView : public QWidget {
    Q_OBJECT
  public:
    explicit ToleranceView(Document& document, QWidget* parent = nullptr);

    /// Throws rm::Error naming the field that cannot be read.
    study::BuildErrors errors() const;
    int builds() const;
    void setResult(const study::Tolerance& result, const QString& band, double limit);
    /// Why what is shown is no longer what it would be; empty: it is.
    void setOld(const QString& why);
    /// What is typed, to be compared.
    std::string typed() const;
    TolerancePlot* plot() { return plot_; }
    QLineEdit* field(const QString& name) const;
    QPushButton* run() { return run_; }
    QToolButton* which() { return which_; }
    QString sentence() const;

  Q_SIGNALS:
    void runRequested();
    void typedChanged();

  private:
    void fillWhich();
    void sayAll();

    Document& document_;
    TolerancePlot* plot_;
    QPushButton* run_;
    QToolButton* which_;
    QMenu* whichMenu_;
    QLabel* sentence_;
    QLabel* each_;
    std::vector<std::string> only_;
    QString said_;
    QString old_;
};

}  // namespace rm::app
