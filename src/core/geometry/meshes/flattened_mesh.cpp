#include "core/geometry/meshes/flattened_mesh.hpp"

#include <Eigen/Sparse>
#include <Eigen/SparseCholesky>

#include <algorithm>
#include <array>
#include <cmath>
#include <complex>

#include "core/geometry/meshes/mesh_pieces.hpp"
#include "core/geometry/meshes/mesh_sides.hpp"
#include "core/geometry/meshes/triangulate.hpp"

namespace plume {
namespace {

using Matrix = Eigen::SparseMatrix<double>;
using Flat = std::complex<double>;  // a place or direction in the plane

constexpr int most_rounds = 300;
constexpr double settled = 1e-8;  // of the size: no place moves by more

struct Triangle {
    std::array<std::uint32_t, 3> corners;
    std::array<Flat, 3> sides;  // of itself laid flat, the n-th across from corner n, anticlockwise
    double area = 0;
    std::uint32_t face = 0;
};

// Half the angle of a circle's arc over a chord is that whose sine is half of how much the normals at its
// ends differ along it.
double length_between(const Mesh& mesh, std::span<const Vec3> normals, std::uint32_t from, std::uint32_t to) {
    const Vec3 chord = mesh.vertex(to) - mesh.vertex(from);
    const double straight = length(chord);
    if (normals.empty() || !(straight > 0)) return straight;
    const double sine =
        std::clamp(std::abs(dot(normals[to] - normals[from], chord)) / straight / 2, 0.0, 0.9);
    return sine > 1e-9 ? straight * std::asin(sine) / sine : straight;
}

// Those without area say nothing and are left out.
std::vector<Triangle> triangles_of(const Mesh& mesh, std::span<const Vec3> normals) {
    std::vector<Triangle> triangles;
    double all = 0;
    for (std::uint32_t face = 0; face < mesh.face_count(); ++face) {
        const auto corners = mesh.face(face);
        for_each_triangle(mesh, face, [&](std::uint32_t a, std::uint32_t b, std::uint32_t c) {
            Triangle one{{corners[a], corners[b], corners[c]}, {}, 0, face};
            const auto between = [&](std::size_t from, std::size_t to) {
                return length_between(mesh, normals, one.corners[from], one.corners[to]);
            };
            const double base = between(0, 1), left = between(0, 2), right = between(1, 2);
            if (!(base > 0)) return;
            // By the law of cosines.
            const double along = (base * base + left * left - right * right) / (2 * base);
            const double up = std::sqrt(std::max(0.0, left * left - along * along));
            one.area = base * up / 2;
            if (!(one.area > 0)) return;
            const Flat p0{0, 0}, p1{base, 0}, p2{along, up};
            one.sides = {p2 - p1, p0 - p2, p1 - p0};
            all += one.area;
            triangles.push_back(one);
        });
    }
    const double least = 1e-14 * all;
    std::erase_if(triangles, [&](const Triangle& one) { return one.area <= least; });
    return triangles;
}

Error no_disc(const char* why, const char* mend) {
    return {ErrorCode::unlike_arrangement, "", why, mend};
}

// Whether it is one piece with one rim and no hole: by Euler's number.
Status check_disc(const Mesh& mesh) {
    const MeshSides sides = sides_of(mesh);
    std::size_t open = 0;
    for (std::size_t side = 0; side < sides.count(); ++side) {
        if (sides.face_count(side) > 2)
            return no_disc("has an edge of more than two faces", "Mend the mesh first.");
        open += sides.face_count(side) == 1 ? 1 : 0;
    }
    if (open == 0) return no_disc("is closed all around and cannot be laid out", "Keep a part of its faces.");
    std::vector<std::uint8_t> used(mesh.vertex_count(), 0);
    for (const std::uint32_t corner : mesh.parts().corners)
        used[corner] = 1;
    const auto vertices = static_cast<std::ptrdiff_t>(std::ranges::count(used, 1));
    if (vertices - static_cast<std::ptrdiff_t>(sides.count()) +
            static_cast<std::ptrdiff_t>(mesh.face_count()) !=
        1)
        return no_disc("goes round a hole or runs through itself",
                       "Cut it open, or keep a part of its faces.");
    return Done{};
}

// The two vertices that stand farthest apart, nearly: they hold the map in place.
std::array<std::uint32_t, 2> far_apart(const Mesh& mesh, const std::vector<Triangle>& triangles) {
    const auto farthest = [&](std::uint32_t from) {
        std::uint32_t best = from;
        for (const Triangle& one : triangles)
            for (const std::uint32_t corner : one.corners)
                if (length(mesh.vertex(corner) - mesh.vertex(from)) >
                    length(mesh.vertex(best) - mesh.vertex(from)))
                    best = corner;
        return best;
    };
    const std::uint32_t first = farthest(triangles.front().corners[0]);
    return {first, farthest(first)};
}

// Numbers of the vertices that triangles have, and how many they are.
struct Numbered {
    std::vector<int> of_vertex;
    int count = 0;
};
Numbered numbered(const Mesh& mesh, const std::vector<Triangle>& triangles) {
    Numbered all{std::vector<int>(mesh.vertex_count(), -1), 0};
    for (const Triangle& one : triangles)
        for (const std::uint32_t corner : one.corners)
            if (all.of_vertex[corner] < 0) all.of_vertex[corner] = all.count++;
    return all;
}

class Layout {
public:
    Layout(const Mesh& mesh, std::vector<Triangle> triangles)
        : mesh_(mesh),
          triangles_(std::move(triangles)),
          numbers_(numbered(mesh, triangles_)),
          places_(static_cast<std::size_t>(numbers_.count)) {}

