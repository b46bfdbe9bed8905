#include "core/picture/drawable.hpp"

#include <algorithm>
#include <cmath>
#include <limits>
#include <numeric>
#include <optional>
#include <tuple>

#include "core/base/guarded.hpp"
#include "core/base/numbers.hpp"
#include "core/base/overloaded.hpp"
#include "core/base/parallel.hpp"
#include "core/data/not_finite.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/measures/bounds.hpp"
#include "core/geometry/meshes/triangulate.hpp"
#include "core/geometry/points/lattice_links.hpp"
#include "core/geometry/solids/bodies.hpp"
#include "core/geometry/surfaces/patch_edit.hpp"
#include "core/geometry/surfaces/patch_evaluator.hpp"
#include "core/geometry/surfaces/surface_sampling.hpp"
#include "core/geometry/surfaces/trimmed_domain.hpp"
#include "core/picture/creases.hpp"
#include "core/picture/mesh_draft.hpp"
#include "core/picture/own_colours.hpp"
#include "core/picture/surface_lines.hpp"

namespace plume {
namespace {

const Field* chosen_field(const std::vector<Field>& fields, const std::string& wanted,
                          const std::string& in_hand) {
    if (wanted == "-" || fields.empty()) return nullptr;
    if (wanted.empty() && in_hand.empty()) return &fields.back();
    const auto found = std::ranges::find(fields, wanted.empty() ? in_hand : wanted, &Field::name);
    return found == fields.end() ? nullptr : &*found;
}

// Maps a field's numbers to colour coordinates.
class Colours {
public:
    // `counts(index)` says whether a number counts for the range, unless that is known already.
    template <class Counts>
    Colours(const std::vector<Field>& fields, const std::string& wanted, const std::string& in_hand,
            Drawable& drawable, Counts counts, std::optional<std::pair<double, double>> range = {}) {
        if (wanted.empty() && in_hand.empty()) own_ = own_colour_coordinates(fields);
        if (own_) return;
        field_ = chosen_field(fields, wanted, in_hand);
        const Field* const field = field_;
        if (!field) return;
        low_ = std::numeric_limits<double>::infinity();
        double high = -low_;
        if (range) std::tie(low_, high) = *range;
        for (std::size_t index = 0; index < field->values.size() && !range; ++index) {
            const double value = field->values[index];
            if (!std::isfinite(value) || !counts(index)) continue;
            low_ = std::min(low_, value);
            high = std::max(high, value);
        }
        if (low_ > high) low_ = high = 0;
        // Interpolating leaves a zero at some 1e-18, which nobody wants to read in a legend.
        if (std::abs(low_) < 1e-12 * (high - low_)) low_ = 0;
        if (std::abs(high) < 1e-12 * (high - low_)) high = 0;
        scale_ = high > low_ ? 1 / (high - low_) : 0;
        drawable.colour_field = field->name;
        drawable.colour_dimension = field->dimension;
        drawable.colour_low = low_;
        drawable.colour_high = high;
    }
    float at(std::size_t index) const {
        if (own_) return (*own_)[index];
        if (!field_) return plain_coordinate;
        const double value = field_->values[index];
        if (!std::isfinite(value)) return not_finite_coordinate;
        // One number everywhere is in the middle of the ramp, not at its darkest end.
        return scale_ > 0 ? static_cast<float>(std::clamp((value - low_) * scale_, 0.0, 1.0)) : 0.5F;
    }

private:
    const Field* field_ = nullptr;
    std::optional<std::vector<float>> own_;
    double low_ = 0, scale_ = 0;
};

struct Floats {
    float x, y, z;
};
Floats relative(Vec3 p, Vec3 origin) {
    const Vec3 d = p - origin;
    return {static_cast<float>(d.x), static_cast<float>(d.y), static_cast<float>(d.z)};
}

DrawVertex vertex(Vec3 p, Vec3 origin, Vec3 normal, float colour) {
    const Floats at = relative(p, origin), n = relative(normal, {});
    return {at.x, at.y, at.z, n.x, n.y, n.z, colour};
}

void settle(Drawable& drawable, Box bounds) {
    drawable.bounds = bounds;
    if (!bounds.empty()) drawable.origin = bounds.centre();
}

// Graphics cards and ray tracers reckon in floats and square them.
constexpr double largest_drawn = 1e18;

// Pieces of a trim between two of its knots, as smooth as arcs are seen.
constexpr int usual_trim_pieces = 16;

constexpr auto absent = std::numeric_limits<std::uint32_t>::max();

// Every so many rows and columns are drawn of lattices no screen could show whole.
std::size_t thinning(const PointLattice& lattice) {
    constexpr double most_drawn = 1'500'000;
    const double share = static_cast<double>(lattice.address_count()) / most_drawn;
    return share <= 1 ? 1 : static_cast<std::size_t>(std::ceil(std::sqrt(share)));
}

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

void add_line(Vec3 from, Vec3 to, float colour, Drawable& drawable) {
    const auto first = static_cast<std::uint32_t>(drawable.vertices.size());
    for (const Vec3 end : {from, to}) {
        const Floats at = relative(end, drawable.origin);
        drawable.vertices.push_back({at.x, at.y, at.z, 0, 0, 1, colour});
    }
    drawable.edges.insert(drawable.edges.end(), {first, first + 1});
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

void draw_placements(const Placements& placements, Drawable& drawable) {
    drawable.points_are = PointRole::feet;
    drawable.lines_are = LineRole::lines;
    const PointLattice& origins = placements.origins();
    settle(drawable, origins.bounds());
    const Colours colours(origins.fields(), "-", "", drawable, [](std::size_t) { return false; });
    add_points(origins, colours, drawable);
    const double reach = 0.45 * usual_spacing(origins);
    // Rose, moss and slate: first, second and third axis.
    const std::array<float, 3> axis_colours{own_colour_coordinate({0.76F, 0.31F, 0.36F}),
                                            own_colour_coordinate({0.37F, 0.56F, 0.24F}),
                                            own_colour_coordinate({0.22F, 0.42F, 0.64F})};
    for (const DrawPoint& point : drawable.points) {
        const Placement& placement = placements.placement(point.index);
        add_line(placement.origin, placement.origin + placement.along * reach, axis_colours[0], drawable);
        add_line(placement.origin, placement.origin + placement.across * reach, axis_colours[1], drawable);
        add_line(placement.origin, placement.origin + placement.up * reach, axis_colours[2], drawable);
    }
    for (const DrawVertex& vertex : drawable.vertices)
        drawable.bounds.include(drawable.absolute(vertex.x, vertex.y, vertex.z));
}

void draw_attractors(const Attractors& attractors, Drawable& drawable) {
    drawable.points_are = PointRole::handles;
    drawable.lines_are = LineRole::handles;
    settle(drawable, bounds_of(attractors));
    for (std::size_t index = 0; index < attractors.items().size(); ++index) {
        const Attractor& item = attractors.items()[index];
        if (item.path) {
            for (std::size_t corner = 1; corner < item.path->size(); ++corner)
                add_line((*item.path)[corner - 1], (*item.path)[corner], plain_coordinate, drawable);
            continue;
        }
        const Floats at = relative(item.position, drawable.origin);
        drawable.points.push_back({at.x, at.y, at.z, plain_coordinate, static_cast<std::uint32_t>(index)});
        if (item.weight < 0) drawable.minus_signs.push_back(item.position);
    }
}

// Numbers of the faces whose corners are all finite; the others are counted.
std::vector<std::uint32_t> finite_faces(const Mesh& mesh, Drawable& drawable) {
    std::vector<std::uint32_t> faces(mesh.face_count());
    std::iota(faces.begin(), faces.end(), 0U);
    if (all_finite(mesh.x()) && all_finite(mesh.y()) && all_finite(mesh.z())) return faces;
    std::erase_if(faces, [&](std::uint32_t face) {
        if (std::ranges::all_of(mesh.face(face), [&](std::uint32_t c) { return is_finite(mesh.vertex(c)); }))
            return false;
        if (drawable.not_finite_points++ == 0) drawable.first_not_finite = face;
        return true;
    });
    return faces;
}

// Leaves in `faces` those of which something is drawn.
Status add_draft(const Mesh& mesh, std::vector<std::uint32_t>& faces, const Colours& colours,
                 std::size_t most, bool coarse, const Run& run, Drawable& drawable) {
    auto triangles = draft_of(mesh, faces, most, run);
    if (!triangles) return triangles.error();
    faces.clear();
    for (const DraftTriangle& triangle : *triangles)
        if (faces.empty() || faces.back() != triangle.face) faces.push_back(triangle.face);
    if (coarse) thin_layers(*triangles, drawable.bounds);
    DrawArray<std::uint32_t>& indices = coarse ? drawable.coarse : drawable.triangles;
    for (const DraftTriangle& triangle : *triangles) {
        const Vec3 normal = unit_or_zero(area_vector(mesh, triangle.face));
        if (mesh.part_count() > 1)
            drawable.vertex_parts.insert(drawable.vertex_parts.end(), 3,
                                         static_cast<std::uint32_t>(mesh.part_of(triangle.face)));
        for (std::size_t corner = 0; corner < 3; ++corner) {
            indices.push_back(static_cast<std::uint32_t>(drawable.vertices.size()));
            drawable.vertices.push_back(vertex(triangle.corners[corner], drawable.origin, normal,
                                               colours.at(triangle.vertices[corner])));
        }
    }
    return Done{};
}

// Facets are shaded flat: every corner gets a vertex of its own with the facet's normal, or the one that the
// creases give it. Where each facet's corners come to stand is counted first, so that facets are written side
// by side.
void add_facets(const Mesh& mesh, const std::vector<std::uint32_t>& faces, const Creases* creases,
                const Colours& colours, const Run& run, Drawable& drawable) {
    std::vector<std::uint32_t> first(faces.size() + 1, 0);
    for (std::size_t at = 0; at < faces.size(); ++at)
        first[at + 1] = first[at] + static_cast<std::uint32_t>(mesh.face(faces[at]).size());
    drawable.vertices.resize(first.back());
    if (mesh.part_count() > 1) drawable.vertex_parts.resize(first.back());
    drawable.edges.resize(2 * static_cast<std::size_t>(first.back()));
    drawable.triangles.resize(3 * (static_cast<std::size_t>(first.back()) - 2 * faces.size()));
    parallel_blocks(faces.size(), 4096, run, [&](std::size_t begin, std::size_t end) {
        for (std::size_t at = begin; at < end; ++at) {
            const auto corners = mesh.face(faces[at]);
            const Vec3 normal = unit_or_zero(area_vector(mesh, faces[at]));
            const std::uint32_t start = first[at], count = first[at + 1] - start;
            if (!drawable.vertex_parts.empty())
                std::fill_n(drawable.vertex_parts.data() + start, count,
                            static_cast<std::uint32_t>(mesh.part_of(faces[at])));
            std::uint32_t* triangle =
                drawable.triangles.data() + 3 * (static_cast<std::size_t>(start) - 2 * at);
            for (std::uint32_t corner = 0; corner < count; ++corner) {
                drawable.vertices[start + corner] =
                    vertex(mesh.vertex(corners[corner]), drawable.origin,
                           creases ? creases->normals[start + corner] : normal, colours.at(corners[corner]));
                drawable.edges[2 * static_cast<std::size_t>(start + corner)] = start + corner;
                drawable.edges[2 * static_cast<std::size_t>(start + corner) + 1] =
                    start + (corner + 1) % count;
            }
            for_each_triangle(mesh, faces[at], [&](std::uint32_t a, std::uint32_t b, std::uint32_t c) {
                *triangle++ = start + a;
                *triangle++ = start + b;
                *triangle++ = start + c;
            });
        }
    });
    if (!creases) return;
    std::size_t kept = 0;
    for (std::size_t corner = 0; corner < creases->is_edge.size(); ++corner) {
        if (creases->is_edge[corner] == 0) continue;
        drawable.edges[kept++] = drawable.edges[2 * corner];
        drawable.edges[kept++] = drawable.edges[2 * corner + 1];
    }
    drawable.edges.resize(kept);
}

// Where faces of a body turn by more, there is an edge.
constexpr double crease_rad = 0.45;

// More facets than can be seen are drawn by fewer, without edges, which would stand too close to be told
// apart.
Status draw_mesh(const Mesh& mesh, bool creased, const DrawOptions& options, const Run& run,
                 Drawable& drawable) {
    settle(drawable, mesh.bounds());
    const Colours colours(mesh.fields(), options.colour_by, "", drawable, [](std::size_t) { return true; });
    std::vector<std::uint32_t> faces = finite_faces(mesh, drawable);
    const std::size_t triangle_count = mesh.corner_count() - 2 * mesh.face_count();
    drawable.thinned = triangle_count > options.most_triangles;
    const bool creases = creased && !drawable.thinned && faces.size() == mesh.face_count();
    if (creases) {
        const Creases seen = creases_of(mesh, crease_rad);
        add_facets(mesh, faces, &seen, colours, run, drawable);
    } else if (!drawable.thinned)
        add_facets(mesh, faces, nullptr, colours, run, drawable);
    else if (Status drawn = add_draft(mesh, faces, colours, options.most_triangles, false, run, drawable);
             !drawn)
        return drawn;
    if (triangle_count <= 2 * options.most_coarse) return Done{};
    // Of a form drawn by few triangles the coarse one is made of these.
    return add_draft(mesh, faces, colours, options.most_coarse, true, run, drawable);
}

// Edges follow the rows and columns of the points the surface was made from.
void add_samples(const SurfaceSamples& samples, const PatchLines& lines, const Colours& colours,
                 Drawable& drawable) {
    const auto first = static_cast<std::uint32_t>(drawable.vertices.size());
    const std::size_t total = samples.count_u * samples.count_v;
    drawable.vertices.reserve(first + total);
    for (std::size_t index = 0; index < total; ++index)
        drawable.vertices.push_back(vertex(
            {samples.x[index], samples.y[index], samples.z[index]}, drawable.origin,
            {samples.normal_x[index], samples.normal_y[index], samples.normal_z[index]}, colours.at(index)));
    const std::size_t bays_u = samples.closed_u ? samples.count_u : samples.count_u - 1;
    const std::size_t bays_v = samples.closed_v ? samples.count_v : samples.count_v - 1;
    const bool edges = lines.every == 1;
    for (std::size_t b = 0; b < samples.count_v; ++b) {
        const std::size_t above = b + 1 < samples.count_v ? b + 1 : 0;
        for (std::size_t a = 0; a < samples.count_u; ++a) {
            const std::size_t right = a + 1 < samples.count_u ? a + 1 : 0;
            const auto number = [&](std::size_t column, std::size_t row) {
                return first + static_cast<std::uint32_t>(column + samples.count_u * row);
            };
            const std::uint32_t here = number(a, b);
            if (a < bays_u && b < bays_v)
                drawable.triangles.insert(drawable.triangles.end(),
                                          {here, number(right, b), number(right, above), here,
                                           number(right, above), number(a, above)});
            if (edges && a < bays_u && lines.v.at_node[b] != 0)
                drawable.edges.insert(drawable.edges.end(), {here, number(right, b)});
            if (edges && b < bays_v && lines.u.at_node[a] != 0)
                drawable.edges.insert(drawable.edges.end(), {here, number(a, above)});
        }
    }
}

// Triangles over every n-th row and column of samples, the last ones among them.
void add_coarse(const SurfaceSamples& samples, std::uint32_t first, std::size_t most, Drawable& drawable) {
    const double share =
        2 * static_cast<double>(samples.x.size()) / static_cast<double>(std::max<std::size_t>(most, 2));
    const auto every = static_cast<std::size_t>(std::ceil(std::sqrt(std::max(share, 1.0))));
    const auto lines = [&](std::size_t count, bool closed) {
        std::vector<std::uint32_t> kept;
        for (std::size_t at = 0; at + 1 < count; at += every)
            kept.push_back(static_cast<std::uint32_t>(at));
        kept.push_back(static_cast<std::uint32_t>(count - 1));
        if (closed) kept.push_back(0);
        return kept;
    };
    const auto columns = lines(samples.count_u, samples.closed_u),
               rows = lines(samples.count_v, samples.closed_v);
    const auto number = [&](std::size_t a, std::size_t b) {
        return first + columns[a] + static_cast<std::uint32_t>(samples.count_u) * rows[b];
    };
    for (std::size_t b = 0; b + 1 < rows.size(); ++b)
        for (std::size_t a = 0; a + 1 < columns.size(); ++a)
            drawable.coarse.insert(drawable.coarse.end(),
                                   {number(a, b), number(a + 1, b), number(a + 1, b + 1), number(a, b),
                                    number(a + 1, b + 1), number(a, b + 1)});
}

// Of what trims leave of a patch.
Status add_trimmed(const SplinePatch& patch, const PatchLines& lines, const DrawOptions& options,
                   const Run& run, Drawable& drawable) {
    const bool flat = is_parallelogram(patch);
    const auto domain =
        trimmed_domain(patch, usual_trim_pieces, flat ? std::vector<double>() : lines.u.parameters,
                       flat ? std::vector<double>() : lines.v.parameters, run);
    if (!domain) return domain.error();
    const PatchEvaluator evaluator(patch);
    std::vector<Field> fields;
    for (std::size_t field = 0; field < patch.fields().size(); ++field) {
        Doubles numbers;
        for (const TrimmedDomain::Place& place : domain->places)
            numbers.push_back(evaluator.field_at(field, place.u, place.v));
        fields.push_back({patch.fields()[field].name, std::move(numbers), patch.fields()[field].dimension});
    }
    const Colours colours(fields, options.colour_by, "", drawable, [](std::size_t) { return true; });
    const auto first = static_cast<std::uint32_t>(drawable.vertices.size());
    for (std::size_t at = 0; at < domain->places.size(); ++at) {
        const TrimmedDomain::Place& place = domain->places[at];
        drawable.vertices.push_back(vertex(evaluator.at(place.u, place.v).position, drawable.origin,
                                           normal_at(evaluator, patch.u(), patch.v(), place.u, place.v),
                                           colours.at(at)));
    }
    for (const auto& triangle : domain->triangles)
        for (const std::uint32_t corner : triangle)
            drawable.triangles.push_back(first + corner);
    for (std::size_t loop = 0; loop < domain->loop_starts.size(); ++loop) {
        const std::uint32_t begin = domain->loop_starts[loop];
        const auto end = loop + 1 < domain->loop_starts.size() ? domain->loop_starts[loop + 1]
                                                               : static_cast<std::uint32_t>(domain->on_loops);
        for (std::uint32_t at = begin; at < end; ++at)
            drawable.edges.insert(drawable.edges.end(),
                                  {first + at, first + (at + 1 < end ? at + 1 : begin)});
    }
    return Done{};
}

// On which lines each patch is drawn.
std::vector<PatchLines> lines_of(const SurfaceSet& set, const DrawOptions& options, const Run& run,
                                 Drawable& drawable) {
    std::vector<PatchLines> all;
    const std::size_t most = options.most_samples / set.patches.size() + 1;
    for (const SplinePatch& patch : set.patches) {
        PatchLines lines = usual_lines(patch, options.surface_samples / set.patches.size(), most);
        if (options.view)
            if (auto closer = closer_lines(patch, lines, *options.view, most, run)) {
                lines = *std::move(closer);
                drawable.closer = true;
            }
        drawable.thinned = drawable.thinned || lines.every > 1;
        drawable.edge_pieces = std::max(drawable.edge_pieces, lines.per_bay);
        all.push_back(std::move(lines));
    }
    return all;
}

// Of a face of a body only its rim is an edge.
void leave_rim(SampleLines& lines, bool closed) {
    std::ranges::fill(lines.at_node, std::uint8_t{0});
    if (closed) return;
    lines.at_node.front() = lines.at_node.back() = 1;
}

Status draw_surfaces(const SurfaceSet& set, bool faces, const DrawOptions& options, const Run& run,
                     Drawable& drawable) {
    if (set.patches.empty()) return Done{};
    std::vector<PatchLines> lines = lines_of(set, options, run, drawable);
    std::vector<SurfaceSamples> all;
    std::size_t sample_count = 0;
    Box bounds;
    for (std::size_t index = 0; index < lines.size(); ++index) {
        Result<SurfaceSamples> samples = sample_on(set.patches[index], lines[index].u, lines[index].v, run);
        if (!samples) return samples.error();
        for (std::size_t at = 0; at < samples->x.size(); ++at)
            bounds.include(Vec3{samples->x[at], samples->y[at], samples->z[at]});
        sample_count += samples->x.size();
        all.push_back(*std::move(samples));
    }
    settle(drawable, bounds);
    if (faces)
        for (std::size_t index = 0; index < lines.size(); ++index) {
            leave_rim(lines[index].u, all[index].closed_u);
            leave_rim(lines[index].v, all[index].closed_v);
        }
    for (std::size_t index = 0; index < all.size(); ++index) {
        // The range is that of the numbers given: between them a spline swings a little beyond.
        const SurfaceSamples& samples = all[index];
        const PatchLines& on = lines[index];
        if (set.patches[index].trimmed()) {
            const std::size_t before = drawable.triangles.size();
            if (Status drawn = add_trimmed(set.patches[index], on, options, run, drawable); !drawn)
                return drawn;
            if (sample_count > options.most_coarse)
                drawable.coarse.insert(drawable.coarse.end(),
                                       drawable.triangles.begin() + static_cast<std::ptrdiff_t>(before),
                                       drawable.triangles.end());
            continue;
        }
        const bool every_node = on.every == 1 && !drawable.closer;
        const Field* field =
            every_node ? nullptr : chosen_field(set.patches[index].fields(), options.colour_by, "");
        const Colours colours(
            samples.fields, options.colour_by, "", drawable,
            [&](std::size_t at) {
                return on.u.at_node[at % samples.count_u] != 0 && on.v.at_node[at / samples.count_u] != 0;
            },
            field && !faces ? range_at_nodes(set.patches[index], *field) : std::nullopt);
        const auto first = static_cast<std::uint32_t>(drawable.vertices.size());
        add_samples(samples, on, colours, drawable);
        // Of all patches or of none: while the camera moves nothing else of the surface is drawn.
        if (sample_count > options.most_coarse)
            add_coarse(samples, first, options.most_coarse / all.size(), drawable);
    }
    return Done{};
}

bool all_exact(const SolidSet& set) {
    return std::ranges::all_of(set.bodies, &Body::exact);
}

// Exact ones as smooth as the view needs; where one is a mesh, all as meshes. Their numbers are shown when
// they are asked for: a body is looked at for its form.
Status draw_bodies(const SolidSet& set, DrawOptions options, const Run& run, Drawable& drawable) {
    if (options.colour_by.empty()) options.colour_by = "-";
    if (!all_exact(set)) {
        const auto mesh = mesh_of(set, options.surface_samples, run);
        return mesh ? draw_mesh(*mesh, true, options, run, drawable) : Status(mesh.error());
    }
    SurfaceSet faces;
    for (const Body& body : set.bodies)
        faces.patches.insert(faces.patches.end(), body.patches().begin(), body.patches().end());
    return draw_surfaces(faces, true, options, run, drawable);
}

// The mean of some thousand of its edges.
double usual_edge_length(const Drawable& drawable) {
    const std::size_t edges = drawable.edges.size() / 2, every = edges / 2000 + 1;
    double sum = 0;
    std::size_t count = 0;
    for (std::size_t edge = 0; edge < edges; edge += every, ++count) {
        const DrawVertex &a = drawable.vertices[drawable.edges[2 * edge]],
                         &b = drawable.vertices[drawable.edges[2 * edge + 1]];
        sum += length(drawable.absolute(a.x, a.y, a.z) - drawable.absolute(b.x, b.y, b.z));
    }
    return count > 0 ? sum / static_cast<double>(count) : 0;
}

// Curves are edges through their samples; colours follow the field along them.
void draw_curves(const CurveSet& set, const DrawOptions& options, Drawable& drawable) {
    drawable.lines_are = LineRole::lines;
    std::vector<CurveSamples> all;
    Box bounds;
    for (const SplineCurve& curve : set.curves) {
        all.push_back(sample(curve, usual_tolerance(curve)));
        for (const Vec3 point : all.back().points)
            bounds.include(point);
    }
    settle(drawable, bounds);
    for (const CurveSamples& samples : all) {
        const Colours colours(samples.fields, options.colour_by, "", drawable,
                              [](std::size_t) { return true; });
        const auto first = static_cast<std::uint32_t>(drawable.vertices.size());
        const auto count = static_cast<std::uint32_t>(samples.points.size());
        for (std::uint32_t at = 0; at < count; ++at) {
            drawable.vertices.push_back(
                vertex(samples.points[at], drawable.origin, {0, 0, 1}, colours.at(at)));
            if (at + 1 < count || samples.closed)
                drawable.edges.insert(drawable.edges.end(), {first + at, first + (at + 1) % count});
        }
    }
}

}  // namespace

bool refines(const Value& value) {
    if (const auto* set = std::get_if<SolidSet>(&value)) return all_exact(*set);
    return kind_of(value) == Kind::surface;
}

Result<Drawable> make_drawable(const Value& value, const DrawOptions& options, const Run& run) {
    Drawable drawable;
    drawable.refines = refines(value);
    const Overloaded draw{
        [&](const PointLattice& lattice) -> Status {
            draw_lattice(lattice, "", options, drawable);
            return Done{};
        },
        [&](const FieldOnPoints& item) -> Status {
            draw_lattice(item.points, item.name, options, drawable);
            return Done{};
        },
        [&](const Attractors& attractors) -> Status {
            draw_attractors(attractors, drawable);
            return Done{};
        },
        [&](const Mesh& mesh) -> Status { return draw_mesh(mesh, false, options, run, drawable); },
        [&](const SurfaceSet& set) -> Status { return draw_surfaces(set, false, options, run, drawable); },
        [&](const CurveSet& set) -> Status {
            draw_curves(set, options, drawable);
            return Done{};
        },
        [&](const DirectionsOnPoints& item) -> Status {
            draw_directions(item, options, drawable);
            return Done{};
        },
        [&](const Placements& placements) -> Status {
            draw_placements(placements, drawable);
            return Done{};
        },
        [&](const SolidSet& set) -> Status { return draw_bodies(set, options, run, drawable); },
        [](const Quantity&) -> Status { return Done{}; }};  // a number has no place
    const Status drawn = guarded([&]() -> Status { return std::visit(draw, value); });
    if (!drawn) return drawn.error();
    if (run.cancelled()) return cancelled_error();
    drawable.edge_length = usual_edge_length(drawable) * drawable.edge_pieces;
    if (drawable.bounds.diagonal() > largest_drawn)
        return Error{
            ErrorCode::out_of_range, "",
            "This is too large to be drawn, " + short_text(drawable.bounds.diagonal()) + " from end to end",
            "Look at the numbers that move it so far."};
    return drawable;
}

}  // namespace plume
