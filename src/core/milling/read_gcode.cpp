#include <algorithm>
#include <array>
#include <charconv>
#include <cmath>
#include <optional>
#include <set>
#include <utility>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/milling/gcode.hpp"

namespace plume {
namespace {

constexpr std::size_t most_moves = 12'000'000;
constexpr std::size_t most_remarks = 12;
constexpr double inch = 25.4, longest_wait_s = 86'400;

struct Words {
    std::optional<double> x, y, z, i, j, k, r, p;
    bool any_place() const { return x || y || z; }
    bool any_centre() const { return i || j || k; }
};

class GcodeReader {
public:
    GcodeReader(std::string_view text, const Run& run) : text_(text), run_(run) {}

    Result<GcodeFile> read() {
        while (at_ < text_.size() && !ended_) {
            ++file_.line_count;
            if (file_.line_count % 65536 == 0) {
                if (run_.cancelled()) return cancelled_error();
                run_.report(static_cast<double>(at_) / static_cast<double>(text_.size()));
            }
            if (Status done = read_line(); !done) return done.error();
            if (file_.path.moves.size() > most_moves)
                return Error{ErrorCode::over_budget, "", "has more than 12 million moves",
                             "Cut it into several files."};
        }
        if (file_.path.moves.empty())
            return Error{ErrorCode::empty_input, "", "moves nothing", "Choose a file for a milling machine."};
        return std::move(file_);
    }

private:
    Error wrong(ErrorCode code, const std::string& what, const std::string& mend) const {
        return Error{code, "", "cannot be rehearsed: line " + std::to_string(file_.line_count) + ' ' + what,
                     mend};
    }
    char peek() const { return at_ < text_.size() ? text_[at_] : '\n'; }
    static bool is_blank(char c) { return c == ' ' || c == '\t' || c == '\r'; }
    void skip_to(char end) {
        while (at_ < text_.size() && text_[at_] != end && text_[at_] != '\n')
            ++at_;
        if (at_ < text_.size() && text_[at_] == end) ++at_;
    }

    Status read_line() {
        words_ = {};
        dwells_ = false;
        bool first = true;
        while (at_ < text_.size()) {
            const char c = text_[at_];
            if (c == '\n') {
                ++at_;
                break;
            }
            ++at_;
            if (is_blank(c) || c == '%') continue;
            if (c == '(') {
                skip_to(')');
            } else if (c == ';' || (c == '/' && first)) {
                skip_to('\n');
                break;
            } else if (Status word = read_word(c); !word) {
                return word;
            }
            first = false;
        }
        return end_line();
    }

    Status read_word(char c) {
        const char letter = static_cast<char>(c >= 'a' && c <= 'z' ? c - 'a' + 'A' : c);
        if (letter < 'A' || letter > 'Z')
            return wrong(ErrorCode::syntax,
                         "has ‘" + printable(std::string(1, c)) + "’, which begins no word",
                         "Write words of a letter and a number.");
        while (is_blank(peek()))
            ++at_;
        if (peek() == '+') ++at_;
        double value = 0;
        const char* const begin = text_.data() + at_;
        const char* const end = text_.data() + text_.size();
        const auto [after, error] = std::from_chars(begin, end, value, std::chars_format::fixed);
        if (error != std::errc() || !std::isfinite(value))
            return wrong(ErrorCode::syntax, "has ‘" + std::string(1, letter) + "’ without a number",
                         "Write words of a letter and a number.");
        at_ += static_cast<std::size_t>(after - begin);
        return take(letter, value);
    }

