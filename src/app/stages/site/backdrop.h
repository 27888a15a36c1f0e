// The picture of the garden under the plan of the site: read with care, and laid so that two of its points
// are where the designer says.
#pragma once

#include <QImage>
#include <QString>
#include <QTransform>

#include "app/stages/site/site_map.h"
#include "core/model/support.h"

namespace rm::app {

class BackdropPicture {
  public:
    /// Reads the file where it is another one than before; `folder` is where the project lies. What cannot be
    /// shown leaves no picture, and `problem` says why in a sentence.
    void load(const std::string& file, const QString& folder);
    const QImage& image() const { return image_; }
    const QString& problem() const { return problem_; }

    /// From pixels of the picture to pixels of the plan; nothing to show where its two points are one.
    QTransform onto(const SiteMap& map, const model::Backdrop& backdrop) const;
    bool canShow(const model::Backdrop& backdrop) const;

  private:
    QString path_;
    QImage image_;
    QString problem_;
};

}  // namespace rm::app
