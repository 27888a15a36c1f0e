// The rounded frame that the pieces of the bench stand in.
#pragma once

#include <QFrame>
#include <QVBoxLayout>

namespace rm::app {

inline QFrame* panel(QWidget* inside) {
    auto* frame = new QFrame;
    frame->setObjectName("panel");
    auto* layout = new QVBoxLayout(frame);
    layout->setContentsMargins(1, 1, 1, 1);
    layout->addWidget(inside);
    return frame;
}

}  // namespace rm::app
