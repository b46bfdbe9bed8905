#include "core/data/mesh.hpp"

#include <algorithm>
#include <functional>

#include "core/base/lane_reach.hpp"
#include "core/base/parallel.hpp"

namespace plume {
namespace {

Error broken(std::string message) {
    return {ErrorCode::broken_invariant, "A mesh", std::move(message), ""};
}

// Faces of files may have corners by the million; only small ones are compared pair by pair.
bool has_repeated_corner(std::span<const std::uint32_t> corners) {
    if (corners.size() > 32) {
        std::vector<std::uint32_t> sorted(corners.begin(), corners.end());
        std::ranges::sort(sorted);
        return std::ranges::adjacent_find(sorted) != sorted.end();
    }
    for (std::size_t a = 0; a < corners.size(); ++a)
        for (std::size_t b = a + 1; b < corners.size(); ++b)
            if (corners[a] == corners[b]) return true;
    return false;
}

const char* fault_of(const Mesh::Parts& parts, std::size_t face) {
    const std::uint32_t begin = parts.first[face], end = parts.first[face + 1];
    if (end < begin || end > parts.corners.size() || end - begin < 3)
        return "has a face with fewer than three corners";
    const auto corners = std::span(parts.corners).subspan(begin, end - begin);
    for (const std::uint32_t corner : corners)
        if (corner >= parts.x.size()) return "has a corner that is not a vertex";
    return has_repeated_corner(corners) ? "has a face that uses a vertex twice" : nullptr;
}

// What is wrong with the first faulty face, or nullptr.
const char* first_fault(const Mesh::Parts& parts) {
    const std::size_t faces = parts.first.size() - 1;
    std::vector<const char*> faults(faces / usual_block + 1, nullptr);
    parallel_blocks(faces, usual_block, Run(), [&](std::size_t begin, std::size_t end) {
        for (std::size_t face = begin; face < end && !faults[begin / usual_block]; ++face)
            faults[begin / usual_block] = fault_of(parts, face);
    });
    const auto found = std::ranges::find_if(faults, [](const char* fault) { return fault != nullptr; });
    return found == faults.end() ? nullptr : *found;
}

bool parts_follow(const Mesh::Parts& parts) {
    const auto& starts = parts.part_starts;
    if (starts.empty()) return true;
    const bool rising = std::ranges::adjacent_find(starts, std::ranges::greater_equal()) == starts.end();
    return rising && starts.front() == 0 && starts.back() < parts.first.size() - 1;
}

}  // namespace

Result<Mesh> Mesh::make(Parts parts) {
    const std::size_t vertices = parts.x.size();
    if (parts.y.size() != vertices || parts.z.size() != vertices)
        return broken("needs x, y and z per vertex");
    for (const Field& field : parts.fields)
        if (field.values.size() != vertices)
            return broken("needs one number of ‘" + field.name + "’ per vertex");
    if (parts.first.empty() || parts.first.front() != 0 || parts.first.back() != parts.corners.size())
        return broken("has faces that do not cover their corners");
    for (const Field& field : parts.face_fields)
        if (field.values.size() + 1 != parts.first.size())
            return broken("needs one number of ‘" + field.name + "’ per face");
    if (const char* fault = first_fault(parts)) return broken(fault);
    if (!parts_follow(parts)) return broken("has parts that do not follow each other");
    if (parts.part_starts.size() == 1) parts.part_starts.clear();
    if (parts.part_marks && parts.part_marks->count != std::max<std::size_t>(parts.part_starts.size(), 1))
        parts.part_marks = nullptr;
    return Mesh(std::make_shared<const Parts>(std::move(parts)));
}

PartMarksPointer marks_of(const PartMarksPointer& marks, const std::vector<std::uint8_t>& kept) {
    if (!marks) return nullptr;
    std::vector<std::size_t> of;
    for (std::size_t part = 0; part < kept.size(); ++part)
        if (kept[part] != 0) of.push_back(part);
    PartMarks left{of.size(), [marks, of](std::size_t part) { return marks->mark(of[part]); }};
    left.grown = marks->grown;
    if (marks->why) left.why = [marks, of = std::move(of)](std::size_t part) { return marks->why(of[part]); };
    return std::make_shared<const PartMarks>(std::move(left));
}

std::string Mesh::part_mark(std::size_t index) const {
    return part_marks() ? part_marks()->mark(index) : std::to_string(index);
}

Mesh Mesh::with_marks(std::function<std::string(std::size_t part)> mark) const {
    auto parts = std::make_shared<Parts>(*parts_);
    parts->part_marks = std::make_shared<const PartMarks>(PartMarks{part_count(), std::move(mark)});
    return Mesh(std::move(parts));
}

Mesh::Faces Mesh::part(std::size_t index) const {
    const auto& starts = parts_->part_starts;
    if (starts.empty()) return {0, face_count()};
    return {starts[index], index + 1 < starts.size() ? starts[index + 1] : face_count()};
}

std::size_t Mesh::part_of(std::size_t face) const {
    const auto& starts = parts_->part_starts;
    if (starts.empty()) return 0;
    return static_cast<std::size_t>(std::ranges::upper_bound(starts, face) - starts.begin()) - 1;
}

Box Mesh::bounds() const {
    using Reach = LaneReach<double, 4>;
    const Reach along_x(x().span()), along_y(y().span()), along_z(z().span());
    if (along_x.all_finite() && along_y.all_finite() && along_z.all_finite())
        return {{along_x.low(), along_y.low(), along_z.low()},
                {along_x.high(), along_y.high(), along_z.high()}};
    Box box;
    for (std::size_t index = 0; index < vertex_count(); ++index)
        box.include(vertex(index));
    return box;
}

Vec3 area_vector(const Mesh& mesh, std::size_t face) {
    const auto corners = mesh.face(face);
    const Vec3 origin = mesh.vertex(corners[0]);
    Vec3 sum;
    for (std::size_t corner = 1; corner + 1 < corners.size(); ++corner)
        sum = sum + cross(mesh.vertex(corners[corner]) - origin, mesh.vertex(corners[corner + 1]) - origin);
    return sum * 0.5;
}

std::vector<Vec3> vertex_normals(const Mesh& mesh) {
    std::vector<Vec3> normals(mesh.vertex_count());
    for (std::size_t face = 0; face < mesh.face_count(); ++face) {
        const Vec3 normal = area_vector(mesh, face);
        for (const std::uint32_t corner : mesh.face(face))
            normals[corner] = normals[corner] + normal;
    }
    for (Vec3& normal : normals)
        normal = unit_or_zero(normal);
    return normals;
}

double area(const Mesh& mesh) {
    double sum = 0;
    for (std::size_t face = 0; face < mesh.face_count(); ++face)
        sum += length(area_vector(mesh, face));
    return sum;
}

}  // namespace plume
