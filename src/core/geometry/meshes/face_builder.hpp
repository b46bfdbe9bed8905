#pragma once
// Faces put together one after the other, from those of a mesh whose parts and numbers they keep.

#include <span>

#include "core/data/gathered.hpp"
#include "core/data/mesh.hpp"

namespace plume {

class FaceBuilder {
public:
    explicit FaceBuilder(const Mesh& from) : from_(from) {}

    // A face that comes of a face of the mesh; faces of one part follow each other.
    void add(std::span<const std::uint32_t> corners, std::size_t of_face) {
        if (from_.part_count() > 1) {
            const std::size_t part = from_.part_of(of_face);
            if (parts_.part_starts.empty() || part != part_)
                parts_.part_starts.push_back(static_cast<std::uint32_t>(face_count()));
            part_ = part;
        }
        parts_.corners.insert(parts_.corners.end(), corners.begin(), corners.end());
        parts_.first.push_back(static_cast<std::uint32_t>(parts_.corners.size()));
        from_faces_.push_back(static_cast<std::uint32_t>(of_face));
    }
    std::size_t face_count() const { return parts_.first.size() - 1; }

    // Over the vertices of the mesh.
    Result<Mesh> over_its_vertices() && {
        return std::move(*this).over(from_.x(), from_.y(), from_.z(), from_.fields());
    }
    // Over others.
    Result<Mesh> over(Column x, Column y, Column z, std::vector<Field> fields) && {
        parts_.x = std::move(x);
        parts_.y = std::move(y);
        parts_.z = std::move(z);
        parts_.fields = std::move(fields);
        parts_.face_fields = gathered(from_.face_fields(), from_faces_);
        return Mesh::make(std::move(parts_));
    }

private:
    const Mesh& from_;
    Mesh::Parts parts_;
    std::vector<std::uint32_t> from_faces_;
    std::size_t part_ = 0;
};

// Without the vertices that no face has.
Mesh without_loose_vertices(const Mesh& mesh);

}  // namespace plume
