#include "core/tracing/part_origins.hpp"

#include <algorithm>

#include "core/results/items.hpp"
#include "core/tracing/part_places.hpp"

namespace plume {
namespace {

// The one spot at that place, or the nearest so close to it; of several the one with the number wished for,
// none where that is none of them.
std::optional<PartRef> spot_at(const Spots& spots, Vec3 place, std::size_t wished, double reach = 0) {
    std::optional<PartRef> found;
    bool several = false;
    double nearest = reach;
    for (std::size_t spot = 0; spot < spots.count; ++spot) {
        if (!spots.present(spot)) continue;
        const double apart = length(spots.at(spot) - place);
        if (!(apart <= nearest)) continue;
        const PartRef here{spots.sort, spots.first + spot};
        if (spot == wished) return here;
        several = found && apart == nearest;
        nearest = apart;
        found = here;
    }
    return several ? std::nullopt : found;
}

std::optional<PartRef> face_with(const Mesh& read, const std::vector<Vec3>& corners, std::size_t wished) {
    const auto fits = [&](std::size_t face) {
        const auto given = read.face(face);
        return given.size() == corners.size() &&
               std::ranges::equal(given, corners, [&](std::uint32_t corner, Vec3 place) {
                   return read.vertex(corner) == place;
               });
    };
    if (wished < read.face_count() && fits(wished)) return PartRef{PartSort::face, wished};
    for (std::size_t face = 0; face < read.face_count(); ++face)
        if (fits(face)) return PartRef{PartSort::face, face};
    return {};
}

std::optional<PartRef> member_between(const BarFrame& read, const std::vector<Vec3>& ends) {
    for (std::size_t member = 0; member < read.member_count(); ++member) {
        const Member& each = read.members()[member];
        const Vec3 start = read.start(each), end = read.end(each);
        if ((start == ends[0] && end == ends[1]) || (start == ends[1] && end == ends[0]))
            return PartRef{PartSort::item, member};
    }
    return {};
}

// The number of a point, a node or a vertex among those of its sort; any other number of all else.
std::size_t number_among_spots(const Value& made, PartRef part) {
    const auto* frame = std::get_if<BarFrame>(&made);
    return frame && part.number >= frame->member_count() ? part.number - frame->member_count() : part.number;
}

// The whole part, at its place.
std::optional<PartRef> whole_at_its_place(const Value& made, PartRef part, const std::vector<Vec3>& places,
                                          const Value& read) {
    if (part.sort == PartSort::face) {
        const auto* mesh = std::get_if<Mesh>(&read);
        return mesh ? face_with(*mesh, places, part.number) : std::nullopt;
    }
    if (places.size() == 2) {
        const auto* frame = std::get_if<BarFrame>(&read);
        return frame ? member_between(*frame, places) : std::nullopt;
    }
    // Parts and bodies are more than the middle they are said to be at.
    const bool spot =
        part.sort == PartSort::vertex || lattice_of(made) || std::holds_alternative<Attractors>(made);
    if (!spot || places.size() != 1) return {};
    return spot_at(spots_of(read), places[0], number_among_spots(made, part), rounding_within(made, part));
}

std::vector<PartRef> ends_at_their_places(const std::vector<Vec3>& places, const Value& read) {
    const Spots spots = spots_of(read);
    std::vector<PartRef> found;
    for (const Vec3 place : places) {
        const auto spot = spot_at(spots, place, spots.count);
        if (!spot) return {};
        found.push_back(*spot);
    }
    return found;
}

// Of parts of meshes and bodies: what has the same mark, an address or that of a member.
std::optional<PartRef> by_mark(const Value& made, PartRef part, const Value& read) {
    const bool marked = std::holds_alternative<Mesh>(made) || std::holds_alternative<SolidSet>(made);
    const std::string mark = marked ? mark_of(made, part) : std::string();
    if (mark.empty()) return {};
    const std::size_t total = items_of(read).total();
    for (std::size_t number = 0; number < total; ++number)
        if (mark_of(read, {PartSort::item, number}) == mark) return PartRef{PartSort::item, number};
    return {};
}

bool same_poles(const CurveSet& a, const CurveSet& b) {
    return std::ranges::equal(a.curves, b.curves, [](const SplineCurve& one, const SplineCurve& other) {
        return one.basis().pole_count() == other.basis().pole_count();
    });
}

bool same_poles(const SurfaceSet& a, const SurfaceSet& b) {
    return std::ranges::equal(a.patches, b.patches, [](const SplinePatch& one, const SplinePatch& other) {
        return one.u().pole_count() == other.u().pole_count() &&
               one.v().pole_count() == other.v().pole_count();
    });
}

template <class Set>
bool both_have_same_poles(const Value& a, const Value& b) {
    const Set *one = std::get_if<Set>(&a), *other = std::get_if<Set>(&b);
    return one && other && same_poles(*one, *other);
}

// What moved as a whole has the same address.
std::optional<PartRef> by_address(const Value& made, PartRef part, const Value& read) {
    const auto* frame = std::get_if<BarFrame>(&made);
    const auto* read_frame = std::get_if<BarFrame>(&read);
    if (frame && read_frame)
        return frame->members() == read_frame->members() && has_part(read, part) ? std::optional(part)
                                                                                 : std::nullopt;
    const auto* mesh = std::get_if<Mesh>(&made);
    const auto* read_mesh = std::get_if<Mesh>(&read);
    if (mesh && read_mesh) {
        const Mesh::Parts &now = mesh->parts(), &then = read_mesh->parts();
        return now.corners == then.corners && now.first == then.first && now.part_starts == then.part_starts
                   ? std::optional(part)
                   : std::nullopt;
    }
    if (both_have_same_poles<CurveSet>(made, read) || both_have_same_poles<SurfaceSet>(made, read))
        return part;
    const PointLattice *lattice = lattice_of(made), *read_lattice = lattice_of(read);
    if (frame || read_frame || !lattice || !read_lattice || !lattice->same_arrangement(*read_lattice))
        return {};
    return read_lattice->present(part.number) ? std::optional(part) : std::nullopt;
}

}  // namespace

std::vector<PartRef> origins_in(const Value& made, PartRef part, const Value& read, Taken taken) {
    if (const auto marked = by_mark(made, part, read)) return {*marked};
    const std::vector<Vec3> places = places_of(made, part);
    if (!places.empty())
        if (const auto whole = whole_at_its_place(made, part, places, read)) return {*whole};
    if (taken == Taken::over)
        if (const auto moved = by_address(made, part, read)) return {*moved};
    const bool has_ends = places.size() > 1 || std::holds_alternative<CurveSet>(made);
    return has_ends ? ends_at_their_places(places, read) : std::vector<PartRef>();
}

}  // namespace plume
