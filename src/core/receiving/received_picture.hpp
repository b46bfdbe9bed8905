#pragma once
// A received model made ready to draw.

#include "core/picture/drawable.hpp"
#include "core/receiving/received_model.hpp"

namespace plume {

struct ReceivedPicture {
    // What is drawn, each with the colours it arrived in; nullptr where there is none of it. Parts are shapes
    // in metres, axes lines.
    std::shared_ptr<const Drawable> shapes, axes;
    // The parts of the model that the drawables' parts are.
    std::vector<std::size_t> shape_parts, axis_parts;
};

// Of those parts whose entry in `shown` is not 0; empty: of all. Errors: those of drawing; cancelled.
Result<ReceivedPicture> picture_of(const std::vector<Received::Part>& parts,
                                   const std::vector<std::uint8_t>& shown, const Run& run);

}  // namespace plume
