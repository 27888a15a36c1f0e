// What matters: the sensitivities of the design on the bench, kept up to date while they are looked at.
#pragma once

#include "app/stages/tune/tune_stage.h"

namespace rm::app {

class MattersView;

class MattersPage : public TunePage {
    Q_OBJECT
  public:
    explicit MattersPage(Session& session);
    QWidget* widget() override;
    void refresh() override;

  private:
    MattersView* view_;
    std::string shown_;  ///< what the rows rest on
};

}  // namespace rm::app
