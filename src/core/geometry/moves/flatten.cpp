#include "core/geometry/moves/flatten.hpp"

#include <Eigen/Dense>
#include <algorithm>
#include <deque>

#include "core/base/parallel.hpp"
#include "core/geometry/measures/best_fit.hpp"
#include "core/geometry/meshes/vertex_places.hpp"
#include "core/geometry/surfaces/flatness.hpp"

namespace plume {
namespace {

constexpr std::size_t faces_per_block = 512;

std::vector<Vec3> corners_of(const Mesh& mesh, const std::vector<Vec3>& places, std::size_t face) {
    std::vector<Vec3> corners;
    for (const std::uint32_t corner : mesh.face(face))
        corners.push_back(places[corner]);
    return corners;
}

Vec3 on_plane(Vec3 point, const Placement& plane) {
    return point - plane.up * dot(point - plane.origin, plane.up);
}

double worst_of(const Mesh& mesh) {
    const auto gaps = panel_gaps(mesh, Run());
    return gaps && !gaps->empty() ? *std::ranges::max_element(*gaps) : 0;
}

void add_gap(Mesh::Parts& parts, Doubles moved) {
    std::erase_if(parts.fields, [](const Field& field) { return field.name == "gap"; });
    parts.fields.push_back({"gap", std::move(moved), a_length});
}

Status check(const Mesh& mesh) {
    for (std::size_t vertex = 0; vertex < mesh.vertex_count(); ++vertex)
        if (!is_finite(mesh.vertex(vertex)))
            return Error{ErrorCode::not_finite, "", "A vertex has coordinates that are not finite",
                         "Mend the numbers it comes from."};
    return Done{};
}

// Each vertex where the planes of its faces would have it, on average; and how far off these it was at most.
struct Means {
    std::vector<Vec3> places;
    double worst = 0;
};
Means means_on_planes(const Mesh& mesh, const std::vector<Vec3>& places) {
    Means means{std::vector<Vec3>(places.size()), 0};
    std::vector<double> counts(places.size(), 0);
    for (std::size_t face = 0; face < mesh.face_count(); ++face) {
        const BestFit fit = best_fit(corners_of(mesh, places, face));
        means.worst = std::max(means.worst, fit.worst);
        for (const std::uint32_t corner : mesh.face(face)) {
            means.places[corner] = means.places[corner] + on_plane(places[corner], fit.placement);
            counts[corner] += 1;
        }
    }
    for (std::size_t vertex = 0; vertex < places.size(); ++vertex)
        means.places[vertex] =
            counts[vertex] > 0 ? means.places[vertex] * (1 / counts[vertex]) : places[vertex];
    return means;
}

// Rounds that each go a share of what is left are put together to go nearly all of it (Anderson, Iterative
// procedures for nonlinear integral equations, J. ACM 12, 1965, doi 10.1145/321296.321305; for constraints
// like these: Peng, Deng, Zhang, Geng, Qin, Liu, Anderson acceleration for geometry optimization and physics
// simulation, ACM Trans. Graph. 37(4), 2018, doi 10.1145/3197517.3201290). A round that makes it worse
// forgets those before it.
class Acceleration {
public:
    // Where to go on from, after places and where a round took them.
    std::vector<Vec3> next(const std::vector<Vec3>& from, const std::vector<Vec3>& to) {
        Eigen::VectorXd moved = flat(to) - flat(from), target = flat(to);
        if (had_ && moved.norm() > 1.5 * moved_.norm()) forget();
        if (had_) {
            moved_changes_.push_back(moved - moved_);
            target_changes_.push_back(target - target_);
            if (moved_changes_.size() > remembered) {
                moved_changes_.pop_front();
                target_changes_.pop_front();
            }
        }
        moved_ = moved;
        target_ = target;
        had_ = true;
        return moved_changes_.empty() ? to : points(target - combined());
    }

private:
    static constexpr std::size_t remembered = 8;

    static Eigen::VectorXd flat(const std::vector<Vec3>& places) {
        Eigen::VectorXd all(3 * static_cast<Eigen::Index>(places.size()));
        Eigen::Index at = 0;
        for (const Vec3 place : places) {
            all[at++] = place.x;
            all[at++] = place.y;
            all[at++] = place.z;
        }
        return all;
    }
    static std::vector<Vec3> points(const Eigen::VectorXd& all) {
        std::vector<Vec3> places;
        for (Eigen::Index at = 0; at < all.size(); at += 3)
            places.push_back({all[at], all[at + 1], all[at + 2]});
        return places;
    }
    // The changes of targets, in the shares in which changes of moves make up the present move as well as
    // they can.
    Eigen::VectorXd combined() const {
        const auto count = static_cast<Eigen::Index>(moved_changes_.size());
        Eigen::MatrixXd products(count, count);
        Eigen::VectorXd wanted(count);
        for (Eigen::Index a = 0; a < count; ++a) {
            const Eigen::VectorXd& one = moved_changes_[static_cast<std::size_t>(a)];
            wanted[a] = one.dot(moved_);
            for (Eigen::Index b = 0; b <= a; ++b)
                products(a, b) = products(b, a) = one.dot(moved_changes_[static_cast<std::size_t>(b)]);
        }
        // Changes that are all but alike share their part.
        products.diagonal() *= 1 + 1e-10;
        const Eigen::VectorXd shares = products.ldlt().solve(wanted);
        Eigen::VectorXd sum = Eigen::VectorXd::Zero(moved_.size());
        if (!shares.allFinite()) return sum;
        for (Eigen::Index a = 0; a < count; ++a)
            sum += shares[a] * target_changes_[static_cast<std::size_t>(a)];
        return sum;
    }
    void forget() {
        moved_changes_.clear();
        target_changes_.clear();
        had_ = false;
    }

