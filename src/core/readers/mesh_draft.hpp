#pragma once
// A mesh as it comes from a file, before anything of it is believed.

#include <span>
#include <string>
#include <vector>

#include "core/readers/mesh_file.hpp"

namespace plume {

struct MeshDraft {
    // A corner for which the file names no vertex: told with the faces that are left out.
    static constexpr std::uint32_t no_vertex = 0xffffffff;

    Doubles x, y, z;
    std::vector<std::uint32_t> first{0}, corners;
    std::vector<Field> fields, face_fields;
    std::vector<std::uint32_t> part_of;   // a face each, an index of `part_names`; empty: they are one part
    std::vector<std::string> part_names;  // those without a face fall out
    // Set when there are more corners than a mesh can count.
    bool too_large = false;

    void add_vertex(double at_x, double at_y, double at_z) {
        x.push_back(at_x);
        y.push_back(at_y);
        z.push_back(at_z);
    }
    // In the part given; of drafts with parts, all faces name theirs.
    void add_face(std::span<const std::uint32_t> face);
    void add_face(std::span<const std::uint32_t> face, std::uint32_t part) {
        add_face(face);
        part_of.push_back(part);
    }
    std::size_t face_count() const { return first.size() - 1; }
};

// The mesh with its parts and their names. Faces that cannot be (fewer than three corners, corners that are
// not there, or not finite) are left out and told in `losses`, as are vertices that no face has. Corners that
// stand twice one after the other count once. Errors: empty_input without a face; file_too_large; cancelled.
Result<MeshFile> finished(MeshDraft draft, const Run& run);

}  // namespace plume
