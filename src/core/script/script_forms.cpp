#include "core/script/script_forms.hpp"

#include "core/geometry/curves/curve_division.hpp"
#include "core/geometry/curves/curve_interpolation.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/script/column_functions.hpp"

namespace plume {
namespace {

void push_count(lua_State* state, std::size_t count) {
    lua_pushinteger(state, static_cast<lua_Integer>(count));
}

// Points ------------------------------------------------------------------------------------------------

int index_points(lua_State* state) {
    const auto& points = check<PointLattice>(state, 1);
    const std::string name = luaL_checkstring(state, 2);
    const std::pair<const char*, const Column*> coordinates[] = {
        {"x", &points.x()}, {"y", &points.y()}, {"z", &points.z()}};
    for (const auto& [known, column] : coordinates)
        if (name == known) {
            push(state, LazyColumn(*column));
            return 1;
        }
    constexpr const char* directions[] = {"columns", "rows", "layers"};
    for (std::size_t direction = 0; direction < 3; ++direction)
        if (name == directions[direction]) {
            push_count(state, points.counts()[direction]);
            return 1;
        }
    if (const Field* field = points.field(name)) {
        push(state, LazyColumn(field->values));
        return 1;
    }
    std::string there =
        "x, y, z, columns, rows, layers, with, numbers, lengths, directions, placements, frame, skin";
    for (const Field& field : points.fields())
        there += ", " + field.name;
    return method_of(state, name, there.c_str());
}

int size_of_points(lua_State* state) {
    push_count(state, check<PointLattice>(state, 1).address_count());
    return 1;
}

// points:with{z = column, warm = column}: the same with other coordinates and numbers.
int points_with(lua_State* state) {
    PointLattice points = check<PointLattice>(state, 1);
    luaL_checktype(state, 2, LUA_TTABLE);
    std::array<Column, 3> places{points.x(), points.y(), points.z()};
    lua_pushnil(state);
    while (lua_next(state, 2)) {
        if (lua_type(state, -2) != LUA_TSTRING) return luaL_error(state, "with{} takes names: with{z = ...}");
        const std::string name = lua_tostring(state, -2);
        Column values = column_at(state, lua_gettop(state), points.address_count());
        if (name == "x" || name == "y" || name == "z")
            places[static_cast<std::size_t>(name[0] - 'x')] = std::move(values);
        else
            points = points.with_field({name, std::move(values), plain_number});
        lua_pop(state, 1);
    }
    push(state, points.moved(places[0], places[1], places[2]));
    return 1;
}

int made_points(lua_State* state, Arrangement arrangement, std::array<std::size_t, 3> counts, int first) {
    PointLattice::Parts parts;
    parts.arrangement = arrangement;
    parts.counts = counts;
    const std::size_t count = counts[0] * counts[1] * counts[2];
    parts.x = column_at(state, first, count);
    parts.y = column_at(state, first + 1, count);
    parts.z = column_at(state, first + 2, count);
    auto made = PointLattice::make(std::move(parts));
    if (!made) raise(state, made.error());
    push(state, *std::move(made));
    return 1;
}

// scatter(x, y, z)
int scatter(lua_State* state) {
    std::size_t count = 1;
    for (int at = 1; at <= 3; ++at)
        if (const LazyColumn* column = test<LazyColumn>(state, at)) count = column->size();
    return made_points(state, Arrangement::scatter, {count, 1, 1}, 1);
}

// grid(columns, rows, x, y, z)
int grid(lua_State* state) {
    const lua_Integer columns = luaL_checkinteger(state, 1), rows = luaL_checkinteger(state, 2);
    luaL_argcheck(state, columns > 0 && columns < 100'000'000, 1, "a count above 0");
    luaL_argcheck(state, rows > 0 && rows < 100'000'000, 2, "a count above 0");
    return made_points(state, Arrangement::grid,
                       {static_cast<std::size_t>(columns), static_cast<std::size_t>(rows), 1}, 3);
}

// Curves ------------------------------------------------------------------------------------------------

// line(x, y, z [, closed]) and smooth(x, y, z [, closed])
template <CurveShape shape>
int curve(lua_State* state) {
    const auto& x = check<LazyColumn>(state, 1);
    const std::size_t count = x.size();
    const Column xs = column_at(state, 1, count), ys = column_at(state, 2, count),
                 zs = column_at(state, 3, count);
    CurvePoints points;
    points.closed = lua_toboolean(state, 4) != 0;
    for (std::size_t at = 0; at < count; ++at)
        points.points.push_back({xs[at], ys[at], zs[at]});
    auto made = curve_through(std::move(points), shape);
    if (!made) raise(state, made.error());
    push(state, CurveSet{{*std::move(made)}});
    return 1;
}

// curves(a, b, ...) or curves(table): all of them together.
int curves_together(lua_State* state) {
    CurveSet all;
    const auto add = [&](int at) {
        const auto& more = check<CurveSet>(state, at).curves;
        all.curves.insert(all.curves.end(), more.begin(), more.end());
    };
    if (lua_istable(state, 1)) {
        const lua_Unsigned count = lua_rawlen(state, 1);
        for (lua_Unsigned at = 1; at <= count; ++at) {
            lua_rawgeti(state, 1, static_cast<lua_Integer>(at));
            add(lua_gettop(state));
            lua_pop(state, 1);
        }
    } else {
        for (int at = 1; at <= lua_gettop(state); ++at)
            add(at);
    }
    push(state, std::move(all));
    return 1;
}

int index_curves(lua_State* state) {
    const auto& curves = check<CurveSet>(state, 1).curves;
    if (lua_isinteger(state, 2)) {
        const lua_Integer at = lua_tointeger(state, 2);
        if (at < 1 || static_cast<std::size_t>(at) > curves.size()) return 0;
        push(state, CurveSet{{curves[static_cast<std::size_t>(at - 1)]}});
        return 1;
    }
    return method_of(state, luaL_checkstring(state, 2), "[1], [2] and so on, at and length");
}

int size_of_curves(lua_State* state) {
    push_count(state, check<CurveSet>(state, 1).curves.size());
    return 1;
}

const SplineCurve& first_curve(lua_State* state) {
    const auto& curves = check<CurveSet>(state, 1).curves;
    if (curves.empty()) luaL_error(state, "there is no curve in it");
    return curves.front();
}

// curve:at(share): x, y, z at a share of its length.
int curve_at(lua_State* state) {
    const SplineCurve& curve = first_curve(state);
    const CurveLength length(curve);
    const double share = std::clamp(luaL_checknumber(state, 2), 0.0, 1.0);
    const Vec3 place = evaluate(curve, length.parameter_at(share * length.total())).position;
    lua_pushnumber(state, place.x);
    lua_pushnumber(state, place.y);
    lua_pushnumber(state, place.z);
    return 3;
}

int curve_length(lua_State* state) {
    lua_pushnumber(state, CurveLength(first_curve(state)).total());
    return 1;
}

// Meshes ------------------------------------------------------------------------------------------------

// mesh(x, y, z, faces): faces are tables of the numbers of their corners, from 1 on.
int make_mesh(lua_State* state) {
    const std::size_t count = check<LazyColumn>(state, 1).size();
    Mesh::Parts parts;
    parts.x = column_at(state, 1, count);
    parts.y = column_at(state, 2, count);
    parts.z = column_at(state, 3, count);
    luaL_checktype(state, 4, LUA_TTABLE);
    const lua_Unsigned faces = lua_rawlen(state, 4);
    for (lua_Unsigned face = 1; face <= faces; ++face) {
        if (lua_rawgeti(state, 4, static_cast<lua_Integer>(face)) != LUA_TTABLE)
            return luaL_error(state, "face %d is no table of corners", static_cast<int>(face));
        const lua_Unsigned corners = lua_rawlen(state, -1);
        for (lua_Unsigned corner = 1; corner <= corners; ++corner) {
            lua_rawgeti(state, -1, static_cast<lua_Integer>(corner));
            const lua_Integer vertex = lua_isinteger(state, -1) ? lua_tointeger(state, -1) : 0;
            if (vertex < 1 || static_cast<std::size_t>(vertex) > count)
                return luaL_error(state, "corner %d of face %d is no number of 1 to %d",
                                  static_cast<int>(corner), static_cast<int>(face), static_cast<int>(count));
            parts.corners.push_back(static_cast<std::uint32_t>(vertex - 1));
            lua_pop(state, 1);
        }
        lua_pop(state, 1);
        parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size()));
    }
    auto made = Mesh::make(std::move(parts));
    if (!made) raise(state, made.error());
    push(state, *std::move(made));
    return 1;
}

