#pragma once
// What the editor of a slot shows beside its value: where a formula or rules stand, the numbers through a
// response, the part of a picture that is sampled, what other tolerances would come to, what a file has to
// choose from. A step kind says it for its slots (StepKind::contexts).

#include <array>
#include <functional>
#include <string>
#include <variant>
#include <vector>

#include "core/base/run.hpp"
#include "core/formula/program.hpp"
#include "core/study/inputs.hpp"

namespace plume {

// A line a formula has to give or may give.
struct FormulaResult {
    std::string name;  // empty: the last line, whatever its name
    std::string help;
    bool needed = true;
    bool quantity = false;  // a length or an angle, of which a plain number counts units
};

// Where a step's formula stands: what it reads, the addresses it runs over, what it gives.
struct FormulaSite {
    std::vector<FormulaInput> inputs;
    Domain domain;
    std::array<std::string, 3> direction_names;  // for graphs: "azimuth", "i"
    std::vector<FormulaResult> results;
    InputRef point_number{InputType::address_number, 0};
    std::vector<Column> owned;  // columns of the domain that nothing else keeps
};

// A word of the language that rules are written in.
struct LanguageWord {
    std::string word, help;
};

// What is told beside a line of a text: how many parts it made.
struct LineNote {
    std::size_t begin = 0, end = 0;  // bytes of the line
    std::string text, tip;
};

// Where rules are written: what they read, the words they are made of, what is wrong with them, what their
// lines came to.
struct RulesSite {
    std::vector<FormulaInput> inputs;
    std::vector<LanguageWord> words;
    std::vector<std::string> given;  // names that the rules themselves give: of parts
    std::optional<Error> error;      // begin and end in their text
    std::function<std::vector<LineNote>(const Value& made)> notes;
    // What grew, generation by generation: "1, 3, 9 parts; the next would be 27".
    std::function<std::string(const Value& made)> growth;
};

// What a response does here: where its 0 and 1 lie on either side, and how the numbers spread over them.
struct ResponseNumbers {
    double in_low = 0, in_high = 1;  // of t = 0 and t = 1
    Dimension in_dimension;
    double out_low = 0, out_high = 1;  // of an answer of 0 and 1
    Dimension out_dimension;
    std::vector<std::size_t> incoming, outgoing;  // histograms of equal bins over these ranges
};

// The part of a picture that a step samples, in shares of it from its lower left.
struct PictureArea {
    double left = 0, right = 1, bottom = 0, top = 1;
};

// How many families there would be at other tolerances, which rise from above 0.
struct FamilyCounts {
    std::vector<double> tolerances;
    std::vector<std::size_t> counts;
    Dimension dimension;   // of the tolerances
    double tolerance = 0;  // the present one
};

// What there is to choose from, and what each would be. Of picks and choices; of the latter by the keys of
// their words.
struct Offer {
    std::string name;
    std::string note;  // "12 curves, 84 × 60 m"
};
struct Offers {
    std::vector<Offer> offers;
    std::string about;  // of all together; may be empty
};

// The formula checked where it stands. Errors: as of check_formula().
Result<CheckedFormula> check_at(const ResolvedFormula& formula, const FormulaSite& site);

using SlotContext = std::variant<FormulaSite, RulesSite, ResponseNumbers, PictureArea, FamilyCounts, Offers>;
using ContextMaker = std::function<Result<SlotContext>(const Inputs&, const Run&)>;

// Of a function of the inputs, and of the run where it takes long.
template <class Make>
ContextMaker context(Make make) {
    return [make](const Inputs& in, const Run& run) -> Result<SlotContext> {
        const auto wrapped = [](auto made) -> Result<SlotContext> {
            if constexpr (requires { made.error(); }) {
                if (!made) return made.error();
                return SlotContext(*std::move(made));
            } else {
                return SlotContext(std::move(made));
            }
        };
        if constexpr (std::is_invocable_v<Make, const Inputs&, const Run&>)
            return wrapped(make(in, run));
        else
            return wrapped(make(in));
    };
}

}  // namespace plume
