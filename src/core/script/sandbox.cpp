#include "core/script/sandbox.hpp"

#include <pthread.h>
#include <signal.h>

#include <algorithm>
#include <chrono>
#include <cstdlib>
#include <cstring>
#include <mutex>

#include "core/base/numbers.hpp"

namespace plume {
namespace {

constexpr const char* chunk_name = "=script";
constexpr std::size_t most_printed = 1000;
constexpr std::size_t longest_line = 2000;
// Nothing that is larger is copied in one go: what cannot be stopped ends soon.
constexpr std::size_t largest_block = 256'000'000;
constexpr auto glance = std::chrono::milliseconds(5);

// Which sandbox the thread runs that is interrupted.
thread_local lua_State* running = nullptr;

int stop_signal() {
    return SIGRTMIN + 3;
}

// Replacements ------------------------------------------------------------------------------------------

int print_line(lua_State* state) {
    std::string line;
    for (int at = 1; at <= lua_gettop(state); ++at) {
        std::size_t size = 0;
        const char* text = luaL_tolstring(state, at, &size);
        line += (at > 1 ? "  " : "") + std::string(text, std::min(size, longest_line));
        lua_pop(state, 1);
    }
    Sandbox::of(state).print(std::move(line));
    return 0;
}

// Without what lies where in memory.
int to_string(lua_State* state) {
    luaL_checkany(state, 1);
    const int type = lua_type(state, 1);
    const bool told = type == LUA_TNIL || type == LUA_TBOOLEAN || type == LUA_TNUMBER ||
                      type == LUA_TSTRING || luaL_getmetafield(state, 1, "__tostring") != LUA_TNIL;
    if (told)
        luaL_tolstring(state, 1, nullptr);
    else
        lua_pushstring(state, luaL_typename(state, 1));
    return 1;
}

// A table with a finalizer would run where nothing can stop it.
int set_metatable(lua_State* state) {
    luaL_checktype(state, 1, LUA_TTABLE);
    if (!lua_isnil(state, 2)) {
        luaL_checktype(state, 2, LUA_TTABLE);
        lua_pushliteral(state, "__gc");
        if (lua_rawget(state, 2) != LUA_TNIL) return luaL_error(state, "a table can have no finalizer here");
        lua_pop(state, 1);
    }
    if (luaL_getmetafield(state, 1, "__metatable") != LUA_TNIL)
        return luaL_error(state, "this metatable cannot be changed");
    lua_settop(state, 2);
    lua_setmetatable(state, 1);
    return 1;
}

int get_metatable(lua_State* state) {
    luaL_checktype(state, 1, LUA_TTABLE);
    if (!lua_getmetatable(state, 1)) lua_pushnil(state);
    return 1;
}

// Keys in an order of their own, since that of a hash changes from run to run: numbers, then texts.
struct Key {
    bool text = false;
    double number = 0;
    std::string name;
    bool operator<(const Key& other) const {
        if (text != other.text) return other.text;
        return text ? name < other.name : number < other.number;
    }
};

int next_pair(lua_State* state) {
    // Upvalues: the table, its keys in order, how many were given.
    const lua_Integer at = lua_tointeger(state, lua_upvalueindex(3)) + 1;
    lua_pushinteger(state, at);
    lua_replace(state, lua_upvalueindex(3));
    if (lua_rawgeti(state, lua_upvalueindex(2), at) == LUA_TNIL) return 1;
    lua_pushvalue(state, -1);
    lua_rawget(state, lua_upvalueindex(1));
    return 2;
}

int ordered_pairs(lua_State* state) {
    luaL_checktype(state, 1, LUA_TTABLE);
    std::vector<Key> keys;
    lua_pushnil(state);
    while (lua_next(state, 1)) {
        lua_pop(state, 1);
        if (lua_type(state, -1) == LUA_TNUMBER)
            keys.push_back({false, lua_tonumber(state, -1), {}});
        else if (lua_type(state, -1) == LUA_TSTRING)
            keys.push_back({true, 0, lua_tostring(state, -1)});
        else
            return luaL_error(state, "pairs() goes over keys that are numbers or texts, and one is a %s",
                              luaL_typename(state, -1));
    }
    std::ranges::sort(keys, [](const Key& a, const Key& b) { return a < b; });
    lua_pushvalue(state, 1);
    lua_createtable(state, static_cast<int>(keys.size()), 0);
    for (std::size_t at = 0; at < keys.size(); ++at) {
        const Key& key = keys[at];
        if (key.text)
            lua_pushlstring(state, key.name.data(), key.name.size());
        else if (key.number == std::floor(key.number) && std::abs(key.number) < 9e15)
            lua_pushinteger(state, static_cast<lua_Integer>(key.number));
        else
            lua_pushnumber(state, key.number);
        lua_rawseti(state, -2, static_cast<lua_Integer>(at) + 1);
    }
    lua_pushinteger(state, 0);
    lua_pushcclosure(state, next_pair, 3);
    return 1;
}

// Only for texts as they stand: patterns can take for ever.
int find_text(lua_State* state) {
    std::size_t size = 0, sought_size = 0;
    const char* text = luaL_checklstring(state, 1, &size);
    const char* sought = luaL_checklstring(state, 2, &sought_size);
    const lua_Integer from = luaL_optinteger(state, 3, 1);
    const std::string_view all(text, size);
    const std::size_t at =
        from < 1 ? std::string_view::npos
                 : all.find(std::string_view(sought, sought_size), static_cast<std::size_t>(from - 1));
    if (at == std::string_view::npos) {
        lua_pushnil(state);
        return 1;
    }
    lua_pushinteger(state, static_cast<lua_Integer>(at) + 1);
    lua_pushinteger(state, static_cast<lua_Integer>(at) + static_cast<lua_Integer>(sought_size));
    return 2;
}

// Without places in memory.
int format(lua_State* state) {
    const std::string pattern = luaL_checkstring(state, 1);
    for (std::size_t at = pattern.find('%'); at != std::string::npos; at = pattern.find('%', at + 1)) {
        const std::size_t letter = pattern.find_first_not_of("-+ #0123456789.", at + 1);
        if (letter != std::string::npos && pattern[letter] == 'p')
            return luaL_error(state, "‘%%p’ is not known here");
        if (letter == std::string::npos) break;
        at = letter;
    }
    lua_pushvalue(state, lua_upvalueindex(1));
    lua_insert(state, 1);
    lua_call(state, lua_gettop(state) - 1, 1);
    return 1;
}

// What goes over a whole table in one call, so that it can be stopped: sorting, which heeds the order of
// equals, and what moves all that is behind a place.
constexpr const char* table_text = R"(
local append, take = table.insert, table.remove
function table.insert(t, at, value)
  if value == nil then return append(t, at) end
  for i = #t, at, -1 do t[i + 1] = t[i] end
  t[at] = value
end
function table.remove(t, at)
  if at == nil then return take(t) end
  local n, value = #t, t[at]
  for i = at, n do t[i] = t[i + 1] end
  return value
end
local function sort(t, before)
  before = before or function(a, b) return a < b end
  local n, from, to = #t, t, {}
  local width = 1
  while width < n do
    for low = 1, n, 2 * width do
      local i, j = low, low + width
      local i_end, j_end = math.min(low + width, n + 1), math.min(low + 2 * width, n + 1)
      for k = low, j_end - 1 do
        if i < i_end and (j >= j_end or not before(from[j], from[i])) then
          to[k] = from[i]; i = i + 1
        else
          to[k] = from[j]; j = j + 1
        end
      end
    end
    from, to = to, from
    width = 2 * width
  end
  if from ~= t then for k = 1, n do t[k] = from[k] end end
end
table.sort = sort
)";

void keep_only(lua_State* state, const char* library, std::initializer_list<const char*> kept) {
    lua_getglobal(state, library);
    lua_newtable(state);
    for (const char* name : kept) {
        lua_getfield(state, -2, name);
        lua_setfield(state, -2, name);
    }
    lua_setglobal(state, library);
    lua_pop(state, 1);
}

// "i = 4, z = nil": what stood in the names of the function that is stopped.
std::string names_there(lua_State* state, lua_Debug& where) {
    std::string names;
    for (int local = 1; local < 40; ++local) {
        const char* name = lua_getlocal(state, &where, local);
        if (!name) break;
        const std::string value = lua_type(state, -1) == LUA_TNUMBER ? short_text(lua_tonumber(state, -1))
                                  : lua_type(state, -1) == LUA_TSTRING
                                      ? '"' + std::string(lua_tostring(state, -1)).substr(0, 30) + '"'
                                  : lua_type(state, -1) == LUA_TBOOLEAN
                                      ? std::string(lua_toboolean(state, -1) ? "true" : "false")
                                      : std::string(luaL_typename(state, -1));
        lua_pop(state, 1);
        if (*name == '(' || names.size() > 160) continue;
        names += (names.empty() ? "" : ", ") + std::string(name) + " = " + value;
    }
    return names;
}

}  // namespace

