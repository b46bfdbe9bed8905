#pragma once
// A board that is milled, and the cutter over it, made ready to draw; in metres.

#include <memory>

#include "core/handoff/colour_meaning.hpp"
#include "core/milling/playback.hpp"
#include "core/picture/drawable.hpp"

namespace plume {

// Coloured by what is left above the form: nothing, as it should be; more, the more; less than the form,
// which is cut too deep. `form` has the stock's cells, or is empty. Its sides go down to the board's bottom.
std::shared_ptr<const Drawable> drawn_stock(const Stock& stock, const FormHeights& form, const Board& board);
// What its colours mean, from the first to the last.
std::vector<ColourMeaning> stock_colours();

// So long above its tip.
std::shared_ptr<const Drawable> drawn_cutter(const Cutter& cutter, Vec3 tip, double length);

}  // namespace plume
