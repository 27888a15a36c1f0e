// What each part does: the figures of the antenna without it, beside the whole.
#pragma once

#include <memory>

#include "app/look/themed.h"
#include "app/stages/study_frame.h"
#include "core/study/part_effects.h"

class QTableWidget;
class QToolButton;

namespace rm::app {

class PartsView : public StudyFrame {
    Q_OBJECT
  public:
    explicit PartsView(QWidget* parent = nullptr);

    void setEffects(std::shared_ptr<const study::PartEffects> effects, const QString& title);
    const study::PartEffects* effects() const { return effects_.get(); }
    void setStale(bool stale) override;
    QTableWidget* table() const { return table_; }
    /// Parts whose box is ticked.
    std::vector<std::string> ticked() const;

  Q_SIGNALS:
    void pinRequested();

  private:
    void refresh();

    std::shared_ptr<const study::PartEffects> effects_;
    QTableWidget* table_;
    QToolButton* pin_;
};

}  // namespace rm::app
