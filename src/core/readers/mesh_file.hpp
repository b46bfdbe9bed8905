#pragma once
// Meshes from files: OBJ, STL, PLY, glTF, GLB and 3MF, by what the file begins with, whatever it is called.
//
// Coordinates are the file's: nothing is converted or turned, since a file may say no unit and the reader of
// the file decides what it is. Faces are polygons as they stand; STL, which has loose triangles, gets the
// vertices that lie at the very same place put together. Numbers of vertices and faces become fields, colours
// the fields red, green and blue from 0 to 1 (linear in glTF, as they stand elsewhere).
//
// Nothing outside the file's folder is opened, nothing is fetched. What has to be left out is told in
// `losses`.

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

#include "core/base/run.hpp"
#include "core/data/mesh.hpp"

namespace plume {

struct MeshFile {
    Mesh mesh;
    std::vector<std::string> part_names;    // of each part of the mesh: groups, objects, nodes
    std::optional<double> metres_per_unit;  // nothing where the file states no unit
    bool y_up = false;                      // as its format or the file says; else z is
    std::vector<std::string> materials;     // those of the numbers 1, 2, … in its faces' field `material`
    std::vector<std::string> losses;        // sentences
    std::vector<std::filesystem::path> companions;  // further files that were read
};

// Errors: file_missing, file_unreadable; file_damaged where it ends early or says what cannot be, naming the
// line, element or accessor; file_too_large; empty_input without a face; cancelled. O(bytes).
Result<MeshFile> read_mesh_file(const std::filesystem::path& path, const Run& run);
// Of bytes that stand for a file of that name, of all formats but 3MF; what it refers to is looked up in that
// folder.
Result<MeshFile> read_mesh_bytes(std::string bytes, const std::filesystem::path& path, const Run& run);

}  // namespace plume