Sandbox& Sandbox::of(lua_State* state) {
    return **static_cast<Sandbox**>(lua_getextraspace(state));
}

void* Sandbox::allocate(void* self, void* block, std::size_t old_size, std::size_t new_size) {
    auto& sandbox = *static_cast<Sandbox*>(self);
    const std::size_t before = block ? old_size : 0;
    if (new_size == 0) {
        sandbox.used_ -= before;
        std::free(block);  // NOLINT(cppcoreguidelines-no-malloc): Lua asks for blocks that can grow
        return nullptr;
    }
    if (new_size > largest_block) return nullptr;
    if (new_size > before &&
        new_size - before > sandbox.limits_.bytes - std::min(sandbox.limits_.bytes, sandbox.used_))
        return nullptr;
    void* made = std::realloc(block, new_size);  // NOLINT(cppcoreguidelines-no-malloc): the same
    if (made) sandbox.used_ += new_size - before;
    return made;
}

Sandbox::Sandbox(const ScriptLimits& limits, const Run& run)
    : limits_(limits), run_(run), meter_{0, limits.bytes}, state_(lua_newstate(allocate, this)) {
    if (!state_) return;
    *static_cast<Sandbox**>(lua_getextraspace(state_)) = this;
    restrict_libraries();
}

Sandbox::~Sandbox() {
    if (state_) lua_close(state_);
}

