#pragma once
// What a delivery consists of, part by part: parts of meshes, bodies, patches, curves, members of frames;
// points and what stands on them as a whole. Each has a mark that stays, and a fingerprint of everything that
// arrives of it: two deliveries with the same fingerprint under the same mark hold the same part.

#include <string>
#include <vector>

#include "core/base/run.hpp"
#include "core/data/box.hpp"
#include "core/data/delivery.hpp"

namespace plume {

struct HandedPart {
    std::string mark;  // "canopy", "panels 12", "frame 3,2–4,2"
    std::string as;    // its class, where the delivery gives it one
    std::string material;
    Hash fingerprint;
    // What tells it best: "volume" of what is closed, "area", "length", "count"; study lengths.
    std::string figure;
    Quantity value;
    Box where = {};  // around it, nearly; empty for numbers
};

// Errors: cancelled; those of integrals over patches. O(size).
Result<std::vector<HandedPart>> handed_parts(const DeliveryContent& delivery, const Run& run);

}  // namespace plume
