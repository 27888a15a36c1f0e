// A view that paints with the theme: a change of palette reaches it as an event, one of the unit of lengths
// too, and nobody calls it.
#pragma once

#include <QEvent>

#include "app/look/theme.h"

namespace rm::app {

template <typename Widget>
class Themed : public Widget {
  public:
    using Widget::Widget;

  protected:
    void changeEvent(QEvent* event) override {
        Widget::changeEvent(event);
        if (event->type() == QEvent::LocaleChange) themeChanged();
        if (event->type() != QEvent::StyleChange) return;
        const Theme now = Theme::current();
        if (now.dark == theme_.dark) return;
        theme_ = now;
        themeChanged();
    }
    /// `theme_` is another one now, or lengths are written in another unit.
    virtual void themeChanged() { this->update(); }

    Theme theme_ = Theme::current();
};

}  // namespace rm::app
