#pragma once
// Study: the document. A value: an edit makes a new one that shares every control and item it did not change.
// Nothing here is checked against the catalogue of step kinds; files may hold kinds this program does not
// know.

#include <cstdint>
#include <map>
#include <memory>
#include <optional>
#include <string>
#include <variant>
#include <vector>

#include "core/base/hash.hpp"
#include "core/base/units.hpp"
#include "core/data/camera.hpp"
#include "core/data/show.hpp"
#include "core/study/keys.hpp"

namespace plume {

using ItemId = std::uint64_t;  // unique within a study, never used again

// How a key is kept that stands in an object of a file a second time.
inline constexpr std::string_view again_suffix = " (again)";

// A named quantity that expressions in slots read. value, least, most and step are in `unit`.
struct Control {
    std::string name;
    double value = 0;
    double least = 0, most = 1;
    double step = 0;   // 0: continuous
    std::string unit;  // "", "m", "°", ...
    std::string note;
    UnknownParts unknown;
    std::vector<ControlKey> keys = {};  // where there are any, they are its value
    bool operator==(const Control&) const = default;
};
using ControlPointer = std::shared_ptr<const Control>;

// What a slot holds. Numbers are kept as they were typed: "24", "36 m", "bays * 2".
struct NumberText {
    std::string text;
    bool operator==(const NumberText&) const = default;
};
struct WordKey {
    std::string key;
    bool operator==(const WordKey&) const = default;
};
struct ResultName {
    std::string name;
    bool operator==(const ResultName&) const = default;
};
struct Place {
    std::string name, x, y, z, weight;  // expressions but for the name
    UnknownParts unknown = {};
    std::vector<PlaceKey> keys = {};  // where there are any, they are its coordinates
    bool operator==(const Place&) const = default;
};
using Places = std::vector<Place>;
// A formula as typed, with the lines that are muted and the earlier texts that were kept.
struct FormulaVersion {
    std::string name, text;
    bool operator==(const FormulaVersion&) const = default;
};
struct FormulaText {
    std::string text;
    std::vector<std::string> muted;
    std::vector<FormulaVersion> versions;
    UnknownParts unknown = {};
    bool operator==(const FormulaText&) const = default;
};
// Text in the step's own language: rows of points, addresses.
struct Lines {
    std::string text;
    bool operator==(const Lines&) const = default;
};
// A linked file, by a path relative to the study's folder where it can be.
struct FileName {
    std::string path;
    bool operator==(const FileName&) const = default;
};
// Results that are handed off together, each with a word for what it is given as (empty: as usual). Where
// `of` says so they are all that stand below a heading or all that are seen, and `entries` only has words.
struct ResultList {
    enum class Of { listed, heading, seen };
    struct Entry {
        std::string name, as;
        bool operator==(const Entry&) const = default;
    };
    Of of = Of::listed;
    std::string heading;  // its title
    std::vector<Entry> entries;
    bool operator==(const ResultList&) const = default;
};
// Steps that stand as one; see StepGroup.
struct StepGroup;
class GroupedSteps {
public:
    explicit GroupedSteps(StepGroup group);
    const StepGroup& operator*() const { return *group_; }
    const StepGroup* operator->() const { return group_.get(); }
    const std::shared_ptr<const StepGroup>& pointer() const { return group_; }
    // Of all that its step is and does.
    const Hash& fingerprint() const { return fingerprint_; }
    bool operator==(const GroupedSteps& other) const { return fingerprint_ == other.fingerprint_; }

private:
    std::shared_ptr<const StepGroup> group_;
    Hash fingerprint_;
};
// A form that no slot has, as JSON: kept as it stands in the file, and an error on its step.
struct OddValue {
    std::string json;
    bool operator==(const OddValue&) const = default;
};
using SlotValue = std::variant<NumberText, WordKey, ResultName, Places, FormulaText, Lines, FileName,
                               ResultList, GroupedSteps, OddValue>;

struct Step {
    ItemId id = 0;
    std::string kind;  // key of a StepKind
    std::string name;  // of its result; unique among steps and controls
    std::map<std::string, SlotValue> slots;
    // What plain numbers in its formula, text or table count: the units they were written in, where these are
    // no longer the study's.
    std::optional<Units> text_units;
    bool muted = false;
    Show show;
    UnknownParts unknown;
    bool operator==(const Step&) const = default;
};
using StepPointer = std::shared_ptr<const Step>;

enum class HeadingColour { sand, rose, teal, slate, moss, plum };
std::string_view key_of(HeadingColour colour);
std::optional<HeadingColour> heading_colour_from(std::string_view key);
inline constexpr int heading_colour_count = 6;

// The pages of a study: where it is made, and where it leaves.
enum class Page { sheet, hand_off };

struct Heading {
    ItemId id = 0;
    std::string title;
    std::string note;
    HeadingColour colour = HeadingColour::sand;
    bool folded = false;
    Page page = Page::sheet;
    UnknownParts unknown;
    bool operator==(const Heading&) const = default;
};
using HeadingPointer = std::shared_ptr<const Heading>;

using Item = std::variant<HeadingPointer, StepPointer>;
ItemId id_of(const Item& item);
const Step* step_of(const Item& item);        // nullptr for a heading
const Heading* heading_of(const Item& item);  // nullptr for a step
// Steps that hand something off (kinds whose key begins "handoff.") stand on that page.
Page page_of(const Step& step);
Page page_of(const Item& item);

// A way to look that is kept, in study lengths.
struct KeptCamera {
    std::string name;
    Camera camera;
    UnknownParts unknown = {};
    std::vector<CameraKey> keys = {};  // where there are any, they are the camera
    bool operator==(const KeptCamera&) const = default;
};

struct Study {
    std::string title;
    std::string note;
    Units units;
    Timeline time;
    std::vector<ControlPointer> controls;
    std::vector<KeptCamera> cameras;  // of different names
    // In the order of the page, which is the order of the work; those of the page Hand off behind all others.
    std::vector<Item> items;
    ItemId next_id = 1;
    // Where files go, relative to the study's folder; with placeholders, as names of files have them.
    std::string hand_off_folder = "handoff";
    UnknownParts unknown;

