#include "core/picture/draw/drawing.hpp"

#include "core/base/parallel_results.hpp"
#include "core/geometry/curves/spline_basis.hpp"
#include "core/geometry/surfaces/patch_edit.hpp"
#include "core/geometry/surfaces/patch_evaluator.hpp"
#include "core/geometry/surfaces/surface_nodes.hpp"
#include "core/geometry/surfaces/surface_sampling.hpp"
#include "core/geometry/surfaces/trimmed_domain.hpp"
#include "core/picture/surface_lines.hpp"

namespace plume {
namespace {

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

// Around a trim, so that arcs are seen smooth.
constexpr std::size_t places_round_trims = 240;

// A patch and how it is drawn.
struct DrawnPatch {
    SplinePatch patch;
    std::size_t part = 0;  // which surface of the set, or which body, it is of
    bool is_face = false;  // of a body
    // Pieces between the knots of each trim; of a wall along one, between its own.
    std::vector<int> pieces = {};
};

// What trims leave of a patch, and where it stands.
struct TrimmedPatch {
    TrimmedDomain domain;
    std::vector<SurfacePoint> places;
};
Result<TrimmedPatch> trimmed_patch(const DrawnPatch& drawn, const PatchLines& lines, const Run& run) {
    const SplinePatch& patch = drawn.patch;
    const bool flat = is_parallelogram(patch);
    auto fan = flat ? fan_domain(patch, drawn.pieces) : std::nullopt;
    auto domain = fan ? Result<TrimmedDomain>(*std::move(fan))
                      : trimmed_domain(patch, drawn.pieces, flat ? std::vector<double>() : lines.u.parameters,
                                       flat ? std::vector<double>() : lines.v.parameters, run);
    if (!domain) return domain.error();
    TrimmedPatch made{*std::move(domain), {}};
    const PatchEvaluator evaluator(patch);
    if (!flat) {
        made.places = points_of(made.domain, evaluator);
        return made;
    }
    const double u0 = patch.u().start(), v0 = patch.v().start();
    const SurfacePoint corner = evaluator.at(u0, v0);
    made.places.assign(made.domain.places.size(), corner);
    for (std::size_t at = 0; at < made.places.size(); ++at) {
        const auto [u, v] = made.domain.places[at];
        made.places[at].position = corner.position + corner.along_u * (u - u0) + corner.along_v * (v - v0);
    }
    return made;
}

void add_trimmed(const SplinePatch& patch, const TrimmedPatch& piece, const DrawOptions& options,
                 Drawable& drawable) {
    const TrimmedDomain& domain = piece.domain;
    const PatchEvaluator evaluator(patch);
    std::vector<Field> fields;
    for (std::size_t field = 0; field < patch.fields().size(); ++field) {
        Doubles numbers;
        for (const TrimmedDomain::Place& place : domain.places)
            numbers.push_back(evaluator.field_at(field, place.u, place.v));
        fields.push_back({patch.fields()[field].name, std::move(numbers), patch.fields()[field].dimension});
    }
    const Colours colours(fields, options.colour_by, "", drawable, [](std::size_t) { return true; });
    const auto first = static_cast<std::uint32_t>(drawable.vertices.size());
    for (std::size_t at = 0; at < domain.places.size(); ++at) {
        const SurfacePoint& place = piece.places[at];
        Vec3 normal = unit_or_zero(cross(place.along_u, place.along_v));
        if (!(length(normal) > 0))
            normal = normal_at(evaluator, patch.u(), patch.v(), domain.places[at].u, domain.places[at].v);
        drawable.vertices.push_back(vertex(place.position, drawable.origin, normal, colours.at(at)));
    }
    for (const auto& triangle : domain.triangles)
        for (const std::uint32_t corner : triangle)
            drawable.triangles.push_back(first + corner);
    for (std::size_t loop = 0; loop < domain.loop_starts.size(); ++loop) {
        const std::uint32_t begin = domain.loop_starts[loop];
        const auto end = loop + 1 < domain.loop_starts.size() ? domain.loop_starts[loop + 1]
                                                              : static_cast<std::uint32_t>(domain.on_loops);
        for (std::uint32_t at = begin; at < end; ++at)
            drawable.edges.insert(drawable.edges.end(),
                                  {first + at, first + (at + 1 < end ? at + 1 : begin)});
    }
}

// Along its trims a wall has the places that they have: edges meet.
void follow_trims(PatchLines& lines, const DrawnPatch& drawn) {
    if (drawn.pieces.empty() || drawn.patch.trimmed()) return;
    lines.u.parameters = knot_lines(drawn.patch.u(), drawn.pieces.front());
    lines.u.at_node.assign(lines.u.parameters.size(), 0);
}

// On which lines each patch is drawn.
std::vector<PatchLines> lines_of(const std::vector<DrawnPatch>& patches, const DrawOptions& options,
                                 const Run& run, Drawable& drawable) {
    std::vector<PatchLines> all;
    const std::size_t most = options.most_samples / patches.size() + 1;
    for (const DrawnPatch& drawn : patches) {
        PatchLines lines = usual_lines(drawn.patch, options.surface_samples / patches.size(), most);
        if (options.view)
            if (auto closer = closer_lines(drawn.patch, lines, *options.view, most, run)) {
                lines = *std::move(closer);
                drawable.closer = true;
            }
        drawable.thinned = drawable.thinned || lines.every > 1;
        drawable.edge_pieces = std::max(drawable.edge_pieces, lines.per_bay);
        follow_trims(lines, drawn);
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

// A patch on its lines: whole or what trims leave of it.
struct PatchOnLines {
    std::optional<SurfaceSamples> whole;
    std::optional<TrimmedPatch> piece;
    std::size_t size() const { return whole ? whole->x.size() : piece->places.size(); }
    void include_in(Box& bounds) const {
        for (std::size_t at = 0; at < size(); ++at)
            bounds.include(whole ? Vec3{whole->x[at], whole->y[at], whole->z[at]}
                                 : piece->places[at].position);
    }
};
Result<PatchOnLines> on_lines(const DrawnPatch& drawn, const PatchLines& lines, const Run& run) {
    if (drawn.patch.trimmed()) {
        auto piece = trimmed_patch(drawn, lines, run);
        return piece ? Result<PatchOnLines>(PatchOnLines{{}, *std::move(piece)}) : piece.error();
    }
    auto samples = sample_on(drawn.patch, lines.u, lines.v, run);
    return samples ? Result<PatchOnLines>(PatchOnLines{*std::move(samples), {}}) : samples.error();
}

void add_whole(const SplinePatch& patch, const SurfaceSamples& samples, const PatchLines& on, bool is_face,
               const DrawOptions& options, Drawable& drawable) {
    // The range is that of the numbers given: between them a spline swings a little beyond.
    const bool every_node = on.every == 1 && !drawable.closer;
    const Field* field = every_node ? nullptr : chosen_field(patch.fields(), options.colour_by, "");
    const Colours colours(
        samples.fields, options.colour_by, "", drawable,
        [&](std::size_t at) {
            return on.u.at_node[at % samples.count_u] != 0 && on.v.at_node[at / samples.count_u] != 0;
        },
        field && !is_face ? range_at_nodes(patch, *field) : std::nullopt);
    add_samples(samples, on, colours, drawable);
}

// The vertices that came in are of that part.
void add_part(std::size_t part, Drawable& drawable) {
    drawable.vertex_parts.resize(drawable.vertices.size(), static_cast<std::uint32_t>(part));
}

// Likewise, each of the node that is nearest to it.
void add_nodes(const SplinePatch& patch, const PatchLines& lines, Drawable& drawable) {
    const std::size_t first = drawable.node_starts.back(), along_u = patch.u().nodes.size();
    const auto nearest = [](const SplineBasis& basis, const SampleLines& on) {
        std::vector<std::size_t> nodes;
        nodes.reserve(on.parameters.size());
        for (const double parameter : on.parameters)
            nodes.push_back(nearest_node(basis, parameter));
        return nodes;
    };
    const auto columns = nearest(patch.u(), lines.u), rows = nearest(patch.v(), lines.v);
    for (const std::size_t b : rows)
        for (const std::size_t a : columns)
            drawable.vertex_parts.push_back(static_cast<std::uint32_t>(first + a + along_u * b));
    drawable.node_starts.push_back(first + node_count(patch));
}

Status draw_patches(const std::vector<DrawnPatch>& patches, const DrawOptions& options, const Run& run,
                    Drawable& drawable) {
    if (patches.empty()) return Done{};
    std::vector<PatchLines> lines = lines_of(patches, options, run, drawable);
    // Side by side: triangles between trims are the work of one core.
    auto made = parallel_results<PatchOnLines>(
        patches.size(), run, [&](std::size_t patch) { return on_lines(patches[patch], lines[patch], run); });
    if (!made) return made.error();
    const std::vector<PatchOnLines> all = *std::move(made);
    std::size_t sample_count = 0;
    Box bounds;
    for (const PatchOnLines& one : all) {
        one.include_in(bounds);
        sample_count += one.size();
    }
    settle(drawable, bounds);
    // Of all patches or of none: while the camera moves nothing else of the surface is drawn.
    const bool coarse = sample_count > options.most_coarse;
    for (std::size_t index = 0; index < all.size(); ++index) {
        const auto& [patch, part, is_face, pieces] = patches[index];
        const auto first = static_cast<std::uint32_t>(drawable.vertices.size());
        if (all[index].piece) {
            const auto before = static_cast<std::ptrdiff_t>(drawable.triangles.size());
            add_trimmed(patch, *all[index].piece, options, drawable);
            add_part(part, drawable);
            if (coarse)
                drawable.coarse.insert(drawable.coarse.end(), drawable.triangles.begin() + before,
                                       drawable.triangles.end());
            continue;
        }
        const SurfaceSamples& samples = *all[index].whole;
        if (is_face) {
            leave_rim(lines[index].u, samples.closed_u);
            leave_rim(lines[index].v, samples.closed_v);
        }
        add_whole(patch, samples, lines[index], is_face, options, drawable);
        if (drawable.parts_are == DrawnPart::nodes)
            add_nodes(patch, lines[index], drawable);
        else
            add_part(part, drawable);
        if (coarse) add_coarse(samples, first, options.most_coarse / all.size(), drawable);
    }
    return Done{};
}

}  // namespace

Status draw_surfaces(const SurfaceSet& set, const DrawOptions& options, const Run& run, Drawable& drawable) {
    if (node_count(set) > 0) {
        drawable.parts_are = DrawnPart::nodes;
        drawable.node_starts = {0};
    }
    std::vector<DrawnPatch> patches;
    for (const SplinePatch& patch : set.patches)
        patches.push_back({patch, patches.size(), false, pieces_round(patch, places_round_trims)});
    return draw_patches(patches, options, run, drawable);
}

namespace {

// Whether a wall runs along a stretch of a trim: its knots are among those of the trim, whole turns aside.
bool runs_along(const SplineBasis& wall, const SplineBasis& trim) {
    const std::vector<double> knots = knot_breaks(trim);
    const double period = trim.end() - trim.start(), hardly = 1e-9 * period;
    return std::ranges::all_of(knot_breaks(wall), [&](double knot) {
        const double at = knot > trim.end() + hardly ? knot - period : knot;
        const auto near = std::ranges::lower_bound(knots, at - hardly);
        return near != knots.end() && *near <= at + hardly;
    });
}

// Pieces of a wall along a trim of one of the faces of its body; none along no trim.
std::vector<int> pieces_along(const SplinePatch& wall, const std::vector<SplinePatch>& faces) {
    for (const SplinePatch& face : faces) {
        const std::vector<int> pieces = pieces_round(face, places_round_trims);
        for (std::size_t trim = 0; trim < pieces.size(); ++trim)
            if (runs_along(wall.u(), face.trims()[trim].basis())) {
                const bool straight = is_parallelogram(face) && wall.u().degree == 1;
                return {straight ? 1 : pieces[trim]};
            }
    }
    return {};
}

}  // namespace

Status draw_faces(const SolidSet& set, const DrawOptions& options, const Run& run, Drawable& drawable) {
    std::vector<DrawnPatch> patches;
    for (std::size_t part = 0; part < set.bodies.size(); ++part) {
        const Body& body = set.bodies[part];
        for (const SplinePatch& face : body.patches())
            patches.push_back({face, part, true,
                               face.trimmed() ? pieces_round(face, places_round_trims)
                                              : pieces_along(face, body.patches())});
    }
    return draw_patches(patches, options, run, drawable);
}

}  // namespace plume
