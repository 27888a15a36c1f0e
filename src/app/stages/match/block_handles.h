// The figures of the selected block as fields with sliders, below the chain: to be dragged while everything
// follows.
#pragma once

#include <QWidget>
#include <functional>
#include <optional>
#include <vector>

#include "core/model/design.h"
#include "core/quantity/formula.h"

class QGridLayout;
class QLabel;
class QLineEdit;
class QSlider;

namespace rm::app {

class BlockHandles : public QWidget {
    Q_OBJECT
  public:
    explicit BlockHandles(QWidget* parent = nullptr);

    /// Shows the handles of this block, or a hint where there is none.
    void setBlock(std::optional<model::FeedBlock> block, const quantity::Scope& scope);

    /// By what stands before the field: "C", "length".
    QSlider* slider(const QString& label) const;
    QLineEdit* field(const QString& label) const;

  Q_SIGNALS:
    /// The block with a new value; `sliding` while a slider moves, so that the steps are undone together.
    void changed(rm::model::FeedBlock block, QString what, bool sliding);
    void slideEnded();

  private:
    struct Handle {
        QString label;
        QString unit;
        quantity::Kind kind;
        std::function<std::string&(model::FeedBlock&)> value;
        double factor = 4.0;  ///< of the value at either end of the slider
        QLineEdit* field = nullptr;
        QSlider* slider = nullptr;
        double middle = 1.0;  ///< value in the middle of the slider
    };

    static std::vector<Handle> handlesOf(const model::FeedBlock& block);
    void rebuild();
    void place(Handle& handle, int column);
    void showValues();
    void slide(Handle& handle, int step);
    std::optional<double> valueOf(const Handle& handle);

    std::optional<model::FeedBlock> block_;
    quantity::Scope scope_;
    QString shape_;
    std::vector<Handle> handles_;
    QGridLayout* grid_;
    QLabel* hint_;
    bool updating_ = false;
};

}  // namespace rm::app
