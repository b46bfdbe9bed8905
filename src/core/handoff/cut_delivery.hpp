#pragma once
// Deliveries that are cut flat: which lines lie on which sheet, the file, and its rehearsal.

#include <filesystem>

#include "core/data/delivery.hpp"
#include "core/milling/flat_cutting.hpp"
#include "core/milling/flat_rehearsal.hpp"

namespace plume {

bool is_cut(const DeliveryContent& delivery);

// Lines as seen from above, millimetres: rims, cuts and marks as the delivery gives them, or, of a result
// whose lines carry the number pen (sheet_lines.hpp), as that says. Errors: those of flat_sheets(), about the
// slot "results".
Result<std::vector<FlatSheet>> sheets_of(const DeliveryContent& delivery, const Units& units, const Run& run);

struct CuttingFile {
    std::string text;
    std::vector<std::string> losses;  // a sentence each: openings that are left out, lines that lean
};
// Errors: those of flat_cuts().
Result<CuttingFile> cutting_file(const DeliveryContent& delivery, std::span<const FlatSheet> sheets,
                                 const Units& units, const Run& run);

// What it is rehearsed with. `sheets` have to outlive it.
FlatRehearsalJob rehearsal_of(const DeliveryContent& delivery, std::span<const FlatSheet> sheets,
                              const Units& units);

// Writes the file and returns a sentence that says what it comes to.
Result<std::string> write_cutting(const DeliveryContent& delivery, const Units& units,
                                  const std::filesystem::path& path, const Run& run);

}  // namespace plume
