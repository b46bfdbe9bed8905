#include "core/picture/draw/drawing.hpp"

#include <algorithm>
#include <array>
#include <functional>

#include "core/geometry/points/lattice_links.hpp"

namespace plume {
namespace {

constexpr auto absent = std::numeric_limits<std::uint32_t>::max();

// Every so many rows and columns are drawn of lattices no screen could show whole.
std::size_t thinning(const PointLattice& lattice) {
    constexpr double most_drawn = 1'500'000;
    const double share = static_cast<double>(lattice.address_count()) / most_drawn;
    return share <= 1 ? 1 : static_cast<std::size_t>(std::ceil(std::sqrt(share)));
}

// How far neighbours stand apart: the mean length of the first some thousand links; of a scatter, from its
// size and count; 1 for a single point.
double usual_spacing(const PointLattice& lattice) {
    constexpr std::size_t enough = 5000;
    double sum = 0;
    std::size_t links = 0;
    for_each_link(lattice, [&](std::size_t from, std::size_t to) {
        const double apart = links < enough ? length(lattice.point(from) - lattice.point(to)) : 0;
        if (!(apart > 0) || !std::isfinite(apart)) return;
        sum += apart;
        ++links;
    });
    if (links > 0) return sum / static_cast<double>(links);
    const Box box = lattice.bounds();
    const double size = box.empty() ? 0 : box.diagonal();
    return size > 0 ? size / std::sqrt(static_cast<double>(lattice.point_count())) : 1;
}

void add_points(const PointLattice& lattice, const Colours& colours, Drawable& drawable) {
    drawable.points.reserve(lattice.point_count());
    for (std::size_t index = 0; index < lattice.address_count(); ++index) {
        if (!lattice.present(index)) continue;
        if (!is_finite(lattice.point(index))) {
            if (drawable.not_finite_points++ == 0) drawable.first_not_finite = index;
            continue;
        }
        const Floats at = relative(lattice.point(index), drawable.origin);
        drawable.points.push_back({at.x, at.y, at.z, colours.at(index), static_cast<std::uint32_t>(index)});
    }
}

}  // namespace

void draw_lattice(const PointLattice& lattice, const std::string& in_hand, const DrawOptions& options,
                  Drawable& drawable) {
    settle(drawable, lattice.bounds());
    const Colours colours(lattice.fields(), options.colour_by, in_hand, drawable,
                          [&](std::size_t index) { return lattice.present(index); });
    std::vector<std::uint32_t> number(lattice.address_count(), std::numeric_limits<std::uint32_t>::max());
    const std::size_t stride = thinning(lattice);
    for (std::size_t index = 0; index < lattice.address_count(); ++index) {
        const Address at = lattice.address(index);
        if (!lattice.present(index) || at.i % stride != 0 || at.j % stride != 0) continue;
        const Vec3 p = lattice.point(index);
        if (!is_finite(p)) {
            if (drawable.not_finite_points++ == 0) drawable.first_not_finite = index;
            continue;
        }
        number[index] = static_cast<std::uint32_t>(drawable.points.size());
        const Floats place = relative(p, drawable.origin);
        drawable.points.push_back(
            {place.x, place.y, place.z, colours.at(index), static_cast<std::uint32_t>(index)});
    }
    drawable.thinned = stride > 1;
    if (drawable.thinned || lattice.arrangement() == Arrangement::scatter) return;
    // Edges index vertices; a lattice's are its points.
    for (const DrawPoint& point : drawable.points)
        drawable.vertices.push_back({point.x, point.y, point.z, 0, 0, 1, point.colour});
    for_each_link(lattice, [&](std::size_t from, std::size_t to) {
        if (number[from] == absent || number[to] == absent) return;
        drawable.edges.push_back(number[from]);
        drawable.edges.push_back(number[to]);
    });
}

void draw_directions(const DirectionsOnPoints& item, const DrawOptions& options, Drawable& drawable) {
    drawable.points_are = PointRole::feet;
    drawable.lines_are = LineRole::arrows;
    const PointLattice& points = item.points;
    settle(drawable, points.bounds());
    // Without a wish, arrows are plain: their length says how strong they are.
    const Colours colours(points.fields(), options.colour_by.empty() ? "-" : options.colour_by, "", drawable,
                          [&](std::size_t index) { return points.present(index); });
    add_points(points, colours, drawable);
    double longest = 0;
    for (const DrawPoint& point : drawable.points) {
        const double size = length(item.direction(point.index));
        if (std::isfinite(size)) longest = std::max(longest, size);
    }
    if (!(longest > 0)) return;
    const double scale = 0.9 * usual_spacing(points) / longest;
    for (const DrawPoint& point : drawable.points) {
        const Vec3 from = points.point(point.index), along = item.direction(point.index) * scale;
        if (!is_finite(along) || length(along) < 1e-9 * longest * scale) continue;
        const Vec3 to = from + along;
        const Vec3 beside =
            unit_or_zero(
                cross(along, std::abs(unit_or_zero(along).z) < 0.9 ? Vec3{0, 0, 1} : Vec3{1, 0, 0})) *
            (0.12 * length(along));
        add_line(from, to, point.colour, drawable);
        add_line(to, to - along * 0.26 + beside, point.colour, drawable);
        add_line(to, to - along * 0.26 - beside, point.colour, drawable);
    }
}

namespace {

// Of more parts that grew, axes are a haze.
constexpr std::size_t most_grown_axes = 4000;

// The part that a part came of, or the nearest before it that is there.
std::uint32_t present_parent(const Placements& placements, std::uint32_t part) {
    const PartTree& tree = *placements.tree();
    std::uint32_t parent = tree.parents[part];
    while (parent != PartTree::none && !placements.origins().present(parent))
        parent = tree.parents[parent];
    return parent;
}

// From each part to the one it came of. Of siblings at one place, one line is seen.
void add_descent(const Placements& placements, Drawable& drawable) {
    std::vector<std::uint32_t> vertices(placements.origins().address_count(), absent);
    const auto vertex_of = [&](std::uint32_t part) {
        if (vertices[part] == absent) {
            vertices[part] = static_cast<std::uint32_t>(drawable.vertices.size());
            drawable.vertices.push_back(
                vertex(placements.placement(part).origin, drawable.origin, {0, 0, 1}, plain_coordinate));
        }
        return vertices[part];
    };
    std::uint32_t parent_before = PartTree::none;
    Vec3 place_before;
    for (const DrawPoint& point : drawable.points) {
        const std::uint32_t parent = present_parent(placements, point.index);
        const Vec3 place = placements.placement(point.index).origin;
        const bool drawn = parent == parent_before && place == place_before;
        parent_before = parent;
        place_before = place;
        if (parent == PartTree::none || drawn) continue;
        const std::uint32_t from = vertex_of(parent), to = vertex_of(point.index);
        drawable.edges.insert(drawable.edges.end(), {from, to});
    }
}

// Of siblings at one place the one with the largest number is drawn last, over the others.
void add_coloured_descent(const Placements& placements, Drawable& drawable) {
    auto points = drawable.points;
    std::ranges::stable_sort(points, {}, &DrawPoint::colour);
    for (const DrawPoint& point : points) {
        const std::uint32_t parent = present_parent(placements, point.index);
        if (parent != PartTree::none)
            add_line(placements.placement(parent).origin, placements.placement(point.index).origin,
                     point.colour, drawable);
    }
}

// How far a part's axes are drawn.
std::function<double(std::size_t)> reach_of_axes(const Placements& placements) {
    const PointLattice& origins = placements.origins();
    if (const Field* sizes = placements.tree() ? origins.field("size") : nullptr)
        return [sizes](std::size_t part) { return 0.3 * sizes->values[part]; };
    return [reach = 0.45 * usual_spacing(origins)](std::size_t) { return reach; };
}

void add_axes(const Placements& placements, Drawable& drawable) {
    const auto reach_of = reach_of_axes(placements);
    // Rose, moss and slate: first, second and third axis.
    const std::array<float, 3> axis_colours{own_colour_coordinate({0.76F, 0.31F, 0.36F}),
                                            own_colour_coordinate({0.37F, 0.56F, 0.24F}),
                                            own_colour_coordinate({0.22F, 0.42F, 0.64F})};
    for (const DrawPoint& point : drawable.points) {
        const Placement& placement = placements.placement(point.index);
        const double reach = reach_of(point.index);
        add_line(placement.origin, placement.origin + placement.along * reach, axis_colours[0], drawable);
        add_line(placement.origin, placement.origin + placement.across * reach, axis_colours[1], drawable);
        add_line(placement.origin, placement.origin + placement.up * reach, axis_colours[2], drawable);
    }
}

}  // namespace

void draw_placements(const Placements& placements, const DrawOptions& options, Drawable& drawable) {
    drawable.points_are = PointRole::feet;
    drawable.lines_are = LineRole::lines;
    const PointLattice& origins = placements.origins();
    settle(drawable, origins.bounds());
    const bool grew = placements.tree() != nullptr, by_number = grew && !options.colour_by.empty();
    const Colours colours(origins.fields(), by_number ? options.colour_by : "-", "", drawable,
                          [&](std::size_t index) { return origins.present(index); });
    add_points(origins, colours, drawable);
    if (by_number)
        add_coloured_descent(placements, drawable);
    else if (grew)
        add_descent(placements, drawable);
    // Axes have colours of their own, among which those of a number would be lost.
    if (by_number || (grew && drawable.points.size() > most_grown_axes)) return;
    add_axes(placements, drawable);
    for (const DrawVertex& vertex : drawable.vertices)
        drawable.bounds.include(drawable.absolute(vertex.x, vertex.y, vertex.z));
}

}  // namespace plume
