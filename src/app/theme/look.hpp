#pragma once
// Colours and type of the application, light and dark. One look is in force at a time, for the whole process.

#include <QColor>
#include <QFont>
#include <QIcon>
#include <QPixmap>

#include "core/study/study.hpp"

namespace plume::app {

struct Look {
    bool dark = false;
    QColor desk, page, ink, second_ink, hairline, accent, accent_soft, attention;
    QColor model_top, model_bottom;
    std::array<QColor, heading_colour_count> threads;

    const QColor& thread(HeadingColour colour) const { return threads[static_cast<std::size_t>(colour)]; }
};

const Look& look();
// Sets colours, palette and style sheet of the whole application; widgets repaint themselves.
void apply_look(bool dark);
// Loads the shipped fonts; call once, before the first window.
void load_fonts();

QFont text_font(int pixels, QFont::Weight weight = QFont::Normal);  // Inter, tabular figures
QFont result_font(int pixels);                                      // serif italic, for names of results
QFont code_font(int pixels);

// An icon of resources/icons in the ink of the look.
QIcon icon(const char* name);
QIcon icon(const char* name, const QColor& colour);

constexpr int margin_width = 44;  // left of the sheet's text, for the threads

}  // namespace plume::app
