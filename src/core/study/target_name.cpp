#include "core/study/target_name.hpp"

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/formula/expression.hpp"

namespace plume {
namespace {

constexpr std::size_t longest = 200;

Error bad(const std::string& name, const std::string& why, const std::string& mend) {
    return {ErrorCode::bad_name, "", "cannot be ‘" + shortened(printable(name), 60) + "’: it " + why, mend};
}

bool is_letter_or_digit(unsigned char c) {
    return (c >= '0' && c <= '9') || (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || c >= 0x80;
}

Result<std::string> stands_for(const std::string& word, const TargetPlace& place) {
    if (word == "study") {
        const std::string title = file_word(place.study.title);
        return title.empty() ? "untitled" : title;
    }
    if (word == "date") return place.date;
    if (word == "name") return place.sentence;
    if (const Control* control = place.study.control(word))
        return short_text(control->value, 8) + file_word(control->unit);
    std::vector<std::string> known{"study", "date", "name"};
    for (const ControlPointer& control : place.study.controls)
        known.push_back(control->name);
    const auto close = closest_name(word, known);
    return Error{
        ErrorCode::unknown_name, "‘{" + shortened(printable(word), 40) + "}’", "stands for nothing",
        close ? "Did you mean ‘{" + *close + "}’?" : "Use {study}, {date}, {name} or the name of a control."};
}

}  // namespace

Status check_target_name(std::string_view name) {
    const std::string text(name);
    if (text.empty()) return Error{ErrorCode::missing_input, "", "is empty", "Type a name for the file."};
    if (text.size() > longest)
        return bad(text, "is longer than " + std::to_string(longest) + " bytes", "Shorten it.");
    if (text.front() == '/' || text.back() == '/')
        return bad(text, "begins or ends with a ‘/’",
                   "Name a file, in a folder where you like: laser/levels.");
    for (const std::string_view part : words_between(text, "/"))
        if (part.starts_with('.'))
            return bad(text, "has a part that begins with a dot",
                       "Files stay in the folder they are handed off to.");
    bool open = false;
    for (const char c : text) {
        if (static_cast<unsigned char>(c) < 0x20 || c == 0x7f ||
            std::string_view("<>:\"\\|?*").find(c) != std::string_view::npos)
            return bad(text, "has a character that names of files cannot have everywhere",
                       "Use letters, digits, blanks, - and _.");
        if ((c == '{' && open) || (c == '}' && !open) || (c == '/' && open))
            return bad(text, "has a brace without its other", "Write placeholders as {study}.");
        if (c == '{' || c == '}') open = c == '{';
    }
    if (open) return bad(text, "has a brace without its other", "Write placeholders as {study}.");
    return Done{};
}

std::string file_word(std::string_view text) {
    std::string word;
    for (const char c : text) {
        if (is_letter_or_digit(static_cast<unsigned char>(c)))
            word += c >= 'A' && c <= 'Z' ? static_cast<char>(c - 'A' + 'a') : c;
        else if (!word.empty() && word.back() != '-')
            word += '-';
    }
    while (!word.empty() && word.back() == '-')
        word.pop_back();
    return word;
}

Result<std::string> target_name(std::string_view name, const TargetPlace& place) {
    if (Status checked = check_target_name(name); !checked) return checked.error();
    std::string made, word;
    bool open = false;
    for (const char c : name) {
        if (c == '{') {
            open = true;
            word.clear();
        } else if (c == '}') {
            open = false;
            Result<std::string> text = stands_for(word, place);
            if (!text) return text.error();
            made += *text;
        } else {
            (open ? word : made) += c;
        }
    }
    return made;
}

}  // namespace plume
