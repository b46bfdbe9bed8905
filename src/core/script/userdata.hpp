#pragma once
// C++ values in Lua: made in place, destroyed by the collector, their metatables out of a script's reach.
// Private to this room.

#include <new>
#include <utility>

#include "core/script/sandbox.hpp"

namespace plume {

// The name of the type in messages, and of its metatable.
template <class T>
struct ScriptName;

template <class T>
void push(lua_State* state, T value) {
    void* room = lua_newuserdatauv(state, sizeof(T), 0);
    new (room) T(std::move(value));
    luaL_setmetatable(state, ScriptName<T>::name);
}

// nullptr where something else stands there.
template <class T>
const T* test(lua_State* state, int at) {
    return static_cast<const T*>(luaL_testudata(state, at, ScriptName<T>::name));
}

// Raises Lua's error where something else stands there.
template <class T>
const T& check(lua_State* state, int at) {
    return *static_cast<const T*>(luaL_checkudata(state, at, ScriptName<T>::name));
}

// Makes the metatable with these functions.
template <class T>
void add_type(lua_State* state, const luaL_Reg* functions) {
    luaL_newmetatable(state, ScriptName<T>::name);
    luaL_setfuncs(state, functions, 0);
    lua_pushcfunction(state, [](lua_State* of) {
        static_cast<T*>(lua_touserdata(of, 1))->~T();
        return 0;
    });
    lua_setfield(state, -2, "__gc");
    lua_pushstring(state, ScriptName<T>::name);
    lua_setfield(state, -2, "__metatable");
    lua_pop(state, 1);
}

// An error of the core as one of Lua's.
[[noreturn]] inline void raise(lua_State* state, const Error& error) {
    luaL_error(state, "%s", sentence(error).c_str());
    std::abort();  // luaL_error() never returns
}

}  // namespace plume
