// The zones of one band from above: wires, and where the limits are reached at both heights.
#pragma once

#include <QWidget>
#include <vector>

#include "app/look/themed.h"
#include "app/session/results.h"

namespace rm::app {

class ZoneView : public Themed<QWidget> {
    Q_OBJECT
  public:
    explicit ZoneView(QWidget* parent = nullptr);

    /// The rows of the same band as this one; null: none.
    void setRows(ClearPtr table, int row, ExpansionPtr expansion);
    QString band() const;
    std::size_t pieces() const;

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    struct Zone {
        const study::ClearZone* zone;
        QColor colour;
        bool dashed;
        QString name;
    };
    std::vector<Zone> zones() const;

    ClearPtr table_;
    ExpansionPtr expansion_;
    int row_ = -1;
};

}  // namespace rm::app
