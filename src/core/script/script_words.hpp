#pragma once
// What can be written in a script, each with a line about it: one table that help and completion share. Names
// of the language itself are among them.

#include <span>
#include <string>
#include <string_view>
#include <vector>

#include "core/script/script_head.hpp"

namespace plume {

struct ScriptWord {
    std::string_view name;
    std::string_view arguments = {};  // "columns, rows, x, y, z"; of what is no function empty
    std::string_view help = {};       // one line
    // Where it stands: "" anywhere; "math", "table", "string", "utf8" behind their dot; "column"
    // and the kinds of results behind a value of that sort, functions behind a colon.
    std::string_view of = {};
    bool function = false;
};

std::span<const ScriptWord> script_words();
// Those of formulas, which scripts have as well, are among them.
const ScriptWord* find_script_word(std::string_view name, std::string_view of = {});

// What fits at a byte of a script.
struct ScriptOffer {
    std::string name;
    std::string insert;  // with an opening bracket where it is a function
    std::string help;
};
struct ScriptOffers {
    std::vector<ScriptOffer> offers;
    std::size_t begin = 0;  // of the word that is being typed
};
ScriptOffers script_offers(std::string_view script, std::size_t at);
// About the word there: "grid(columns, rows, x, y, z): points in rows"; empty where nothing is known.
std::string script_help(std::string_view script, std::size_t at);

}  // namespace plume
