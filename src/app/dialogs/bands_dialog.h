// Chooses the bands of a project and their edges.
#pragma once

#include <QDialog>
#include <vector>

#include "core/model/bands.h"

class QCheckBox;
class QGridLayout;
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
        QLineEdit* name;  ///< of a new one; nullptr where it has its name already
        QLineEdit* low;
        QLineEdit* high;
        QLineEdit* spots;

        /// The band as it stands in the fields; throws rm::Error with its name.
        model::Band read() const;
        bool calledLike(const std::string& other) const;
    };
    void addLine(const model::Band& band, bool chosen);
    /// An empty line at the end, for a band of one's own; another one as soon as it has a name.
    void addEmptyLine();
    void assess();

    std::vector<Line> lines_;
    QGridLayout* table_;
    std::array<QLineEdit*, 3> limits_{};
    QLabel* sentence_;
    QPushButton* go_;
};

}  // namespace rm::app
