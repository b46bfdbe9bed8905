#pragma once
// What can be done to a step or heading: by menu, by key, from the sheet and from the model.

#include <QMenu>

#include "app/document/document.hpp"

namespace plume::app {

// Fills a menu with the ways a result can be drawn: visible, points, edges, faces, labels, colour.
void add_show_actions(QMenu& menu, Document& document, ItemId step);
void toggle_visible(Document& document, ItemId step);
void toggle_muted(Document& document, ItemId step);
// Another throw of the step's random numbers, or the one before.
void throw_numbers(Document& document, ItemId id, bool forward);
void duplicate(Document& document, ItemId item);
// up: -1, down: 1; past whole items, folded or not.
void move_by(Document& document, ItemId item, int direction);
// Asks first when others read the result.
void remove(Document& document, ItemId item, QWidget* parent);

}  // namespace plume::app
