#pragma once
// Columns in a script: arithmetic, the functions of formulas, single numbers of them. Private to this room.

#include "core/script/userdata.hpp"

namespace plume {

template <>
struct ScriptName<LazyColumn> {
    static constexpr const char* name = "column";
};

void add_column_functions(lua_State* state);
// What stands there, computed; a number counts for as many as asked for. Raises an error where it is neither,
// or of another length.
Column column_at(lua_State* state, int at, std::size_t count);
// The column's numbers, or an error raised.
Column values_of(lua_State* state, const LazyColumn& column);

}  // namespace plume
