#pragma once
// Edits: a study and what to change in, a new study or an error out. The old study is never touched.

#include <set>
#include <span>
#include <string>
#include <vector>

#include "core/study/edits/place_handles.hpp"
#include "core/study/step_kind.hpp"
#include "core/study/study.hpp"

namespace plume {

using Edited = Result<StudyPointer>;

// Names ---------------------------------------------------------------------------------------------------
// `wanted`, or wanted_2, wanted_3 ... when it is taken by a control or a result.
std::string free_name(const Study& study, std::string_view wanted);
// Names of the results that read `name`, in the order of the page.
std::vector<std::string> readers_of(const Study& study, std::string_view name);
struct ResultAbove {
    std::string name;
    std::vector<Kind> kinds;  // it can be of, as far as the page tells
};
// Results of the steps before that position, the nearest first.
std::vector<ResultAbove> results_above(const Study& study, const Catalogue& catalogue, std::size_t position);
// Those that can be of one of `kinds`.
std::vector<std::string> results_that_fit(const Study& study, const Catalogue& catalogue,
                                          std::size_t position, const std::vector<Kind>& kinds);

// Steps ---------------------------------------------------------------------------------------------------
struct Added {
    StudyPointer study;
    ItemId id = 0;
};
// A step of this kind at `position` (the nearest on its page), its references set to the nearest results that
// fit, starting with `prefer` if that fits. Points and numbers it reads are no longer shown: its own result
// is.
Result<Added> add_step(const Study& study, const Catalogue& catalogue, const StepKind& kind,
                       std::size_t position, std::string_view prefer = {});
// The same with the values of `own`, a step that is kept somewhere; what it reads is chosen as above.
Result<Added> add_step(const Study& study, const Catalogue& catalogue, const Step& own, std::size_t position,
                       std::string_view prefer = {});
using ItemIds = std::set<ItemId>;
// Refuses (still_read) while others than these read a result of theirs, unless `even_if_read`.
Edited remove_items(const Study& study, const ItemIds& items, bool even_if_read);
// To stand one after the other before the item now at `position`, or the nearest on their page. Refuses
// (reads_below) what would make a step read below itself.
Edited move_items(const Study& study, const ItemIds& items, std::size_t position);
// Renames the result and every reading of it. Errors: bad_name, name_clash.
Edited rename_step(const Study& study, ItemId id, const std::string& name);
Edited set_slot(const Study& study, ItemId id, const std::string& slot, SlotValue value);
Edited set_muted(const Study& study, ItemId id, bool muted);
Edited set_show(const Study& study, ItemId id, const Show& show);
// Puts a place of a places slot somewhere; coordinates that hold an expression are left and reported as
// unchanged by the Error input_failed when all of those that would change do. Of one with keys: its key at
// that moment.
Edited move_place(const Study& study, const Catalogue& catalogue, ItemId id, const std::string& slot,
                  std::size_t index, Vec3 to, double seconds = 0);

// Several at once, each to a place of its own; nothing is moved when one of them cannot be. Places told by a
// curve are moved along, across and up it, if `shown` knows it.
struct PlaceMove {
    ItemId step = 0;
    std::string slot;
    std::size_t index = 0;
    Vec3 to;
    double unit = 0;  // what is told by a curve is rounded to it, shares to a ten-thousandth; 0: not at all
};
Edited move_places(const Study& study, const Catalogue& catalogue, std::span<const PlaceMove> moves,
                   const ShownValue& shown = {}, double seconds = 0);

// Another throw of the step's random numbers (forward), or the one before: its seed, or the control that its
// seed names, goes on by one. Errors: input_failed (no seed, or one that follows an expression; below 0).
Edited throw_again(const Study& study, const Catalogue& catalogue, ItemId id, bool forward);
bool throws_numbers(const Catalogue& catalogue, const Step& step);

// Headings ------------------------------------------------------------------------------------------------
Added add_heading(const Study& study, std::size_t position, std::string title, Page page = Page::sheet);
// All but its id and page. What is given as all below it follows its title.
Edited set_heading(const Study& study, ItemId id, const Heading& heading);

// Controls ------------------------------------------------------------------------------------------------
// Errors: bad_name, name_clash, not_finite, out_of_range (least above most), unknown unit.
Edited add_control(const Study& study, Control control);
// Changes everything of the control called `name`, its name too: expressions follow.
Edited set_control(const Study& study, const std::string& name, Control control);
// Of one with keys: its key at that moment.
Edited set_control_value(const Study& study, const std::string& name, double value, double seconds = 0);
// Refuses (still_read) while expressions use it, unless `even_if_read`.
Edited remove_control(const Study& study, const std::string& name, bool even_if_read);
// Steps that use a control, by result name.
std::vector<std::string> users_of_control(const Study& study, std::string_view name);
// Makes a control from a slot's literal and puts its name into the slot.
Edited promote(const Study& study, const StepKind& kind, ItemId id, const std::string& slot,
               const std::string& name);
// A range and step that suit a value: from zero to about twice its magnitude, in a hundred steps.
Control proposed_control(std::string name, double value, std::string unit, bool whole);

// Formulas ------------------------------------------------------------------------------------------------
// Of steps with a slot `formula`. Lines are muted by name; one that is gone is no longer muted.
Edited set_formula_text(const Study& study, const StepKind& kind, ItemId id, std::string text);
Edited set_line_muted(const Study& study, const StepKind& kind, ItemId id, const std::string& line,
                      bool muted);
// Keeps the present text under a name, in place of what had it. Error: bad_name when it is empty.
Edited keep_version(const Study& study, const StepKind& kind, ItemId id, const std::string& name);
Edited take_version(const Study& study, const StepKind& kind, ItemId id, const std::string& name);
Edited remove_version(const Study& study, const StepKind& kind, ItemId id, const std::string& name);
// Makes a control from the literal text[begin, end) and puts its name there. Errors: as of add_control;
// bad_number when no literal stands there.
Edited promote_literal(const Study& study, const StepKind& kind, ItemId id, std::size_t begin,
                       std::size_t end, const std::string& name);
// For looking only: the line that begins at byte `begin` goes along as a field, and whatever carries it is
// coloured by it.
Edited coloured_by_line(const Study& study, const StepKind& kind, ItemId id, std::size_t begin);

// link_from(): how a study in `folder` names a file given by its whole path.
// Linked files of a study that moves from one folder to another (empty: it had none yet): relative paths lead
// to the same files as before. Files far away from it get whole paths.
std::string link_from(const std::string& folder, const std::string& file);
StudyPointer with_links_from(const Study& study, const std::string& old_folder,
                             const std::string& new_folder);

// The whole -----------------------------------------------------------------------------------------------
StudyPointer set_title(const Study& study, std::string title, std::string note);
// Errors: out_of_range, not_finite.
Edited set_timeline(const Study& study, const Timeline& time);
// In place of the one of that name. Error: bad_name, of nothing, more than 60 letters or a word for another
// way to look. Of one with keys: its key at that moment.
Edited keep_camera(const Study& study, std::string name, const Camera& camera, double seconds = 0);
Edited remove_camera(const Study& study, std::string_view name);
// With the sentences that look by it. Errors: those of keep_camera(); name_clash.
Edited rename_camera(const Study& study, const Catalogue& catalogue, const std::string& name, std::string to);
// Where what is handed off goes; looked at when it is.
Edited set_hand_off_folder(const Study& study, std::string folder);
// Other units, the same form: bare numbers in length and angle slots are converted, and formulas, texts and
// tables go on counting the units they were written in. `numbers`: results of the study that are numbers.
using NumbersByName = std::map<std::string, Quantity, std::less<>>;
StudyPointer with_units(const Study& study, const Catalogue& catalogue, Units units,
                        const NumbersByName& numbers = {});
// What plain numbers in the step's texts count; nothing: the study's units, whatever they become.
Edited set_text_units(const Study& study, ItemId id, std::optional<Units> units);

}  // namespace plume
