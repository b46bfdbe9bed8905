#pragma once
// How parts that are asked why they are as they are, are told apart: in the model, on the page.

#include <QColor>
#include <QString>

#include "app/theme/look.hpp"

namespace plume::app {

inline QString asked_letter(std::size_t number) {
    return QString(QChar('A' + static_cast<char>(number)));
}
inline QColor asked_colour(std::size_t number) {
    return number == 0 ? look().thread(HeadingColour::plum) : look().thread(HeadingColour::moss);
}

}  // namespace plume::app
