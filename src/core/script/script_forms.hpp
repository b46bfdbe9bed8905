#pragma once
// Points, curves and meshes in a script: what is read of them, and how new ones are made. Private to this
// room.

#include "core/script/userdata.hpp"

namespace plume {

template <>
struct ScriptName<PointLattice> {
    static constexpr const char* name = "points";
};
template <>
struct ScriptName<CurveSet> {
    static constexpr const char* name = "curves";
};
template <>
struct ScriptName<Mesh> {
    static constexpr const char* name = "mesh";
};

void add_form_functions(lua_State* state);

// A method of the first argument's type, by its name; else an error that says what there is.
int method_of(lua_State* state, const std::string& name, const char* there_is);

}  // namespace plume
