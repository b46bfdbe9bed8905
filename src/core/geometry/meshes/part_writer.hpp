#pragma once
// A mesh of many parts whose sizes are known before, written side by side on several threads.

#include <functional>
#include <span>
#include <vector>

#include "core/base/run.hpp"
#include "core/data/mesh.hpp"

namespace plume {

struct PartSize {
    std::size_t vertices = 0, faces = 0, corners = 0;
};

class PartWriter {
public:
    // Parts come in this order.
    void add_part(PartSize size);
    std::size_t part_count() const { return before_.size(); }

    // Writes one part: as many vertices and faces as were said.
    class At {
    public:
        std::uint32_t vertex(Vec3 place) {
            to_.x_[vertex_] = place.x;
            to_.y_[vertex_] = place.y;
            to_.z_[vertex_] = place.z;
            return static_cast<std::uint32_t>(vertex_++);
        }
        void face(std::span<const std::uint32_t> around);
        void triangle(std::uint32_t a, std::uint32_t b, std::uint32_t c);
        void quad(std::uint32_t a, std::uint32_t b, std::uint32_t c, std::uint32_t d);

    private:
        friend class PartWriter;
        At(PartWriter& to, PartSize before)
            : to_(to), vertex_(before.vertices), face_(before.faces), corner_(before.corners) {}
        PartWriter& to_;
        std::size_t vertex_, face_, corner_;
    };
    // Errors: over_budget beyond 2^32 corners; cancelled.
    Status write(const std::function<void(std::size_t part, At to)>& write_part, const Run& run);

    // Faces carry these numbers of their parts, vertices those given in the order they were written in, part
    // by part.
    Result<Mesh> mesh(const std::vector<Field>& numbers_of_parts,
                      std::vector<Field> numbers_of_vertices = {}) &&;

private:
    std::vector<PartSize> before_;  // of each part
    PartSize all_;
    Doubles x_, y_, z_;
    std::vector<std::uint32_t> first_, corners_;
};

}  // namespace plume
