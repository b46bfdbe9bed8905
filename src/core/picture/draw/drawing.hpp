#pragma once
// What the drawings of all kinds of results share: colours from numbers, vertices relative to an origin.

#include <algorithm>
#include <cmath>
#include <limits>
#include <optional>
#include <tuple>

#include "core/base/rounding.hpp"
#include "core/picture/creases.hpp"
#include "core/picture/drawable.hpp"
#include "core/picture/own_colours.hpp"

namespace plume {

// The field that colours: the one wished for, else the one in hand, else the last; nullptr for the plain
// colour.
inline const Field* chosen_field(const std::vector<Field>& fields, const std::string& wanted,
                                 const std::string& in_hand) {
    if (wanted == "-" || fields.empty()) return nullptr;
    if (wanted.empty() && in_hand.empty()) return &fields.back();
    const auto found = std::ranges::find(fields, wanted.empty() ? in_hand : wanted, &Field::name);
    return found == fields.end() ? nullptr : &*found;
}

// Maps a field's numbers to colour coordinates.
class Colours {
public:
    // `counts(index)` says whether a number counts for the range, unless that is known already.
    template <class Counts>
    Colours(const std::vector<Field>& fields, const std::string& wanted, const std::string& in_hand,
            Drawable& drawable, Counts counts, std::optional<std::pair<double, double>> range = {}) {
        if (wanted.empty() && in_hand.empty()) own_ = own_colour_coordinates(fields);
        if (own_) return;
        field_ = chosen_field(fields, wanted, in_hand);
        const Field* const field = field_;
        if (!field) return;
        low_ = std::numeric_limits<double>::infinity();
        double high = -low_;
        if (range) std::tie(low_, high) = *range;
        for (std::size_t index = 0; index < field->values.size() && !range; ++index) {
            const double value = field->values[index];
            if (!std::isfinite(value) || !counts(index)) continue;
            low_ = std::min(low_, value);
            high = std::max(high, value);
        }
        if (low_ > high) low_ = high = 0;
        low_ = without_rounding(low_, high - low_);
        high = without_rounding(high, high - low_);
        // What differs by rounding alone is one number.
        if (without_rounding(high - low_, std::max(std::abs(low_), std::abs(high))) == 0) high = low_;
        scale_ = high > low_ ? 1 / (high - low_) : 0;
        drawable.colour_field = field->name;
        drawable.colour_dimension = field->dimension;
        drawable.colour_low = low_;
        drawable.colour_high = high;
    }
    float at(std::size_t index) const {
        if (own_) return (*own_)[index];
        if (!field_) return plain_coordinate;
        const double value = field_->values[index];
        if (!std::isfinite(value)) return not_finite_coordinate;
        // One number everywhere is in the middle of the ramp, not at its darkest end.
        return scale_ > 0 ? static_cast<float>(std::clamp((value - low_) * scale_, 0.0, 1.0)) : 0.5F;
    }

private:
    const Field* field_ = nullptr;
    std::optional<std::vector<float>> own_;
    double low_ = 0, scale_ = 0;
};

// Whether a mesh is coloured by numbers of its faces: the name chosen is one of theirs, or none is and they
// are what it has.
bool colours_faces(const Mesh& mesh, const std::string& wanted);

// Of a mesh: by the numbers of its faces or by its vertices'.
class MeshColours {
public:
    MeshColours(const Mesh& mesh, const std::string& wanted, Drawable& drawable);

    float at(std::size_t face, std::size_t vertex) const { return colours_.at(by_face_ ? face : vertex); }

private:
    bool by_face_;
    Colours colours_;
};

struct Floats {
    float x, y, z;
};
inline Floats relative(Vec3 p, Vec3 origin) {
    const Vec3 d = p - origin;
    return {static_cast<float>(d.x), static_cast<float>(d.y), static_cast<float>(d.z)};
}

inline DrawVertex vertex(Vec3 p, Vec3 origin, Vec3 normal, float colour) {
    const Floats at = relative(p, origin), n = relative(normal, {});
    return {at.x, at.y, at.z, n.x, n.y, n.z, colour};
}

// Takes the bounds, and their centre as the origin.
inline void settle(Drawable& drawable, Box bounds) {
    drawable.bounds = bounds;
    if (!bounds.empty()) drawable.origin = bounds.centre();
}

void add_line(Vec3 from, Vec3 to, float colour, Drawable& drawable);

// Flat facets with their edges, or with the normals and edges that creases give them.
void add_facets(const Mesh& mesh, const std::vector<std::uint32_t>& faces, const Creases* creases,
                const MeshColours& colours, const Run& run, Drawable& drawable);
// A mesh all of whose parts are one shape; false when it is none, or has too many even of boxes.
bool draw_repeats(const Mesh& mesh, const MeshColours& colours, const DrawOptions& options, const Run& run,
                  Drawable& drawable);
Status draw_mesh(const Mesh& mesh, bool creased, const DrawOptions& options, const Run& run,
                 Drawable& drawable);
Status draw_surfaces(const SurfaceSet& set, const DrawOptions& options, const Run& run, Drawable& drawable);
// Of exact bodies: of each face only its rim is an edge.
Status draw_faces(const SolidSet& set, const DrawOptions& options, const Run& run, Drawable& drawable);
void draw_lattice(const PointLattice& lattice, const std::string& in_hand, const DrawOptions& options,
                  Drawable& drawable);
void draw_directions(const DirectionsOnPoints& item, const DrawOptions& options, Drawable& drawable);
void draw_placements(const Placements& placements, const DrawOptions& options, Drawable& drawable);
void draw_attractors(const Attractors& attractors, Drawable& drawable);
void draw_frame(const BarFrame& frame, const DrawOptions& options, Drawable& drawable);
Status draw_curves(const CurveSet& set, const DrawOptions& options, const Run& run, Drawable& drawable);

}  // namespace plume
