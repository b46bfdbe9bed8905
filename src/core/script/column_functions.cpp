#include "core/script/column_functions.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/noise.hpp"
#include "core/formula/functions.hpp"

namespace plume {
namespace {

std::size_t length_of(lua_State* state, int first, int last) {
    std::size_t count = 0;
    bool any = false;
    for (int at = first; at <= last; ++at) {
        const LazyColumn* column = test<LazyColumn>(state, at);
        if (!column) continue;
        if (any && column->size() != count)
            luaL_error(state, "columns of %d and %d numbers do not go together", static_cast<int>(count),
                       static_cast<int>(column->size()));
        count = column->size();
        any = true;
    }
    return count;
}

// A column, or a number as one.
LazyColumn operand(lua_State* state, int at, std::size_t count) {
    if (const LazyColumn* column = test<LazyColumn>(state, at)) return *column;
    return LazyColumn::constant(luaL_checknumber(state, at), count);
}

int push_applied(lua_State* state, Operation operation, std::span<const LazyColumn> operands) {
    std::array<const LazyColumn*, 3> pointers{};
    for (std::size_t at = 0; at < operands.size(); ++at)
        pointers[at] = &operands[at];
    LazyColumn made = LazyColumn::applied(operation, pointers);
    if (made.pending() > most_pending) values_of(state, made);
    push(state, std::move(made));
    return 1;
}

// Numbers alone are reckoned with like constants in a formula.
double reckoned(Operation operation, std::span<const double> numbers) {
    Graph graph;
    std::array<NodeId, 3> ids{};
    for (std::size_t at = 0; at < numbers.size(); ++at)
        ids[at] = graph.constant(numbers[at]);
    return graph[graph.apply(operation, ids[0], ids[1], ids[2])].value;
}

bool any_column(lua_State* state, int count) {
    for (int at = 1; at <= count; ++at)
        if (test<LazyColumn>(state, at)) return true;
    return false;
}

std::vector<double> numbers_given(lua_State* state, int count) {
    std::vector<double> numbers;
    for (int at = 1; at <= count; ++at)
        numbers.push_back(luaL_checknumber(state, at));
    return numbers;
}

std::vector<LazyColumn> columns_given(lua_State* state, int count) {
    const std::size_t length = length_of(state, 1, count);
    std::vector<LazyColumn> columns;
    for (int at = 1; at <= count; ++at)
        columns.push_back(operand(state, at, length));
    return columns;
}

int apply(lua_State* state, Operation operation, int count) {
    if (any_column(state, count)) return push_applied(state, operation, columns_given(state, count));
    lua_pushnumber(state, reckoned(operation, numbers_given(state, count)));
    return 1;
}

// min, max, hypot of more than two: pair by pair.
int apply_to_many(lua_State* state, Operation operation, int count) {
    if (any_column(state, count)) {
        std::vector<LazyColumn> columns = columns_given(state, count);
        LazyColumn made = columns.front();
        for (std::size_t at = 1; at + 1 < columns.size(); ++at)
            made = LazyColumn::applied(operation, {&made, &columns[at], nullptr});
        return push_applied(state, operation, std::array{made, columns.back()});
    }
    const std::vector<double> numbers = numbers_given(state, count);
    double made = numbers.front();
    for (std::size_t at = 1; at < numbers.size(); ++at)
        made = reckoned(operation, std::array{made, numbers[at]});
    lua_pushnumber(state, made);
    return 1;
}

template <Operation operation, int count>
int fixed(lua_State* state) {
    return apply(state, operation, count);
}

// A function of formulas: its specification is the closure's own value.
int formula_function(lua_State* state) {
    const auto& spec = *static_cast<const FunctionSpec*>(lua_touserdata(state, lua_upvalueindex(1)));
    const int given = lua_gettop(state);
    if (given < spec.least || given > spec.most) {
        const std::string wrong = arguments_text(spec);
        return luaL_error(state, "%s", wrong.c_str());
    }
    if (spec.operation == Operation::noise_1)
        return apply(state,
                     given == 1   ? Operation::noise_1
                     : given == 2 ? Operation::noise_2
                                  : Operation::noise_3,
                     given);
    const int operands = operand_count(spec.operation);
    return given > operands ? apply_to_many(state, spec.operation, given)
                            : apply(state, spec.operation, operands);
}

// Columns by themselves ----------------------------------------------------------------------------------

int index_column(lua_State* state) {
    const auto& column = check<LazyColumn>(state, 1);
    if (lua_isinteger(state, 2)) {
        const lua_Integer at = lua_tointeger(state, 2);
        if (at < 1 || static_cast<std::size_t>(at) > column.size()) return 0;
        lua_pushnumber(state, values_of(state, column)[static_cast<std::size_t>(at - 1)]);
        return 1;
    }
    const std::string name = luaL_checkstring(state, 2);
    lua_getmetatable(state, 1);
    lua_pushvalue(state, 2);
    // What Lua itself calls, as to destroy it, is nobody's.
    if (name.starts_with("__") || lua_rawget(state, -2) == LUA_TNIL)
        return luaL_error(state, "a column has no ‘%s’: there is table, sum, least, most and mean",
                          name.c_str());
    return 1;
}

int size_of_column(lua_State* state) {
    lua_pushinteger(state, static_cast<lua_Integer>(check<LazyColumn>(state, 1).size()));
    return 1;
}

int new_index(lua_State* state) {
    return luaL_error(state,
                      "a column cannot be changed: make a table of it with :table(), and a column of that "
                      "with column(t)");
}

int table_of(lua_State* state) {
    const Column values = values_of(state, check<LazyColumn>(state, 1));
    lua_createtable(state, static_cast<int>(values.size()), 0);
    for (std::size_t at = 0; at < values.size(); ++at) {
        lua_pushnumber(state, values[at]);
        lua_rawseti(state, -2, static_cast<lua_Integer>(at) + 1);
    }
    return 1;
}

template <class Fold>
int folded(lua_State* state, double begin, const Fold& fold) {
    const Column values = values_of(state, check<LazyColumn>(state, 1));
    double made = begin;
    for (const double value : values.span())
        made = fold(made, value);
    lua_pushnumber(state, made);
    return 1;
}
int sum(lua_State* state) {
    return folded(state, 0, [](double a, double b) { return a + b; });
}
int least(lua_State* state) {
    return folded(state, HUGE_VAL, [](double a, double b) { return std::min(a, b); });
}
int most(lua_State* state) {
    return folded(state, -HUGE_VAL, [](double a, double b) { return std::max(a, b); });
}
int mean(lua_State* state) {
    const std::size_t count = check<LazyColumn>(state, 1).size();
    sum(state);
    lua_pushnumber(state, lua_tonumber(state, -1) / static_cast<double>(count));
    return 1;
}
int text_of_column(lua_State* state) {
    lua_pushfstring(state, "column of %d numbers", static_cast<int>(check<LazyColumn>(state, 1).size()));
    return 1;
}

// column(table), column(count, number)
int make_column(lua_State* state) {
    if (lua_type(state, 1) == LUA_TNUMBER) {
        const lua_Integer count = luaL_checkinteger(state, 1);
        luaL_argcheck(state, count > 0 && count < 1'000'000'000, 1, "a count of 1 to a thousand million");
        push(state, LazyColumn::constant(luaL_optnumber(state, 2, 0), static_cast<std::size_t>(count)));
        return 1;
    }
    luaL_checktype(state, 1, LUA_TTABLE);
    const lua_Unsigned count = lua_rawlen(state, 1);
    ColumnMeter& meter = Sandbox::of(state).meter();
    if (count * sizeof(double) > meter.most - std::min(meter.most, meter.used))
        return luaL_error(state, "not enough memory");
    Doubles values(count);
    for (lua_Unsigned at = 0; at < count; ++at) {
        lua_rawgeti(state, 1, static_cast<lua_Integer>(at) + 1);
        if (lua_type(state, -1) != LUA_TNUMBER)
            return luaL_error(state, "a column is made of numbers, and number %d is a %s",
                              static_cast<int>(at + 1), luaL_typename(state, -1));
        values[at] = lua_tonumber(state, -1);
        lua_pop(state, 1);
    }
    push(state, LazyColumn(Column(std::move(values))));
    return 1;
}

// 0, 1, 2 ... so many.
int numbers(lua_State* state) {
    const lua_Integer count = luaL_checkinteger(state, 1);
    luaL_argcheck(state, count > 0 && count < 1'000'000'000, 1, "a count of 1 to a thousand million");
    push(state, LazyColumn::numbers(static_cast<std::size_t>(count)));
    return 1;
}

// random(seed, number): evenly over 0 to 1, the same for the same two.
int random_number(lua_State* state) {
    return apply(state, Operation::random, 2);
}

}  // namespace

Column values_of(lua_State* state, const LazyColumn& column) {
    Sandbox& sandbox = Sandbox::of(state);
    sandbox.weigh_columns();
    auto made = column.values(sandbox.run(), sandbox.meter());
    if (made) return *std::move(made);
    if (made.error().code == ErrorCode::out_of_memory) luaL_error(state, "not enough memory");
    raise(state, made.error());
}

Column column_at(lua_State* state, int at, std::size_t count) {
    const LazyColumn column = operand(state, at, count);
    if (column.size() != count)
        luaL_error(state, "a column of %d numbers stands where %d are needed",
                   static_cast<int>(column.size()), static_cast<int>(count));
    return values_of(state, column);
}

void add_column_functions(lua_State* state) {
    const luaL_Reg methods[] = {{"__index", index_column},
                                {"__newindex", new_index},
                                {"__len", size_of_column},
                                {"__tostring", text_of_column},
                                {"__add", fixed<Operation::add, 2>},
                                {"__sub", fixed<Operation::subtract, 2>},
                                {"__mul", fixed<Operation::multiply, 2>},
                                {"__div", fixed<Operation::divide, 2>},
                                {"__mod", fixed<Operation::modulo, 2>},
                                {"__pow", fixed<Operation::power, 2>},
                                {"__unm", fixed<Operation::negate, 1>},
                                {"table", table_of},
                                {"sum", sum},
                                {"least", least},
                                {"most", most},
                                {"mean", mean},
                                {nullptr, nullptr}};
    add_type<LazyColumn>(state, methods);
    for (const FunctionSpec& spec : formula_functions()) {
        if (spec.name == "if" || spec.name == "random") continue;
        lua_pushlightuserdata(state, const_cast<FunctionSpec*>(&spec));  // NOLINT: Lua keeps it as it is
        lua_pushcclosure(state, formula_function, 1);
        lua_setglobal(state, std::string(spec.name).c_str());
    }
    const std::pair<const char*, lua_CFunction> own[] = {{"column", make_column},
                                                         {"numbers", numbers},
                                                         {"random", random_number},
                                                         {"choose", fixed<Operation::select, 3>},
                                                         {"less", fixed<Operation::less, 2>},
                                                         {"at_most", fixed<Operation::less_equal, 2>},
                                                         {"more", fixed<Operation::greater, 2>},
                                                         {"at_least", fixed<Operation::greater_equal, 2>},
                                                         {"same", fixed<Operation::equal, 2>},
                                                         {"both", fixed<Operation::both, 2>},
                                                         {"either", fixed<Operation::either, 2>},
                                                         {"no", fixed<Operation::invert, 1>}};
    for (const auto& [name, function] : own)
        lua_register(state, name, function);
}

}  // namespace plume
