#pragma once
// Several steps made one: which of their slots stay open, what it is called, how it reads. And what is inside
// of such a step, which can be taken apart.

#include "app/sheet/slot_parts.hpp"

namespace plume::app {

// Of the steps that are selected; beside `near`.
void open_group_form(Document& document, QWidget* near);
void open_group_contents(const SlotAccess& access, QWidget* near);

// The steps inside in its place, selected.
void take_apart(Document& document, ItemId step);

// Among the steps that one finds in every study. Asks before another one of the same name goes.
void keep_as_own(Document& document, ItemId step, QWidget* parent);

}  // namespace plume::app
