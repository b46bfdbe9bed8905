#pragma once
// Names of files that are handed off: "{study}-{date}", "laser/levels". A placeholder in braces stands for
// the study's title as names of files have it, the day, the sentence's own name, or a control's value.

#include <string>
#include <string_view>

#include "core/base/error.hpp"
#include "core/study/study.hpp"

namespace plume {

// Errors: missing_input where it is empty; bad_name where it leaves its folder, has characters that some file
// systems refuse, a brace without its other, or is longer than 200 bytes.
Status check_target_name(std::string_view name);

// "Reed screen, 2nd" is "reed-screen-2nd". Letters of other alphabets stay.
std::string file_word(std::string_view text);

struct TargetPlace {
    const Study& study;
    std::string date;      // "2031-05-04"
    std::string sentence;  // the name of what hands it off
};
// Error: unknown_name for a placeholder that stands for nothing.
Result<std::string> target_name(std::string_view name, const TargetPlace& place);

}  // namespace plume