    const std::vector<Triangle>& triangles() const { return triangles_; }
    Flat at(std::uint32_t vertex) const { return places_[index_of(vertex)]; }
    bool has(std::uint32_t vertex) const { return numbers_.of_vertex[vertex] >= 0; }
    void change(const std::function<Flat(Flat)>& to) {
        for (Flat& place : places_)
            place = to(place);
    }
    const std::vector<Flat>& places() const { return places_; }

    // Sum over triangles of |sum over corners of place * side|^2 / area, with two places given.
    bool keep_angles() {
        const auto pins = far_apart(mesh_, triangles_);
        const int pin_a = number_of(pins[0]), pin_b = number_of(pins[1]);
        const double span = length(mesh_.vertex(pins[1]) - mesh_.vertex(pins[0]));
        // Real and imaginary parts are unknowns of their own; those of the pins are known.
        std::vector<int> column(static_cast<std::size_t>(numbers_.count), -1);
        int free = 0;
        for (int number = 0; number < numbers_.count; ++number)
            if (number != pin_a && number != pin_b) column[static_cast<std::size_t>(number)] = free++;
        std::vector<Eigen::Triplet<double>> entries;
        const int equations = 2 * static_cast<int>(triangles_.size()), unknowns = 2 * free;
        Eigen::VectorXd right = Eigen::VectorXd::Zero(equations);
        int real = 0;  // its row, with that of the imaginary part behind it
        for (const Triangle& one : triangles_) {
            const double scale = 1 / std::sqrt(2 * one.area);
            for (std::size_t corner = 0; corner < 3; ++corner) {
                const int number = number_of(one.corners[corner]);
                const Flat share = one.sides[corner] * scale;
                if (number == pin_a) continue;  // at 0
                if (number == pin_b) {
                    right[real] -= share.real() * span;
                    right[real + 1] -= share.imag() * span;
                    continue;
                }
                const int x = 2 * column[static_cast<std::size_t>(number)];
                entries.emplace_back(real, x, share.real());
                entries.emplace_back(real, x + 1, -share.imag());
                entries.emplace_back(real + 1, x, share.imag());
                entries.emplace_back(real + 1, x + 1, share.real());
            }
            real += 2;
        }
        Matrix system(equations, unknowns);
        system.setFromTriplets(entries.begin(), entries.end());
        const Matrix normal = system.transpose() * system;
        const Eigen::SimplicialLDLT<Matrix> solver(normal);
        if (solver.info() != Eigen::Success) return false;
        const Eigen::VectorXd found = solver.solve(system.transpose() * right);
        for (int number = 0; number < numbers_.count; ++number) {
            const int x = 2 * column[static_cast<std::size_t>(number)];
            places_[static_cast<std::size_t>(number)] = number == pin_a   ? Flat{0, 0}
                                                        : number == pin_b ? Flat{span, 0}
                                                                          : Flat{found[x], found[x + 1]};
        }
        scale_to_area();
        return std::ranges::all_of(
            places_, [](Flat place) { return std::isfinite(place.real()) && std::isfinite(place.imag()); });
    }

