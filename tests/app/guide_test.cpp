// The guide: what it shows is there, and Help opens it.
#include <QDesktopServices>
#include <QFile>
#include <QFileInfo>
#include <QRegularExpression>
#include <QTextBrowser>

#include "app/frame/guide.h"
#include "window.h"

using namespace rm;
using namespace rm::test;

TEST_CASE("Help opens the guide, whose pictures are beside it") {
    Window w;
    QTextBrowser browser;
    QDesktopServices::setUrlHandler("file", &browser, "setSource");
    w.action("Guide for designers")->trigger();
    QDesktopServices::unsetUrlHandler("file");
    REQUIRE(browser.source().toLocalFile() == app::guidePath());
    CHECK(browser.toPlainText().contains("Guide for designers"));
    QFile file(app::guidePath());
    REQUIRE(file.open(QIODevice::ReadOnly));
    const QString text = QString::fromUtf8(file.readAll());
    auto pictures = QRegularExpression(R"x((?:!\[[^\]]+\]\(|<img src=")([^)"]+))x").globalMatch(text);
    int shown = 0;
    while (pictures.hasNext()) {
        const QString name = pictures.next().captured(1);
        INFO(name.toStdString());
        CHECK(QFileInfo::exists(QFileInfo(file).dir().filePath(name)));
        shown++;
    }
    CHECK(shown >= 10);
}
