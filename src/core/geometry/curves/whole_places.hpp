#pragma once
// Places of a plane as the whole numbers that the Clipper library computes with: a 2^40th of how far they
// reach is told apart.

#include <cmath>
#include <polyclipping/clipper.hpp>
#include <span>
#include <vector>

#include "core/geometry/curves/outline.hpp"

namespace plume {

class WholePlaces {
public:
    explicit WholePlaces(double reach) : scale_(0x1p40 / reach) {}

    double scale() const { return scale_; }
    ClipperLib::Path whole(std::span<const FlatPoint> ring) const {
        ClipperLib::Path path;
        for (const FlatPoint place : ring)
            path.emplace_back(static_cast<ClipperLib::cInt>(std::llround(place.x * scale_)),
                              static_cast<ClipperLib::cInt>(std::llround(place.y * scale_)));
        return path;
    }
    // Paths of fewer than three places bound nothing and are left out.
    std::vector<std::vector<FlatPoint>> rings(const ClipperLib::Paths& paths) const {
        std::vector<std::vector<FlatPoint>> rings;
        for (const ClipperLib::Path& path : paths) {
            if (path.size() < 3) continue;
            auto& ring = rings.emplace_back();
            for (const ClipperLib::IntPoint& point : path)
                ring.push_back(
                    {static_cast<double>(point.X) / scale_, static_cast<double>(point.Y) / scale_});
        }
        return rings;
    }

private:
    double scale_;
};

}  // namespace plume
