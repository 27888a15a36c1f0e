#include "app/session/hand.h"

#include <QScopedValueRollback>

#include "app/look/text.h"

namespace rm::app {

void Hand::take() {
    before_ = document_.design();
    mine_ = document_.share();
    ++run_;
}

void Hand::letGo() {
    mine_.reset();
    document_.finishMerging();
}

bool Hand::lost() const {
    return mine_ && !applying_ && document_.share() != mine_;
}

bool Hand::apply(const QString& what, const DesignChange& change) {
    const QScopedValueRollback busy(applying_, true);
    const bool done = document_.editDesign(
        before_.id, what,
        [&](model::Design& d) {
            model::Design next = before_;
            change(next);
            d = std::move(next);
        },
        tr("hand %1 %2").arg(reinterpret_cast<quintptr>(this)).arg(run_));
    mine_ = document_.share();
    return done;
}

}  // namespace rm::app
