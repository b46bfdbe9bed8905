#include "core/script/script_head.hpp"

#include <algorithm>
#include <array>
#include <cctype>

namespace plume {
namespace {

std::string_view trimmed(std::string_view text) {
    while (!text.empty() && (text.front() == ' ' || text.front() == '\t'))
        text.remove_prefix(1);
    while (!text.empty() && (text.back() == ' ' || text.back() == '\t' || text.back() == '\r'))
        text.remove_suffix(1);
    return text;
}

bool is_name(std::string_view text) {
    const auto letter = [](char c) { return std::isalpha(static_cast<unsigned char>(c)) != 0 || c == '_'; };
    return !text.empty() && letter(text.front()) && std::ranges::all_of(text, [&](char c) {
        return letter(c) || std::isdigit(static_cast<unsigned char>(c)) != 0;
    });
}

// What no input can be called: words of Lua, and of the head itself.
constexpr std::array reserved{"and",  "break",    "do",     "else",   "elseif",   "end",    "false",
                              "for",  "function", "goto",   "if",     "in",       "local",  "nil",
                              "not",  "or",       "repeat", "script", "seconds",  "memory", "return",
                              "then", "true",     "until",  "while",  "sentence", "result", "interface"};

// In the order of ScriptType.
constexpr std::array<std::string_view, 13> type_keys{
    "number",     "count",      "length", "angle",   "",     "points", "numbers",
    "directions", "placements", "curves", "surface", "mesh", "frame"};

std::optional<ScriptType> type_from(std::string_view key) {
    const auto found = std::ranges::find(type_keys, key);
    if (key.empty() || found == type_keys.end()) return {};
    return static_cast<ScriptType>(found - type_keys.begin());
}

class HeadReader {
public:
    explicit HeadReader(std::string_view text) : text_(text) {}

    Result<ScriptHead> all() {
        if (text_.size() > longest_script) return script_too_long();
        const std::string_view head = text_.substr(0, script_head_size(text_));
        for (std::size_t begin = 0; begin < head.size();) {
            const std::size_t end = std::min(head.find('\n', begin), head.size());
            std::string_view line = trimmed(head.substr(begin, end - begin));
            begin = end + 1;
            if (line.empty()) continue;
            line.remove_prefix(2);
            if (Status read = read_line(trimmed(line)); !read) return read.error();
        }
        return finished();
    }

private:
    Error wrong(ErrorCode code, std::string message, std::string mend, std::string_view at) const {
        Error error{code, "", std::move(message), std::move(mend)};
        error.begin = static_cast<std::size_t>(at.data() - text_.data());
        error.end = error.begin + at.size();
        return error;
    }
    Error wrong(std::string message, std::string mend, std::string_view at) const {
        return wrong(ErrorCode::syntax, std::move(message), std::move(mend), at);
    }

    Status read_line(std::string_view line) {
        if (line.empty()) return Done{};
        if (head_.title.empty()) {
            head_.title = line;
            title_ = line;
            return Done{};
        }
        const std::size_t colon = line.find(':');
        const std::string_view name = trimmed(line.substr(0, std::min(colon, line.size())));
        if (colon == std::string_view::npos || (!is_name(name))) {
            head_.help += (head_.help.empty() ? "" : " ") + std::string(line);
            return Done{};
        }
        const std::string_view rest = trimmed(line.substr(colon + 1));
        if (name == "sentence") {
            head_.sentence = rest;
            sentence_ = rest;
            return Done{};
        }
        if (name == "interface") return interface(rest);
        if (name == "result") return result(rest);
        return input(name, rest);
    }

    Status interface(std::string_view text) const {
        const std::string number(text);
        if (number.empty() || number.size() > 6 ||
            !std::ranges::all_of(number, [](char c) { return c >= '0' && c <= '9'; }))
            return wrong("names no interface", "Write interface: 1.", text);
        if (std::stoi(number) <= script_interface) return Done{};
        return wrong(ErrorCode::file_newer, "is written for interface " + number + ", and this program has 1",
                     "Open it in a newer version.", text);
    }

    Status result(std::string_view text) {
        const auto type = type_from(text);
        if (type) {
            head_.result = *type;
            result_ = true;
            return Done{};
        }
        return wrong("gives ‘" + std::string(text) + "’, which is no kind of result",
                     "Write number, count, length, angle, " + script_kinds_text() + ".", text);
    }

    Status input(std::string_view name, std::string_view text) {
        if (std::ranges::find(reserved, name) != reserved.end())
            return wrong(ErrorCode::bad_name,
                         "has an input ‘" + std::string(name) + "’, a word of the language",
                         "Give it another name.", name);
        if (std::ranges::find(head_.inputs, name, &ScriptInput::name) != head_.inputs.end())
            return wrong(ErrorCode::name_clash, "has two inputs ‘" + std::string(name) + "’",
                         "Give one of them another name.", name);
        ScriptInput made;
        made.name = name;
        if (text.starts_with("one of ")) {
            if (Status read = words(text, made); !read) return read;
        } else if (Status read = number(text, made); !read) {
            return read;
        }
        head_.inputs.push_back(std::move(made));
        return Done{};
    }

