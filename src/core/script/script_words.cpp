#include "core/script/script_words.hpp"

#include <algorithm>
#include <array>
#include <set>

#include "core/formula/functions.hpp"
#include "core/script/script_spans.hpp"

namespace plume {
namespace {

constexpr ScriptWord function(std::string_view name, std::string_view arguments, std::string_view help,
                              std::string_view of = {}) {
    return {name, arguments, help, of, true};
}
constexpr ScriptWord part(std::string_view name, std::string_view help, std::string_view of = {}) {
    return {name, {}, help, of, false};
}

constexpr std::array own_words{
    // Of the product.
    function("column", "table  or  count, number", "a column of the numbers of a table, or of one number"),
    function("numbers", "count", "the column 0, 1, 2 ... of so many"),
    function("random", "seed, number", "0 to 1, the same for the same two numbers"),
    function("choose", "condition, a, b", "a where the condition holds, else b"),
    function("less", "a, b", "1 where a is less than b, else 0"),
    function("at_most", "a, b", "1 where a is at most b, else 0"),
    function("more", "a, b", "1 where a is more than b, else 0"),
    function("at_least", "a, b", "1 where a is at least b, else 0"),
    function("same", "a, b", "1 where both are equal, else 0"),
    function("both", "a, b", "1 where both hold, else 0"),
    function("either", "a, b", "1 where one of them holds, else 0"),
    function("no", "a", "1 where it does not hold, else 0"),
    function("scatter", "x, y, z", "points of three columns"),
    function("grid", "columns, rows, x, y, z", "points in columns and rows"),
    function("line", "x, y, z, closed", "the straight line through these points; closed where that is true"),
    function("smooth", "x, y, z, closed", "the smooth curve through these points; closed where that is true"),
    function("curves", "table", "several curves as one result"),
    function("mesh", "x, y, z, faces", "faces are tables of the numbers of their corners, from 1 on"),
    function("progress", "share", "tells how far it is, from 0 to 1"),
    // Of values.
    part("x", "first coordinate, a column", "points"),
    part("y", "second coordinate, a column", "points"),
    part("z", "height, a column", "points"),
    part("columns", "how many columns the lattice has", "points"),
    part("rows", "how many rows it has", "points"),
    part("layers", "how many layers it has", "points"),
    function("with", "table", "the same points with other coordinates and fields: with{z = a, warm = b}",
             "points"),
    function("numbers", "column", "a plain number on each of the points", "points"),
    function("lengths", "column", "a length on each of the points", "points"),
    function("directions", "x, y, z", "a direction on each of the points", "points"),
    function("placements", "ax, ay, az, ux, uy, uz",
             "a placement on each: the direction of its x axis, and of its z axis", "points"),
    function("frame", "from, to", "members between points: columns of their numbers, from 1 on", "points"),
    function("skin", "", "the smooth surface through points in rows", "points"),
    part("values", "the numbers, a column", "numbers"),
    part("points", "what they stand on", "numbers"),
    part("x", "first parts of the directions, a column", "directions"),
    part("y", "second parts, a column", "directions"),
    part("z", "third parts, a column", "directions"),
    part("points", "what they stand on", "directions"),
    part("points", "where they stand", "placements"),
    function("along", "", "x, y, z of their x axes, three columns", "placements"),
    function("across", "", "x, y, z of their y axes, three columns", "placements"),
    function("up", "", "x, y, z of their z axes, three columns", "placements"),
    function("at", "u, v", "x, y, z at shares of its first patch, three columns", "surface"),
    function("normal", "u, v", "x, y, z of the unit normal there, three columns", "surface"),
    part("points", "its nodes", "frame"),
    part("from", "the node each member begins at, counted from 1, a column", "frame"),
    part("to", "the node each member ends at, a column", "frame"),
    function("length", "", "length of all of them", "curves"),
    function("at", "share", "x, y, z at a share of the first one's length", "curves"),
    part("x", "first coordinate of its vertices, a column", "mesh"),
    part("y", "second coordinate of its vertices, a column", "mesh"),
    part("z", "height of its vertices, a column", "mesh"),
    part("faces", "how many faces it has", "mesh"),
    function("face", "number", "the numbers of its corners, from 1 on", "mesh"),
    function("table", "", "its numbers as a table", "column"),
    function("sum", "", "all of its numbers added", "column"),
    function("mean", "", "the mean of its numbers", "column"),
    function("least", "", "the least of its numbers", "column"),
    function("most", "", "the greatest of its numbers", "column"),
    // Of the language.
    function("print", "...", "a line below the result"),
    function("error", "message", "stops with this message"),
    function("assert", "value, message", "stops with the message where the value is false or nil"),
    function("pcall", "function, ...", "calls it: true and what it gives, or false and its error"),
    function("xpcall", "function, handler, ...", "the same, with a function that is given the error"),
    function("select", "n, ...", "what comes from the n-th on; with '#', how many there are"),
    function("tonumber", "value, base", "as a number, or nil"),
    function("tostring", "value", "as a text"),
    function("type", "value", "what it is: 'number', 'string', 'table' ..."),
    function("ipairs", "table", "goes over 1, 2, 3 ... with what stands there"),
    function("pairs", "table", "goes over all keys in their order"),
    function("rawequal", "a, b", "whether both are the same"),
    function("rawget", "table, key", "what stands there, without metatables"),
    function("rawlen", "table", "how many there are, without metatables"),
    function("setmetatable", "table, metatable", "gives the table other manners; finalizers are refused"),
    function("getmetatable", "table", "its metatable"),
    part("math", "functions of single numbers"),
    part("table", "functions of tables"),
    part("string", "functions of texts"),
    part("utf8", "functions of letters"),
    part("_G", "the table of all names"),
    part("_VERSION", "the version of the language"),
    function("abs", "x", "without its sign", "math"),
    function("acos", "x", "arc cosine, in radians", "math"),
    function("asin", "x", "arc sine, in radians", "math"),
    function("atan", "y, x", "the angle of (x, y), in radians", "math"),
    function("ceil", "x", "the next whole number above", "math"),
    function("cos", "x", "cosine of radians", "math"),
    function("deg", "x", "radians as degrees", "math"),
    function("exp", "x", "e to the power of x", "math"),
    function("floor", "x", "the next whole number below", "math"),
    function("fmod", "x, y", "what is left of x by y, with the sign of x", "math"),
    part("huge", "more than any number", "math"),
    function("log", "x, base", "logarithm, natural without a base", "math"),
    function("max", "x, ...", "the greatest", "math"),
    part("maxinteger", "the greatest whole number", "math"),
    function("min", "x, ...", "the least", "math"),
    part("mininteger", "the least whole number", "math"),
    function("modf", "x", "its whole part and what is left", "math"),
    part("pi", "half of a turn in radians", "math"),
    function("rad", "x", "degrees as radians", "math"),
    function("sin", "x", "sine of radians", "math"),
    function("sqrt", "x", "square root", "math"),
    function("tan", "x", "tangent of radians", "math"),
    function("tointeger", "x", "as a whole number, or nil", "math"),
    function("type", "x", "'integer', 'float', or nil", "math"),
    function("ult", "a, b", "whether a is less than b, both without a sign", "math"),
    function("concat", "table, between, from, to", "its texts as one", "table"),
    function("insert", "table, at, value", "puts a value in; without a place at the end", "table"),
    function("remove", "table, at", "takes one out; without a place the last", "table"),
    function("sort", "table, before", "in order; equals stay as they stand", "table"),
    function("unpack", "table, from, to", "its values, one by one", "table"),
    function("pack", "...", "a table of these, with their count as n", "table"),
    function("byte", "text, from, to", "codes of its bytes", "string"),
    function("char", "...", "the text of these codes", "string"),
    function("find", "text, sought, from", "where it stands, as it is written", "string"),
    function("format", "pattern, ...", "numbers and texts in a pattern: '%.2f m'", "string"),
    function("len", "text", "how many bytes", "string"),
    function("lower", "text", "in small letters", "string"),
    function("rep", "text, n, between", "n times", "string"),
    function("reverse", "text", "from behind", "string"),
    function("sub", "text, from, to", "a part of it", "string"),
    function("upper", "text", "in capitals", "string"),
    function("char", "...", "the text of these letters", "utf8"),
    function("codepoint", "text, from, to", "numbers of its letters", "utf8"),
    function("len", "text, from, to", "how many letters", "utf8"),
    function("offset", "text, n, from", "where the n-th letter begins", "utf8"),
    part("charpattern", "what a letter looks like", "utf8"),
};

std::vector<ScriptWord> all_words() {
    std::vector<ScriptWord> words(own_words.begin(), own_words.end());
    for (const FunctionSpec& spec : formula_functions())
        if (spec.name != "if" && spec.name != "random")
            words.push_back(function(spec.name, spec.arguments, spec.help));
    return words;
}

constexpr std::array head_words{
    std::pair{"sentence", "how the step reads, with {name} for every input"},
    std::pair{"result", "what it gives: points, curves, a mesh, a number ..."},
    std::pair{"interface", "what it was written for: 1"},
    std::pair{"points", "points above, or what it gives"},
    std::pair{"numbers", "numbers on points"},
    std::pair{"directions", "directions on points"},
    std::pair{"placements", "placements"},
    std::pair{"curves", "curves"},
    std::pair{"surface", "a surface"},
    std::pair{"mesh", "a mesh"},
    std::pair{"frame", "a frame: nodes and members"},
    std::pair{"number", "an input: number = 1, from 0 to 10; or what it gives"},
    std::pair{"count", "an input: count = 8, from 1 to 60"},
    std::pair{"length", "an input: length = 2 m, from 0 m to 9 m"},
    std::pair{"angle", "an input: angle = 30°"},
    std::pair{"one of", "an input: one of wide, narrow"},
};

bool is_letter(char c) {
    return c == '_' || (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || (c >= '0' && c <= '9');
}

std::string_view word_around(std::string_view script, std::size_t at, std::size_t& begin, bool whole) {
    begin = std::min(at, script.size());
    std::size_t end = begin;
    while (begin > 0 && is_letter(script[begin - 1]))
        --begin;
    while (whole && end < script.size() && is_letter(script[end]))
        ++end;
    return script.substr(begin, end - begin);
}

// What stands before the dot or colon in front of a word; nothing where there is none.
std::optional<std::string_view> owner_before(std::string_view script, std::size_t begin) {
    if (begin == 0 || (script[begin - 1] != '.' && script[begin - 1] != ':')) return {};
    if (begin > 1 && script[begin - 2] == script[begin - 1]) return {};  // ".."
    std::size_t owner_begin = 0;
    return word_around(script, begin - 1, owner_begin, false);
}

std::string_view sort_of(ScriptType type) {
    return type >= ScriptType::points ? key_of(type) : "";
}

std::string text_of(ScriptType type) {
    switch (type) {
        case ScriptType::word:
            return "a word";
        case ScriptType::angle:
            return "an angle, in radians";
        case ScriptType::number:
        case ScriptType::count:
        case ScriptType::length:
        case ScriptType::surface:
        case ScriptType::mesh:
        case ScriptType::frame:
            return "a " + std::string(key_of(type));
        default:
            return std::string(key_of(type));
    }
}

bool is_library(std::string_view name) {
    return name == "math" || name == "table" || name == "string" || name == "utf8";
}

std::string insert_of(const ScriptWord& word) {
    if (word.name == "with" || word.name == "curves") return std::string(word.name) + "{";
    return std::string(word.name) + (word.function ? "(" : "");
}

std::string help_of(const ScriptWord& word) {
    return (word.function ? "(" + std::string(word.arguments) + "): " : "") + std::string(word.help);
}

class Offering {
public:
    explicit Offering(std::string_view script) : script_(script) {
        if (const auto head = read_script_head(script)) inputs_ = head->inputs;
    }

    std::vector<ScriptOffer> behind(std::string_view owner) {
        std::string_view sort = is_library(owner) ? owner : std::string_view();
        for (const ScriptInput& input : inputs_)
            if (input.name == owner) sort = sort_of(input.type);
        for (const ScriptWord& word : script_words())
            if (!word.of.empty() && (sort.empty() ? !is_library(word.of) : word.of == sort))
                add(std::string(word.name), insert_of(word), help_of(word));
        return std::move(offers_);
    }
    std::vector<ScriptOffer> anywhere(std::size_t typed) {
        for (const ScriptInput& input : inputs_)
            add(input.name, input.name, "what the step is given: " + text_of(input.type));
        add_names(typed);
        for (const ScriptWord& word : script_words())
            if (word.of.empty()) add(std::string(word.name), insert_of(word), help_of(word));
        for (const std::string_view word : lua_keywords())
            add(std::string(word), std::string(word), "a word of the language");
        return std::move(offers_);
    }
    static std::vector<ScriptOffer> of_head() {
        std::vector<ScriptOffer> offers;
        offers.reserve(head_words.size());
        for (const auto& [name, help] : head_words)
            offers.push_back({name, name, help});
        return offers;
    }

private:
    void add(std::string name, std::string insert, std::string help) {
        if (known_.insert(name).second)
            offers_.push_back({std::move(name), std::move(insert), std::move(help)});
    }
    // Whatever it gives a name itself.
    void add_names(std::size_t typed) {
        for (const TextSpan& span : script_spans(script_))
            if (span.type == SpanType::name && span.begin != typed) {
                const std::string name(script_.substr(span.begin, span.end - span.begin));
                add(name, name, "a name of this script");
            }
    }

    std::string_view script_;
    std::vector<ScriptInput> inputs_;
    std::set<std::string> known_;
    std::vector<ScriptOffer> offers_;
};

}  // namespace

std::span<const ScriptWord> script_words() {
    static const std::vector<ScriptWord> words = all_words();
    return words;
}

const ScriptWord* find_script_word(std::string_view name, std::string_view of) {
    const auto words = script_words();
    const auto found = std::ranges::find_if(
        words, [&](const ScriptWord& word) { return word.name == name && word.of == of; });
    return found == words.end() ? nullptr : &*found;
}

ScriptOffers script_offers(std::string_view script, std::size_t at) {
    ScriptOffers made;
    word_around(script, at, made.begin, false);
    if (made.begin < script_head_size(script)) {
        made.offers = Offering::of_head();
        return made;
    }
    const SpanType here = script_span_at(script, made.begin);
    if (here == SpanType::comment || here == SpanType::text) return made;
    Offering offering(script);
    const auto owner = owner_before(script, made.begin);
    made.offers = owner ? offering.behind(*owner) : offering.anywhere(made.begin);
    return made;
}

std::string script_help(std::string_view script, std::size_t at) {
    std::size_t begin = 0;
    const std::string_view word = word_around(script, at, begin, true);
    if (word.empty()) return {};
    for (const ScriptOffer& offer : script_offers(script, begin + word.size()).offers)
        if (offer.name == word) return offer.name + (offer.help.starts_with('(') ? "" : ": ") + offer.help;
    return {};
}

}  // namespace plume
