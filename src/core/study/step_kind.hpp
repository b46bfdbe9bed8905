#pragma once
// StepKind: the one declaration of a kind of step. The sheet's sentence and editors, the file format, the
// command line's catalogue, the reference and the input checks are all derived from it.

#include <functional>
#include <limits>
#include <map>
#include <span>
#include <string>
#include <vector>

#include "core/assets/file_store.hpp"
#include "core/base/run.hpp"
#include "core/data/value.hpp"
#include "core/formula/formula.hpp"
#include "core/formula/program.hpp"
#include "core/study/study.hpp"

namespace plume {

// quantity: a number of whatever unit it is typed in; name: a name of the step's own, as of a loop variable;
// seed: a whole number that names a throw of random numbers; text: lines of the step's own language;
// addresses: text that names points, also picked in the model; file: a linked file; response: a word, or a
// drawn shape.
enum class SlotType {
    count,
    number,
    length,
    angle,
    quantity,
    choice,
    reference,
    places,
    name,
    formula,
    seed,
    text,
    addresses,
    file,
    response
};
std::string_view key_of(SlotType type);

struct Word {
    std::string key;    // as files say it
    std::string label;  // as it stands in the sentence
    std::string help;   // one line for the list it is chosen from
};

struct SlotSpec {
    std::string key;
    std::string label;  // names the slot in errors and to assistive technology
    SlotType type = SlotType::number;
    std::string
        preset;  // text of the default: a number as typed, a word's key, a formula; unused for references
    double least = -std::numeric_limits<double>::infinity();  // in study units, inclusive
    double most = std::numeric_limits<double>::infinity();
    bool above_least = false;   // least itself is refused
    std::vector<Word> words;    // choice
    std::vector<Kind> accepts;  // reference
    Places preset_places;       // places
    bool weighted = false;      // places: their weight counts
    std::string mirrored_by =
        {};                 // places: the choice that says "x" or "y" when each has a mirror image in it
    bool corners = false;   // places: they are corners, in order, that are drawn in plan
    std::string file_kind;  // file: "picture" or "table"

    Dimension dimension() const;
    bool numeric() const;
    SlotValue preset_value() const;
};

// Short ways to declare slots.
SlotSpec count_slot(std::string key, std::string label, std::string preset, double least);
SlotSpec number_slot(std::string key, std::string label, std::string preset);
SlotSpec length_slot(std::string key, std::string label, std::string preset);
SlotSpec length_above_zero_slot(std::string key, std::string label, std::string preset);
SlotSpec angle_slot(std::string key, std::string label, std::string preset);
SlotSpec choice_slot(std::string key, std::string label,
                     std::vector<Word> words);  // the first word is the preset
SlotSpec reference_slot(std::string key, std::string label, std::vector<Kind> accepts);
SlotSpec places_slot(std::string key, std::string label, Places preset);
SlotSpec quantity_slot(std::string key, std::string label, std::string preset);
SlotSpec name_slot(std::string key, std::string label, std::string preset);
SlotSpec formula_slot(std::string key, std::string label, std::string preset);
SlotSpec seed_slot(std::string key, std::string label, std::string preset);
SlotSpec text_slot(std::string key, std::string label, std::string preset);
SlotSpec addresses_slot(std::string key, std::string label, std::string preset);
SlotSpec file_slot(std::string key, std::string label, std::string file_kind);
SlotSpec response_slot(std::string key, std::string label,
                       std::vector<Word> words);  // the first word is the preset
// Corners of an outline, drawn in plan.
SlotSpec corners_slot(std::string key, std::string label, Places preset);

// A slot's value once expressions and references are resolved: study lengths and radians.
struct ResolvedPlace {
    std::string name;
    Vec3 position;
    double weight = 1;
};
// A formula and what names of the study mean in it; checked by the step, which knows what it runs on.
struct ResolvedFormula {
    std::string text;
    std::vector<std::string> muted;
    Scope scope;
};
// A linked file, as it was when the study first read it.
struct ResolvedFile {
    std::string name;
    Hash stamp;
    std::shared_ptr<FileStore> store;
};
using Resolved = std::variant<double, std::string, ValuePointer, std::vector<ResolvedPlace>, Quantity,
                              ResolvedFormula, ResolvedFile>;

// What make() and estimate() see: every active slot, checked. Asking for a slot that is not declared or of
// another type is a programmer's mistake.
class Inputs {
public:
    Inputs(std::map<std::string, Resolved> slots, std::string result_name, Units units, Units text_units)
        : slots_(std::move(slots)),
          result_name_(std::move(result_name)),
          units_(units),
          text_units_(text_units) {}

