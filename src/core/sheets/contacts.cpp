#include "core/sheets/contacts.hpp"

#include <algorithm>
#include <cmath>
#include <set>

#include "core/base/parallel.hpp"
#include "core/geometry/measures/bounds.hpp"
#include "core/geometry/meshes/face_places.hpp"
#include "core/geometry/meshes/vertex_places.hpp"

namespace plume {
namespace {

// Of the reach, how far a vertex may go beside its way: less than a half.
constexpr double room_beside = 0.45;
// What remains of how far two features were apart, where their way ends because they would meet.
constexpr double share_left = 0.2;
// Of the thickness: what is nearer only goes apart, so that it never becomes nothing.
constexpr double least_left = 1e-4;
constexpr int most_advances = 30;
constexpr int most_times_apart = 12;
constexpr std::size_t block = 256;

Box around(std::initializer_list<Vec3> places, double by) {
    Box box;
    for (const Vec3 place : places)
        box.include(place);
    box.low = box.low - Vec3{by, by, by};
    box.high = box.high + Vec3{by, by, by};
    return box;
}

}  // namespace

void add_obstacle(Obstacle& obstacle, const Mesh& mesh, double metres) {
    const auto start = static_cast<std::uint32_t>(obstacle.at.size());
    for (const Vec3 at : vertex_places(mesh))
        obstacle.at.push_back(at * metres);
    std::set<std::array<std::uint32_t, 2>> edges;
    for (const auto& [a, b, c] : triangles_of(mesh).vertices) {
        obstacle.triangles.push_back({start + a, start + b, start + c});
        for (const auto& [from, to] : {std::minmax(a, b), std::minmax(b, c), std::minmax(c, a)})
            edges.insert({start + from, start + to});
    }
    obstacle.edges.insert(obstacle.edges.end(), edges.begin(), edges.end());
}

Contacts::Contacts(const Sheet& sheet, const Obstacle& obstacle, double thickness)
    : sheet_(sheet),
      obstacle_(obstacle),
      thickness_(thickness),
      reach_(std::max(3 * thickness, 0.5 * sheet.mean_edge)) {
    std::vector<Box> boxes;
    for (const auto& triangle : obstacle.triangles)
        boxes.push_back(
            around({obstacle.at[triangle[0]], obstacle.at[triangle[1]], obstacle.at[triangle[2]]}, reach_));
    const double cell = sheet.mean_edge + 2 * reach_;
    still_triangles_.build(boxes, cell);
    boxes.clear();
    for (const auto& edge : obstacle.edges)
        boxes.push_back(around({obstacle.at[edge[0]], obstacle.at[edge[1]]}, reach_));
    still_edges_.build(boxes, cell);
}

bool Contacts::look(const std::vector<Vec3>& at, const std::vector<Vec3>& ways, const Run& run) {
    const Ways both{at, ways};
    build_grids(both);
    const std::size_t vertices = sheet_.vertex_count, edges = sheet_.edges.size(),
                      all = vertices + edges + obstacle_.at.size();
    std::vector<Found> found((all + block - 1) / block);
    const bool looked = parallel_blocks(all, block, run, [&](std::size_t begin, std::size_t end) {
        Found& own = found[begin / block];
        for (std::size_t feature = begin; feature < end; ++feature) {
            if (feature < vertices)
                look_from_vertex(both, static_cast<std::uint32_t>(feature), own);
            else if (feature < vertices + edges)
                look_from_edge(both, static_cast<std::uint32_t>(feature - vertices), own);
            else
                look_from_obstacle(both, static_cast<std::uint32_t>(feature - vertices - edges), own);
        }
    });
    if (!looked) return false;
    from_ = at;
    ends_.resize(vertices);
    for (std::size_t vertex = 0; vertex < vertices; ++vertex)
        ends_[vertex] = at[vertex] + ways[vertex];
    take(found);
    return true;
}

void Contacts::build_grids(const Ways& ways) {
    const double cell = sheet_.mean_edge + 2 * reach_;
    const auto end = [&](std::uint32_t vertex) { return ways.at[vertex] + ways.by[vertex]; };
    boxes_.resize(sheet_.triangles.size());
    for (std::size_t index = 0; index < boxes_.size(); ++index) {
        const auto& c = sheet_.triangles[index];
        boxes_[index] =
            around({ways.at[c[0]], ways.at[c[1]], ways.at[c[2]], end(c[0]), end(c[1]), end(c[2])}, reach_);
    }
    triangles_.build(boxes_, cell);
    edge_boxes_.resize(sheet_.edges.size());
    for (std::size_t index = 0; index < edge_boxes_.size(); ++index) {
        const auto [a, b] = sheet_.edges[index];
        edge_boxes_[index] = around({ways.at[a], ways.at[b], end(a), end(b)}, reach_);
    }
    edges_.build(edge_boxes_, cell);
}

void Contacts::look_from_vertex(const Ways& ways, std::uint32_t vertex, Found& found) const {
    const Box own = around({ways.at[vertex], ways.at[vertex] + ways.by[vertex]}, 0);
    triangles_.in(own, [&](std::uint32_t index) {
        const auto& c = sheet_.triangles[index];
        if (c[0] == vertex || c[1] == vertex || c[2] == vertex || !meet(own, boxes_[index], 0)) return;
        add(ways, {{vertex, c[0], c[1], c[2]}, false}, found);
    });
    const auto behind = static_cast<std::uint32_t>(sheet_.vertex_count);
    still_triangles_.in(own, [&](std::uint32_t index) {
        const auto& c = obstacle_.triangles[index];
        add(ways, {{vertex, behind + c[0], behind + c[1], behind + c[2]}, false}, found);
    });
}

void Contacts::look_from_edge(const Ways& ways, std::uint32_t edge, Found& found) const {
    const auto [a, b] = sheet_.edges[edge];
    const Box own = around({ways.at[a], ways.at[b], ways.at[a] + ways.by[a], ways.at[b] + ways.by[b]}, 0);
    edges_.in(own, [&, a = a, b = b](std::uint32_t index) {
        const auto [c, d] = sheet_.edges[index];
        if (index <= edge || a == c || a == d || b == c || b == d || !meet(own, edge_boxes_[index], 0))
            return;
        add(ways, {{a, b, c, d}, true}, found);
    });
    const auto behind = static_cast<std::uint32_t>(sheet_.vertex_count);
    still_edges_.in(own, [&, a = a, b = b](std::uint32_t index) {
        const auto [c, d] = obstacle_.edges[index];
        add(ways, {{a, b, behind + c, behind + d}, true}, found);
    });
}

void Contacts::look_from_obstacle(const Ways& ways, std::uint32_t vertex, Found& found) const {
    const Box here = around({obstacle_.at[vertex]}, 0);
    const auto own = static_cast<std::uint32_t>(sheet_.vertex_count) + vertex;
    triangles_.in(here, [&](std::uint32_t index) {
        const auto& c = sheet_.triangles[index];
        if (meet(here, boxes_[index], 0)) add(ways, {{own, c[0], c[1], c[2]}, false}, found);
    });
}

Nearest Contacts::Pair::nearest(const std::array<Vec3, 4>& at) const {
    return segments ? nearest_of_segments(at[0], at[1], at[2], at[3])
                    : nearest_of_triangle(at[0], at[1], at[2], at[3]);
}

double Contacts::Pair::fastest(const std::array<Vec3, 4>& by) const {
    double most = 0;  // its square
    for (std::size_t one = 0; one < behind_first(); ++one)
        for (std::size_t other = behind_first(); other < 4; ++other) {
            const Vec3 against = by[one] - by[other];
            most = std::max(most, dot(against, against));
        }
    return std::sqrt(most);
}

std::array<Vec3, 4> Contacts::places_of(const std::vector<Vec3>& at, const Pair& pair) const {
    std::array<Vec3, 4> places;
    for (std::size_t corner = 0; corner < 4; ++corner)
        places[corner] = place(at, pair.corners[corner]);
    return places;
}

std::array<Vec3, 4> Contacts::ways_of(const std::vector<Vec3>& by, const Pair& pair) const {
    std::array<Vec3, 4> ways;
    for (std::size_t corner = 0; corner < 4; ++corner)
        ways[corner] = is_still(pair.corners[corner]) ? Vec3{} : by[pair.corners[corner]];
    return ways;
}

double Contacts::deep(const Contact& contact, const std::vector<Vec3>& at) const {
    Vec3 apart;
    for (std::size_t corner = 0; corner < 4; ++corner)
        apart = apart + place(at, contact.corners[corner]) * contact.weights[corner];
    return contact.thickness - dot(apart, contact.normal);
}

void Contacts::add(const Ways& ways, const Pair& pair, Found& found) const {
    const Nearest nearest = pair.nearest(places_of(ways.at, pair));
    const double apart = length(nearest.apart);
    if (apart > pair.fastest(ways_of(ways.by, pair)) + 2 * room()) return;
    found.pairs.push_back(pair);
    if (apart == 0) return;
    const double thick = touch_in_sheet(pair) ? std::min(thickness_, 0.12 * sheet_.mean_edge) : thickness_;
    Contact contact{pair.corners, nearest.weights, nearest.apart * (1 / apart), thick};
    for (std::size_t corner = pair.behind_first(); corner < 4; ++corner)
        contact.weights[corner] = -contact.weights[corner];
    found.contacts.push_back(contact);
}

std::size_t Contacts::keep_apart(std::vector<Vec3>& to, const Run& run) const {
    const std::vector<Vec3> wanted = to;
    std::vector<double> shares(to.size(), 1), of_pairs(pairs_.size(), 1);
    const auto go = [&] {
        for (std::size_t vertex = 0; vertex < to.size(); ++vertex)
            to[vertex] = from_[vertex] + (wanted[vertex] - from_[vertex]) * shares[vertex];
    };
    for (int times = 0;; ++times) {
        parallel_blocks(pairs_.size(), block, run, [&](std::size_t begin, std::size_t end) {
            for (std::size_t index = begin; index < end; ++index)
                of_pairs[index] = free_share(pairs_[index], to);
        });
        const double least = of_pairs.empty() ? 1 : std::ranges::min(of_pairs);
        if (least >= 1) break;
        // Those beside what is brought back may meet it: again, and in the end all together.
        for (std::size_t index = 0; times < most_times_apart && index < pairs_.size(); ++index)
            for (const std::uint32_t corner : pairs_[index].corners)
                if (of_pairs[index] < 1 && !is_still(corner))
                    shares[corner] = std::min(shares[corner], shares[corner] * of_pairs[index]);
        if (times >= most_times_apart) {
            for (double& share : shares)
                share *= least;
            go();
            break;
        }
        go();
    }
    return static_cast<std::size_t>(std::ranges::count_if(shares, [](double share) { return share < 1; }));
}

// As far as they are apart, less what is to be left, they can go without meeting; and on from there.
double Contacts::free_share(const Pair& pair, const std::vector<Vec3>& to) const {
    const std::array<Vec3, 4> at = places_of(from_, pair);
    std::array<Vec3, 4> by = places_of(to, pair);
    for (std::size_t corner = 0; corner < 4; ++corner)
        by[corner] = by[corner] - at[corner];
    const double fastest = std::max(pair.fastest(by), 1e-300);
    const auto nearest_at = [&](double so_far) {
        std::array<Vec3, 4> there;
        for (std::size_t corner = 0; corner < 4; ++corner)
            there[corner] = at[corner] + by[corner] * so_far;
        return pair.nearest(there);
    };
    const Nearest first_of_all = nearest_at(0);
    double apart = length(first_of_all.apart), share = 0;
    // What meets already is not kept from moving.
    if (!(apart > 0)) return 1;
    double left = share_left * apart;
    if (apart < least_left * thickness_) {
        Vec3 against;
        for (std::size_t corner = 0; corner < 4; ++corner)
            against = against + by[corner] * (corner < pair.behind_first() ? first_of_all.weights[corner]
                                                                           : -first_of_all.weights[corner]);
        if (dot(against, first_of_all.apart) < 0) return 0;
        left = 0.9 * apart;
    }
    for (int advance = 0; advance < most_advances; ++advance) {
        share += (apart - left) / fastest;
        if (share >= 1) return 1;
        apart = length(nearest_at(share).apart);
        if (apart - left < 0.05 * left) return share;
    }
    return share;
}

double Contacts::room() const {
    return room_beside * reach_;
}

Vec3 Contacts::within_room(std::uint32_t vertex, Vec3 to) const {
    const Vec3 beside = to - ends_[vertex];
    const double far = length(beside);
    return far > room() ? ends_[vertex] + beside * (room() / far) : to;
}

bool Contacts::are_neighbours(std::uint32_t a, std::uint32_t b) const {
    if (is_still(a) || is_still(b)) return false;
    const auto begin = sheet_.ring.of.begin();
    return std::find(begin + sheet_.ring.first[a], begin + sheet_.ring.first[a + 1], b) !=
           begin + sheet_.ring.first[a + 1];
}

// Features that an edge joins are near because the sheet is what it is.
bool Contacts::touch_in_sheet(const Pair& pair) const {
    for (std::size_t one = 0; one < pair.behind_first(); ++one)
        for (std::size_t other = pair.behind_first(); other < 4; ++other)
            if (are_neighbours(pair.corners[one], pair.corners[other])) return true;
    return false;
}

void Contacts::take(const std::vector<Found>& found) {
    pairs_.clear();
    contacts_.clear();
    for (const Found& some : found) {
        pairs_.insert(pairs_.end(), some.pairs.begin(), some.pairs.end());
        contacts_.insert(contacts_.end(), some.contacts.begin(), some.contacts.end());
    }
}

}  // namespace plume
