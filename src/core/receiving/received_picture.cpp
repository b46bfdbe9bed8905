#include "core/receiving/received_picture.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "core/geometry/curves/curve_interpolation.hpp"
#include "core/geometry/meshes/joined_meshes.hpp"
#include "core/geometry/moves/transformed.hpp"

namespace plume {
namespace {

// What arrives without a colour.
constexpr std::array plain_grey{0.72, 0.71, 0.68};

// Foley et al., Computer Graphics, 2nd ed. 1990, 13.3.4.
struct HueColour {
    double hue_rad = 0, saturation = 0, brightness = 0;
};
HueColour hue_colour(const std::array<double, 3>& rgb) {
    const auto [red, green, blue] = rgb;
    const double most = std::max({red, green, blue}), span = most - std::min({red, green, blue});
    HueColour made{0, most > 0 ? span / most : 0, most};
    if (span <= 0) return made;
    const double sixths = most == red     ? (green - blue) / span
                          : most == green ? 2 + (blue - red) / span
                                          : 4 + (red - green) / span;
    made.hue_rad = sixths * std::numbers::pi / 3;
    return made;
}

// The fields that stand for colours of their own (picture/own_colours.hpp), an entry at a time.
class ColourFields {
public:
    void add(const Received::Part& part, std::size_t count) {
        const HueColour colour = hue_colour(part.taken->element.colour.value_or(plain_grey));
        hue_.insert(hue_.end(), count, colour.hue_rad);
        saturation_.insert(saturation_.end(), count, colour.saturation);
        brightness_.insert(brightness_.end(), count, colour.brightness);
    }
    std::vector<Field> take() {
        return {{"hue", Column(std::move(hue_)), an_angle},
                {"saturation", Column(std::move(saturation_)), plain_number},
                {"brightness", Column(std::move(brightness_)), plain_number}};
    }

private:
    Doubles hue_, saturation_, brightness_;
};

Result<std::shared_ptr<const Drawable>> drawn(const Value& value, const Run& run) {
    Result<Drawable> made = make_drawable(value, {}, run);
    if (!made) return made.error();
    return std::make_shared<const Drawable>(*std::move(made));
}

// Facets of an element are one part.
Result<Mesh> scaled(const Mesh& mesh, double scale) {
    if (scale == 1) return mesh;
    Result<Value> made = transformed(Value(mesh), scaled_about({}, {scale, scale, scale}));
    if (!made) return made.error();
    return std::get<Mesh>(*std::move(made));
}

}  // namespace

Result<ReceivedPicture> picture_of(const std::vector<Received::Part>& parts,
                                   const std::vector<std::uint8_t>& shown, const Run& run) {
    ReceivedPicture picture;
    std::vector<Mesh> shapes;
    ColourFields colours;
    CurveSet axes;
    for (std::size_t at = 0; at < parts.size(); ++at) {
        if (!shown.empty() && shown[at] == 0) continue;
        if (run.cancelled()) return cancelled_error();
        const BuildingElement& element = parts[at].taken->element;
        if (element.facets && element.facets->face_count() > 0) {
            Result<Mesh> shape = scaled(*element.facets, parts[at].scale);
            if (!shape) return shape.error();
            colours.add(parts[at], shape->face_count());
            shapes.push_back(*std::move(shape));
            picture.shape_parts.push_back(at);
        }
        if (element.axis.size() < 2) continue;
        std::vector<Vec3> places = element.axis;
        for (Vec3& place : places)
            place = place * parts[at].scale;
        ColourFields along;
        along.add(parts[at], places.size());
        Result<SplineCurve> axis =
            curve_through({std::move(places), along.take(), {}, false}, CurveShape::straight);
        if (!axis) continue;  // without a length
        axes.curves.push_back(*std::move(axis));
        picture.axis_parts.push_back(at);
    }
    if (!shapes.empty()) {
        Result<Mesh> mesh = joined(shapes);
        if (!mesh) return mesh.error();
        Mesh::Parts coloured = mesh->parts();
        coloured.face_fields = colours.take();
        mesh = Mesh::make(std::move(coloured));
        if (!mesh) return mesh.error();
        auto made = drawn(Value(*std::move(mesh)), run);
        if (!made) return made.error();
        picture.shapes = *std::move(made);
    }
    if (!axes.curves.empty()) {
        auto made = drawn(Value(std::move(axes)), run);
        if (!made) return made.error();
        picture.axes = *std::move(made);
    }
    return picture;
}

}  // namespace plume
