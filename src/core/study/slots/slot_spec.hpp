#pragma once
// SlotSpec: the declaration of one slot of a step kind. What its type means is said in one file a type
// (slot_rules.hpp).

#include <limits>
#include <memory>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/data/value.hpp"
#include "core/formula/rules_language.hpp"
#include "core/study/study.hpp"

namespace plume {

// quantity: a number of whatever unit it is typed in; name: a name of the step's own, as of a loop variable;
// seed: a whole number that names a throw of random numbers; text: lines of the step's own language;
// addresses: text that names points, also picked in the model; file: a linked file; picks: names out of what
// is offered, none meaning all; response: a word, or a drawn shape; results: several, that are handed off
// together, each perhaps as one of the words; target: the name of a file that is written; camera: one of a
// few ways to look, its words, or a camera that the study keeps; group: steps that stand as one.
enum class SlotType {
    count,
    number,
    length,
    angle,
    force,
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
    picks,
    response,
    results,
    target,
    camera,
    group
};
inline constexpr int slot_type_count = static_cast<int>(SlotType::group) + 1;
std::string_view key_of(SlotType type);

struct Word {
    std::string key;    // as files say it
    std::string label;  // as it stands in the sentence
    std::string help;   // one line for the list it is chosen from
};

// Files that a slot takes.
struct FileKind {
    std::string name;                  // "Tables"
    std::vector<std::string> endings;  // as they usually have, without a dot
    bool plain_numbers = false;        // their numbers count the units of the text
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
    std::vector<Word> words;    // choice, results, camera
    std::vector<Kind> accepts;  // reference, results
    Places preset_places;       // places
    bool weighted = false;      // places: their weight counts
    std::string mirrored_by =
        {};                      // places: the choice that says "x" or "y" when each has a mirror image in it
    bool corners = false;        // places: they are corners, in order, that are drawn in plan
    std::string closed_by = {};  // places: the choice that says "closed" when the last is joined to the first
    // places: the reference to the one curve they are told by: x is a share of its length, y a length across
    // and z one up; and the choice that says which way that is, of the keys of lift_axis_from().
    std::string told_by = {}, lifted_by = {};
    FileKind files = {};                      // file
    std::optional<RulesLanguage> rules = {};  // formula: it has rules instead
    // picks: how it reads while nothing is picked, "all its parts"; results with words: while none is chosen
    std::string none = {};
    // count: a slider beside the step runs through it and plays it, and what it came to stands there
    // (RulesSite::growth).
    bool played = false;
    // addresses: of points, nodes or vertices of the first thing that is read, never of its parts.
    bool of_points = false;
    // reference: to places, one for each point that this slot of addresses names, in that order.
    std::string for_each_of = {};
    bool script = false;                                 // text: a script, which is edited below the sentence
    std::shared_ptr<const StepGroup> preset_group = {};  // group
    std::string help = {};  // what it means, where its label does not say it: one sentence

    Dimension dimension() const;
    bool numeric() const;
    SlotValue preset_value() const;
};

// What a choice or a camera can be in a study: its words, and the cameras kept there.
std::vector<Word> words_in(const SlotSpec& slot, const Study& study);

// Short ways to declare slots.
SlotSpec count_slot(std::string key, std::string label, std::string preset, double least);
SlotSpec number_slot(std::string key, std::string label, std::string preset);
SlotSpec length_slot(std::string key, std::string label, std::string preset);
SlotSpec length_above_zero_slot(std::string key, std::string label, std::string preset);
SlotSpec angle_slot(std::string key, std::string label, std::string preset);
SlotSpec force_slot(std::string key, std::string label, std::string preset);
SlotSpec choice_slot(std::string key, std::string label,
                     std::vector<Word> words);  // the first word is the preset
SlotSpec reference_slot(std::string key, std::string label, std::vector<Kind> accepts);
SlotSpec places_slot(std::string key, std::string label, Places preset);
SlotSpec quantity_slot(std::string key, std::string label, std::string preset);
SlotSpec name_slot(std::string key, std::string label, std::string preset);
SlotSpec formula_slot(std::string key, std::string label, std::string preset);
// The slot `formula` with rules; its context is a RulesSite.
SlotSpec rules_slot(RulesLanguage language, std::string preset);
SlotSpec seed_slot(std::string key, std::string label, std::string preset);
SlotSpec text_slot(std::string key, std::string label, std::string preset);
SlotSpec addresses_slot(std::string key, std::string label, std::string preset);
SlotSpec point_addresses_slot(std::string key, std::string label, std::string preset);
SlotSpec file_slot(std::string key, std::string label, FileKind files);
SlotSpec picks_slot(std::string key, std::string label, std::string none);
SlotSpec response_slot(std::string key, std::string label,
                       std::vector<Word> words);  // the first word is the preset
SlotSpec results_slot(std::string key, std::string label, std::vector<Kind> accepts,
                      std::vector<Word> words = {}, std::string none = {});
SlotSpec target_slot(std::string key, std::string label, std::string preset);
SlotSpec script_slot(std::string key, std::string label, std::string preset);
SlotSpec group_slot(std::string key, std::string label, StepGroup preset);
SlotSpec camera_slot(std::string key, std::string label);
// Corners of an outline, drawn in plan.
SlotSpec corners_slot(std::string key, std::string label, Places preset);

}  // namespace plume
