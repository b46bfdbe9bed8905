#pragma once
// How a result is drawn, and what of that goes along where it is handed over.

#include <map>
#include <string>

#include "core/data/material.hpp"
#include "core/data/ramp_style.hpp"

namespace plume {

// Parts of a file that this program does not know, by key, as JSON. They are kept for saving, and named.
using UnknownParts = std::map<std::string, std::string>;

struct Show {
    bool visible = true;
    bool points = true, edges = true, faces = true, labels = false;
    std::string colour_by;  // a field's name; empty for the plain colour
    RampStyle ramp;
    std::string label_by;  // the field that labels give; empty for addresses
    int heavier_each = 0;  // of curves on levels: each so many-th level is drawn heavier; 0: none
    MaterialStyle material = {};
    UnknownParts unknown = {};
    bool operator==(const Show&) const = default;
};

}  // namespace plume
