#include "app/code/text_places.hpp"

#include <algorithm>

namespace plume::app {

int position_of_byte(const std::string& text, std::size_t byte) {
    const auto bytes = static_cast<qsizetype>(std::min(byte, text.size()));
    return static_cast<int>(QString::fromUtf8(text.data(), bytes).size());
}

std::size_t byte_of_position(const QString& text, int position) {
    return static_cast<std::size_t>(text.left(position).toUtf8().size());
}

}  // namespace plume::app
