// A hand that drags: every step of it is a change of the design as it was when the hand took hold, and all of
// them are one step to undo. What changes the project meanwhile takes it out of the hand.
#pragma once

#include <QString>

#include "app/session/document.h"

namespace rm::app {

class Hand {
  public:
    explicit Hand(Document& document) : document_(document) {}

    void take();
    /// Takes hold no more; what follows is another step to undo.
    void letGo();
    /// It holds, and the project is not as it left it.
    bool lost() const;
    /// The design as it was when the hand took hold.
    const model::Design& before() const { return before_; }
    /// One step of the drag, from `before`. False where it was refused.
    bool apply(const QString& what, const DesignChange& change);

  private:
    Document& document_;
    model::Design before_;
    ProjectPtr mine_;        ///< the project as this hand left it; null: it holds nothing
    bool applying_ = false;  ///< a change of this hand is on its way
    int run_ = 0;
};

}  // namespace rm::app
