#include "app/parts/wrapped_label.hpp"

namespace plume::app {

QLabel* wrapped_label(const char* name, const QFont& font) {
    auto* made = new QLabel;
    made->setObjectName(name);
    made->setFont(font);
    made->setWordWrap(true);
    made->setTextInteractionFlags(Qt::TextSelectableByMouse);
    return made;
}

void set_ink(QLabel& label, const QColor& ink) {
    QPalette palette = label.palette();
    palette.setColor(QPalette::WindowText, ink);
    label.setPalette(palette);
}

}  // namespace plume::app
