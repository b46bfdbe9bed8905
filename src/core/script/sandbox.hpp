#pragma once
// The Lua state a script runs in: its memory, its libraries, how it is stopped. Private to this room. Lua is
// the library that is built as C++: its errors are exceptions, so that nothing of ours is left behind.

#include <atomic>
#include <lua.hpp>
#include <string>
#include <string_view>
#include <thread>
#include <vector>

#include "core/base/run.hpp"
#include "core/script/columns.hpp"
#include "core/script/script.hpp"

namespace plume {

class Sandbox {
public:
    Sandbox(const ScriptLimits& limits, const Run& run);
    ~Sandbox();
    Sandbox(const Sandbox&) = delete;
    Sandbox& operator=(const Sandbox&) = delete;

    // Whose state it is.
    static Sandbox& of(lua_State* state);
    lua_State* state() const { return state_; }
    const Run& run() const { return run_; }
    ColumnMeter& meter() { return meter_; }

    // Runs a text; what it returns lies on the stack. Errors: those of run_script().
    Status execute(std::string_view script);

    void print(std::string line);
    std::vector<std::string> take_printed() { return std::move(printed_); }
    std::size_t printed_before() const { return printed_before_; }
    // Columns are garbage that Lua does not see: collects some when it is much.
    void weigh_columns();

private:
    enum class Stop { none, cancelled, too_long };
    static void* allocate(void* self, void* block, std::size_t old_size, std::size_t new_size);
    static int explain(lua_State* state);
    static void stop_hook(lua_State* state, lua_Debug* where);
    static void interrupt(int signal);
    void watch(const std::stop_token& ended, pthread_t runner);
    void restrict_libraries();
    Error error_of(int status, std::string_view script);

    const ScriptLimits limits_;
    const Run& run_;
    std::size_t used_ = 0;  // bytes of Lua's own
    ColumnMeter meter_;
    std::size_t collected_at_ = 0;
    lua_State* state_ = nullptr;
    std::atomic<Stop> stop_{Stop::none};
    std::vector<std::string> printed_;
    std::size_t printed_before_ = 0;
    // Of the last error: its line, and what stood in the names there.
    int line_ = 0;
    std::string names_;
};

}  // namespace plume
