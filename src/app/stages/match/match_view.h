// Match mode: the feed path as a chain with its values, the walk on a Smith chart, the losses on every band,
// and the ways to match at the chosen joint.
#pragma once

#include <QFrame>
#include <memory>
#include <optional>

#include "app/look/themed.h"
#include "app/session/session.h"

class QComboBox;
class QLabel;
class QLineEdit;

namespace rm::app {

class BandLosses;
class BlockHandles;
class ChainView;
class MatchRows;
class SmithChart;

class MatchView : public Themed<QFrame> {
    Q_OBJECT
  public:
    explicit MatchView(Session& session, QWidget* parent = nullptr);

    ChainView* chain() { return chain_; }
    SmithChart* smith() { return smith_; }
    BlockHandles* handles() { return handles_; }
    MatchRows* rows() { return rows_; }
    BandLosses* losses() { return losses_; }
    QLineEdit* target() { return target_; }
    QComboBox* values() { return values_; }

    /// Takes over the feed path of the document.
    void refresh();
    /// The feed path as it works, of results that have a path.
    void setResults(const ResultsPtr& results);
    void setStale(bool stale);
    void select(Selection selection);
    /// What is to be matched where, as the fields say; the reference of the design where they are empty.
    study::MatchWish wish() const;

  Q_SIGNALS:
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

    /// Selects a block by its place in the feed path.
    void choose(int block);
    /// The selected block; nothing where another thing is selected.
    std::optional<int> selectedBlock() const;

    Session& session_;
    Document& document_;
    ResultsPtr shown_;
    ChainView* chain_;
    BlockHandles* handles_;
    QLabel* balance_;
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

  protected:
    void themeChanged() override;
};

}  // namespace rm::app
