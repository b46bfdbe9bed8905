// What the editor of scripts says about words, against what there is.

#include "core/script/script_words.hpp"

#include <algorithm>
#include <set>

#include "core/script/script.hpp"
#include "core/script/script_spans.hpp"
#include "core/support.hpp"

namespace plume::test {
namespace {

using Names = std::set<std::string>;

Names printed(const std::string& script,
              const std::vector<std::pair<std::string, ScriptValue>>& inputs = {}) {
    const auto made = run_script(script + "\nreturn 1", inputs, {ScriptType::number}, {}, plume::Run());
    EXPECT_TRUE(made) << sentence(made.error());
    return made ? Names(made->printed.begin(), made->printed.end()) : Names();
}

Names told(std::string_view of) {
    Names names;
    for (const ScriptWord& word : script_words())
        if (word.of == of) names.emplace(word.name);
    return names;
}

TEST(ScriptWords, AreThoseThatThereAre) {
    EXPECT_EQ(printed("for name in pairs(_G) do print(name) end"), told(""));
    for (const char* library : {"math", "table", "string", "utf8"})
        EXPECT_EQ(printed("for name in pairs(" + std::string(library) + ") do print(name) end"),
                  told(library))
            << library;
}

TEST(ScriptWords, OfValuesAreFoundInThem) {
    const std::string made =
        "local some = numbers(4)\n"
        "local p = grid(2, 2, some % 2, floor(some / 2), 0)\n"
        "local one = {points = p, column = some, curves = line(some, some, some), numbers = p:numbers(1),\n"
        "  directions = p:directions(0, 0, 1), placements = p:placements(1, 0, 0, 0, 0, 1), surface = "
        "p:skin(),\n"
        "  frame = p:frame(column{1}, column{2}), mesh = mesh(p.x, p.y, p.z, {{1, 2, 4}})}\n";
    const std::set<std::string> counts{"columns", "rows", "layers", "faces"};
    std::size_t looked_at = 0;
    for (const ScriptWord& word : script_words()) {
        const std::string of(word.of), name(word.name);
        if (of.empty() || of == "math" || of == "table" || of == "string" || of == "utf8") continue;
        ++looked_at;
        EXPECT_EQ(printed(made + "print(type(one." + of + "." + name + "))"),
                  Names{word.function           ? "function"
                        : counts.contains(name) ? "number"
                                                : "userdata"})
            << of << "." << name;
    }
    EXPECT_GT(looked_at, 35U);
}

TEST(ScriptWords, EachSaysSomethingOnce) {
    std::set<std::pair<std::string, std::string>> seen;
    for (const ScriptWord& word : script_words()) {
        EXPECT_FALSE(word.help.empty()) << word.name;
        EXPECT_TRUE(seen.emplace(word.of, word.name).second) << word.name;
    }
}

std::string shown(const std::vector<TextSpan>& spans, std::string_view line) {
    constexpr std::string_view letters = "nufckgw.tC";  // in the order of SpanType
    std::string text;
    for (const TextSpan& span : spans)
        text += std::string(1, letters[static_cast<std::size_t>(span.type)]) + ":" +
                std::string(line.substr(span.begin, span.end - span.begin)) + " ";
    return text;
}

TEST(ScriptSpans, OfSingleLines) {
    const std::pair<std::string, std::string> cases[] = {
        {"local d = hypot(x, 2.5e-3)", "k:local w:d .:= f:hypot .:( w:x .:, n:2.5e-3 .:) "},
        {"return nil -- done", "k:return c:nil C:-- done "},
        {"s = 'a\\'b' .. \"c\"", "w:s .:= t:'a\\'b' .:. .:. t:\"c\" "},
        {"s = 'open", "w:s .:= t:'open "},
        {"t = [[ a ]] + 1", "w:t .:= t:[[ a ]] .:+ n:1 "},
        {"t[1] = 0xFFp+2", "w:t .:[ n:1 .:] .:= n:0xFFp+2 "},
        {"g:with{z = math.pi}", "w:g .:: f:with .:{ w:z .:= f:math .:. f:pi .:} "},
        {"--[[ one ]] a", "C:--[[ one ]] w:a "},
        {"höhe = 1", "w:h .:\xC3 .:\xB6 w:he .:= n:1 "},
        {"", ""},
    };
    for (const auto& [line, expected] : cases) {
        int state = 0;
        EXPECT_EQ(shown(script_spans(line, state), line), expected);
        EXPECT_EQ(state, 0) << line;
    }
}

TEST(ScriptSpans, LongTextsGoOnOverLines) {
    int state = 0;
    EXPECT_EQ(shown(script_spans("a = [==[ one", state), "a = [==[ one"), "w:a .:= t:[==[ one ");
    EXPECT_EQ(shown(script_spans("two ]] ]=]", state), "two ]] ]=]"), "t:two ]] ]=] ");
    EXPECT_EQ(shown(script_spans("end ]==] b", state), "end ]==] b"), "t:end ]==] w:b ");
    EXPECT_EQ(state, 0);
    script_spans("--[[ open", state);
    const std::string all = "--[[ open\nx = 1\n]] y";
    EXPECT_EQ(script_span_at(all, 12), SpanType::comment);
    EXPECT_EQ(script_span_at(all, all.size() - 1), SpanType::name);
}

const std::string script =
    "-- Raise\n-- sentence: Raise {ground} by {high}.\n-- ground: points\n-- high: length = 1 m\n-- result: "
    "points\n"
    "local swell = high * 2\n";

std::vector<std::string> offered(const std::string& more) {
    std::vector<std::string> names;
    for (const ScriptOffer& offer : script_offers(script + more, (script + more).size()).offers)
        names.push_back(offer.name);
    return names;
}
bool has(const std::vector<std::string>& names, const char* name) {
    return std::ranges::find(names, name) != names.end();
}

TEST(ScriptOffers, AreWhatCanStandThere) {
    const auto anywhere = offered("return sw");
    EXPECT_EQ(anywhere.front(), "ground");
    for (const char* name : {"high", "swell", "hypot", "grid", "function", "math"})
        EXPECT_TRUE(has(anywhere, name)) << name;
    EXPECT_FALSE(has(anywhere, "sw")) << "what is being typed is no name yet";
    EXPECT_FALSE(has(anywhere, "with"));
    const auto points = offered("return ground:");
    EXPECT_TRUE(has(points, "with") && has(points, "x"));
    EXPECT_FALSE(has(points, "face") || has(points, "pi"));
    EXPECT_EQ(offered("return math.p").size(), told("math").size());
    const auto unknown = offered("return swell.");
    EXPECT_TRUE(has(unknown, "with") && has(unknown, "sum") && has(unknown, "face") &&
                has(unknown, "across"));
    EXPECT_FALSE(has(unknown, "pi"));
    EXPECT_TRUE(offered("x = 'a gr").empty()) << "in a text";
    EXPECT_TRUE(offered("x = 1 -- gr").empty()) << "in a comment";
    EXPECT_TRUE(has(offered("x = 'a' .. gr"), "grid")) << "two dots are no dot";
    const auto head = script_offers(script, script.find("high: l") + 7);
    EXPECT_TRUE(std::ranges::any_of(head.offers, [](const auto& offer) { return offer.name == "one of"; }));
    EXPECT_TRUE(script_offers("", 0).offers.size() > 50);
}

TEST(ScriptOffers, HelpIsAboutTheWordThere) {
    const std::string all = script + "return grid(1, 1, swell, 0, 0)";
    EXPECT_EQ(script_help(all, all.find("grid") + 2),
              "grid(columns, rows, x, y, z): points in columns and rows");
    EXPECT_EQ(script_help(all, all.find("high * 2")), "high: what the step is given: a length");
    EXPECT_EQ(script_help(all, all.find("* 2")), "");
    EXPECT_EQ(script_help("return math.floor(2)", 14), "floor(x): the next whole number below");
}

}  // namespace
}  // namespace plume::test
