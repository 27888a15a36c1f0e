// How the feeds of a design see each other: impedances and coupling, at the working frequency and over the
// band.
#pragma once

#include <QWidget>
#include <memory>

#include "app/look/themed.h"
#include "app/session/results.h"
#include "app/stages/study_frame.h"

class QComboBox;

namespace rm::app {

/// Feeds against feeds: impedances on and below the diagonal, coupling above it; at the right end the
/// impedance of each feed as it is driven now.
class CouplingMatrix : public Themed<QWidget> {
    Q_OBJECT
  public:
    explicit CouplingMatrix(QWidget* parent = nullptr);
    void setCoupling(const study::Coupling& coupling, std::vector<Complex> drivenOhm,
                     const QStringList& feeds);
    QString cellText(int row, int column) const;
    QRectF cellRect(int row, int column) const;
    /// The cell that the plot shows: row, column.
    std::pair<int, int> pair() const { return pair_; }
    QString pairName() const;

  Q_SIGNALS:
    void pairChosen();

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;

  private:
    int feeds() const { return static_cast<int>(names_.size()); }
    study::Coupling coupling_;
    std::vector<Complex> drivenOhm_;
    QStringList names_;
    std::pair<int, int> pair_{0, 1};
};

/// Coupling of every pair against frequency with one of them in front, or one impedance.
class CouplingPlot : public Themed<QWidget> {
    Q_OBJECT
  public:
    explicit CouplingPlot(QWidget* parent = nullptr);
    /// `all[i]` is how the feeds see each other at `hz[i]`.
    void setCurves(std::vector<double> hz, std::vector<study::Coupling> all, double workingHz,
                   std::pair<int, int> pair, const QString& name);
    /// Another pair of the same curves.
    void setPair(std::pair<int, int> pair, const QString& name);

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    std::vector<double> hz_;
    std::vector<study::Coupling> all_;
    /// One curve: a colour, its weight and its values.
    struct Curve {
        QColor colour;
        double weight;
        std::vector<double> value;
    };
    std::vector<Curve> curves() const;
    double workingHz_ = 0.0;
    std::pair<int, int> pair_{0, 1};
    QString name_;
};

class CouplingView : public StudyFrame {
    Q_OBJECT
  public:
    explicit CouplingView(QWidget* parent = nullptr);
    /// Empty where the results have no sweep, or the sweep has fewer than two feeds.
    void setResults(const Results& results);
    CouplingMatrix* matrix() { return matrix_; }

  Q_SIGNALS:
    /// Drive sets of each feed alone, the others idle in this way.
    void eachAlone(rm::model::IdleKind idle);

  private:
    CouplingMatrix* matrix_;
    CouplingPlot* plot_;
    QComboBox* idle_;
    QStringList names_;
};

}  // namespace rm::app
