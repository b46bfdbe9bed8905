#pragma once
// The headings of a page, to go to one of them.

#include <functional>
#include <span>

#include "app/document/document.hpp"

class QMenu;

namespace plume::app {

// Each with its colour and how many steps it has; says so where there are none.
void fill_heading_menu(QMenu& menu, std::span<const Item> items, const std::function<void(ItemId)>& go_to);

}  // namespace plume::app
