#pragma once
// What a word of a choice looks like, as the example of its kind shows it.

#include <QIcon>
#include <string>
#include <vector>

namespace plume::app {

// As large as it is seen.
inline constexpr QSize choice_picture_size{72, 48};

// Of each word in order; none where the words of that choice do not differ to look at.
std::vector<QIcon> choice_pictures_of(const std::string& kind, const std::string& slot);

}  // namespace plume::app
