// What a view paints behind what moves: kept as a picture while what it shows is the same.
#pragma once

#include <QImage>
#include <QPaintEngine>
#include <QPainter>
#include <optional>

namespace rm::app {

/// `Key` says what is shown, all that its painting depends on but the size and the device.
template <typename Key>
class Backdrop {
  public:
    /// Paints what `paint` paints on a QPainter that stands as this one does, or its picture of the last
    /// time. `behind` fills the picture first: an opaque one is copied instead of mixed. Where lines stay
    /// lines, in a drawing for a printer, nothing is kept.
    template <typename Paint>
    void operator()(QPainter& p, const QSizeF& size, const QColor& behind, const Key& key,
                    const Paint& paint) {
        if (p.paintEngine()->type() != QPaintEngine::Raster) return paint(p);
        const double ratio = p.device()->devicePixelRatioF();
        const QSize pixels = (size * ratio).toSize();
        if (image_.isNull() || image_.size() != pixels || image_.devicePixelRatio() != ratio ||
            !(seen_ == key)) {
            const bool opaque = behind.alpha() == 255;
            image_ = QImage(pixels, opaque ? QImage::Format_RGB32 : QImage::Format_ARGB32_Premultiplied);
            image_.setDevicePixelRatio(ratio);
            image_.fill(behind);
            seen_ = key;
            QPainter painter(&image_);
            painter.setRenderHints(p.renderHints());
            paint(painter);
        }
        p.drawImage(QPointF(0, 0), image_);
    }

  private:
    std::optional<Key> seen_;
    QImage image_;
};

}  // namespace rm::app
