#include "core/sheets/contacts.hpp"

#include <algorithm>
#include <bit>
#include <cmath>
#include <numeric>

#include "core/base/parallel.hpp"
#include "core/data/box.hpp"
#include "core/geometry/meshes/face_places.hpp"
#include "core/geometry/meshes/vertex_places.hpp"
#include "core/geometry/moves/no_farther.hpp"

namespace plume {
namespace {

// What remains of how far two features were apart, where their way ends because they would meet.
constexpr double share_left = 0.2;
// Of the thickness: what is nearer only goes apart, so that it never becomes nothing.
constexpr double least_left = 1e-4;
constexpr int most_advances = 30;
constexpr int most_times_apart = 60;
constexpr std::size_t block = 256, leaves_of_a_block = 16;

std::size_t behind_first(bool segments) {
    return segments ? 2 : 1;
}

Nearest nearest(bool segments, const std::array<Vec3, 4>& at) {
    return segments ? nearest_of_segments(at[0], at[1], at[2], at[3])
                    : nearest_of_triangle(at[0], at[1], at[2], at[3]);
}

// The longest of the ways that corners of one go against those of the other.
double fastest(bool segments, const std::array<Vec3, 4>& by) {
    double most = 0;  // its square
    for (std::size_t one = 0; one < behind_first(segments); ++one)
        for (std::size_t other = behind_first(segments); other < 4; ++other) {
            const Vec3 against = by[one] - by[other];
            most = std::max(most, dot(against, against));
        }
    return std::sqrt(most);
}

using Triangles = std::vector<std::array<std::uint32_t, 3>>;

// Those that stand beside each other at these places come after each other.
Triangles in_order(const Triangles& triangles, const std::vector<Vec3>& at) {
    std::vector<Vec3> centres;
    centres.reserve(triangles.size());
    for (const auto& [a, b, c] : triangles)
        centres.push_back((at[a] + at[b] + at[c]) * (1.0 / 3));
    Triangles ordered;
    ordered.reserve(triangles.size());
    for (const std::uint32_t index : MovingTree::order_of(centres))
        ordered.push_back(triangles[index]);
    return ordered;
}

Triangles triangles_and_threads(const Sheet& sheet) {
    auto all = sheet.triangles;
    for (const auto& [a, b] : sheet.threads)
        all.push_back({a, b, b});
    return all;
}

}  // namespace

void add_obstacle(Obstacle& obstacle, const Mesh& mesh, double metres) {
    const auto start = static_cast<std::uint32_t>(obstacle.at.size());
    for (const Vec3 at : vertex_places(mesh))
        obstacle.at.push_back(at * metres);
    for (const auto& [a, b, c] : triangles_of(mesh).vertices)
        obstacle.triangles.push_back({start + a, start + b, start + c});
}

Contacts::Contacts(const Sheet& sheet, const std::vector<Vec3>& lying)
    : sheet_(sheet),
      own_(features_of(in_order(triangles_and_threads(sheet), lying), sheet.vertex_count)),
      tree_(own_.triangles.size()) {}

void Contacts::stand_among(Obstacle obstacle, double thickness) {
    thickness_ = thickness;
    reach_ = std::max(3 * thickness, 0.5 * sheet_.mean_edge);
    contacts_.clear();
    if (obstacle.triangles != among_.triangles || obstacle.at != among_.at) {
        auto still = in_order(obstacle.triangles, obstacle.at);
        for (auto& triangle : still)
            for (std::uint32_t& corner : triangle)
                corner += static_cast<std::uint32_t>(sheet_.vertex_count);
        still_ = features_of(std::move(still), sheet_.vertex_count + obstacle.at.size());
        still_tree_ = MovingTree(still_.triangles.size());
    }
    among_ = std::move(obstacle);
    place_still(among_.at);
}

void Contacts::place_still(std::vector<Vec3> places) {
    still_at_ = std::move(places);
    Box around;
    for (const Vec3 at : still_at_)
        around.include(at);
    middle_ = around.empty() ? Vec3{} : around.centre();
    still_boxes_.fit(still_, static_cast<std::uint32_t>(sheet_.vertex_count), still_at_, {}, middle_);
    still_tree_.fit(still_boxes_.triangles);
}

bool Contacts::look(const std::vector<Vec3>& at, const std::vector<Vec3>& ways, const Run& run) {
    const Ways both{at, ways};
    fit(both);
    const std::size_t leaves = tree_.leaf_count();
    std::vector<Found> found((leaves + leaves_of_a_block - 1) / leaves_of_a_block);
    const bool looked =
        parallel_blocks(leaves, leaves_of_a_block, run, [&](std::size_t begin, std::size_t end) {
            for (std::size_t leaf = begin; leaf < end; ++leaf) {
                look_within(both, leaf, found[begin / leaves_of_a_block]);
                look_at_obstacle(both, leaf, found[begin / leaves_of_a_block]);
            }
        });
    if (!looked) return false;
    from_ = at;
    ends_.resize(at.size());
    for (std::size_t vertex = 0; vertex < at.size(); ++vertex)
        ends_[vertex] = at[vertex] + ways[vertex];
    contacts_.clear();
    for (const Found& some : found)
        contacts_.insert(contacts_.end(), some.begin(), some.end());
    return true;
}

void Contacts::fit(const Ways& ways) {
    const bool alone = still_.triangles.empty();
    if (alone) middle_ = ways.at.front();
    boxes_.fit(own_, 0, ways.at, ways.by, middle_);
    tree_.fit(boxes_.triangles);
    const double rounding =
        std::max(tree_.box().rounding_of(), alone ? 0.0 : still_tree_.box().rounding_of());
    boxes_reach_ = static_cast<float>(reach_ + rounding);
}

void Contacts::look_within(const Ways& ways, std::size_t leaf, Found& found) const {
    const auto vertices_against = [&](std::uint32_t one, std::uint32_t other) {
        const auto& [a, b, c] = own_.triangles[other];
        for (const std::uint32_t vertex : own_.vertices_of.at(one))
            if (vertex != a && vertex != b && vertex != c &&
                may_meet(boxes_.vertices[vertex], boxes_.triangles[other]))
                add_vertex(ways, {vertex, a, b, c}, found);
    };
    const auto edges_against = [&](std::uint32_t one, std::uint32_t other) {
        for (std::uint32_t first = own_.first_edge[one]; first < own_.first_edge[one + 1]; ++first)
            for (std::uint32_t second = own_.first_edge[other]; second < own_.first_edge[other + 1];
                 ++second) {
                const auto [a, b] = own_.edges[first];
                const auto [c, d] = own_.edges[second];
                if (a != c && a != d && b != c && b != d &&
                    may_meet(boxes_.edges[first], boxes_.edges[second]))
                    add_segments(ways, {a, b, c, d}, found);
            }
    };
    tree_.near(tree_.box_of(leaf), boxes_reach_, leaf, [&](std::size_t other_leaf) {
        for (std::uint32_t one = tree_.begin_of(leaf); one < tree_.end_of(leaf); ++one) {
            const std::uint32_t from = leaf == other_leaf ? one + 1 : tree_.begin_of(other_leaf);
            const std::uint32_t to = tree_.end_of(other_leaf);
            // All are asked before any is followed: guessing each answer ahead would fail too often.
            std::uint32_t meeting = 0;
            for (std::uint32_t other = from; other < to; ++other)
                meeting |=
                    static_cast<std::uint32_t>(may_meet(boxes_.triangles[one], boxes_.triangles[other]))
                    << (other - from);
            for (; meeting != 0; meeting &= meeting - 1) {
                const std::uint32_t other = from + static_cast<std::uint32_t>(std::countr_zero(meeting));
                vertices_against(one, other);
                vertices_against(other, one);
                edges_against(one, other);
            }
        }
    });
}

void Contacts::look_at_obstacle(const Ways& ways, std::size_t leaf, Found& found) const {
    const auto triangles_meet = [&](std::uint32_t own, std::uint32_t still) {
        const auto& [a, b, c] = own_.triangles[own];
        const auto& [d, e, f] = still_.triangles[still];
        for (const std::uint32_t vertex : own_.vertices_of.at(own))
            if (may_meet(boxes_.vertices[vertex], still_boxes_.triangles[still]))
                add_vertex(ways, {vertex, d, e, f}, found);
        for (const std::uint32_t vertex : still_.vertices_of.at(still))
            if (may_meet(still_boxes_.vertices[vertex - sheet_.vertex_count], boxes_.triangles[own]))
                add_vertex(ways, {vertex, a, b, c}, found);
        for (std::uint32_t first = own_.first_edge[own]; first < own_.first_edge[own + 1]; ++first)
            for (std::uint32_t second = still_.first_edge[still]; second < still_.first_edge[still + 1];
                 ++second)
                if (may_meet(boxes_.edges[first], still_boxes_.edges[second]))
                    add_segments(ways,
                                 {own_.edges[first][0], own_.edges[first][1], still_.edges[second][0],
                                  still_.edges[second][1]},
                                 found);
    };
    still_tree_.near(tree_.box_of(leaf), boxes_reach_, 0, [&](std::size_t other_leaf) {
        for (std::uint32_t own = tree_.begin_of(leaf); own < tree_.end_of(leaf); ++own)
            for (std::uint32_t still = still_tree_.begin_of(other_leaf);
                 still < still_tree_.end_of(other_leaf); ++still)
                if (may_meet(boxes_.triangles[own], still_boxes_.triangles[still]))
                    triangles_meet(own, still);
    });
}

void Contacts::add_segments(const Ways& ways, const Corners& corners, Found& found) const {
    const std::array<Vec3, 4> at = places_of(ways.at, corners);
    const double fast = fastest(true, ways_of(ways.by, corners)), far = fast + reach_;
    const Nearest near = nearest_of_segments(at[0], at[1], at[2], at[3]);
    if (dot(near.apart, near.apart) <= far * far) add(corners, true, fast, near, found);
}

void Contacts::add_vertex(const Ways& ways, const Corners& corners, Found& found) const {
    if (corners[2] == corners[3]) return;  // a thread: its edge against others is all
    const std::array<Vec3, 4> at = places_of(ways.at, corners);
    const double fast = fastest(false, ways_of(ways.by, corners)), far = fast + reach_;
    const Nearest near = nearest_of_triangle(at[0], at[1], at[2], at[3]);
    if (dot(near.apart, near.apart) <= far * far) add(corners, false, fast, near, found);
}

void Contacts::add(const Corners& corners, bool segments, double fast, const Nearest& nearest,
                   Found& found) const {
    const double apart = length(nearest.apart);
    const double thick = touch_in_sheet(corners, behind_first(segments))
                             ? std::min(thickness_, 0.12 * sheet_.mean_edge)
                             : thickness_;
    // Neighbours are thinner, and many.
    if (apart > fast + 2 * room() + thick) return;
    Contact contact{corners, nearest.weights, {}, thick, apart, segments};
    // What meets already has no side to be pushed to.
    if (apart > 0)
        contact.normal = nearest.apart * (1 / apart);
    else
        contact.thickness = 0;
    for (std::size_t corner = behind_first(segments); corner < 4; ++corner)
        contact.weights[corner] = -contact.weights[corner];
    found.push_back(contact);
}

std::array<Vec3, 4> Contacts::places_of(const std::vector<Vec3>& at, const Corners& corners) const {
    return {place(at, corners[0]), place(at, corners[1]), place(at, corners[2]), place(at, corners[3])};
}

std::array<Vec3, 4> Contacts::ways_of(const std::vector<Vec3>& by, const Corners& corners) const {
    const auto way = [&](std::uint32_t corner) { return is_still(corner) ? Vec3{} : by[corner]; };
    return {way(corners[0]), way(corners[1]), way(corners[2]), way(corners[3])};
}

double Contacts::deep(const Contact& contact, const std::vector<Vec3>& at) const {
    Vec3 apart;
    for (std::size_t corner = 0; corner < 4; ++corner)
        apart = apart + place(at, contact.corners[corner]) * contact.weights[corner];
    return contact.thickness - dot(apart, contact.normal);
}

std::vector<Contact> Contacts::pressed(const std::vector<Vec3>& at) const {
    std::vector<Found> found((contacts_.size() + block - 1) / block);
    parallel_blocks(contacts_.size(), block, Run(), [&](std::size_t begin, std::size_t end) {
        for (std::size_t index = begin; index < end; ++index)
            if (deep(contacts_[index], at) > 0) found[begin / block].push_back(contacts_[index]);
    });
    std::vector<Contact> all;
    for (const Found& some : found)
        all.insert(all.end(), some.begin(), some.end());
    return all;
}

bool Contacts::any_pressed(const std::vector<Vec3>& at) const {
    return std::ranges::any_of(contacts_, [&](const Contact& contact) { return deep(contact, at) > 0; });
}

double Contacts::keep_apart(std::vector<Vec3>& to, const Run& run) const {
    const std::vector<Vec3> wanted = to;
    std::vector<double> shares(to.size(), 1), free_shares(contacts_.size(), 1);
    std::vector<std::uint32_t> asked(contacts_.size());
    std::iota(asked.begin(), asked.end(), 0U);
    Incidence contacts_at;
    double farthest = 0;  // squared
    const auto go = [&](std::size_t vertex, double share) {
        shares[vertex] *= share;
        to[vertex] = from_[vertex] + (wanted[vertex] - from_[vertex]) * shares[vertex];
        const Vec3 back = wanted[vertex] - to[vertex];
        farthest = std::max(farthest, dot(back, back));
    };
    for (int times = 0;; ++times) {
        parallel_blocks(asked.size(), block, run, [&](std::size_t begin, std::size_t end) {
            for (std::size_t index = begin; index < end; ++index)
                free_shares[asked[index]] = free_share(contacts_[asked[index]], to);
        });
        std::erase_if(asked, [&](std::uint32_t index) { return free_shares[index] >= 1; });
        if (asked.empty()) return std::sqrt(farthest);
        // The least share of each vertex that is cut.
        std::vector<std::pair<std::uint32_t, double>> cuts;
        for (const std::uint32_t index : asked)
            for (const std::uint32_t corner : contacts_[index].corners)
                if (!is_still(corner)) cuts.emplace_back(corner, free_shares[index]);
        std::ranges::sort(cuts);
        if (times == most_times_apart) {
            const double least = std::ranges::min(cuts, {}, &std::pair<std::uint32_t, double>::second).second;
            for (std::size_t vertex = 0; vertex < to.size(); ++vertex)
                go(vertex, least);
            return std::sqrt(farthest);
        }
        cuts.erase(std::unique(cuts.begin(), cuts.end(),
                               [](const auto& a, const auto& b) { return a.first == b.first; }),
                   cuts.end());
        // What is beside what is brought back may meet it now.
        if (contacts_at.of.empty()) contacts_at = contacts_at_vertices();
        asked.clear();
        for (const auto& [vertex, share] : cuts) {
            go(vertex, share);
            const auto here = contacts_at.at(vertex);
            asked.insert(asked.end(), here.begin(), here.end());
        }
        std::ranges::sort(asked);
        asked.erase(std::unique(asked.begin(), asked.end()), asked.end());
    }
}

Incidence Contacts::contacts_at_vertices() const {
    return incidence(sheet_.vertex_count, [&](auto use) {
        for (std::uint32_t index = 0; index < contacts_.size(); ++index)
            for (const std::uint32_t corner : contacts_[index].corners)
                if (!is_still(corner)) use(corner, index);
    });
}

// As far as they are apart, less what is to be left, they can go without meeting; and on from there.
double Contacts::free_share(const Contact& contact, const std::vector<Vec3>& to) const {
    const std::array<Vec3, 4> at = places_of(from_, contact.corners);
    std::array<Vec3, 4> by = places_of(to, contact.corners);
    for (std::size_t corner = 0; corner < 4; ++corner)
        by[corner] = by[corner] - at[corner];
    const double fast = std::max(fastest(contact.segments, by), 1e-300);
    double apart = contact.apart, share = 0;
    // What meets already is not kept from moving.
    if (!(apart > 0)) return 1;
    double left = share_left * apart;
    if (apart < least_left * thickness_) {
        Vec3 against;
        for (std::size_t corner = 0; corner < 4; ++corner)
            against = against + by[corner] * contact.weights[corner];
        if (dot(against, contact.normal) < 0) return 0;
        left = 0.9 * apart;
    }
    const auto apart_at = [&](double so_far) {
        std::array<Vec3, 4> there;
        for (std::size_t corner = 0; corner < 4; ++corner)
            there[corner] = at[corner] + by[corner] * so_far;
        return length(nearest(contact.segments, there).apart);
    };
    for (int advance = 0; advance < most_advances; ++advance) {
        share += (apart - left) / fast;
        if (share >= 1) return 1;
        apart = apart_at(share);
        if (apart - left < 0.05 * left) return share;
    }
    return share;
}

// Two that go beside their ways towards each other come no nearer by it than by what they reach.
double Contacts::room() const {
    return (reach_ - thickness_) / 2;
}

Vec3 Contacts::within_room(std::uint32_t vertex, Vec3 to) const {
    return no_farther(ends_[vertex], to, room());
}

bool Contacts::are_neighbours(std::uint32_t a, std::uint32_t b) const {
    if (is_still(a) || is_still(b)) return false;
    const auto begin = sheet_.ring.of.begin();
    return std::find(begin + sheet_.ring.first[a], begin + sheet_.ring.first[a + 1], b) !=
           begin + sheet_.ring.first[a + 1];
}

// Features that an edge joins are near because the sheet is what it is.
bool Contacts::touch_in_sheet(const Corners& corners, std::size_t behind_first) const {
    for (std::size_t one = 0; one < behind_first; ++one)
        for (std::size_t other = behind_first; other < 4; ++other)
            if (are_neighbours(corners[one], corners[other])) return true;
    return false;
}

}  // namespace plume
