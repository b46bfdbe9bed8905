// A sheet that falls, held where it is held, moment after moment.

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/geometry/meshes/mesh_faults.hpp"
#include "core/geometry/meshes/vertex_places.hpp"
#include "core/sheets/falling_sheet.hpp"
#include "core/steps/catalogue.hpp"
#include "core/steps/forces/held_places.hpp"
#include "core/steps/formula_support.hpp"
#include "core/steps/meshes/mesh_support.hpp"
#include "core/steps/sheets/drawn_to.hpp"

namespace plume {
namespace {

// Farther than this a vertex is not where it is held.
constexpr double off_m = 1e-6;
constexpr double m_s_per_mm_s = 1e-3;
// m/s along an axis, carried by the sheet from moment to moment.
constexpr std::array<const char*, 3> speed_names{"speed_x", "speed_y", "speed_z"};
constexpr const char* strain_name = "strain";

struct Cloth {
    const char *key, *words, *help;
    SheetMaterial material;
};
constexpr std::array<Cloth, 5> cloths{
    Cloth{"silk", "silk", "60 g/m², 1500 N/m, hardly resists bending", {0.06, 1500, 200, 2e-6}},
    Cloth{"linen", "linen", "200 g/m², 3000 N/m", {0.2, 3000, 500, 2e-5}},
    Cloth{"felt", "felt", "400 g/m², 2000 N/m, in soft folds", {0.4, 2000, 1000, 5e-4}},
    Cloth{"rubber", "rubber", "1 kg/m², 400 N/m: it stretches", {1.0, 400, 250, 1e-4}},
    Cloth{"card", "card", "300 g/m², 20 000 N/m, bends little", {0.3, 20'000, 10'000, 5e-2}}};

std::vector<Word> cloth_words() {
    std::vector<Word> words;
    words.reserve(cloths.size());
    for (const Cloth& cloth : cloths)
        words.push_back({cloth.key, cloth.words, cloth.help});
    return words;
}

const SheetMaterial& material_in(const Inputs& in) {
    return std::ranges::find_if(cloths, [&](const Cloth& cloth) { return in.word("cloth") == cloth.key; })
        ->material;
}

std::vector<Vec3> in_metres(const Mesh& mesh, double metres) {
    std::vector<Vec3> places = vertex_places(mesh);
    for (Vec3& place : places)
        place = place * metres;
    return places;
}

// What the step was given at a moment, in metres.
struct Given {
    Mesh mesh;
    double metres;
    std::vector<Vec3> at;
    std::vector<double> firmness;
    Sheet sheet;
    Obstacle obstacle;
    SheetForces forces;
};

constexpr double gravity_m_s2 = 9.81;

Vec3 way_down(const Inputs& in) {
    const std::string& falls = in.word("falls");
    if (falls == "nowhere") return {};
    if (falls != "along") return {0, 0, falls == "up" ? 1.0 : -1.0};
    const double bearing = in.number("bearing"), slope = in.number("slope");
    return {std::cos(slope) * std::cos(bearing), std::cos(slope) * std::sin(bearing), std::sin(slope)};
}

SheetForces forces_in(const Inputs& in, const Sheet& sheet, double metres) {
    SheetForces forces;
    forces.gravity = way_down(in) * gravity_m_s2;
    // Thicker than its edges are long nothing could fold.
    forces.thickness = std::min(in.number("thickness") * metres, 0.5 * sheet.shortest_edge);
    forces.friction = in.number("friction");
    if (in.has("wind")) {
        const double towards = in.number("towards"), speed = in.number("wind");
        forces.wind = {speed * std::cos(towards), speed * std::sin(towards), 0};
    }
    if (in.has("pressure")) forces.inflation = in.number("pressure");
    if (in.has("height")) forces.ground = in.number("height") * metres;
    return forces;
}

FormulaSite growth_site(const Inputs& in) {
    FormulaSite site = site_on_places(in.value("sheet"));
    site.results.push_back({"", "the last line is by what share edges grow longer: 0.2 by a fifth", true});
    return site;
}

// Of vertices; empty where it does not grow.
Result<std::vector<double>> growth_in(const Inputs& in, const Run& run) {
    if (in.word("grows") != "by") return std::vector<double>();
    const auto growth = numbers_by_formula(in, growth_site(in), plain_number, run);
    if (!growth) return growth.error();
    return std::vector<double>(growth->begin(), growth->end());
}

Result<Given> given(const Inputs& in, const Run& run) {
    const auto& mesh = in.held<Mesh>("sheet");
    const Mesh& rest = in.has("rest") ? in.held<Mesh>("rest") : mesh;
    if (rest.vertex_count() != mesh.vertex_count() || rest.face_count() != mesh.face_count())
        return about_slot(Error{ErrorCode::unlike_arrangement, "",
                                "has other vertices or faces than the sheet, so it says nothing of its edges",
                                "Choose what the sheet was made of, before it was moved."},
                          "rest");
    const double metres = metres_per(in.units().length);
    auto firmness = firmness_in(Value(mesh));
    if (!firmness) return about_slot(firmness.error(), "sheet");
    auto growth = growth_in(in, run);
    if (!growth) return growth.error();
    auto sheet = make_sheet(mesh, in_metres(rest, metres), material_in(in), *growth);
    if (!sheet && !growth->empty()) return about_slot(sheet.error(), "formula");
    if (!sheet) return about_slot(sheet.error(), in.has("rest") ? "rest" : "sheet");
    Given made{mesh, metres, in_metres(mesh, metres), *std::move(firmness), *std::move(sheet), {}, {}};
    if (!std::ranges::all_of(made.at, [](Vec3 at) { return is_finite(at); }))
        return about_slot(Error{ErrorCode::not_finite, "", "has a vertex that is not finite",
                                "Mend the step that makes it."},
                          "sheet");
    made.forces = forces_in(in, made.sheet, metres);
    if (!in.has("form")) return made;
    const auto form = changed_mesh(in, run, "form");
    if (!form) return form.error();
    add_obstacle(made.obstacle, *form, metres);
    return made;
}

// The mesh with its places, speeds and how far its edges are from their lengths.
Result<Value> with_state(const Given& given, const SheetState& state) {
    Mesh::Parts parts = given.mesh.parts();
    std::vector<Vec3> places = state.at;
    for (Vec3& place : places)
        place = place * (1 / given.metres);
    set_vertices(parts, places);
    std::array<Doubles, 3> speeds;
    Doubles strain(state.at.size(), 0);
    for (std::size_t vertex = 0; vertex < state.at.size(); ++vertex) {
        speeds[0].push_back(state.speed[vertex].x);
        speeds[1].push_back(state.speed[vertex].y);
        speeds[2].push_back(state.speed[vertex].z);
    }
    for (const SheetSpring& spring : given.sheet.springs) {
        if (spring.diagonal) continue;
        const double longer = length(state.at[spring.b] - state.at[spring.a]) / spring.rest - 1;
        for (const std::uint32_t end : {spring.a, spring.b})
            if (std::abs(longer) > std::abs(strain[end])) strain[end] = longer;
    }
    std::erase_if(parts.fields, [](const Field& field) {
        return field.name == strain_name || std::ranges::find(speed_names, field.name) != speed_names.end();
    });
    for (std::size_t axis = 0; axis < 3; ++axis)
        parts.fields.push_back({speed_names[axis], Column(std::move(speeds[axis])), plain_number});
    parts.fields.push_back({strain_name, Column(std::move(strain)), plain_number});
    return as_value(Mesh::make(std::move(parts)));
}

SheetState state_of(const Mesh& before, double metres) {
    SheetState state{in_metres(before, metres), std::vector<Vec3>(before.vertex_count())};
    for (std::size_t axis = 0; axis < 3; ++axis) {
        const auto speed = std::ranges::find(before.fields(), speed_names[axis], &Field::name);
        if (speed == before.fields().end()) continue;
        for (std::size_t vertex = 0; vertex < state.speed.size(); ++vertex)
            (axis == 0   ? state.speed[vertex].x
             : axis == 1 ? state.speed[vertex].y
                         : state.speed[vertex].z) = speed->values[vertex];
    }
    return state;
}

bool nothing_holds(const Given& given) {
    return std::ranges::all_of(given.firmness, [](double firmness) { return firmness == 0; });
}

// Where it was before it was moved to where it is held, if nothing else of it was moved: what holds it is
// followed from there, and does not tear its points through the others.
std::vector<Vec3> begun_at(const Inputs& in, const Given& given) {
    if (!in.has("rest")) return given.at;
    std::vector<Vec3> before = in_metres(in.held<Mesh>("rest"), given.metres);
    for (std::size_t vertex = 0; vertex < before.size(); ++vertex)
        if (given.firmness[vertex] == 0 && before[vertex] != given.at[vertex]) return given.at;
    return before;
}

Result<Value> make(const Inputs& in, const Run& run) {
    const Result<Given> made = given(in, run);
    if (!made) return made.error();
    const std::vector<Vec3> begun = begun_at(in, *made);
    if (nothing_holds(*made))
        run.remark("Nothing holds it: it falls. Hold some of its points to hang it.");
    else if (std::ranges::all_of(made->firmness, [](double firmness) { return firmness == 1; }))
        run.remark("All of it is held: it only goes where it is held.");
    if (made->forces.thickness < in.number("thickness") * made->metres)
        run.remark("It is " + quantity_text({made->forces.thickness / made->metres, a_length}, in.units()) +
                   " thick: half of its shortest edge is the most.");
    Mesh::Parts parts = made->mesh.parts();
    set_vertices(parts, begun);
    const auto lying = Mesh::make(std::move(parts));
    if (!lying) return lying.error();
    const auto crossing = crossing_faces(*lying, run);
    if (!crossing) return crossing.error();
    if (!crossing->empty())
        run.remark(count_text(crossing->size(), "face crosses", "faces cross") +
                   " others from the beginning, and may go on doing so.");
    return with_state(*made, {begun, std::vector<Vec3>(begun.size())});
}

// One that nothing stops falls no farther than it is long.
bool has_fallen(const Given& given, const SheetState& state) {
    if (given.forces.ground || !given.obstacle.at.empty() || !nothing_holds(given)) return false;
    Box first, now;
    for (std::size_t vertex = 0; vertex < state.at.size(); ++vertex) {
        first.include(given.at[vertex]);
        now.include(state.at[vertex]);
    }
    return first.low.z - now.low.z > first.diagonal();
}

// What holds it firmly is where it has the sheet.
bool is_held_still(const Given& given, const SheetState& state) {
    for (std::size_t vertex = 0; vertex < state.at.size(); ++vertex)
        if (given.firmness[vertex] == 1 && length(given.at[vertex] - state.at[vertex]) > off_m) return false;
    return true;
}

// Slow, and not only since it is about to turn round.
bool is_slow(const SheetState& from, const SheetState& to, const SheetReport& report, double still) {
    if (report.fastest >= still) return false;
    for (std::size_t vertex = 0; vertex < to.speed.size(); ++vertex)
        if (length(to.speed[vertex] - from.speed[vertex]) >= still / 2) return false;
    return true;
}

std::string told(const SheetReport& report, bool at_rest) {
    std::string text =
        at_rest ? "It is at rest" : "It moves at up to " + short_text(report.fastest, 3) + " m/s";
    text += "; its edges are at most " + short_text(std::max(0.0, 100 * report.most_stretched), 3) +
            " % longer than at rest.";
    if (report.most_held_off > off_m)
        text += " What holds it moved too fast: it is up to " + short_text(1000 * report.most_held_off, 3) +
                " mm behind.";
    return text;
}

Result<Value> advance(const Inputs& in, const Value& before, double seconds, const Run& run) {
    const Result<Given> now = given(in, run);
    if (!now) return now.error();
    const Mesh& mesh = std::get<Mesh>(before);
    if (mesh.vertex_count() != now->mesh.vertex_count())
        return about_slot(
            Error{ErrorCode::unlike_arrangement, "", "has another number of vertices than a moment before",
                  "Keep a moment of it first, so that it stays as it is."},
            "sheet");
    const SheetState from = state_of(mesh, now->metres);
    SheetState state = from;
    SheetForces forces = now->forces;
    if (in.has("attractors"))
        forces.loads = loads_towards(in.held<Attractors>("attractors"), in.number("pull"), in.number("reach"),
                                     now->metres, now->sheet, state.at);
    if (has_fallen(*now, state)) {
        run.remark("It fell by more than its own size, and stops here: give it a ground, or hold it.");
        return with_state(*now, {state.at, std::vector<Vec3>(state.at.size())});
    }
    const SheetHolds holds{now->firmness, state.at, now->at};
    FallingSheet sheet(now->sheet, now->obstacle, forces);
    const auto report = sheet.advance(state, holds, seconds, run);
    if (!report) return report.error();
    const bool at_rest =
        is_slow(from, state, *report, in.number("still") * m_s_per_mm_s) && is_held_still(*now, from);
    run.remark(told(*report, at_rest));
    return with_state(*now, at_rest ? SheetState{from.at, std::vector<Vec3>(from.at.size())} : state);
}

// Where both hold a vertex, or no mesh else, it may have been moved by what holds it.
bool is_moved_elsewhere(const Mesh& before, const Mesh& now) {
    const auto firm_before = firmness_in(Value(before)), firm_now = firmness_in(Value(now));
    const std::vector<Vec3> at_before = vertex_places(before), at_now = vertex_places(now);
    for (std::size_t vertex = 0; vertex < at_now.size(); ++vertex) {
        const bool held = firm_before && firm_now && ((*firm_before)[vertex] > 0 || (*firm_now)[vertex] > 0);
        if (!held && at_before[vertex] != at_now[vertex]) return true;
    }
    return false;
}

// What holds it, blows or is touched may change while it hangs; the sheet itself may not.
std::string begins_again(const Inputs& before, const Inputs& now) {
    if (!have_same_faces(before.held<Mesh>("sheet"), now.held<Mesh>("sheet")))
        return "Its sheet has other vertices or faces than before.";
    const auto at_rest = [](const Inputs& in) -> const Mesh& {
        return in.held<Mesh>(in.has("rest") ? "rest" : "sheet");
    };
    if (!have_same_faces(at_rest(before), at_rest(now)) || is_moved_elsewhere(at_rest(before), at_rest(now)))
        return "Its sheet has another form than before.";
    return {};
}

SlotSpec at_least_0(SlotSpec slot) {
    slot.least = 0;
    return slot;
}

}  // namespace

StepKind drape_sheet() {
    return {
        .key = "sheet.drape",
        .verb = "Let a sheet fall",
        .synonyms = "drape hang cloth fabric gravity wind inflate curtain sail awning simulate physics",
        .sentence =
            "Let {sheet} fall {falls}[falls=along| {bearing} sloping {slope}] as {cloth}, {thickness} thick, "
            "its edges as long as {lengths}[lengths=of| {rest}], {grows}[grows=by| {formula}], "
            "{blown}[blown=wind| of {wind} m/s towards {towards}][blown=inflated| by {pressure} Pa], drawn "
            "{drawn}[drawn=to| {attractors} by {pull} N/m² within {reach}], above "
            "{below}[below=ground| at {height}], touching {touching}[touching=form| {form}], which rubs by "
            "{friction}, and at rest where nothing moves by more than {still} mm/s.",
        .slots = {reference_slot("sheet", "Sheet", {Kind::mesh}),
                  choice_slot("falls", "Falls",
                              {{"down", "down", ""},
                               {"up", "up", "as a hung form is turned over"},
                               {"nowhere", "nowhere", "without weight"},
                               {"along", "along", "another direction"}}),
                  angle_slot("bearing", "Bearing", "0°"),
                  angle_slot("slope", "Slope", "-45°"),
                  choice_slot("cloth", "Cloth", cloth_words()),
                  at_least_0(length_slot("thickness", "Thickness", "5 mm")),
                  choice_slot("lengths", "Lengths",
                              {{"stand", "it stands", "at each moment"},
                               {"of", "they are in", "what it was before it was moved to where it is held"}}),
                  reference_slot("rest", "Lengths of", {Kind::mesh}),
                  choice_slot("grows", "Grows",
                              {{"no", "not growing", ""},
                               {"by", "growing by", "a share of their length, vertex by vertex"}}),
                  formula_slot("formula", formula_label, "0.3 * smoothstep(0, 3, time)"),
                  choice_slot("blown", "Blown",
                              {{"still", "in still air", ""},
                               {"wind", "in a wind", ""},
                               {"inflated", "inflated", "pressed out along the normals of its faces"}}),
                  number_slot("wind", "Wind", "6"),
                  angle_slot("towards", "Towards", "0°"),
                  number_slot("pressure", "Pressure", "30"),
                  choice_slot("drawn", "Drawn",
                              {{"nowhere", "nowhere", ""},
                               {"to", "to", "attractors; by a negative weight away from them"}}),
                  reference_slot("attractors", "Attractors", {Kind::attractors}),
                  at_least_0(number_slot("pull", "Pull", "5")),
                  length_above_zero_slot("reach", "Reach", "1 m"),
                  choice_slot("below", "Below",
                              {{"nothing", "nothing", ""}, {"ground", "a ground", "a level plane"}}),
                  length_slot("height", "Height", "0 m"),
                  choice_slot("touching", "Touching",
                              {{"itself", "itself", ""}, {"form", "itself and", "a form it falls over"}}),
                  reference_slot("form", "Form", {Kind::mesh, Kind::bodies, Kind::surface}),
                  at_least_0(number_slot("friction", "Friction", "0.3")),
                  at_least_0(number_slot("still", "At rest below", "1"))},
        .results = {Kind::mesh},
        .result_name = "fallen",
        .help =
            "A sheet that falls from moment to moment, held where ‘held’ says so and where it is held at "
            "that "
            "moment, by handles with keys too. It bears itself and what it touches and never goes through: "
            "every vertex goes only as far as nothing meets. Edges of faces resist being stretched, "
            "diagonals "
            "of faces with four corners and more being sheared, and all of it being bent. Vertices carry "
            "‘strain’, 0.02 where an edge is 2 % longer than at rest, and their speed in m/s. Play it; keep "
            "a "
            "moment of it for what follows.",
        .drawn_plain = true,
        .estimate =
            [](const Inputs& in) {
                const auto vertices = static_cast<double>(in.held<Mesh>("sheet").vertex_count());
                return Estimate{vertices * 1800, vertices * 3e-5};
            },
        .make = make,
        .advance = advance,
        .begins_again = begins_again,
        .contexts = {{"formula", context(growth_site)}},
    };
}

}  // namespace plume
