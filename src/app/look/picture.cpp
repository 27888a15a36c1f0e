#include "app/look/picture.h"

#include <QBuffer>
#include <QFileInfo>
#include <QImage>
#include <QPainter>
#include <QPdfWriter>
#include <QSvgGenerator>
#include <QWidget>

#include "app/look/text.h"
#include "core/project/project_file.h"
#include "core/project/text_file.h"

namespace rm::app {

namespace {

constexpr int kPngScale = 2;

/// Draws into memory first, so that a half-written file never replaces a good one.
template <typename Draw>
QByteArray inMemory(Draw draw) {
    QByteArray bytes;
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    draw(buffer);
    return bytes;
}

}  // namespace

void writePicture(QWidget& widget, const QString& path) {
    const QString ending = QFileInfo(path).suffix().toLower();
    const QSize size = widget.size();
    QByteArray bytes;
    if (ending == "svg") {
        bytes = inMemory([&](QBuffer& buffer) {
            QSvgGenerator svg;
            svg.setOutputDevice(&buffer);
            svg.setSize(size);
            svg.setViewBox(QRect(QPoint(), size));
            svg.setTitle(widget.accessibleName());
            QPainter painter(&svg);
            widget.render(&painter);
        });
    } else if (ending == "pdf") {
        bytes = inMemory([&](QBuffer& buffer) {
            QPdfWriter pdf(&buffer);
            // A page as large as the view at 96 dots per inch.
            pdf.setPageSize(
                QPageSize(QSizeF(size) * 72.0 / 96.0, QPageSize::Point, {}, QPageSize::ExactMatch));
            pdf.setPageMargins(QMarginsF());
            QPainter painter(&pdf);
            painter.scale(pdf.width() / static_cast<double>(size.width()),
                          pdf.height() / static_cast<double>(size.height()));
            widget.render(&painter);
        });
    } else if (ending == "png") {
        QImage image(size * kPngScale, QImage::Format_RGB32);
        image.setDevicePixelRatio(kPngScale);
        widget.render(&image);
        bytes = inMemory([&](QBuffer& buffer) { image.save(&buffer, "PNG"); });
    } else {
        throw Error(
            say("{}: pictures are written as .svg, .pdf or .png.", QFileInfo(path).fileName().toStdString()));
    }
    io::writeTextAtomically(path.toStdString(), bytes.toStdString());
}

}  // namespace rm::app
