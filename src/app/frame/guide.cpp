#include "app/frame/guide.h"

#include <QCoreApplication>
#include <QDir>
#include <QFileInfo>

namespace rm::app {

QString guidePath() {
    QDir folder(QCoreApplication::applicationDirPath());
    const QString installed = folder.absoluteFilePath("../share/doc/reedmast/guide.html");
    if (QFileInfo::exists(installed)) return QDir::cleanPath(installed);
    // Built and not installed: the build folder lies within the source.
    do {
        if (QFileInfo::exists(folder.absoluteFilePath("docs/guide.md")))
            return folder.absoluteFilePath("docs/guide.md");
    } while (folder.cdUp());
    return {};
}

}  // namespace rm::app
