// A figure over one dimension as a curve, or over two as a map; a click sets what was clicked.
#pragma once

#include <QWidget>

#include "app/look/text.h"
#include "app/look/themed.h"
#include "app/session/document.h"
#include "core/study/scan.h"

class QComboBox;
class QLabel;
class QLineEdit;
class QPushButton;

namespace rm::app {

class ScanPlot : public Themed<QWidget> {
    Q_OBJECT
  public:
    explicit ScanPlot(QWidget* parent = nullptr);
    void setScan(const study::Scan& scan, study::ScanFigure figure, const model::Dimension& x,
                 const model::Dimension& y);
    /// Where the design is; not a number: out of sight.
    void setNow(double x, double y);
    const study::Scan& scan() const { return scan_; }
    /// Where a point of the scan is drawn, for tests.
    QPointF at(int i, int j) const;

  Q_SIGNALS:
    void clicked(double x, double y);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent* event) override;

  private:
    bool map() const { return scan_.y.count > 1; }
    QRectF area() const;
    double xAt(double pixel) const;
    double yAt(double pixel) const;
    void paintCurve(QPainter& p) const;
    void paintMap(QPainter& p) const;
    void paintAxis(QPainter& p) const;
    QString figure(double value) const;
    /// Where a point lies: "2130 mm", "18 m, 120°".
    QString place(int i, int j) const;
    std::optional<std::size_t> best() const;
    bool lowIsGood() const;

    study::Scan scan_;
    study::ScanFigure figure_ = study::ScanFigure::Swr;
    model::Dimension x_;  ///< as typed: its unit is that of what is read off
    model::Dimension y_;
    double xNow_ = 0.0;
    double yNow_ = 0.0;
    double low_ = 0.0;
    double high_ = 1.0;
    std::optional<QPointF> cursor_;
};

class ScanView : public QWidget {
    Q_OBJECT
  public:
    explicit ScanView(Document& document, QWidget* parent = nullptr);
    /// The dimensions to choose from, as they are now.
    void refresh();
    /// Throws rm::Error naming the range that cannot be read. The second has the count 1 where there is none.
    study::ScanAxis axis(int which) const;
    study::ScanQuantity quantity() const;
    /// `name` is what the figure is called.
    void setScan(const study::Scan& scan, const study::ScanQuantity& quantity, const QString& name,
                 double frequencyHz);
    /// The scan is not of the design as it is now.
    void setOld(bool old);

    ScanPlot* plot() { return plot_; }
    /// Takes this one of the other dimensions for a map; 0: none.
    void chooseSecond(int index);
    QComboBox* dimension(int which) { return dimensions_[which]; }
    QLineEdit* from(int which) { return from_[which]; }
    QLineEdit* to(int which) { return to_[which]; }
    QComboBox* figures() { return figures_; }
    QPushButton* run() { return run_; }

  Q_SIGNALS:
    void runRequested();
    /// Values in m, degrees or plain; the second name is empty where one dimension was scanned.
    void valuesChosen(QString first, double x, QString second, double y);

  private:
    const model::Dimension* chosen(int which) const;
    void fillRange(int which);

    Document& document_;
    QComboBox* dimensions_[2];
    QLineEdit* from_[2];
    QLineEdit* to_[2];
    QComboBox* figures_;
    QPushButton* run_;
    QLabel* said_;
    QString words_;  ///< of the scan
    ScanPlot* plot_;
};

}  // namespace rm::app
