#pragma once
// What a word of a choice looks like, as the example of its kind shows it.

#include <QIcon>
#include <string>

namespace plume::app {

// As large as it is seen.
inline constexpr QSize choice_picture_size{72, 48};

// Whether the words of that choice differ to look at.
bool has_choice_pictures(const std::string& kind, const std::string& slot);
// Of the word with that number; empty where it has none.
QIcon choice_picture(const std::string& kind, const std::string& slot, std::size_t word);

}  // namespace plume::app
