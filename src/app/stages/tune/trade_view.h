// The page of a trade-off: what is swept, the curve, and what the chosen point is.
#pragma once

#include <QWidget>

#include "app/look/text.h"
#include "app/session/document.h"
#include "app/stages/tune/trade_plot.h"

class QComboBox;
class QLabel;
class QLineEdit;
class QPushButton;
class QSpinBox;
class QToolButton;

namespace rm::app {

class TradeView : public QWidget {
    Q_OBJECT
  public:
    explicit TradeView(Document& document, QWidget* parent = nullptr);

    /// What can be swept, of the design as it is now.
    void refresh();
    /// Throws rm::Error naming what cannot be read, or that there is nothing to sweep.
    study::TradeAxis axis() const;
    double maxSeconds() const;
    /// The curve of a design, as far as it is known; null: none.
    void setTrade(std::shared_ptr<const study::TradeOff> trade, bool running);
    /// The curve is not of the design as it is now.
    void setOld(bool old);
    const study::TradeOff* trade() const { return trade_.get(); }
    const study::TradePoint* chosenPoint() const;

    QComboBox* swept() { return swept_; }
    QLineEdit* from() { return from_; }
    QLineEdit* to() { return to_; }
    QSpinBox* points() { return points_; }
    QComboBox* shown() { return shown_; }
    QPushButton* run() { return run_; }
    QToolButton* take() { return take_; }
    QToolButton* pin() { return pin_; }
    QToolButton* goOn() { return goOn_; }
    TradePlot* plot() { return plot_; }
    QString said() const;

  Q_SIGNALS:
    void runRequested();
    void stopRequested();
    void takeRequested();
    void pinRequested();
    void goOnRequested();

  private:
    void fillRange();
    void fillShown();
    void say();
    QString across() const;

    Document& document_;
    std::vector<study::TradeChoice> choices_;
    std::shared_ptr<const study::TradeOff> trade_;
    bool running_ = false;
    bool old_ = false;
    QComboBox* swept_;
    QLineEdit* from_;
    QLineEdit* to_;
    QLabel* unit_;
    QSpinBox* points_;
    QSpinBox* seconds_;
    QComboBox* shown_;
    QPushButton* run_;
    QToolButton* take_;
    QToolButton* pin_;
    QToolButton* goOn_;
    QLabel* said_;
    TradePlot* plot_;
};

}  // namespace rm::app
