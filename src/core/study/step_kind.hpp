#pragma once
// StepKind: the one declaration of a kind of step. The sheet's sentence and editors, the file format, the
// command line's catalogue, the reference and the input checks are all derived from it.

#include <functional>
#include <map>
#include <memory>
#include <optional>
#include <span>
#include <string>
#include <vector>

#include "core/study/inputs.hpp"
#include "core/study/part_story.hpp"
#include "core/study/slot_context.hpp"
#include "core/study/slots/slot_spec.hpp"

namespace plume {

// What a step is about to cost. Doubles, because the answer may be beyond any integer.
struct Estimate {
    double bytes = 0;    // memory its result and its work need at once
    double seconds = 0;  // rough, on one core
};

struct StepKind;
class Catalogue;
// Of a kind whose slots hang on what its step holds, as the head of a script: what tells such steps apart,
// and the kind that it makes.
struct Derivation {
    std::function<std::string(const Step&)> apart;
    std::function<StepKind(const Step&, const Catalogue&)> kind;
};

// Steps that stand as one, with what their open slots were given.
struct Unfolded {
    std::shared_ptr<const StepGroup> group;
    StudyPointer study;
    std::string result;                       // in it, which may have the name of the group
    std::map<std::string, ReadResult> given;  // results they read from outside, by the names they have inside
};

// What a step made at the moment before, and from what.
struct MomentBefore {
    const Value& value;
    const Inputs& inputs;
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
    // What it reads stays seen beside its result, as a curve beside its comb.
    bool stays_beside = false;
    // Its result is drawn in its plain colour until a number is chosen: what is made, not what is measured.
    bool drawn_plain = false;
    std::string companion = {};  // key of a kind that is added below along with this one; may be empty
    // Empty: it costs next to nothing.
    std::function<Estimate(const Inputs&)> estimate = {};
    std::function<Result<Value>(const Inputs&, const Run&)> make;
    // Of a kind that goes on from its moment before: what it is so many seconds later. make() is its first
    // moment.
    std::function<Result<Value>(const Inputs&, const MomentBefore&, double seconds, const Run&)> advance = {};
    // Of such a kind, after what it is made from was changed: why it begins again, or nothing where it can go
    // on from how it is. Empty: it always begins again.
    std::function<std::string(const Inputs& before, const Inputs& now)> begins_again = {};
    // Of a kind that keeps a moment of what it reads: its slot of the seconds.
    std::string read_at = {};
    // Of slots whose editors show more than their value, by their keys; valid as long as the inputs are.
    std::map<std::string, ContextMaker, std::less<>> contexts = {};
    // Why a part of its result is as it is; of kinds of which numbers, addresses and formulas do not tell it.
    std::function<PartStory(const Inputs&, const Value& made, PartRef part)> story = {};
    std::shared_ptr<const Derivation> derivation = {};
    // Of steps that stand as one: they are made instead of it.
    std::function<Result<Unfolded>(const Inputs&)> unfold = {};
    bool offered = true;       // among the steps to continue with
    std::string subject = {};  // of subjects(); the catalogue says it, by the folder the kind stands in

    const SlotSpec* slot(std::string_view slot_key) const;
    const SlotSpec* first_reference() const;
};

// The context of a slot. Nothing where the kind has none for it.
std::optional<Result<SlotContext>> slot_context(const StepKind& kind, std::string_view slot,
                                                const Inputs& inputs, const Run& run);
// Of a slot whose type has contexts of one sort.
template <class Context>
std::optional<Result<Context>> context_of(const StepKind& kind, std::string_view slot, const Inputs& inputs,
                                          const Run& run) {
    auto made = slot_context(kind, slot, inputs, run);
    if (!made) return {};
    if (!*made) return made->error();
    return std::get<Context>(**std::move(made));
}

// The error with the label of the slot it is about, where it says no other place.
Error labelled(Error error, const StepKind& kind);

// Where its steps stand.
Page page_of(const StepKind& kind);

// Whether it takes plain numbers for quantities that no edit can turn into other units.
bool reads_plain_numbers(const StepKind& kind);

// The step kinds a program knows. Immutable once made; may be asked from many threads.
class Catalogue {
public:
    explicit Catalogue(std::vector<StepKind> kinds);
    std::span<const StepKind> kinds() const { return kinds_; }
    const StepKind* find(std::string_view key) const;
    // The step's own kind; made when it is first asked for, and kept.
    const StepKind* find(const Step& step) const;

private:
    struct Derived;
    std::vector<StepKind> kinds_;
    std::shared_ptr<Derived> derived_;
};

}  // namespace plume
