#include "core/steps/handoff/delivery_support.hpp"

namespace plume {
StepKind give_mesh() {
    return {
        .key = "handoff.mesh",
        .verb = "Give a mesh",
        .synonyms = "gltf glb obj ply stl facets render scene hand off deliver export",
        .sentence = std::string("Give {results} as a mesh, ") + facets_words +
                    ", as {format}[format=.ply,.obj| in {unit}], to {file}.",
        .slots = {results_slot("results", "Results", movable_kinds()),
                  format_slot(
                      {{".glb", "glTF", "one file with parts, materials, colours and numbers, in metres"},
                       {".obj", "OBJ", "with its materials in a file beside"},
                       {".ply", "PLY", "one result with all its numbers"}}),
                  delivered_unit_slot(LengthUnit::metre), facets_slot(), within_slot(), file_name_slot()},
        .results = {Kind::delivery},
        .result_name = "mesh_file",
        .help =
            "Facets, lines and points for scenes and further work, with names, materials and colours as the "
            "format can hold them.",
        .make = plain_delivery,
    };
}

}  // namespace plume
