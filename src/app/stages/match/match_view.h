// Match mode: the feed path as a chain with its values, the walk on a Smith chart, the losses on every band,
// and the ways to match at the chosen joint.
#pragma once

#include <QFrame>
#include <memory>
#include <optional>

#include "app/session/document.h"
#include "app/session/selection.h"
#include "app/look/theme.h"
#include "core/model/expand.h"
#include "core/study/path_study.h"

class QComboBox;
class QLabel;
class QLineEdit;

namespace rm::app {

class BandLosses;
class BlockHandles;
class ChainView;
class MatchRows;
class SmithChart;

class MatchView : public QFrame {
    Q_OBJECT
  public:
    MatchView(Document& document, QWidget* parent = nullptr);

    ChainView* chain() { return chain_; }
    SmithChart* smith() { return smith_; }
    BlockHandles* handles() { return handles_; }
    MatchRows* rows() { return rows_; }
    BandLosses* losses() { return losses_; }
    QLineEdit* target() { return target_; }
    QComboBox* values() { return values_; }

    void setTheme(const Theme& theme);
    /// Takes over the feed path of the document.
    void refresh();
    void setStudy(std::shared_ptr<const study::PathStudy> study);
    void setStale(bool stale);
    void select(Selection selection);
    /// What is to be matched where, as the fields say; the reference of the design where they are empty.
    study::MatchWish wish() const;

  Q_SIGNALS:
    void selected(rm::app::Selection selection);
    void wishChanged();
    void inserted(QString title);
    void addRequested(int place, QPoint globalPosition);

  private:
    QWidget* buildSynthesis();
    void edit(const QString& label, const std::function<void(model::Design&)>& change,
              const QString& mergeKey = {});
    void showWalk();
    void highlight(int block);
    void move(int from, int to);
    void insertOption(const study::MatchOption& option);
    void useRatio(const QString& ratio);
    int enabledBlock(int step) const;
    QLineEdit* numberField(const QString& text, const QString& tip);

    Document& document_;
    Theme theme_ = Theme::light();
    std::shared_ptr<const study::PathStudy> study_;
    std::optional<int> selectedBlock_;
    ChainView* chain_;
    BlockHandles* handles_;
    BandLosses* losses_;
    SmithChart* smith_;
    MatchRows* rows_;
    QLabel* where_;
    QLineEdit* power_;
    QLineEdit* target_;
    QLineEdit* coilQ_;
    QLineEdit* capacitorQ_;
    QLineEdit* loadedQ_;
    QComboBox* values_;
    QComboBox* line_;
};

}  // namespace rm::app
