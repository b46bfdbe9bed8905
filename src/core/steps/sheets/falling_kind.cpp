#include "core/steps/sheets/falling_kind.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <iterator>
#include <optional>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/geometry/meshes/vertex_places.hpp"
#include "core/geometry/moves/transformed.hpp"
#include "core/geometry/parts/subset.hpp"
#include "core/steps/catalogue.hpp"
#include "core/steps/forces/held_places.hpp"
#include "core/steps/formula_support.hpp"
#include "core/steps/meshes/mesh_support.hpp"
#include "core/steps/sheets/begun_sheet.hpp"
#include "core/steps/sheets/drawn_to.hpp"
#include "core/steps/sheets/loose_pieces.hpp"
#include "core/steps/sheets/sheets_in_hand.hpp"

namespace plume {
namespace {

constexpr const char* formula_key = "formula";
// Farther than this a vertex is not where it is held.
constexpr double off_m = 1e-6;
constexpr double m_s_per_mm_s = 1e-3;
// m/s along an axis, carried by the sheet from moment to moment.
constexpr std::array<const char*, 3> speed_names{"speed_x", "speed_y", "speed_z"};
constexpr const char* strain_name = "strain";

const char* const slot_of_thing = "sheet";

// Where gaps are nothing is.
std::vector<Vec3> in_metres(const Value& thing, double metres) {
    PlacesOfThing places = places_in(thing);
    for (std::size_t at = 0; at < places.at.size(); ++at)
        places.at[at] = places.present[at] != 0 ? places.at[at] * metres : Vec3{};
    return std::move(places.at);
}

// What the step was given at a moment, in metres.
struct Given {
    Value thing;
    double metres;
    std::vector<Vec3> at;
    std::vector<double> firmness;
    TakenSheet in_hand;
    std::optional<Mesh> form;  // in study lengths; what it falls over
    Obstacle obstacle;
    SheetForces forces;
    const Sheet& sheet() const { return in_hand->sheet; }
};

// How sheets are made, and where those are kept that were.
struct Sheets {
    SheetOf of;
    std::string material;  // a slot
    std::shared_ptr<SheetsInHand> kept = std::make_shared<SheetsInHand>();
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
    FormulaSite site = site_on_places(in.value(slot_of_thing));
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

const char* slot_of_rest(const Inputs& in) {
    return in.has("rest") ? "rest" : slot_of_thing;
}

Result<Sheet> made_sheet(const Inputs& in, const MadeFrom& from, const SheetOf& sheet_of, double metres) {
    const auto lengths = lengths_between(from.rest, from.grown);
    if (!lengths) {
        const bool by_growth = lengths.error().code == ErrorCode::out_of_range;
        return about_slot(lengths.error(), by_growth ? formula_key : slot_of_rest(in));
    }
    auto sheet = sheet_of(in, from.thing, *lengths, metres);
    if (!sheet && sheet.error().slot.empty()) return about_slot(sheet.error(), slot_of_rest(in));
    return sheet;
}

Result<TakenSheet> sheet_in(const Inputs& in, const Sheets& sheets, double metres, const Run& run) {
    auto growth = growth_in(in, run);
    if (!growth) return growth.error();
    const Value& resting = in.value(slot_of_rest(in));
    MadeFrom from{resting, in_metres(resting, metres), *std::move(growth), in.word(sheets.material),
                  in.number("thickness") * metres};
    std::unique_ptr<SheetInHand> sheet = sheets.kept->take(from);
    if (!sheet) {
        auto made = made_sheet(in, from, sheets.of, metres);
        if (!made) return made.error();
        sheet = std::make_unique<SheetInHand>(*std::move(made), from.rest);
    }
    return TakenSheet(sheets.kept, std::move(from), std::move(sheet));
}

Result<Given> given(const Inputs& in, const Sheets& sheets, const Run& run) {
    const Value& thing = in.value(slot_of_thing);
    if (in.has("rest") && !are_put_together_alike(thing, in.value("rest")))
        return about_slot(Error{ErrorCode::unlike_arrangement, "",
                                "is put together otherwise, so it says nothing of the edges of this one",
                                "Choose what it was made of, before it was moved."},
                          "rest");
    const double metres = metres_per(in.units().length);
    auto firmness = firmness_in(thing);
    if (!firmness) return about_slot(firmness.error(), slot_of_thing);
    auto sheet = sheet_in(in, sheets, metres, run);
    if (!sheet) return sheet.error();
    Given made{thing, metres, in_metres(thing, metres), *std::move(firmness), *std::move(sheet), {}, {}, {}};
    if (!std::ranges::all_of(made.at, [](Vec3 at) { return is_finite(at); }))
        return about_slot(Error{ErrorCode::not_finite, "", "has a vertex that is not finite",
                                "Mend the step that makes it."},
                          slot_of_thing);
    made.forces = forces_in(in, made.sheet(), metres);
    if (!in.has("form")) return made;
    auto form = changed_mesh(in, run, "form");
    if (!form) return form.error();
    add_obstacle(made.obstacle, *form, metres);
    made.form = *std::move(form);
    return made;
}

bool is_of_moment(const Field& field) {
    return field.name == strain_name || std::ranges::find(speed_names, field.name) != speed_names.end();
}

Doubles strains_of(const Given& given, const SheetState& state) {
    Doubles strains;
    for (const SheetSpring& spring : given.sheet().springs)
        strains.push_back(length(state.at[spring.b] - state.at[spring.a]) / spring.rest - 1);
    return strains;
}

// Of vertices the edge there that is farthest from its length counts.
std::vector<Field> numbers_of(const Given& given, const SheetState& state, const Doubles& strains) {
    std::array<Doubles, 3> speeds;
    Doubles strain(state.at.size(), 0);
    for (const Vec3 speed : state.speed) {
        speeds[0].push_back(speed.x);
        speeds[1].push_back(speed.y);
        speeds[2].push_back(speed.z);
    }
    for (std::size_t at = 0; at < strains.size(); ++at) {
        const SheetSpring& spring = given.sheet().springs[at];
        if (spring.diagonal) continue;
        for (const std::uint32_t end : {spring.a, spring.b})
            if (std::abs(strains[at]) > std::abs(strain[end])) strain[end] = strains[at];
    }
    std::vector<Field> numbers;
    for (std::size_t axis = 0; axis < 3; ++axis)
        numbers.push_back({speed_names[axis], Column(std::move(speeds[axis])), plain_number});
    numbers.push_back({strain_name, Column(std::move(strain)), plain_number});
    return numbers;
}

// The thing with its places, speeds and how far its edges are from their lengths.
Result<Value> with_state(const Given& given, const SheetState& state) {
    std::vector<Vec3> places = state.at;
    for (Vec3& place : places)
        place = place * (1 / given.metres);
    Doubles strains = strains_of(given, state);
    std::vector<Field> numbers = numbers_of(given, state, strains);
    if (const auto* mesh = std::get_if<Mesh>(&given.thing)) {
        Mesh::Parts parts = mesh->parts();
        set_vertices(parts, places);
        std::erase_if(parts.fields, is_of_moment);
        std::ranges::move(numbers, std::back_inserter(parts.fields));
        return as_value(Mesh::make(std::move(parts)));
    }
    const auto& frame = std::get<BarFrame>(given.thing);
    const PointLattice to = points_at(shape_of(frame.nodes()), places);
    PointLattice nodes = frame.nodes().moved(to.x(), to.y(), to.z());
    for (Field& number : numbers)
        nodes = nodes.with_field(std::move(number));
    const auto moved = frame.with_nodes(std::move(nodes));
    if (!moved) return moved.error();
    return Value(moved->with_field({strain_name, Column(std::move(strains)), plain_number}));
}

SheetState state_of(const Value& before, double metres) {
    SheetState state{in_metres(before, metres), {}};
    state.speed.resize(state.at.size());
    for (std::size_t axis = 0; axis < 3; ++axis) {
        const auto& numbers = numbers_in(before);
        const auto speed = std::ranges::find(numbers, speed_names[axis], &Field::name);
        if (speed == numbers.end()) continue;
        for (std::size_t vertex = 0; vertex < state.speed.size(); ++vertex)
            (axis == 0   ? state.speed[vertex].x
             : axis == 1 ? state.speed[vertex].y
                         : state.speed[vertex].z) = speed->values[vertex];
    }
    return state;
}

// Whether anything that does not count as held is elsewhere.
template <class IsHeld>
bool is_moved_elsewhere(const std::vector<Vec3>& before, const std::vector<Vec3>& now,
                        const IsHeld& is_held) {
    for (std::size_t at = 0; at < now.size(); ++at)
        if (!is_held(at) && before[at] != now[at]) return true;
    return false;
}

// Where it was before it was moved to where it is held, if nothing else of it was moved: what holds it is
// followed from there, and does not tear its points through the others.
std::vector<Vec3> begun_at(const Inputs& in, const Given& given) {
    if (!in.has("rest")) return given.at;
    std::vector<Vec3> before = in_metres(in.value("rest"), given.metres);
    const auto is_held = [&](std::size_t vertex) { return given.firmness[vertex] != 0; };
    return is_moved_elsewhere(before, given.at, is_held) ? given.at : before;
}

Result<Mesh> in_metres(const Mesh& form, double metres) {
    auto scaled = transformed(Value(form), scaled_about({}, {metres, metres, metres}));
    if (!scaled) return about_slot(scaled.error(), "form");
    return std::get<Mesh>(*std::move(scaled));
}

Result<Value> begin(const Inputs& in, const Sheets& sheets, const Run& run) {
    const Result<Given> made = given(in, sheets, run);
    if (!made) return made.error();
    std::vector<Vec3> begun = begun_at(in, *made);
    const BegunSheet sheet{made->thing,         made->sheet(), made->firmness, made->forces.thickness,
                           made->forces.ground, begun};
    if (made->form) {
        const auto form = in_metres(*made->form, made->metres);
        if (!form) return form.error();
        if (Status led = lead_out_of(*form, sheet, run); !led) return led.error();
    }
    if (made->forces.thickness < in.number("thickness") * made->metres)
        run.remark("It is " + quantity_text({made->forces.thickness / made->metres, a_length}, in.units()) +
                   " thick for what it touches: half of its shortest edge is the most.");
    if (Status said = say_how_it_begins(sheet, run); !said) return said.error();
    return with_state(*made, {begun, std::vector<Vec3>(begun.size())});
}

// Pieces that nothing holds or stops fall no farther than they are long: then they are held where they are.
// How many there are, and whether that is all.
struct Stopped {
    std::size_t pieces = 0;
    bool all = false;
};
Stopped stop_what_went(Given& given, SheetState& state, Vec3 down) {
    if (given.forces.ground && down.z < 0) return {};
    Stopped stopped;
    std::size_t vertices = 0;
    for (const Piece& piece : loose_pieces(given.sheet(), given.firmness)) {
        if (!has_gone(piece, given.at, state.at, down)) continue;
        if (!is_beyond(piece, state.at, given.obstacle.at, down)) continue;
        ++stopped.pieces;
        vertices += piece.size();
        for (const std::uint32_t vertex : piece) {
            given.firmness[vertex] = 1;
            given.at[vertex] = state.at[vertex];
            state.speed[vertex] = {};
        }
    }
    stopped.all = stopped.pieces > 0 && vertices == state.at.size();
    return stopped;
}

// What holds it firmly is where it has the sheet.
bool is_held_still(const Given& given, const SheetState& state) {
    for (std::size_t vertex = 0; vertex < state.at.size(); ++vertex)
        if (given.firmness[vertex] == 1 && length(given.at[vertex] - state.at[vertex]) > off_m) return false;
    return true;
}

// Slow, and not only since it is about to turn round; what comes up to its ground has no speed.
bool is_slow(const SheetState& from, const SheetState& to, const SheetReport& report, double still,
             double seconds) {
    if (report.fastest >= still) return false;
    for (std::size_t vertex = 0; vertex < to.speed.size(); ++vertex)
        if (length(to.speed[vertex] - from.speed[vertex]) >= still / 2 ||
            length(to.at[vertex] - from.at[vertex]) >= still * seconds)
            return false;
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

// Where the form was a moment before, if it moved. False where it was put together otherwise.
Result<bool> follow_form(Given& now, const Inputs& in, const Inputs& before, const Run& run) {
    if (!in.has("form") || !before.has("form") || &in.value("form") == &before.value("form")) return true;
    const auto form = changed_mesh(before, run, "form");
    if (!form) return about_slot(form.error(), "form");
    Obstacle was;
    add_obstacle(was, *form, now.metres);
    if (was.triangles != now.obstacle.triangles || was.at.size() != now.obstacle.at.size()) return false;
    if (was.at != now.obstacle.at) now.obstacle.from = std::move(was.at);
    return true;
}

Result<Value> advance(const Inputs& in, const Sheets& sheets, const MomentBefore& moment, double seconds,
                      const Run& run) {
    Result<Given> now = given(in, sheets, run);
    if (!now) return now.error();
    const Value& before = moment.value;
    const Result<bool> follows = follow_form(*now, in, moment.inputs, run);
    if (!follows) return follows.error();
    if (!are_put_together_alike(before, now->thing))
        return about_slot(
            Error{ErrorCode::unlike_arrangement, "", "is put together otherwise than a moment before",
                  "Keep a moment of it first, so that it stays as it is."},
            slot_of_thing);
    const SheetState from = state_of(before, now->metres);
    SheetState state = from;
    SheetForces forces = std::move(now->forces);
    if (in.has("attractors"))
        forces.loads = loads_towards(in.held<Attractors>("attractors"), in.number("pull"), in.number("reach"),
                                     now->metres, now->sheet(), state.at);
    const Stopped stopped = stop_what_went(*now, state, way_down(in));
    if (stopped.pieces > 0)
        run.remark((stopped.all ? std::string("It")
                                : count_text(stopped.pieces, "part", "parts") + " of it that nothing holds") +
                   " fell by more than its own size, and stops here: give it a ground, or hold it.");
    if (stopped.all) return with_state(*now, state);
    const SheetHolds holds{now->firmness, state.at, now->at};
    FallingSheet& sheet = now->in_hand->falling;
    sheet.put_among(std::move(now->obstacle), std::move(forces));
    if (!*follows || sheet.form_bends())
        run.remark_loss(
            "The form has another shape than a moment before: where it went into what falls, it may "
            "go through.");
    const auto report = sheet.advance(state, holds, seconds, run);
    if (!report) return report.error();
    const bool at_rest = is_slow(from, state, *report, in.number("still") * m_s_per_mm_s, seconds) &&
                         is_held_still(*now, from);
    run.remark(told(*report, at_rest));
    return with_state(*now, at_rest ? SheetState{from.at, std::vector<Vec3>(from.at.size())} : state);
}

// Where it is held it may have been moved by what holds it.
bool has_another_form(const Value& before, const Value& now) {
    const auto firm_before = firmness_in(before), firm_now = firmness_in(now);
    return is_moved_elsewhere(in_metres(before, 1), in_metres(now, 1), [&](std::size_t at) {
        return firm_before && firm_now && ((*firm_before)[at] > 0 || (*firm_now)[at] > 0);
    });
}

// What holds it, blows or is touched may change while it hangs; the thing itself may not.
std::string begins_again(const Inputs& before, const Inputs& now) {
    if (!are_put_together_alike(before.value(slot_of_thing), now.value(slot_of_thing)))
        return "What falls is put together otherwise than before.";
    const Value &rest_before = before.value(slot_of_rest(before)), &rest_now = now.value(slot_of_rest(now));
    if (!are_put_together_alike(rest_before, rest_now) || has_another_form(rest_before, rest_now))
        return "What falls has another form than before.";
    return {};
}

SlotSpec at_least_0(SlotSpec slot) {
    slot.least = 0;
    return slot;
}

SlotSpec blown_slot(bool has_faces) {
    std::vector<Word> words{{"still", "in still air", ""}, {"wind", "in a wind", ""}};
    if (has_faces) words.push_back({"inflated", "inflated", "pressed out along the normals of its faces"});
    return choice_slot("blown", "Blown", std::move(words));
}

std::vector<SlotSpec> slots_of(const FallingThing& thing) {
    std::vector<SlotSpec> slots{
        reference_slot(slot_of_thing, thing.label, thing.kinds),
        choice_slot("falls", "Falls",
                    {{"down", "down", ""},
                     {"up", "up", "as a hung form is turned over"},
                     {"nowhere", "nowhere", "without weight"},
                     {"along", "along", "another direction"}}),
        angle_slot("bearing", "Bearing", "0°"),
        angle_slot("slope", "Slope", "-45°"),
        thing.material,
        at_least_0(length_slot("thickness", "Thickness", "5 mm")),
        choice_slot("lengths", "Lengths",
                    {{"stand", "it stands", "at each moment"},
                     {"of", "they are in", "what it was before it was moved to where it is held"}}),
        reference_slot("rest", "Lengths of", thing.kinds),
        choice_slot(
            "grows", "Grows",
            {{"no", "not growing", ""}, {"by", "growing by", "a share of their length, vertex by vertex"}}),
        formula_slot(formula_key, formula_label, "0.3 * smoothstep(0, 3, time)"),
        blown_slot(thing.has_faces),
        number_slot("wind", "Wind", "6"),
        angle_slot("towards", "Towards", "0°"),
        choice_slot(
            "drawn", "Drawn",
            {{"nowhere", "nowhere", ""}, {"to", "to", "attractors; by a negative weight away from them"}}),
        reference_slot("attractors", "Attractors", {Kind::attractors}),
        at_least_0(number_slot("pull", "Pull", "5")),
        length_above_zero_slot("reach", "Reach", "1 m"),
        choice_slot("below", "Below", {{"nothing", "nothing", ""}, {"ground", "a ground", "a level plane"}}),
        length_slot("height", "Height", "0 m"),
        choice_slot("touching", "Touching",
                    {{"itself", "itself", ""}, {"form", "itself and", "a form it falls over"}}),
        reference_slot("form", "Form", {Kind::mesh, Kind::bodies, Kind::surface}),
        at_least_0(number_slot("friction", "Friction", "0.3")),
        at_least_0(number_slot("still", "At rest below", "1"))};
    if (thing.has_faces) slots.push_back(number_slot("pressure", "Pressure", "30"));
    return slots;
}

std::string sentence_of(const FallingThing& thing) {
    return "Let {sheet} fall {falls}[falls=along| {bearing} sloping {slope}] as {" + thing.material.key +
           "}, {thickness} thick[more|, its edges as long as {lengths}][lengths=of| {rest}][more|, "
           "{grows}][grows=by| {formula}][more|, {blown}][blown=wind| of {wind} m/s towards {towards}]" +
           (thing.has_faces ? "[blown=inflated| by {pressure} Pa]" : "") +
           "[more|, drawn {drawn}][drawn=to| {attractors} by {pull} N/m² within {reach}], above "
           "{below}[below=ground| at {height}], touching {touching}[touching=form| {form}][more|, which rubs "
           "by {friction}][more|, and at rest where nothing moves by more than {still} mm/s].";
}

Estimate estimate_of(const Inputs& in) {
    const auto places = static_cast<double>(places_in(in.value(slot_of_thing)).at.size());
    return {places * 1800, places * 3e-5};
}

}  // namespace

StepKind falling_kind(const FallingThing& thing) {
    StepKind kind;
    kind.sentence = sentence_of(thing);
    kind.slots = slots_of(thing);
    kind.results = thing.kinds;
    kind.drawn_plain = true;
    kind.estimate = estimate_of;
    const Sheets sheets{thing.sheet_of, thing.material.key};
    kind.make = [sheets](const Inputs& in, const Run& run) { return begin(in, sheets, run); };
    kind.advance = [sheets](const Inputs& in, const MomentBefore& before, double seconds, const Run& run) {
        return advance(in, sheets, before, seconds, run);
    };
    kind.begins_again = begins_again;
    kind.contexts = {{formula_key, context(growth_site)}};
    return kind;
}

}  // namespace plume
