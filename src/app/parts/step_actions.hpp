#pragma once
// What can be done to a step or heading: by menu, by key, from the sheet and from the model.

#include <QMenu>

#include "app/document/document.hpp"

namespace plume::app {

// Fills a menu with the ways a result can be drawn: visible, points, edges, faces, labels, colour.
void add_show_actions(QMenu& menu, Document& document, ItemId step);
void toggle_visible(Document& document, ItemId step);
// Numbers and names beside what can be pointed at.
void toggle_labels(Document& document, ItemId step);
void toggle_muted(Document& document, ItemId step);
// Another throw of the step's random numbers, or the one before.
void throw_numbers(Document& document, ItemId id, bool forward);
// What is selected, up: -1, down: 1; past whole items, folded or not.
void move_selection(Document& document, int direction);
// Asks first when others read a result of what is selected.
void remove_selection(Document& document, QWidget* parent);

}  // namespace plume::app
