#pragma once
// Places in a text: the core counts bytes of UTF-8, Qt counts UTF-16 units.

#include <QString>
#include <string>

namespace plume::app {

int position_of_byte(const std::string& text, std::size_t byte);
std::size_t byte_of_position(const QString& text, int position);

}  // namespace plume::app
