#pragma once
// Mesh: polygon faces over shared vertices.
//
// Layout. x, y, z: one entry per vertex. Face f has the corners corners[first[f]] .. corners[first[f+1]-1],
// anticlockwise seen from outside; `first` has face_count + 1 entries. Fields hold one number per vertex,
// face fields one per face; one name may stand for numbers of both.
// Parts (posts, tubes, copies) are runs of faces: `part_starts` has the first face of each, from 0 on.
// Immutable; safe to read from any number of threads.

#include <cstdint>
#include <functional>
#include <memory>
#include <span>
#include <string>
#include <vector>

#include "core/base/error.hpp"
#include "core/data/box.hpp"
#include "core/data/column.hpp"

namespace plume {

struct PartTree;

// What parts, or bodies, are called as long as they stay what they are, whatever becomes of others: the
// address of the point a post stands on, the ends of a member. Told when asked for; no two are alike.
struct PartMarks {
    std::size_t count = 0;
    std::function<std::string(std::size_t part)> mark;
    // Why a part is there, of what grew: a sentence for each it came of, and for itself. May be empty.
    std::function<std::vector<std::string>(std::size_t part)> why = {};
    // All that grew, what became something else among it; nullptr where nothing did.
    std::shared_ptr<const PartTree> grown = {};
};
using PartMarksPointer = std::shared_ptr<const PartMarks>;
// Those of the parts whose entry in `kept` is not 0; nullptr of nullptr.
PartMarksPointer marks_of(const PartMarksPointer& marks, const std::vector<std::uint8_t>& kept);

class Mesh {
public:
    struct Parts {
        Column x, y, z;
        std::vector<std::uint32_t> first{0};
        std::vector<std::uint32_t> corners;
        std::vector<Field> fields;
        std::vector<std::uint32_t> part_starts = {};  // empty: the mesh is one part
        std::vector<Field> face_fields = {};
        PartMarksPointer part_marks = {};  // nullptr: their numbers; of another count they fall away
    };

    // Checks that faces have at least three different corners, every index exists and parts follow each other
    // and are not empty; broken_invariant. The start of a part that is the only one is left out.
    static Result<Mesh> make(Parts parts);

    std::size_t vertex_count() const { return parts_->x.size(); }
    std::size_t face_count() const { return parts_->first.size() - 1; }
    std::span<const std::uint32_t> face(std::size_t index) const {
        return std::span(parts_->corners)
            .subspan(parts_->first[index], parts_->first[index + 1] - parts_->first[index]);
    }
    std::size_t corner_count() const { return parts_->corners.size(); }
    const Column& x() const { return parts_->x; }
    const Column& y() const { return parts_->y; }
    const Column& z() const { return parts_->z; }
    Vec3 vertex(std::size_t index) const { return {x()[index], y()[index], z()[index]}; }
    const std::vector<Field>& fields() const { return parts_->fields; }
    const std::vector<Field>& face_fields() const { return parts_->face_fields; }
    const Parts& parts() const { return *parts_; }
    Box bounds() const;

    std::size_t part_count() const { return parts_->part_starts.empty() ? 1 : parts_->part_starts.size(); }
    // Faces [begin, end) of a part; the part a face belongs to.
    struct Faces {
        std::size_t begin = 0, end = 0;
    };
    Faces part(std::size_t index) const;
    std::size_t part_of(std::size_t face) const;
    const std::vector<std::uint32_t>& part_starts() const { return parts_->part_starts; }
    const PartMarksPointer& part_marks() const { return parts_->part_marks; }
    // Its number where it has none.
    std::string part_mark(std::size_t index) const;
    // The same with marks for all its parts.
    Mesh with_marks(std::function<std::string(std::size_t part)> mark) const;

private:
    explicit Mesh(std::shared_ptr<const Parts> parts) : parts_(std::move(parts)) {}
    std::shared_ptr<const Parts> parts_;
};

// Area-weighted vertex normals (sum of the faces' area vectors by Newell's method, made unit); zero where a
// vertex belongs to no face of positive area.
std::vector<Vec3> vertex_normals(const Mesh& mesh);
// Area vector of a polygon (Newell): its length is the area of the planar polygon, its direction the normal.
Vec3 area_vector(const Mesh& mesh, std::size_t face);
double area(const Mesh& mesh);

}  // namespace plume
