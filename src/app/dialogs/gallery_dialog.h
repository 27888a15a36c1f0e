// Starters to choose from, with their pictures, for chosen bands, ground and height; and, where the program
// has just begun, what else to begin with.
#pragma once

#include <QDialog>
#include <functional>
#include <optional>
#include <vector>

#include "app/look/text.h"
#include "app/session/task.h"
#include "core/quantity/formula.h"
#include "core/starters/starter.h"

class QComboBox;
class QLabel;
class QCheckBox;
class QLineEdit;
class QListWidget;
class QListWidgetItem;
class QProgressBar;
class QPushButton;

namespace rm::app {

class GalleryDialog : public QDialog {
    Q_OBJECT
  public:
    /// What is chosen from: the bands of a project, in front of all others, and the site of its design.
    struct Choices {
        std::vector<model::Band> bands;
        std::string workingBand;
        model::Site site;
        model::Conductor wire;
    };
    GalleryDialog(const Choices& choices, QWidget* parent = nullptr);

    /// An entry beside the gallery: the demo, a file opened before, the first antenna.
    void offer(const QString& text, const QString& tip, const QString& name,
               const std::function<void()>& act);

    QListWidget* list() const { return list_; }
    QPushButton* take() const { return take_; }
    /// Selects a kind by its id.
    void choose(const QString& id);
    /// The design that was made; nothing before that.
    const std::optional<model::Design>& made() const { return made_; }
    /// The bands that it is for: not all of them need be the project's.
    const std::vector<model::Band>& bands() const { return bands_; }
    bool working() const { return working_; }
    QString sentence() const;

  protected:
    void closeEvent(QCloseEvent* event) override;
    void reject() override;

  private:
    void offerBands();
    const model::Band& band() const;
    double typed(const QLineEdit* field, quantity::Kind kind) const;
    starters::Order order() const;
    void fill();
    void describe();
    void paintNext();
    void make();
    void say(const QString& sentence, bool bad = false);
    void setWorking(bool working);

    Choices choices_;
    std::vector<model::Band> offered_;  ///< the project's, then the others
    QListWidget* list_;
    QComboBox* group_;
    QComboBox* band_;
    QComboBox* second_;
    QComboBox* ground_;
    QLineEdit* height_;
    QLineEdit* diameter_;
    QCheckBox* hung_;
    QLabel* good_;
    QPushButton* take_;
    QProgressBar* busy_;
    QWidget* beside_ = nullptr;
    Task task_;
    bool working_ = false;
    int painted_ = 0;
    std::optional<model::Design> made_;
    std::vector<model::Band> bands_;
};

}  // namespace rm::app
