#include "core/base/error.hpp"

#include <array>
#include <cctype>

namespace plume {

std::string_view code_key(ErrorCode code) {
    static constexpr std::array<std::string_view, static_cast<std::size_t>(ErrorCode::number_of_codes)> keys{
        "bad-number",       "out-of-range",   "not-finite",   "unit-mismatch",    "unknown-name",
        "syntax",           "too-deep",       "too-long",     "division-by-zero", "name-clash",
        "bad-name",         "missing-input",  "reads-below",  "wrong-kind",       "unlike-arrangement",
        "has-gaps",         "too-few-points", "empty-input",  "broken-invariant", "unknown-step-kind",
        "unknown-slot",     "input-failed",   "input-muted",  "still-read",       "over-budget",
        "out-of-memory",    "cancelled",      "file-missing", "file-unreadable",  "file-changed",
        "file-too-large",   "file-damaged",   "file-newer",   "file-unwritable",  "disk-full",
        "nothing-to-write", "wrong-form",     "broke-off",    "not-converged"};
    const auto index = static_cast<std::size_t>(code);
    return index < keys.size() ? keys[index] : std::string_view{};
}

std::string sentence(const Error& error) {
    std::string text = error.where;
    // What is wrong in a text, or begins as a sentence does, is a sentence of its own; else `where` is what
    // the sentence is about.
    const bool own = error.end > error.begin || error.message.starts_with("‘") ||
                     (!error.message.empty() && std::isupper(static_cast<unsigned char>(error.message[0])));
    if (!text.empty() && !error.message.empty()) text += own && text.back() != ':' ? ": " : " ";
    text += error.message;
    if (!text.empty() && text.back() != '.' && text.back() != '?') text += '.';
    if (!error.mend.empty()) text += ' ' + error.mend;
    return text;
}

Error about_slot(Error error, std::string_view slot) {
    if (error.slot.empty()) error.slot = slot;
    return error;
}

Error error_at(Error error, std::string_view where) {
    if (error.where.empty()) error.where = where;
    return error;
}

}  // namespace plume
