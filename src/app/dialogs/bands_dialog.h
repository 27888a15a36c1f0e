// Chooses the bands of a project and their edges.
#pragma once

#include <QDialog>
#include <vector>

#include "core/model/bands.h"

class QCheckBox;
class QLabel;
class QLineEdit;
class QPushButton;

namespace rm::app {

class BandsDialog : public QDialog {
    Q_OBJECT
  public:
    BandsDialog(const std::vector<model::Band>& bands, const model::SwrLimits& limits,
                QWidget* parent = nullptr);

    /// The chosen bands with their edges; throws rm::Error where an edge cannot be read.
    std::vector<model::Band> bands() const;
    /// SWR up to which a band is good, usable, possible; throws rm::Error where they do not rise.
    model::SwrLimits limits() const;
    QLineEdit* limitField(std::size_t i) { return limits_.at(i); }
    QCheckBox* box(const QString& name) const;

  private:
    struct Line {
        model::Band band;
        QCheckBox* box;
        QLineEdit* low;
        QLineEdit* high;
        QLineEdit* spots;
    };
    void assess();

    std::vector<Line> lines_;
    std::array<QLineEdit*, 3> limits_{};
    QLabel* sentence_;
    QPushButton* go_;
};

}  // namespace rm::app
