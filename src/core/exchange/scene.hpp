#pragma once
// Results as formats of forms hold them: facets, lines or points, and the colours they are seen in.

#include "core/exchange/export.hpp"
#include "core/picture/ramp.hpp"

namespace plume {

// Colours are empty where nothing but the plain one is seen. Places are in study lengths; times the job's
// scale they are finite and within what was asked.
struct SceneObject {
    std::string name;
    Written form;
    std::optional<Material> material;
    Rgb plain;
    std::vector<Rgb> vertex_colours, face_colours;  // of facets: one of the two
    std::vector<Rgb> place_colours;                 // of points, places of lines, nodes of bars
    std::vector<Rgb> bar_colours;
    const Value* value = nullptr;  // of the job
};

// Errors: nothing_to_write, not_finite (with the first place), out_of_range (further out than `largest` along
// an axis); those of sampling; cancelled. Each names its result.
Result<std::vector<SceneObject>> scene_of(const ExportJob& job, double largest, const Run& run);

// All places that there are.
Box bounds_of(const std::vector<SceneObject>& scene);

// Errors: not_finite, out_of_range beyond `largest` along an axis, naming `what` ("vertex") by its number
// from 1.
Status check_place(Vec3 place, double largest, const char* what, std::size_t index);

// What is written at the items of an object where its labels are shown, places in study lengths.
struct SceneLabel {
    Vec3 place;
    std::string text;
};
std::vector<SceneLabel> labels_of(const SceneObject& object, const Show& show, const Units& units);

// The pairs of neighbours among the places of all lines, one after the other; closed ones come back.
std::vector<std::array<std::uint32_t, 2>> edges_of(const std::vector<WrittenLine>& lines);

// What formats that keep places as floats can hold.
inline constexpr double largest_float = 3.4028234663852886e38;

// The colours of faces as those of vertices, where all faces around each are alike; else empty.
std::vector<Rgb> colours_at_vertices(const Mesh& mesh, const std::vector<Rgb>& of_faces);

}  // namespace plume