    const Control* control(std::string_view name) const;
    const KeptCamera* camera(std::string_view name) const;
    const Step* step(std::string_view name) const;
    const Step* step(ItemId id) const;
    std::optional<std::size_t> position(ItemId id) const;
    // The positions of a page's items: [first, behind).
    std::size_t page_begin(Page page) const;
    std::size_t page_end(Page page) const;
};
using StudyPointer = std::shared_ptr<const Study>;

// What is left open of steps that stand as one, and becomes a slot of theirs.
struct OpenSlot {
    std::string key;       // as the sentence names it
    std::string of, slot;  // that slot of the step that results in `of`; both empty: a control or a result of
                           // that name that they read
    bool operator==(const OpenSlot&) const = default;
};
// Steps that stand as one in the page of another study, in units of their own.
struct StepGroup {
    std::string title, sentence, help;
    std::vector<OpenSlot> open;
    Study steps;         // and the controls that their expressions read
    std::string result;  // name of the step whose result it is
};

// Same content, deeply compared.
bool same(const Study& a, const Study& b);

// Sentences about what is kept of the file but not known, outside of steps (these have remarks of their own).
std::vector<std::string> unknown_parts(const Study& study);

// Paths of the files that steps link, as they are kept.
std::vector<std::string> linked_files(const Study& study);

// Whether the step results in a number, which expressions can read: kinds of step whose key begins "number.",
// and groups whose result is one.
bool gives_number(const Step& step);
// Names of the results a step reads: by its references, and numbers of the study in its expressions.
std::vector<std::string> results_read(const Study& study, const Step& step);
// The results that a list means, in the order they are given: those that are there.
std::vector<std::string> results_of(const Study& study, const ResultList& list);
// The same without expressions and lists; and all names that these use.
std::vector<std::string> results_read(const Step& step);
std::vector<std::string> names_in_expressions(const Step& step);

}  // namespace plume