    double number(std::string_view key) const { return get<double>(key); }
    std::size_t count(std::string_view key) const { return static_cast<std::size_t>(number(key)); }
    // Of choices, responses, names and texts.
    const std::string& word(std::string_view key) const { return get<std::string>(key); }
    bool has(std::string_view key) const { return slots_.find(std::string(key)) != slots_.end(); }
    const ResolvedFile& file(std::string_view key) const { return get<ResolvedFile>(key); }
    // Of a slot that takes one kind.
    template <class T>
    const T& held(std::string_view key) const {
        return std::get<T>(value(key));
    }
    const Value& value(std::string_view key) const { return *get<ValuePointer>(key); }
    const PointLattice& points(std::string_view key) const { return held<PointLattice>(key); }
    // Of a slot that takes points or numbers on points.
    const PointLattice& lattice(std::string_view key) const { return *lattice_of(value(key)); }
    Quantity quantity(std::string_view key) const { return get<Quantity>(key); }
    const ResolvedFormula& formula(std::string_view key) const { return get<ResolvedFormula>(key); }
    const FieldOnPoints& field(std::string_view key) const { return held<FieldOnPoints>(key); }
    const std::vector<ResolvedPlace>& places(std::string_view key) const {
        return get<std::vector<ResolvedPlace>>(key);
    }
    // Of a kind that bears it; empty otherwise.
    const std::string& result_name() const { return result_name_; }
    const Units& units() const { return units_; }
    // What plain numbers in texts and tables count.
    const Units& text_units() const { return text_units_; }
    const std::map<std::string, Resolved>& all() const { return slots_; }

private:
    template <class T>
    const T& get(std::string_view key) const {
        const auto found = slots_.find(std::string(key));
        assert(found != slots_.end());
        return std::get<T>(found->second);
    }
    std::map<std::string, Resolved> slots_;
    std::string result_name_;
    Units units_, text_units_;
};

// What a step is about to cost. Doubles, because the answer may be beyond any integer.
struct Estimate {
    double bytes = 0;    // memory its result and its work need at once
    double seconds = 0;  // rough, on one core
};

// A line a formula has to give or may give.
struct FormulaResult {
    std::string name;  // empty: the last line, whatever its name
    std::string help;
    bool needed = true;
    bool quantity = false;  // a length or an angle, of which a plain number counts units
};

// Where a step's formula stands: what it reads, the addresses it runs over, what it gives.
struct FormulaPlace {
    std::vector<FormulaInput> inputs;
    Domain domain;
    std::array<std::string, 3> direction_names;  // for graphs: "azimuth", "i"
    std::vector<FormulaResult> results;
    InputRef point_number{InputType::address_number, 0};
    std::vector<Column> owned;  // columns of the domain that nothing else keeps
};

// What a response does here: where its 0 and 1 lie on either side, and how the numbers spread over them.
struct ResponseFlow {
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

struct StepKind {
    std::string key;       // "lattice.rectangular"
    std::string verb;      // as "Continue with" offers it: "Lay a rectangular lattice"
    std::string synonyms;  // further words it is found by
    std::string sentence;  // see sentence.hpp
    std::vector<SlotSpec> slots;
    std::vector<Kind> results;  // kinds it can result in
    std::string result_name;    // proposed name
    std::string help;           // a paragraph for the reference
    // Its result holds its own name, as the numbers of a field do: only then is it made anew when it is
    // renamed.
    bool bears_name = false;
    // It takes plain numbers of a result or range for lengths; kinds with formulas, texts and tables do
    // anyway.
    bool counts_plain_numbers = false;
    std::string companion = {};  // key of a kind that is added below along with this one; may be empty
    // Empty: it costs next to nothing.
    std::function<Estimate(const Inputs&)> estimate = {};
    std::function<Result<Value>(const Inputs&, const Run&)> make;
    // Of a kind with a slot `formula`; valid as long as the inputs are.
    std::function<Result<FormulaPlace>(const Inputs&)> formula_place = {};
    // Of a kind with a slot `response`: the numbers that go into it and come out.
    std::function<Result<ResponseFlow>(const Inputs&, const Run&)> response_flow = {};
    // Of a kind with a slot for a picture.
    std::function<PictureArea(const Inputs&)> picture_area = {};

    const SlotSpec* slot(std::string_view slot_key) const;
};

// Whether it takes plain numbers for quantities that no edit can turn into other units.
bool reads_plain_numbers(const StepKind& kind);

// The step kinds a program knows. Immutable once made.
class Catalogue {
public:
    explicit Catalogue(std::vector<StepKind> kinds) : kinds_(std::move(kinds)) {}
    std::span<const StepKind> kinds() const { return kinds_; }
    const StepKind* find(std::string_view key) const;

private:
    std::vector<StepKind> kinds_;
};

}  // namespace plume
