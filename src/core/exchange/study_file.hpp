#pragma once
// The `.plume` file: JSON in UTF-8, stable key order, one line a slot, so that a diff reads well.
//
//   "plume": 1                the format version; a file with a higher one is refused and left alone
//   "units"                   {"length": "m", "angle": "°"}
//   "controls"                one object a line
//   "page"                    headings {"heading": title, ...} and steps {"step": kind, "result": name, ...}
//   "handoff", "handoff_folder"   likewise what is handed off, and the folder it goes to
//   slots of a step           "= 36 m" a number or expression, "over" a word, {"result": "ground"} a reading,
//                             [{"name", "x", "y", "z", "weight"}, ...] places, {"results": [name, ...]}
//                             several
//
// Keys this program does not know are kept and written back.

#include <filesystem>
#include <string>
#include <string_view>

#include "core/base/error.hpp"
#include "core/study/study.hpp"

namespace plume {

inline constexpr int study_format_version = 1;
// A page of a hundred thousand steps is far smaller; anything larger is not a study.
inline constexpr std::uintmax_t longest_study_file = 64'000'000;

std::string study_to_text(const Study& study);
// Errors: file_damaged (place names the line or the part), file_newer, too_deep, bad_name, name_clash.
Result<StudyPointer> study_from_text(std::string_view text);

// Errors: those above and those of read_file and write_file, put at the file.
Result<StudyPointer> load_study(const std::filesystem::path& path);
Status save_study(const Study& study, const std::filesystem::path& path);

}  // namespace plume