    bool had_ = false;
    Eigen::VectorXd moved_, target_;
    std::deque<Eigen::VectorXd> moved_changes_, target_changes_;
};

}  // namespace

Result<Flattened> flattened_apart(const Mesh& mesh, const Run& run) {
    if (Status fine = check(mesh); !fine) return fine.error();
    const std::vector<Vec3> old = vertex_places(mesh);
    std::vector<Vec3> places(mesh.corner_count());
    std::vector<std::uint32_t> from(mesh.corner_count());
    Mesh::Parts parts;
    for (std::size_t face = 0; face < mesh.face_count(); ++face) {
        for (const std::uint32_t corner : mesh.face(face)) {
            from[parts.corners.size()] = corner;
            parts.corners.push_back(static_cast<std::uint32_t>(parts.corners.size()));
        }
        parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size()));
    }
    const bool finished =
        parallel_blocks(mesh.face_count(), faces_per_block, run, [&](std::size_t begin, std::size_t end) {
            for (std::size_t face = begin; face < end; ++face) {
                const BestFit fit = best_fit(corners_of(mesh, old, face));
                for (std::uint32_t at = parts.first[face]; at < parts.first[face + 1]; ++at)
                    places[at] = on_plane(old[from[at]], fit.placement);
            }
        });
    if (!finished) return cancelled_error();
    Doubles moved(places.size());
    std::vector<std::vector<Vec3>> at_vertex(mesh.vertex_count());
    for (std::size_t at = 0; at < places.size(); ++at) {
        moved[at] = length(places[at] - old[from[at]]);
        at_vertex[from[at]].push_back(places[at]);
    }
    double worst_gap = 0;
    for (const std::vector<Vec3>& meeting : at_vertex)
        for (std::size_t a = 0; a < meeting.size(); ++a)
            for (std::size_t b = a + 1; b < meeting.size(); ++b)
                worst_gap = std::max(worst_gap, length(meeting[a] - meeting[b]));
    set_vertices(parts, places);
    for (const Field& field : mesh.fields()) {
        Doubles values(from.size());
        for (std::size_t at = 0; at < from.size(); ++at)
            values[at] = field.values[from[at]];
        parts.fields.push_back({field.name, std::move(values), field.dimension});
    }
    add_gap(parts, std::move(moved));
    parts.part_starts = mesh.part_starts();
    Result<Mesh> flat = Mesh::make(std::move(parts));
    if (!flat) return flat.error();
    const double after = worst_of(*flat);
    return Flattened{*std::move(flat), worst_of(mesh), after, worst_gap, 1};
}

Result<Flattened> flattened_together(const Mesh& mesh, double tolerance_abs, std::size_t most_rounds,
                                     const Run& run) {
    if (Status fine = check(mesh); !fine) return fine.error();
    const std::vector<Vec3> old = vertex_places(mesh);
    std::vector<Vec3> places = old;
    const double before = worst_of(mesh);
    double worst = before;
    std::size_t rounds = 0;
    Acceleration acceleration;
    for (; rounds < most_rounds && worst > tolerance_abs; ++rounds) {
        if (run.cancelled()) return cancelled_error();
        run.report(static_cast<double>(rounds) / static_cast<double>(most_rounds));
        auto [means, off] = means_on_planes(mesh, places);
        worst = off;
        if (worst <= tolerance_abs) break;
        places = acceleration.next(places, means);
    }
    Mesh::Parts parts;
    for (std::size_t face = 0; face < mesh.face_count(); ++face) {
        const auto corners = mesh.face(face);
        parts.corners.insert(parts.corners.end(), corners.begin(), corners.end());
        parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size()));
    }
    set_vertices(parts, places);
    parts.fields = mesh.fields();
    Doubles moved(places.size());
    for (std::size_t vertex = 0; vertex < places.size(); ++vertex)
        moved[vertex] = length(places[vertex] - old[vertex]);
    add_gap(parts, std::move(moved));
    parts.part_starts = mesh.part_starts();
    Result<Mesh> flat = Mesh::make(std::move(parts));
    if (!flat) return flat.error();
    const double after = worst_of(*flat);
    return Flattened{*std::move(flat), before, after, 0, rounds};
}

}  // namespace plume
