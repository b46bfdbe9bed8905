#pragma once
// The one shadow there is: below what lies over the page.

#include <QGraphicsDropShadowEffect>
#include <QWidget>

#include "app/theme/look.hpp"

namespace plume::app {

inline void cast_shadow(QWidget* widget) {
    auto* shadow = new QGraphicsDropShadowEffect(widget);
    shadow->setBlurRadius(24);
    shadow->setOffset(0, 4);
    shadow->setColor(QColor(0, 0, 0, look().dark ? 140 : 50));
    widget->setGraphicsEffect(shadow);
}

}  // namespace plume::app