void Sandbox::restrict_libraries() {
    luaL_requiref(state_, LUA_GNAME, luaopen_base, 1);
    luaL_requiref(state_, LUA_TABLIBNAME, luaopen_table, 1);
    luaL_requiref(state_, LUA_STRLIBNAME, luaopen_string, 1);
    luaL_requiref(state_, LUA_MATHLIBNAME, luaopen_math, 1);
    luaL_requiref(state_, LUA_UTF8LIBNAME, luaopen_utf8, 1);
    lua_settop(state_, 0);
    for (const char* name :
         {"dofile", "loadfile", "load", "collectgarbage", "require", "warn", "next", "rawset"}) {
        lua_pushnil(state_);
        lua_setglobal(state_, name);
    }
    const std::pair<const char*, lua_CFunction> own[] = {{"print", print_line},
                                                         {"tostring", to_string},
                                                         {"setmetatable", set_metatable},
                                                         {"getmetatable", get_metatable},
                                                         {"pairs", ordered_pairs}};
    for (const auto& [name, function] : own)
        lua_register(state_, name, function);
    keep_only(state_, "table", {"concat", "insert", "remove", "unpack", "pack"});
    keep_only(state_, "string", {"byte", "char", "format", "len", "lower", "rep", "reverse", "sub", "upper"});
    keep_only(state_, "math",
              {"abs",  "acos", "asin", "atan", "ceil",       "cos",  "deg",        "exp",  "floor",
               "fmod", "huge", "log",  "max",  "maxinteger", "min",  "mininteger", "modf", "pi",
               "rad",  "sin",  "sqrt", "tan",  "tointeger",  "type", "ult"});
    keep_only(state_, "utf8", {"char", "codepoint", "len", "offset", "charpattern"});
    lua_getglobal(state_, "string");
    lua_pushcfunction(state_, find_text);
    lua_setfield(state_, -2, "find");
    lua_getfield(state_, -1, "format");
    lua_pushcclosure(state_, format, 1);
    lua_setfield(state_, -2, "format");
    // What texts know by themselves, ("x"):rep(3), is the same; their metatable is out of reach.
    lua_pushliteral(state_, "");
    lua_getmetatable(state_, -1);
    lua_pushvalue(state_, -3);
    lua_setfield(state_, -2, "__index");
    lua_settop(state_, 0);
    if (luaL_loadbufferx(state_, table_text, std::strlen(table_text), "=table", "t") == LUA_OK)
        lua_call(state_, 0, 0);
    // Nothing keeps the libraries as they were.
    lua_pushnil(state_);
    lua_setfield(state_, LUA_REGISTRYINDEX, LUA_LOADED_TABLE);
}

void Sandbox::print(std::string line) {
    if (printed_.size() >= 2 * most_printed) {
        printed_.erase(printed_.begin(), printed_.begin() + most_printed);
        printed_before_ += most_printed;
    }
    printed_.push_back(std::move(line));
}

void Sandbox::weigh_columns() {
    constexpr std::size_t much = 100'000'000;
    if (meter_.used < collected_at_ + much) return;
    lua_gc(state_, LUA_GCCOLLECT);
    collected_at_ = meter_.used;
}

