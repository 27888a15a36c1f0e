// Where the power goes on every band: a bar per band, cut into the blocks of the feed path.
#pragma once

#include <QWidget>
#include <memory>

#include "app/look/themed.h"
#include "core/model/design.h"
#include "core/study/path_study.h"

namespace rm::app {

class BandLosses : public Themed<QWidget> {
    Q_OBJECT
  public:
    explicit BandLosses(QWidget* parent = nullptr);

    void setStudy(std::shared_ptr<const study::PathStudy> study, const model::Project& project);
    /// "2.31 dB, 41 W" of a band; empty where it is not known.
    QString lossText(int band) const;

  protected:
    void paintEvent(QPaintEvent* event) override;
    QSize sizeHint() const override { return {400, height_}; }

  private:
    std::shared_ptr<const study::PathStudy> study_;
    std::vector<QString> names_;
    std::vector<QString> blocks_;
    double powerW_ = 100.0;
    int height_ = 20;
};

}  // namespace rm::app