    Status take(char letter, double value) {
        switch (letter) {
            case 'G':
                return take_g(value);
            case 'M':
                return take_m(value);
            case 'X':
                words_.x = value;
                break;
            case 'Y':
                words_.y = value;
                break;
            case 'Z':
                words_.z = value;
                break;
            case 'I':
                words_.i = value;
                break;
            case 'J':
                words_.j = value;
                break;
            case 'K':
                words_.k = value;
                break;
            case 'R':
                words_.r = value;
                break;
            case 'F':
                feed_ = value * unit_;
                break;
            case 'T':
                next_tool_ = value >= 1 && value < 1e6 ? static_cast<std::uint32_t>(value) : 1;
                break;
            case 'P':
                words_.p = value;
                break;
            case 'S':
                strength_ = value;
                break;
            case 'N':
            case 'O':
            case 'D':
            case 'H':
                break;
            case 'A':
            case 'B':
            case 'C':
            case 'U':
            case 'V':
            case 'W':
                return wrong(ErrorCode::unknown_name, "moves along ‘" + std::string(1, letter) + "’",
                             "Three axes are rehearsed, X, Y and Z.");
            default:
                return wrong(ErrorCode::unknown_name,
                             "has ‘" + std::string(1, letter) + "’, which is not rehearsed",
                             "Write it with straight moves and arcs, G0 to G3.");
        }
        return Done{};
    }

    Status take_g(double value) {
        const int word = static_cast<int>(std::lround(value * 10));
        switch (word) {
            case 0:
            case 10:
            case 20:
            case 30:
                motion_ = word / 10;
                break;
            case 40:
                dwells_ = true;
                break;
            case 170:
            case 180:
            case 190:
                plane_ = word == 170   ? ToolMove::Plane::xy
                         : word == 180 ? ToolMove::Plane::zx
                                       : ToolMove::Plane::yz;
                break;
            case 200:
                unit_ = inch;
                break;
            case 210:
                unit_ = 1;
                break;
            case 900:
                relative_ = false;
                break;
            case 910:
                relative_ = true;
                break;
            case 901:
                centres_absolute_ = true;
                break;
            case 911:
                centres_absolute_ = false;
                break;
            case 400:
            case 490:
            case 540:
            case 610:
            case 640:
            case 800:
            case 940:
            case 980:
            case 990:
                break;  // as it is rehearsed anyway
            default:
                return wrong(ErrorCode::unknown_name,
                             "has G" + short_text(value, 6) + ", which is not rehearsed",
                             "Write it with straight moves and arcs, G0 to G3.");
        }
        return Done{};
    }

    Status take_m(double value) {
        switch (static_cast<int>(std::lround(value))) {
            case 2:
            case 30:
                ended_ = true;
                break;
            case 6:
                tool_ = next_tool_ - 1;
                file_.tool_count = std::max<std::size_t>(file_.tool_count, next_tool_);
                break;
            case 0:
            case 1:
                if (!file_.path.moves.empty() && file_.path.moves.back().sheet == sheet_) ++sheet_;
                break;
            case 3:
            case 4:
                on_ = true;
                break;
            case 5:
                on_ = false;
                break;
            case 7:
            case 8:
            case 9:
                break;
            case 97:
            case 98:
            case 99:
                return wrong(ErrorCode::unknown_name, "calls another program with M" + short_text(value, 6),
                             "Write its moves out.");
            default:
                remark("M" + short_text(value, 6));
        }
        return Done{};
    }

    void remark(const std::string& word) {
        if (file_.remarks.size() >= most_remarks || !remarked_.insert(word).second) return;
        file_.remarks.push_back(word + " in line " + std::to_string(file_.line_count) + " is not understood");
    }

    // Seconds are said with P, or with X, which moves nothing then.
    void wait() {
        const double seconds = words_.p.value_or(words_.x.value_or(0));
        if (seconds > 0) wait_s_ += std::min(seconds, longest_wait_s);
    }
    Status end_line() {
        if (dwells_) {
            wait();
            return Done{};
        }
        const bool moves = words_.any_place() || (motion_ >= 2 && words_.any_centre());
        if (!moves) return Done{};
        if (motion_ < 0)
            return wrong(ErrorCode::syntax, "moves before it is said how", "Begin with G0 or G1.");
        ToolMove move;
        move.to = place(words_.x, words_.y, words_.z);
        move.tool = tool_;
        move.sheet = sheet_;
        move.on = on_;
        move.strength = strength_;
        move.wait_s = std::exchange(wait_s_, 0);
        move.line = static_cast<std::uint32_t>(std::min<std::size_t>(file_.line_count, 0xFFFFFFFF));
        if (motion_ > 0) {
            move.feed = feed_;
            move.form = motion_ == 1 ? ToolMove::Form::line : ToolMove::Form::arc;
            if (feed_ <= 0)
                return wrong(ErrorCode::out_of_range, "cuts without a feed", "Say one with F, above 0.");
        }
        if (motion_ >= 2)
            if (Status arc = complete_arc(move); !arc) return arc;
        at_place_ = move.to;
        file_.path.moves.push_back(move);
        return Done{};
    }
    Vec3 place(std::optional<double> x, std::optional<double> y, std::optional<double> z) const {
        const auto one = [&](std::optional<double> said, double now) {
            if (!said) return now;
            return *said * unit_ + (relative_ ? now : 0);
        };
        return {one(x, at_place_.x), one(y, at_place_.y), one(z, at_place_.z)};
    }

