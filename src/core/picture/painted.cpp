#include "core/picture/painted.hpp"

#include "core/picture/draw/drawing.hpp"

namespace plume {

Rgb colour_of(float coordinate, Rgb plain, const RampStyle& ramp) {
    if (coordinate <= first_own_coordinate) return own_colour(coordinate);
    if (coordinate == plain_coordinate) return plain;
    if (!(coordinate >= 0)) return not_a_number_colour;
    return ramp_colour(ramp, static_cast<double>(coordinate));
}

std::vector<Rgb> painted(const std::vector<Field>& fields, const std::string& in_hand, const Paint& paint) {
    Drawable told;
    const Colours colours(fields, paint.colour_by, in_hand, told, [](std::size_t) { return true; });
    const std::size_t count = fields.empty() ? 0 : fields.front().values.size();
    if (count == 0 || colours.at(0) == plain_coordinate) return {};
    std::vector<Rgb> result(count);
    for (std::size_t at = 0; at < count; ++at)
        result[at] = colour_of(colours.at(at), plain_colour, paint.ramp);
    return result;
}

PaintedMesh painted(const Mesh& mesh, const Paint& paint) {
    if (colours_faces(mesh, paint.colour_by)) return {{}, painted(mesh.face_fields(), "", paint)};
    return {painted(mesh.fields(), "", paint), {}};
}

}  // namespace plume
