#include "app/stages/site/backdrop.h"

#include <QDir>
#include <QFileInfo>
#include <QImageReader>
#include <QLineF>
#include <cmath>

#include "app/look/text.h"

namespace rm::app {

namespace {

constexpr qint64 kLargestFile = 64LL << 20U;
constexpr int kLargestSide = 3000;  ///< pixels that are kept of it
constexpr int kLargestMegabytes = 512;

QPointF onPicture(const QImage& image, double x, double y) {
    return {x * image.width(), y * image.height()};
}

}  // namespace

void BackdropPicture::load(const std::string& file, const QString& folder) {
    const QString path =
        file.empty() ? QString() : QDir(folder).absoluteFilePath(QString::fromStdString(file));
    if (path == path_) return;
    path_ = path;
    image_ = {};
    problem_.clear();
    if (path.isEmpty()) return;
    const QFileInfo info(path);
    // No device, no pipe: a project from elsewhere may name anything.
    if (!info.isFile() || info.size() > kLargestFile) {
        problem_ = info.exists() ? tr("%1 is no picture of up to 64 MB: choose another one.").arg(path)
                                 : tr("%1 is not there any more: choose the picture again.").arg(path);
        return;
    }
    QImageReader reader(path);
    QImageReader::setAllocationLimit(kLargestMegabytes);
    reader.setAutoTransform(true);
    const QSize whole = reader.size();
    if (whole.isValid() && std::max(whole.width(), whole.height()) > kLargestSide)
        reader.setScaledSize(whole.scaled(kLargestSide, kLargestSide, Qt::KeepAspectRatio));
    image_ = reader.read();
    if (image_.isNull()) problem_ = tr("%1 cannot be read as a picture: use a PNG or a JPEG.").arg(path);
}

bool BackdropPicture::canShow(const model::Backdrop& b) const {
    const QPointF first = onPicture(image_, b.firstX, b.firstY);
    const QPointF second = onPicture(image_, b.secondX, b.secondY);
    const double metres = std::hypot(b.secondEastM - b.firstEastM, b.secondNorthM - b.firstNorthM);
    return !image_.isNull() && QLineF(first, second).length() > 1.0 && metres > 1e-3 && metres < 1e6;
}

QTransform BackdropPicture::onto(const SiteMap& map, const model::Backdrop& b) const {
    const QLineF from(onPicture(image_, b.firstX, b.firstY), onPicture(image_, b.secondX, b.secondY));
    const QLineF to(map.at({b.firstEastM, b.firstNorthM}), map.at({b.secondEastM, b.secondNorthM}));
    QTransform laid;
    laid.translate(to.x1(), to.y1());
    laid.rotateRadians(std::atan2(to.dy(), to.dx()) - std::atan2(from.dy(), from.dx()));
    laid.scale(to.length() / from.length(), to.length() / from.length());
    laid.translate(-from.x1(), -from.y1());
    return laid;
}

}  // namespace rm::app