    Status keep_lengths(const Run& run) {
        // Cotangents of the angles are the weights; the last place is held where it is.
        const int count = numbers_.count;
        std::vector<Eigen::Triplet<double>> entries;
        for (const Triangle& one : triangles_)
            for (std::size_t corner = 0; corner < 3; ++corner) {
                const double weight = cotangent(one, corner);
                const int a = number_of(one.corners[(corner + 1) % 3]),
                          b = number_of(one.corners[(corner + 2) % 3]);
                for (const auto& [from, to] : {std::pair(a, b), std::pair(b, a)}) {
                    if (from == count - 1) continue;
                    entries.emplace_back(from, from, weight);
                    if (to != count - 1) entries.emplace_back(from, to, -weight);
                }
            }
        Matrix system(count - 1, count - 1);
        system.setFromTriplets(entries.begin(), entries.end());
        const Eigen::SimplicialLDLT<Matrix> solver(system);
        if (solver.info() != Eigen::Success) return Done{};  // the angles are kept, at least
        const double size = std::sqrt(area());
        for (int round = 0; round < most_rounds; ++round) {
            if (run.cancelled()) return cancelled_error();
            run.report(static_cast<double>(round) / most_rounds);
            Eigen::MatrixXd right = Eigen::MatrixXd::Zero(count - 1, 2);
            const Flat held = places_.back();
            for (const Triangle& one : triangles_) {
                const Flat turn = turn_of(one);
                for (std::size_t corner = 0; corner < 3; ++corner) {
                    const double weight = cotangent(one, corner);
                    const int a = number_of(one.corners[(corner + 1) % 3]),
                              b = number_of(one.corners[(corner + 2) % 3]);
                    const Flat side = turn * one.sides[corner] * weight;  // from a to b
                    add(right, a, -side, b == count - 1 ? held * weight : Flat{});
                    add(right, b, side, a == count - 1 ? held * weight : Flat{});
                }
            }
            const Eigen::MatrixXd found = solver.solve(right);
            double most = 0;
            for (int number = 0; number + 1 < count; ++number) {
                const Flat to{found(number, 0), found(number, 1)};
                if (!std::isfinite(to.real()) || !std::isfinite(to.imag())) return Done{};
                most = std::max(most, std::abs(to - places_[static_cast<std::size_t>(number)]));
                places_[static_cast<std::size_t>(number)] = to;
            }
            if (most <= settled * size) break;
        }
        return Done{};
    }

    // The two singular values of the map on a triangle; the smaller one is below 0 where it turns over.
    std::array<double, 2> stretches(const Triangle& one) const {
        // With complex sides s and images t the map is z -> p z + q conj(z).
        const Flat s1 = one.sides[1], s2 = one.sides[2], t1 = image(one, 1), t2 = image(one, 2);
        const Flat under = s1 * std::conj(s2) - s2 * std::conj(s1);
        const Flat p = (t1 * std::conj(s2) - t2 * std::conj(s1)) / under, q = (s1 * t2 - s2 * t1) / under;
        return {std::abs(p) + std::abs(q), std::abs(p) - std::abs(q)};
    }

private:
    std::size_t index_of(std::uint32_t vertex) const {
        return static_cast<std::size_t>(numbers_.of_vertex[vertex]);
    }
    int number_of(std::uint32_t vertex) const { return numbers_.of_vertex[vertex]; }
    Flat image(const Triangle& one, std::size_t corner) const {
        return at(one.corners[(corner + 2) % 3]) - at(one.corners[(corner + 1) % 3]);
    }
    double area() const {
        double sum = 0;
        for (const Triangle& one : triangles_)
            sum += one.area;
        return sum;
    }
    void scale_to_area() {
        double flat = 0;
        for (const Triangle& one : triangles_)
            flat += std::imag(std::conj(image(one, 0)) * image(one, 1)) / 2;
        if (!(std::abs(flat) > 0)) return;
        const double scale = std::sqrt(area() / std::abs(flat));
        for (Flat& place : places_)
            place = (flat < 0 ? std::conj(place) : place) * scale;
    }
    static double cotangent(const Triangle& one, std::size_t corner) {
        // Of the angle at the corner, between the two other sides.
        const Flat a = one.sides[(corner + 2) % 3], b = -one.sides[(corner + 1) % 3];
        return std::real(std::conj(a) * b) / (2 * one.area);
    }
    // The turn that fits the sides to their images best (weighed by cotangents).
    Flat turn_of(const Triangle& one) const {
        Flat sum;
        for (std::size_t corner = 0; corner < 3; ++corner)
            sum += cotangent(one, corner) * image(one, corner) * std::conj(one.sides[corner]);
        const double size = std::abs(sum);
        return size > 0 ? sum / size : Flat{1, 0};
    }
    static void add(Eigen::MatrixXd& right, int row, Flat side, Flat held) {
        if (row >= right.rows()) return;
        right(row, 0) += side.real() + held.real();
        right(row, 1) += side.imag() + held.imag();
    }

