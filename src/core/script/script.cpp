#include "core/script/script.hpp"

#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/overloaded.hpp"
#include "core/script/column_functions.hpp"
#include "core/script/script_fields.hpp"
#include "core/script/script_forms.hpp"

namespace plume {
namespace {

struct Preparation {
    const std::vector<std::pair<std::string, ScriptValue>>& inputs;
    const std::string& result_name;
};

// How far it is: progress(0.4).
int progress(lua_State* state) {
    Sandbox::of(state).run().report(luaL_checknumber(state, 1));
    return 0;
}

// Fills the state; within a protected call, since all of it may run out of memory.
int prepare(lua_State* state) {
    const auto& wanted = *static_cast<const Preparation*>(lua_touserdata(state, 1));
    add_column_functions(state);
    add_form_functions(state);
    add_field_functions(state, wanted.result_name);
    lua_register(state, "progress", progress);
    for (const auto& [name, value] : wanted.inputs) {
        std::visit(
            Overloaded{[&](double number) { lua_pushnumber(state, number); },
                       [&](std::int64_t count) { lua_pushinteger(state, count); },
                       [&](const std::string& word) { lua_pushlstring(state, word.data(), word.size()); },
                       [&](const auto& form) { push(state, form); }},
            value);
        lua_setglobal(state, name.c_str());
    }
    return 0;
}

template <class Form>
std::optional<ScriptValue> returned_as(lua_State* state) {
    const Form* form = test<Form>(state, 1);
    if (!form) return {};
    return ScriptValue(*form);
}

std::optional<ScriptValue> returned_number(lua_State* state, bool whole) {
    if (lua_type(state, 1) != LUA_TNUMBER) return {};
    const double number = lua_tonumber(state, 1);
    if (!std::isfinite(number) || (whole && number != std::floor(number))) return {};
    return ScriptValue(number);
}

// The one value that was returned, where it is of that type.
std::optional<ScriptValue> returned_value(lua_State* state, ScriptType wanted) {
    switch (wanted) {
        case ScriptType::points:
            return returned_as<PointLattice>(state);
        case ScriptType::numbers:
            return returned_as<FieldOnPoints>(state);
        case ScriptType::directions:
            return returned_as<DirectionsOnPoints>(state);
        case ScriptType::placements:
            return returned_as<Placements>(state);
        case ScriptType::curves:
            return returned_as<CurveSet>(state);
        case ScriptType::surface:
            return returned_as<SurfaceSet>(state);
        case ScriptType::mesh:
            return returned_as<Mesh>(state);
        case ScriptType::frame:
            return returned_as<BarFrame>(state);
        default:
            return returned_number(state, wanted == ScriptType::count);
    }
}

// "nothing", "an infinite number", "a table", "3 values, the first a number"
std::string text_of_returned(lua_State* state) {
    const int count = lua_gettop(state);
    if (count == 0) return "nothing";
    const std::string type = luaL_typename(state, 1);
    if (count > 1) return std::to_string(count) + " values, the first a " + type;
    if (lua_type(state, 1) != LUA_TNUMBER) return (type == "nil" ? "" : "a ") + type;
    const double number = lua_tonumber(state, 1);
    return std::isfinite(number) ? "the number " + short_text(number)
           : std::isnan(number)  ? "what is no number, as 0 / 0 is"
                                 : "an infinite number";
}

Result<ScriptValue> returned(lua_State* state, ScriptType wanted) {
    if (lua_gettop(state) == 1)
        if (auto value = returned_value(state, wanted)) return *std::move(value);
    const std::string given = text_of_returned(state);
    return Error{ErrorCode::wrong_kind, "",
                 "returns " + given + ", and its head says that it gives " + std::string(key_of(wanted)),
                 "End it with return and what it gives, or change the line result: of its head."};
}

}  // namespace

Result<ScriptOutcome> run_script(std::string_view script,
                                 const std::vector<std::pair<std::string, ScriptValue>>& inputs,
                                 const ScriptResult& result, const ScriptLimits& limits, const Run& run) {
    if (script.size() > longest_script) return script_too_long();
    Sandbox sandbox(limits, run);
    if (!sandbox.state())
        return Error{ErrorCode::out_of_memory, "", "has no memory to run in", "Allow it more."};
    Preparation preparation{inputs, result.name};
    lua_pushcfunction(sandbox.state(), prepare);
    lua_pushlightuserdata(sandbox.state(), &preparation);
    if (lua_pcall(sandbox.state(), 1, 0, 0) != LUA_OK)
        return Error{ErrorCode::out_of_memory, "", "has no memory to begin with", "Allow it more."};
    if (Status done = sandbox.execute(script); !done) return done.error();
    auto value = returned(sandbox.state(), result.type);
    if (!value) return value.error();
    return ScriptOutcome{*std::move(value), sandbox.take_printed(), sandbox.printed_before()};
}

}  // namespace plume