    Status words(std::string_view text, ScriptInput& made) const {
        made.type = ScriptType::word;
        std::string_view rest = text.substr(7);
        while (true) {
            const std::size_t comma = std::min(rest.find(','), rest.size());
            const std::string_view word = trimmed(rest.substr(0, comma));
            if (word.empty()) return wrong("has an empty word", "Write one of smoothly, at once.", text);
            if (std::ranges::find(made.words, word) != made.words.end())
                return wrong(ErrorCode::name_clash, "has the word ‘" + std::string(word) + "’ twice",
                             "Take one of them out.", word);
            made.words.emplace_back(word);
            if (comma == rest.size()) break;
            rest.remove_prefix(comma + 1);
        }
        made.preset = made.words.front();
        return Done{};
    }

    // A type, and behind it a preset and a range.
    Status number(std::string_view text, ScriptInput& made) const {
        const std::size_t comma = std::min(text.find(','), text.size());
        std::string_view first = trimmed(text.substr(0, comma));
        const std::size_t equals = first.find('=');
        const std::string_view word = trimmed(first.substr(0, std::min(equals, first.size())));
        const auto type = type_from(word);
        if (!type)
            return wrong("has an input of the type ‘" + std::string(word) + "’",
                         "Write number, count, length, angle, one of …, " + script_kinds_text() + ".", word);
        made.type = *type;
        const bool is_number = plume::is_number(made.type);
        made.preset = equals == std::string_view::npos
                          ? (is_number ? std::string(made.type == ScriptType::length  ? "1 m"
                                                     : made.type == ScriptType::angle ? "0°"
                                                                                      : "1")
                                       : std::string())
                          : std::string(trimmed(first.substr(equals + 1)));
        if (!is_number && (equals != std::string_view::npos || comma < text.size()))
            return wrong("gives ‘" + made.name + "’ a preset, and it is a result above", "Leave it out.",
                         text);
        if (comma == text.size()) return Done{};
        return range(trimmed(text.substr(comma + 1)), made);
    }

    Status range(std::string_view text, ScriptInput& made) const {
        const std::size_t to = text.find(" to ");
        if (!text.starts_with("from ") || to == std::string_view::npos)
            return wrong("has a range that cannot be read", "Write from 0 m to 5 m.", text);
        made.least = trimmed(text.substr(5, to - 5));
        made.most = trimmed(text.substr(to + 4));
        return Done{};
    }

    Result<ScriptHead> finished() {
        if (head_.title.empty())
            return wrong("has no head",
                         "Begin it with a comment that says what it does: -- Lift what lies low.",
                         text_.substr(0, 0));
        if (head_.sentence.empty())
            return wrong("has no sentence", "Add one below its title: -- sentence: Lift {ground} by {by}.",
                         title_);
        if (!result_) return wrong("does not say what it gives", "Add a line: -- result: points.", title_);
        for (const ScriptInput& input : head_.inputs)
            if (head_.sentence.find('{' + input.name + '}') == std::string::npos)
                return wrong(ErrorCode::unknown_name,
                             "has an input ‘" + input.name + "’ that its sentence does not name",
                             "Write {" + input.name + "} where it stands in the sentence.", sentence_);
        return check_sentence();
    }

    // Names in brackets are inputs, each once.
    Result<ScriptHead> check_sentence() {
        std::size_t at = 0;
        std::vector<std::string_view> named;
        while ((at = sentence_.find_first_of("{}[]", at)) != std::string_view::npos) {
            const std::size_t end = sentence_.find('}', at);
            if (sentence_[at] != '{' || end == std::string_view::npos)
                return wrong("has a bracket in its sentence that names nothing", "Write {name} for an input.",
                             sentence_.substr(at, 1));
            const std::string_view name = sentence_.substr(at + 1, end - at - 1);
            const bool known =
                std::ranges::find(head_.inputs, name, &ScriptInput::name) != head_.inputs.end();
            const bool twice = std::ranges::find(named, name) != named.end();
            if (!known || twice)
                return wrong(
                    ErrorCode::unknown_name,
                    known ? "names ‘" + std::string(name) + "’ twice in its sentence"
                          : "has no input ‘" + std::string(name) + "’ that its sentence names",
                    known ? "Name it once." : "Add a line: -- " + std::string(name) + ": length = 1 m.",
                    name);
            named.push_back(name);
            at = end + 1;
        }
        return std::move(head_);
    }

    std::string_view text_, title_, sentence_;
    ScriptHead head_;
    bool result_ = false;
};

}  // namespace

std::string_view key_of(ScriptType type) {
    return type_keys[static_cast<std::size_t>(type)];
}

bool is_number(ScriptType type) {
    return type < ScriptType::word;
}

std::string script_kinds_text() {
    std::string text;
    for (std::size_t at = static_cast<std::size_t>(ScriptType::points); at < type_keys.size(); ++at)
        text += (text.empty() ? "" : at + 1 == type_keys.size() ? " or " : ", ") + std::string(type_keys[at]);
    return text;
}

std::size_t script_head_size(std::string_view script) {
    std::size_t size = 0;
    bool begun = false;
    while (size < script.size()) {
        const std::size_t end = std::min(script.find('\n', size), script.size() - 1) + 1;
        const std::string_view line =
            trimmed(script.substr(size, end - size - (script[end - 1] == '\n' ? 1 : 0)));
        const bool comment = line.starts_with("--");
        // Empty lines may stand above its title.
        if (!comment && (begun || !line.empty())) break;
        begun = begun || (comment && !trimmed(line.substr(2)).empty());
        size = end;
    }
    return size;
}

Error script_too_long() {
    return {ErrorCode::too_long, "", "is too long, with more than a million characters",
            "Keep in it what computes, and link data."};
}

Result<ScriptHead> read_script_head(std::string_view script) {
    return HeadReader(script).all();
}

}  // namespace plume