    const Mesh& mesh_;
    std::vector<Triangle> triangles_;
    Numbered numbers_;
    std::vector<Flat> places_;
};

// Its longer way along X, about the origin.
void settle(Layout& layout) {
    Flat middle;
    for (const Flat place : layout.places())
        middle += place / static_cast<double>(layout.places().size());
    Flat spread;  // twice the angle of the longer way, as a direction
    for (const Flat place : layout.places())
        spread += (place - middle) * (place - middle);
    const Flat turn = std::abs(spread) > 0 ? std::polar(1.0, -std::arg(spread) / 2) : Flat{1, 0};
    layout.change([&](Flat place) { return (place - middle) * turn; });
}

FlatMesh flat_mesh(const Mesh& mesh, const Layout& layout) {
    Doubles x(mesh.vertex_count(), 0.0), y(x.size(), 0.0), z(x.size(), 0.0);
    for (std::uint32_t vertex = 0; vertex < x.size(); ++vertex)
        if (layout.has(vertex)) {
            x[vertex] = layout.at(vertex).real();
            y[vertex] = layout.at(vertex).imag();
        }
    FlatMesh flat{mesh, 0, 0, 0};
    Doubles stretch(mesh.face_count(), 0.0), squeeze(mesh.face_count(), 0.0);
    std::vector<std::uint8_t> over(mesh.face_count(), 0);
    for (const Triangle& one : layout.triangles()) {
        const auto [most, least] = layout.stretches(one);
        stretch[one.face] = std::max(stretch[one.face], most - 1);
        squeeze[one.face] = std::min(squeeze[one.face], least - 1);
        if (least < 0) over[one.face] = 1;
    }
    flat.folded = static_cast<std::size_t>(std::ranges::count(over, 1));
    flat.most_stretch = std::ranges::max(stretch);
    flat.most_squeeze = std::ranges::min(squeeze);
    Mesh::Parts parts = mesh.parts();
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    std::erase_if(parts.face_fields,
                  [](const Field& field) { return field.name == "stretch" || field.name == "squeeze"; });
    parts.face_fields.push_back({"squeeze", std::move(squeeze), plain_number});
    parts.face_fields.push_back({"stretch", std::move(stretch), plain_number});
    flat.mesh = *Mesh::make(std::move(parts));
    return flat;
}

}  // namespace

Result<FlatMesh> flattened(const Mesh& mesh, std::span<const Vec3> normals, Flattening how, const Run& run) {
    for (std::size_t vertex = 0; vertex < mesh.vertex_count(); ++vertex)
        if (!is_finite(mesh.vertex(vertex)))
            return Error{ErrorCode::not_finite, "",
                         "has a vertex that is not finite, number " + std::to_string(vertex),
                         "Look at the step that moves it."};
    // Faces that turn against each other would have to be laid on top of each other.
    const Mesh turned = turned_alike(mesh).mesh;
    if (Status disc = check_disc(turned); !disc) return disc.error();
    std::vector<Triangle> triangles = triangles_of(turned, normals);
    if (triangles.empty()) return Error{ErrorCode::too_few_points, "", "has no area", "Choose another."};
    Layout layout(turned, std::move(triangles));
    if (!layout.keep_angles())
        return Error{ErrorCode::too_few_points, "", "cannot be laid out: its faces hang together too loosely",
                     "Mend the mesh first."};
    if (run.cancelled()) return cancelled_error();
    if (how == Flattening::lengths)
        if (Status kept = layout.keep_lengths(run); !kept) return kept.error();
    settle(layout);
    return flat_mesh(turned, layout);
}

}  // namespace plume
