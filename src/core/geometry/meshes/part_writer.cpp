#include "core/geometry/meshes/part_writer.hpp"

#include <algorithm>
#include <array>
#include <limits>

#include "core/base/parallel.hpp"

namespace plume {

void PartWriter::add_part(PartSize size) {
    before_.push_back(all_);
    all_.vertices += size.vertices;
    all_.faces += size.faces;
    all_.corners += size.corners;
}

void PartWriter::At::face(std::span<const std::uint32_t> around) {
    std::ranges::copy(around, to_.corners_.begin() + static_cast<std::ptrdiff_t>(corner_));
    corner_ += around.size();
    to_.first_[++face_] = static_cast<std::uint32_t>(corner_);
}

void PartWriter::At::triangle(std::uint32_t a, std::uint32_t b, std::uint32_t c) {
    face(std::array{a, b, c});
}

void PartWriter::At::quad(std::uint32_t a, std::uint32_t b, std::uint32_t c, std::uint32_t d) {
    face(std::array{a, b, c, d});
}

Status PartWriter::write(const std::function<void(std::size_t part, At to)>& write_part, const Run& run) {
    if (all_.corners > std::numeric_limits<std::uint32_t>::max())
        return Error{ErrorCode::over_budget, "", "would have more than 4 294 967 295 corners",
                     "Make fewer of them."};
    x_.resize(all_.vertices);
    y_.resize(all_.vertices);
    z_.resize(all_.vertices);
    first_.resize(all_.faces + 1);
    first_[0] = 0;
    corners_.resize(all_.corners);
    const bool done = parallel_blocks(before_.size(), 1024, run, [&](std::size_t begin, std::size_t end) {
        for (std::size_t part = begin; part < end; ++part)
            write_part(part, At(*this, before_[part]));
    });
    if (!done) return cancelled_error();
    return Done{};
}

Result<Mesh> PartWriter::mesh(const std::vector<Field>& numbers_of_parts,
                              std::vector<Field> numbers_of_vertices) && {
    std::vector<std::uint32_t> starts(before_.size());
    for (std::size_t part = 0; part < starts.size(); ++part)
        starts[part] = static_cast<std::uint32_t>(before_[part].faces);
    std::vector<Field> numbers;
    for (const Field& field : numbers_of_parts) {
        Doubles values(all_.faces);
        for (std::size_t part = 0; part < starts.size(); ++part) {
            const std::size_t end = part + 1 < starts.size() ? starts[part + 1] : all_.faces;
            std::fill(values.data() + starts[part], values.data() + end, field.values[part]);
        }
        numbers.push_back({field.name, std::move(values), field.dimension});
    }
    return Mesh::make({.x = std::move(x_),
                       .y = std::move(y_),
                       .z = std::move(z_),
                       .first = std::move(first_),
                       .corners = std::move(corners_),
                       .fields = std::move(numbers_of_vertices),
                       .part_starts = std::move(starts),
                       .face_fields = std::move(numbers)});
}

}  // namespace plume
