#pragma once
// What stands on points, in a script: numbers, directions, placements, members of a frame, the surface
// through them; and what is read of these. Private to this room.

#include "core/data/value.hpp"
#include "core/script/userdata.hpp"

namespace plume {

template <>
struct ScriptName<FieldOnPoints> {
    static constexpr const char* name = "numbers";
};
template <>
struct ScriptName<DirectionsOnPoints> {
    static constexpr const char* name = "directions";
};
template <>
struct ScriptName<Placements> {
    static constexpr const char* name = "placements";
};
template <>
struct ScriptName<SurfaceSet> {
    static constexpr const char* name = "surface";
};
template <>
struct ScriptName<BarFrame> {
    static constexpr const char* name = "frame";
};

// Adds to what points have; after add_form_functions(). Numbers and directions get this name.
void add_field_functions(lua_State* state, const std::string& name);

}  // namespace plume
