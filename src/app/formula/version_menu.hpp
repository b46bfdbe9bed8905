#pragma once
// Versions of a formula: keep the present one, switch, lay one over the model as a ghost.

#include "app/document/document.hpp"

class QWidget;

namespace plume::app {

// The name of the version the formula is at present, or an empty text.
QString version_at_hand(const Document& document, ItemId step);
void open_version_menu(Document& document, ItemId step, QWidget* below);
// "Ghost ‘flat’: at most 3 m apart, 0.51 m on average", or an empty text when this step has none.
QString ghost_text(const Document& document, ItemId step);

}  // namespace plume::app