    Status complete_arc(ToolMove& move) {
        move.plane = plane_;
        move.anticlockwise = motion_ == 3;
        if (words_.r && !words_.any_centre()) return centre_by_radius(move);
        if (!words_.any_centre())
            return wrong(ErrorCode::out_of_range, "has an arc without a centre",
                         "Say it with I, J and K, or its radius with R.");
        const auto one = [&](std::optional<double> said, double now) {
            return said.value_or(0) * unit_ + (centres_absolute_ ? 0 : now);
        };
        move.centre = {one(words_.i, at_place_.x), one(words_.j, at_place_.y), one(words_.k, at_place_.z)};
        const auto [first, second] = axes();
        const double from = std::hypot(at_place_.*first - move.centre.*first,
                                       at_place_.*second - move.centre.*second),
                     to = std::hypot(move.to.*first - move.centre.*first,
                                     move.to.*second - move.centre.*second);
        constexpr double off = 0.05, share = 1e-3;
        if (!(from > 0) || std::abs(from - to) > std::max(off, share * from))
            return wrong(ErrorCode::out_of_range,
                         "has an arc that ends " + short_text(std::abs(from - to), 3) + " mm off its circle",
                         "Look at its centre.");
        return Done{};
    }
    std::pair<double Vec3::*, double Vec3::*> axes() const {
        if (plane_ == ToolMove::Plane::zx) return {&Vec3::z, &Vec3::x};
        if (plane_ == ToolMove::Plane::yz) return {&Vec3::y, &Vec3::z};
        return {&Vec3::x, &Vec3::y};
    }
    // By less than half a turn; by more where the radius is below 0.
    Status centre_by_radius(ToolMove& move) {
        const auto [first, second] = axes();
        const double dx = move.to.*first - at_place_.*first, dy = move.to.*second - at_place_.*second,
                     chord = std::hypot(dx, dy), radius = std::abs(*words_.r * unit_);
        constexpr double off = 0.05;
        if (chord <= 0 || radius < chord / 2 - off)
            return wrong(ErrorCode::out_of_range, "has an arc of a radius that does not reach its end",
                         "Look at R, or say the centre with I, J and K.");
        const double up = std::sqrt(std::max(0.0, radius * radius - chord * chord / 4));
        const double side = (move.anticlockwise ? 1 : -1) * (*words_.r < 0 ? -1 : 1);
        move.centre = at_place_;
        move.centre.*first = at_place_.*first + dx / 2 - side * up * dy / chord;
        move.centre.*second = at_place_.*second + dy / 2 + side * up * dx / chord;
        return Done{};
    }

    std::string_view text_;
    const Run& run_;
    std::size_t at_ = 0;
    GcodeFile file_;
    Words words_;
    bool dwells_ = false, ended_ = false, relative_ = false, centres_absolute_ = false;
    int motion_ = -1;
    double unit_ = 1, feed_ = 0, strength_ = 0, wait_s_ = 0;
    bool on_ = false;
    std::uint32_t sheet_ = 0;
    ToolMove::Plane plane_ = ToolMove::Plane::xy;
    std::uint32_t tool_ = 0, next_tool_ = 1;
    Vec3 at_place_;
    std::set<std::string> remarked_;
};

}  // namespace

Result<GcodeFile> gcode_from(std::string_view text, const Run& run) {
    return GcodeReader(text, run).read();
}

}  // namespace plume
