#include "app/session/guard.h"

#include <spdlog/spdlog.h>

#include <QEvent>
#include <QMetaEnum>
#include <QScopedValueRollback>
#include <exception>

#include "app/look/text.h"

namespace rm::app {

bool GuardedApplication::notify(QObject* receiver, QEvent* event) {
    try {
        return QApplication::notify(receiver, event);
    } catch (const std::exception& e) {
        report(e.what(), receiver, event);
    } catch (...) {
        report(say("an unknown failure").c_str(), receiver, event);
    }
    return true;
}

void GuardedApplication::report(const char* what, const QObject* receiver, const QEvent* event) {
    const char* type = QMetaEnum::fromType<QEvent::Type>().valueToKey(event->type());
    spdlog::error("{} in {} ({}) at event {}", what, receiver->metaObject()->className(),
                  receiver->objectName().toStdString(), type != nullptr ? type : "of our own");
    if (reporting_ || !act_) return;
    const QScopedValueRollback once(reporting_, true);
    try {
        act_(tr("Something went wrong that should not have: %1 Your work is kept; please save it under "
                "another "
                "name if this comes again.")
                 .arg(QString::fromUtf8(what) + (QString::fromUtf8(what).endsWith('.') ? "" : ".")));
    } catch (const std::exception& e) {
        spdlog::error("and saying so failed: {}", e.what());
    }
}

}  // namespace rm::app
