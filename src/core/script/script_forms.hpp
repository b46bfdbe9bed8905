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

}  // namespace plume