int index_mesh(lua_State* state) {
    const auto& mesh = check<Mesh>(state, 1);
    const std::string name = luaL_checkstring(state, 2);
    const std::pair<const char*, const Column*> coordinates[] = {
        {"x", &mesh.x()}, {"y", &mesh.y()}, {"z", &mesh.z()}};
    for (const auto& [known, column] : coordinates)
        if (name == known) {
            push(state, LazyColumn(*column));
            return 1;
        }
    if (name == "faces") {
        push_count(state, mesh.face_count());
        return 1;
    }
    return method_of(state, name, "x, y, z, faces and face");
}

// mesh:face(number): its corners, from 1 on.
int mesh_face(lua_State* state) {
    const auto& mesh = check<Mesh>(state, 1);
    const lua_Integer at = luaL_checkinteger(state, 2);
    luaL_argcheck(state, at >= 1 && static_cast<std::size_t>(at) <= mesh.face_count(), 2, "no such face");
    const auto corners = mesh.face(static_cast<std::size_t>(at - 1));
    lua_createtable(state, static_cast<int>(corners.size()), 0);
    for (std::size_t corner = 0; corner < corners.size(); ++corner) {
        push_count(state, corners[corner] + 1);
        lua_rawseti(state, -2, static_cast<lua_Integer>(corner) + 1);
    }
    return 1;
}

}  // namespace

int method_of(lua_State* state, const std::string& name, const char* there_is) {
    lua_getmetatable(state, 1);
    lua_pushlstring(state, name.data(), name.size());
    if (!name.starts_with("__") && lua_rawget(state, -2) != LUA_TNIL) return 1;
    return luaL_error(state, "%s have no ‘%s’: there is %s", luaL_typename(state, 1), name.c_str(), there_is);
}

void add_form_functions(lua_State* state) {
    const luaL_Reg points[] = {
        {"__index", index_points}, {"__len", size_of_points}, {"with", points_with}, {nullptr, nullptr}};
    const luaL_Reg curves[] = {{"__index", index_curves},
                               {"__len", size_of_curves},
                               {"at", curve_at},
                               {"length", curve_length},
                               {nullptr, nullptr}};
    const luaL_Reg meshes[] = {{"__index", index_mesh}, {"face", mesh_face}, {nullptr, nullptr}};
    add_type<PointLattice>(state, points);
    add_type<CurveSet>(state, curves);
    add_type<Mesh>(state, meshes);
    const std::pair<const char*, lua_CFunction> makers[] = {{"scatter", scatter},
                                                            {"grid", grid},
                                                            {"line", curve<CurveShape::straight>},
                                                            {"smooth", curve<CurveShape::smooth>},
                                                            {"curves", curves_together},
                                                            {"mesh", make_mesh}};
    for (const auto& [name, function] : makers)
        lua_register(state, name, function);
}

}  // namespace plume