// Stopping ----------------------------------------------------------------------------------------------

void Sandbox::stop_hook(lua_State* state, lua_Debug* /*where*/) {
    if (of(state).stop_ != Stop::none) luaL_error(state, "stopped");
}

void Sandbox::interrupt(int /*signal*/) {
    // As the program lua does it: the hook is set from within the thread that runs.
    if (running)
        lua_sethook(running, stop_hook, LUA_MASKCALL | LUA_MASKRET | LUA_MASKLINE | LUA_MASKCOUNT, 1);
}

void Sandbox::watch(const std::stop_token& ended, pthread_t runner) {
    const auto begin = std::chrono::steady_clock::now();
    while (!ended.stop_requested()) {
        std::this_thread::sleep_for(glance);
        const std::chrono::duration<double> taken = std::chrono::steady_clock::now() - begin;
        if (run_.cancelled())
            stop_ = Stop::cancelled;
        else if (taken.count() > limits_.seconds)
            stop_ = Stop::too_long;
        if (stop_ != Stop::none && !ended.stop_requested()) pthread_kill(runner, stop_signal());
    }
}

// Running -----------------------------------------------------------------------------------------------

int Sandbox::explain(lua_State* state) {
    Sandbox& sandbox = of(state);
    lua_Debug where;
    for (int level = 1; lua_getstack(state, level, &where); ++level) {
        lua_getinfo(state, "Sl", &where);
        if (where.currentline <= 0 || std::strcmp(where.source, chunk_name) != 0) continue;
        sandbox.line_ = where.currentline;
        sandbox.names_ = names_there(state, where);
        break;
    }
    return 1;
}

Status Sandbox::execute(std::string_view script) {
    static std::once_flag once;
    std::call_once(once, [] {
        struct sigaction action {};
        action.sa_handler = interrupt;
        action.sa_flags = SA_RESTART;
        sigaction(stop_signal(), &action, nullptr);
    });
    lua_settop(state_, 0);
    lua_pushcfunction(state_, explain);
    int status = luaL_loadbufferx(state_, script.data(), script.size(), chunk_name, "t");
    if (status == LUA_OK) {
        running = state_;
        {
            const std::jthread watcher(
                [this, runner = pthread_self()](const std::stop_token& ended) { watch(ended, runner); });
            status = lua_pcall(state_, 0, LUA_MULTRET, 1);
        }
        running = nullptr;
        lua_sethook(state_, nullptr, 0, 0);
    }
    if (status != LUA_OK) return error_of(status, script);
    lua_remove(state_, 1);
    return Done{};
}

Error Sandbox::error_of(int status, std::string_view script) {
    if (stop_ == Stop::cancelled) return cancelled_error();
    Error error{ErrorCode::syntax, "", "", "Mend the line."};
    std::string text =
        lua_type(state_, -1) == LUA_TSTRING ? lua_tostring(state_, -1) : "an error without a text";
    // "script:12: what is wrong"
    int line = line_;
    if (text.starts_with("script:")) {
        const std::size_t end = text.find(':', 7);
        if (line == 0) line = std::atoi(text.c_str() + 7);
        if (end != std::string::npos) text = text.substr(std::min(text.size(), end + 2));
    }
    if (const std::size_t end = text.find("<eof>"); end != std::string::npos)
        text.replace(end, 5, "the end of the script");
    if (stop_ == Stop::too_long) {
        error.code = ErrorCode::over_budget;
        text = "took longer than " + short_text(limits_.seconds) + " s";
        error.mend = "Allow it more time, or handle whole columns at once.";
    } else if (status == LUA_ERRMEM || text.find("not enough memory") != std::string::npos) {
        error.code = ErrorCode::out_of_memory;
        text = "needs more memory than it may have";
        error.mend = "Allow it more, or keep less.";
    } else if (text.find("overflow") != std::string::npos) {
        error.code = ErrorCode::too_deep;
        text = "calls itself too deeply";
        error.mend = "Let it end sooner, or write it as a loop.";
    }
    error.message = (line > 0 ? "line " + std::to_string(line) + ": " : "") + text +
                    (names_.empty() ? "" : " (there: " + names_ + ")");
    std::size_t begin = 0;
    for (int at = 1; at < line && begin < script.size(); ++at)
        begin = std::min(script.find('\n', begin), script.size() - 1) + 1;
    error.begin = line > 0 ? std::min(begin, script.size()) : 0;
    error.end = line > 0 ? std::min(script.find('\n', error.begin), script.size()) : 0;
    return error;
}

}  // namespace plume
