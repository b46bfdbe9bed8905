#include "core/script/script_fields.hpp"

#include "core/geometry/surfaces/patch_evaluator.hpp"
#include "core/geometry/surfaces/spline_interpolation.hpp"
#include "core/script/column_functions.hpp"
#include "core/script/script_forms.hpp"

namespace plume {
namespace {

// A property that is a column or something else of the value; methods are found behind them.
template <class Form>
int index_with(lua_State* state, int (*property)(lua_State*, const Form&, const std::string&),
               const char* there_is) {
    const std::string name = luaL_checkstring(state, 2);
    if (const int pushed = property(state, check<Form>(state, 1), name); pushed > 0) return pushed;
    return method_of(state, name, there_is);
}

template <class Form>
int push_points(lua_State* state, const Form& form) {
    push(state, form.points);
    return 1;
}

int push_column(lua_State* state, Column column) {
    push(state, LazyColumn(std::move(column)));
    return 1;
}

// Three columns: the parts of so many vectors.
template <class At>
int push_vectors(lua_State* state, std::size_t count, const At& at) {
    std::array<Doubles, 3> parts{Doubles(count), Doubles(count), Doubles(count)};
    for (std::size_t place = 0; place < count; ++place) {
        const Vec3 vector = at(place);
        parts[0][place] = vector.x;
        parts[1][place] = vector.y;
        parts[2][place] = vector.z;
    }
    for (Doubles& part : parts)
        push_column(state, Column(std::move(part)));
    return 3;
}

constexpr const char* name_key = "plume.result_name";

std::string result_name(lua_State* state) {
    lua_getfield(state, LUA_REGISTRYINDEX, name_key);
    std::string name = lua_tostring(state, -1);
    lua_pop(state, 1);
    return name;
}

// Numbers -----------------------------------------------------------------------------------------------

int with_numbers(lua_State* state, Dimension dimension) {
    const auto& points = check<PointLattice>(state, 1);
    Column values = column_at(state, 2, points.address_count());
    const std::string name = result_name(state);
    push(state, FieldOnPoints{points.with_field({name, std::move(values), dimension}), name});
    return 1;
}
int plain_numbers(lua_State* state) {
    return with_numbers(state, plain_number);
}
int lengths(lua_State* state) {
    return with_numbers(state, a_length);
}
int index_numbers(lua_State* state) {
    return index_with<FieldOnPoints>(
        state,
        [](lua_State* in, const FieldOnPoints& numbers, const std::string& name) {
            if (name == "points") return push_points(in, numbers);
            return name == "values" ? push_column(in, numbers.field().values) : 0;
        },
        "values and points");
}

// Directions --------------------------------------------------------------------------------------------

int with_directions(lua_State* state) {
    const auto& points = check<PointLattice>(state, 1);
    const std::string name = result_name(state);
    PointLattice carrying = points;
    for (int axis = 0; axis < 3; ++axis)
        carrying = carrying.with_field(
            {name + "_" + "xyz"[axis], column_at(state, axis + 2, points.address_count()), plain_number});
    push(state, DirectionsOnPoints{std::move(carrying), name});
    return 1;
}
int index_directions(lua_State* state) {
    return index_with<DirectionsOnPoints>(
        state,
        [](lua_State* in, const DirectionsOnPoints& directions, const std::string& name) {
            if (name == "points") return push_points(in, directions);
            return name == "x" || name == "y" || name == "z" ? push_column(in, directions.part(name[0])) : 0;
        },
        "x, y, z and points");
}

// Placements --------------------------------------------------------------------------------------------

int with_placements(lua_State* state) {
    const auto& points = check<PointLattice>(state, 1);
    const std::size_t count = points.address_count();
    std::array<Column, 6> parts;
    for (std::size_t part = 0; part < 6; ++part)
        parts[part] = column_at(state, static_cast<int>(part) + 2, count);
    std::vector<Placement> placements(count);
    for (std::size_t at = 0; at < count; ++at)
        placements[at] = placement_of(points.point(at), {parts[3][at], parts[4][at], parts[5][at]},
                                      {parts[0][at], parts[1][at], parts[2][at]});
    auto made = Placements::make(points, std::move(placements));
    if (!made) raise(state, made.error());
    push(state, *std::move(made));
    return 1;
}
int index_placements(lua_State* state) {
    return index_with<Placements>(
        state,
        [](lua_State* in, const Placements& placements, const std::string& name) {
            if (name != "points") return 0;
            push(in, placements.origins());
            return 1;
        },
        "points, along, across and up");
}
template <Vec3 Placement::*axis>
int axes(lua_State* state) {
    const auto& placements = check<Placements>(state, 1).placements();
    return push_vectors(state, placements.size(), [&](std::size_t at) { return placements[at].*axis; });
}
int size_of_placements(lua_State* state) {
    lua_pushinteger(state, static_cast<lua_Integer>(check<Placements>(state, 1).placements().size()));
    return 1;
}

// Frames ------------------------------------------------------------------------------------------------

// The flat index of a node that is counted from 1.
std::uint32_t node_of(lua_State* state, double number, std::size_t count, std::size_t member) {
    if (!(number >= 1) || number > static_cast<double>(count) || number != std::floor(number))
        luaL_error(state, "member %d ends at %f, which is no number of 1 to %d", static_cast<int>(member + 1),
                   number, static_cast<int>(count));
    return static_cast<std::uint32_t>(number) - 1;
}
int with_members(lua_State* state) {
    const auto& points = check<PointLattice>(state, 1);
    const std::size_t count = check<LazyColumn>(state, 2).size();
    const Column from = column_at(state, 2, count), to = column_at(state, 3, count);
    std::vector<Member> members(count);
    for (std::size_t at = 0; at < count; ++at) {
        members[at].from = node_of(state, from[at], points.address_count(), at);
        members[at].to = node_of(state, to[at], points.address_count(), at);
    }
    auto made = BarFrame::make({points, std::move(members)});
    if (!made) raise(state, made.error());
    push(state, *std::move(made));
    return 1;
}
int push_ends(lua_State* state, const BarFrame& frame, std::uint32_t Member::*end) {
    Doubles numbers(frame.member_count());
    for (std::size_t at = 0; at < numbers.size(); ++at)
        numbers[at] = frame.members()[at].*end + 1;
    return push_column(state, Column(std::move(numbers)));
}
int index_frame(lua_State* state) {
    return index_with<BarFrame>(
        state,
        [](lua_State* in, const BarFrame& frame, const std::string& name) {
            if (name == "from") return push_ends(in, frame, &Member::from);
            if (name == "to") return push_ends(in, frame, &Member::to);
            if (name != "points") return 0;
            push(in, frame.nodes());
            return 1;
        },
        "points, from and to");
}
int size_of_frame(lua_State* state) {
    lua_pushinteger(state, static_cast<lua_Integer>(check<BarFrame>(state, 1).member_count()));
    return 1;
}

// Surfaces ----------------------------------------------------------------------------------------------

int skin(lua_State* state) {
    auto made = interpolate_grid(check<PointLattice>(state, 1), Sandbox::of(state).run());
    if (!made) raise(state, made.error());
    push(state, SurfaceSet{{*std::move(made)}});
    return 1;
}

// Three columns of what it has at shares of its parameters.
template <class At>
int over_shares(lua_State* state, const At& at) {
    const auto& patches = check<SurfaceSet>(state, 1).patches;
    if (patches.empty()) return luaL_error(state, "there is no surface in it");
    const auto* counted =
        test<LazyColumn>(state, 2) ? test<LazyColumn>(state, 2) : test<LazyColumn>(state, 3);
    const std::size_t count = counted ? counted->size() : 1;
    const Column u = column_at(state, 2, count), v = column_at(state, 3, count);
    const SplinePatch& patch = patches.front();
    const PatchEvaluator evaluator(patch, count);
    const auto parameter = [](const SplineBasis& basis, double share) {
        return basis.start() + std::clamp(share, 0.0, 1.0) * (basis.end() - basis.start());
    };
    return push_vectors(state, count, [&](std::size_t place) {
        return at(evaluator, patch, parameter(patch.u(), u[place]), parameter(patch.v(), v[place]));
    });
}
int surface_at(lua_State* state) {
    return over_shares(state, [](const PatchEvaluator& evaluator, const SplinePatch&, double u, double v) {
        return evaluator.at(u, v).position;
    });
}
int surface_normal(lua_State* state) {
    return over_shares(state, [](const PatchEvaluator& evaluator, const SplinePatch& patch, double u,
                                 double v) { return normal_at(evaluator, patch.u(), patch.v(), u, v); });
}
int index_surface(lua_State* state) {
    return method_of(state, luaL_checkstring(state, 2), "at and normal");
}

}  // namespace

void add_field_functions(lua_State* state, const std::string& name) {
    lua_pushlstring(state, name.data(), name.size());
    lua_setfield(state, LUA_REGISTRYINDEX, name_key);
    const luaL_Reg numbers[] = {{"__index", index_numbers}, {nullptr, nullptr}};
    const luaL_Reg directions[] = {{"__index", index_directions}, {nullptr, nullptr}};
    const luaL_Reg placements[] = {{"__index", index_placements},      {"__len", size_of_placements},
                                   {"along", axes<&Placement::along>}, {"across", axes<&Placement::across>},
                                   {"up", axes<&Placement::up>},       {nullptr, nullptr}};
    const luaL_Reg frames[] = {{"__index", index_frame}, {"__len", size_of_frame}, {nullptr, nullptr}};
    const luaL_Reg surfaces[] = {
        {"__index", index_surface}, {"at", surface_at}, {"normal", surface_normal}, {nullptr, nullptr}};
    add_type<FieldOnPoints>(state, numbers);
    add_type<DirectionsOnPoints>(state, directions);
    add_type<Placements>(state, placements);
    add_type<BarFrame>(state, frames);
    add_type<SurfaceSet>(state, surfaces);
    const luaL_Reg of_points[] = {{"numbers", plain_numbers},
                                  {"lengths", lengths},
                                  {"directions", with_directions},
                                  {"placements", with_placements},
                                  {"frame", with_members},
                                  {"skin", skin},
                                  {nullptr, nullptr}};
    luaL_getmetatable(state, ScriptName<PointLattice>::name);
    luaL_setfuncs(state, of_points, 0);
    lua_pop(state, 1);
}

}  // namespace plume
