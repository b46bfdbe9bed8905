#pragma once
// The strip below a view: what there is to say of it, and buttons.

#include <QHBoxLayout>
#include <QWidget>

namespace plume::app {

struct PanelFoot {
    QWidget* strip;
    QHBoxLayout* row;
};

inline PanelFoot panel_foot() {
    auto* strip = new QWidget;
    strip->setObjectName("readings");
    strip->setAttribute(Qt::WA_StyledBackground);
    auto* row = new QHBoxLayout(strip);
    row->setContentsMargins(16, 8, 16, 8);
    row->setSpacing(12);
    return {strip, row};
}

}  // namespace plume::app
