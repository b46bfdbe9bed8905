#pragma once
// Deliveries that are milled: where the form lies in its board, the file, and its rehearsal.

#include <filesystem>

#include "core/data/delivery.hpp"
#include "core/milling/milling_paths.hpp"
#include "core/milling/rehearsal.hpp"

namespace plume {

bool is_milled(const DeliveryContent& delivery);

// Millimetres, as the machine has it: the board's top at 0, its lower left corner at the origin, as it is
// seen.
struct FormInBoard {
    Mesh form;
    std::optional<Mesh> clamps;
    Board board;
};
// Errors: those of facets (scene.hpp); empty_input for results without faces; out_of_range, about their
// slots, for a board thinner than the relief and a cutter wider than the form.
Result<FormInBoard> form_in_board(const DeliveryContent& delivery, const Units& units, const Run& run);

// In the order they are used: the one for roughing, if there is one, before the other.
std::vector<Cutter> cutters_of(const DeliveryContent& delivery, const Units& units);

// Its text. Errors: those of milling_paths().
Result<std::string> milling_file(const DeliveryContent& delivery, const FormInBoard& form, const Units& units,
                                 const Run& run);

// What it is rehearsed with. More than the ridges between its paths counts as left standing, and a tenth of a
// millimetre at least. `form` has to outlive it.
RehearsalJob rehearsal_of(const DeliveryContent& delivery, const FormInBoard& form, const Units& units);

// "3 % of the form lies below overhangs and is lost"; empty where none does.
std::string overhang_text(const Rehearsal& rehearsal, bool closed);

// Writes the file and returns a sentence that says what it comes to.
Result<std::string> write_milling(const DeliveryContent& delivery, const Units& units,
                                  const std::filesystem::path& path, const Run& run);

}  // namespace plume
