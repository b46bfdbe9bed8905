#include "core/geometry/frames/families.hpp"

#include <algorithm>
#include <cmath>
#include <deque>
#include <numeric>

#include "core/geometry/frames/node_normals.hpp"

namespace plume {
namespace {

// A number beside the group and the item it is of, in the order in which they are sorted.
struct Entry {
    std::uint32_t group;
    std::uint32_t item;
    double number;
    bool operator<(const Entry& other) const {
        return group != other.group ? group < other.group : number < other.number;
    }
};

std::vector<Entry> sorted_entries(std::span<const double> numbers, std::span<const std::uint32_t> group) {
    std::vector<Entry> entries;
    entries.reserve(numbers.size());
    for (std::uint32_t item = 0; item < numbers.size(); ++item)
        if (std::isfinite(numbers[item]))
            entries.push_back({group.empty() ? 0 : group[item], item, numbers[item]});
    std::sort(entries.begin(), entries.end());
    return entries;
}

double sum_of(const std::vector<double>& row) {
    return std::accumulate(row.begin(), row.end(), 0.0,
                           [](double sum, double number) { return sum + std::abs(number); });
}

bool all_within(const std::vector<double>& a, const std::vector<double>& b, double tolerance) {
    return std::ranges::equal(a, b, [&](double x, double y) { return std::abs(x - y) <= tolerance; });
}

// Rows of faces: n corners have n (n - 1) distances, and quadrangles one number more.
std::size_t corners_of(const std::vector<double>& row) {
    return static_cast<std::size_t>((1 + std::sqrt(1 + 4 * static_cast<double>(row.size()))) / 2 + 1e-9);
}

// From corner i of one to the k-th behind it, against corner i + turn of the other; the other way round the
// k-th before it.
bool alike_when_turned(const std::vector<double>& a, const std::vector<double>& b, std::size_t corners,
                       std::size_t turn, bool backwards, double tolerance) {
    const std::size_t others = corners - 1;
    for (std::size_t corner = 0; corner < corners; ++corner) {
        const std::size_t at = backwards ? (turn + corners - corner) % corners : (corner + turn) % corners;
        for (std::size_t k = 0; k < others; ++k) {
            const std::size_t behind = backwards ? others - 1 - k : k;
            if (!(std::abs(a[corner * others + k] - b[at * others + behind]) <= tolerance)) return false;
        }
    }
    return true;
}

bool faces_alike(const std::vector<double>& a, const std::vector<double>& b, bool mirrored,
                 double tolerance) {
    if (a.size() != b.size()) return false;
    const std::size_t corners = corners_of(a);
    const bool warps = a.size() > corners * (corners - 1);
    for (const bool backwards : {false, true}) {
        if (backwards && !mirrored) break;
        for (std::size_t turn = 0; turn < corners; ++turn) {
            // Every turn by one corner changes which of the diagonals lies above.
            const double side = (turn % 2 == 0 ? 1.0 : -1.0);
            if (warps && !(std::abs(a.back() - side * b.back()) <= tolerance)) continue;
            if (alike_when_turned(a, b, corners, turn, backwards, tolerance)) return true;
        }
    }
    return false;
}

// Family 0 is that of the first item, which rounding cannot change.
void number_as_they_come(Families& families) {
    std::vector<std::uint32_t> number(families.count, no_family);
    std::uint32_t next = 0;
    for (std::uint32_t& family : families.family) {
        if (family == no_family) continue;
        if (number[family] == no_family) number[family] = next++;
        family = number[family];
    }
}

}  // namespace

Families families_of(std::span<const double> numbers, std::span<const std::uint32_t> group,
                     double tolerance) {
    Families families{std::vector<std::uint32_t>(numbers.size(), no_family), 0};
    const Entry* first = nullptr;
    const std::vector<Entry> entries = sorted_entries(numbers, group);
    for (const Entry& entry : entries) {
        if (!first || entry.group != first->group || entry.number > first->number + tolerance) {
            first = &entry;
            ++families.count;
        }
        families.family[entry.item] = static_cast<std::uint32_t>(families.count - 1);
    }
    return families;
}

std::vector<std::size_t> family_counts(std::span<const double> numbers, std::span<const std::uint32_t> group,
                                       std::span<const double> tolerances) {
    const std::vector<Entry> entries = sorted_entries(numbers, group);
    std::vector<std::size_t> counts;
    for (const double tolerance : tolerances) {
        std::size_t count = 0;
        for (auto first = entries.begin(); first != entries.end(); ++count)
            first = std::upper_bound(first, entries.end(), Entry{first->group, 0, first->number + tolerance});
        counts.push_back(count);
    }
    return counts;
}

Result<Families> families_of(const ShapeRows& shapes, double tolerance, const Run& run) {
    const std::size_t count = shapes.rows.size();
    std::vector<std::uint32_t> order;
    std::vector<double> sums(count);
    for (std::uint32_t item = 0; item < count; ++item) {
        sums[item] = sum_of(shapes.rows[item]);
        if (!shapes.rows[item].empty() && std::isfinite(sums[item])) order.push_back(item);
    }
    const auto length_of = [&](std::uint32_t item) { return shapes.rows[item].size(); };
    std::ranges::stable_sort(order, [&](std::uint32_t a, std::uint32_t b) {
        return length_of(a) != length_of(b) ? length_of(a) < length_of(b) : sums[a] < sums[b];
    });
    Families families{std::vector<std::uint32_t>(count, no_family), 0};
    std::deque<std::uint32_t> firsts;  // of families that others may still join
    for (std::size_t at = 0; at < order.size(); ++at) {
        if (at % 256 == 0 && run.cancelled()) return cancelled_error();
        run.report(static_cast<double>(at) / static_cast<double>(order.size()));
        const std::uint32_t item = order[at];
        const double reach = tolerance * static_cast<double>(length_of(item)) * (1 + 1e-12);
        while (!firsts.empty() &&
               (length_of(firsts.front()) != length_of(item) || sums[firsts.front()] < sums[item] - reach))
            firsts.pop_front();
        const auto found = std::ranges::find_if(firsts, [&](std::uint32_t first) {
            return shapes.alike(shapes.rows[first], shapes.rows[item], tolerance);
        });
        if (found != firsts.end()) {
            families.family[item] = families.family[*found];
            continue;
        }
        families.family[item] = static_cast<std::uint32_t>(families.count++);
        firsts.push_back(item);
    }
    number_as_they_come(families);
    return families;
}

ShapeRows node_shapes(const BarFrame& frame) {
    const Spokes spokes = spokes_of(frame);
    ShapeRows shapes{std::vector<std::vector<double>>(frame.nodes().address_count()), all_within};
    for (std::size_t node = 0; node < shapes.rows.size(); ++node) {
        if (!frame.nodes().present(node)) continue;
        shapes.rows[node] = angles_at(frame, spokes, node);
        // One member has no angle, and is a shape all the same.
        if (spokes.first[node + 1] - spokes.first[node] == 1) shapes.rows[node].push_back(0);
    }
    return shapes;
}

ShapeRows face_shapes(const Mesh& mesh, bool mirrored) {
    ShapeRows shapes{std::vector<std::vector<double>>(mesh.face_count()),
                     [mirrored](const std::vector<double>& a, const std::vector<double>& b,
                                double tolerance) { return faces_alike(a, b, mirrored, tolerance); }};
    for (std::size_t face = 0; face < mesh.face_count(); ++face) {
        const auto corners = mesh.face(face);
        std::vector<double>& row = shapes.rows[face];
        row.reserve(corners.size() * (corners.size() - 1) + 1);
        for (std::size_t corner = 0; corner < corners.size(); ++corner)
            for (std::size_t k = 1; k < corners.size(); ++k)
                row.push_back(length(mesh.vertex(corners[(corner + k) % corners.size()]) -
                                     mesh.vertex(corners[corner])));
        if (corners.size() != 4) continue;
        const Vec3 a = mesh.vertex(corners[0]), b = mesh.vertex(corners[1]);
        const Vec3 outwards = unit_or_zero(cross(mesh.vertex(corners[2]) - a, mesh.vertex(corners[3]) - b));
        row.push_back(dot(b - a, outwards));
    }
    return shapes;
}

}  // namespace plume
