#include <array>
#include <cmath>
#include <cstdio>
#include <optional>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/milling/gcode.hpp"

namespace plume {
namespace {

constexpr double digits = 1e4;

double rounded(double value) {
    return std::round(value * digits) / digits;
}
std::string number(double value) {
    std::array<char, 40> text{};
    const double shown = rounded(value);
    std::snprintf(text.data(), text.size(), "%.4f", shown == 0 ? 0 : shown);
    std::string plain = text.data();
    plain.erase(plain.find_last_not_of('0') + 1);
    if (plain.ends_with('.')) plain.pop_back();
    return plain;
}

// Brackets end a comment.
std::string comment(const std::string& text) {
    std::string plain;
    for (const char c : printable(text))
        plain += c == '(' || c == ')' ? '/' : c;
    return "(" + plain + ")\n";
}

std::string about(const Cutter& cutter) {
    const std::string diameter = number(2 * cutter.radius) + " mm";
    if (cutter.is_flat()) return "flat, " + diameter;
    if (cutter.is_ball()) return "ball, " + diameter;
    return "rounded by " + number(cutter.corner) + " mm, " + diameter;
}

int plane_word(ToolMove::Plane plane) {
    return plane == ToolMove::Plane::xy ? 17 : plane == ToolMove::Plane::zx ? 18 : 19;
}

class GcodeWriter {
public:
    GcodeWriter(const GcodeHead& head, const ByteSink& sink) : head_(head), sink_(sink) {}

    void write(const ToolPath& path) {
        text_ = "%\n";
        for (const std::string& line : head_.comments)
            text_ += comment(line);
        text_ += "G21 G90 G94 G17\n";
        at_ = path.start;
        for (const ToolMove& move : path.moves) {
            if (move.sheet != sheet_) change_sheet(move.sheet);
            if (!head_.beam && (!tool_ || *tool_ != move.tool)) change_tool(move.tool);
            if (head_.beam) set_beam(move);
            if (move.wait_s > 0) text_ += "G4 P" + number(move.wait_s) + "\n";
            add(move);
            if (text_.size() > 1U << 16U) flush();
        }
        text_ += "M5\nM30\n%\n";
        flush();
    }

private:
    void flush() {
        sink_(text_);
        text_.clear();
    }
    void change_tool(std::uint32_t tool) {
        tool_ = tool;
        if (tool < head_.cutters.size()) text_ += comment(about(head_.cutters[tool]));
        text_ += "T" + std::to_string(tool + 1) + " M6\n";
        if (head_.spindle > 0) text_ += "S" + number(head_.spindle) + " M3\n";
        say_all_again();
    }
    // Where it is then is not known.
    void say_all_again() {
        said_ = {};
        motion_ = -1;
        feed_ = -1;
    }
    void change_sheet(std::uint32_t sheet) {
        sheet_ = sheet;
        text_ += "M5\nM0\n" + comment("sheet " + std::to_string(sheet + 1));
        tool_.reset();
        on_ = false;
        say_all_again();
    }
    void set_beam(const ToolMove& move) {
        if (move.on && (!on_ || move.strength != strength_))
            text_ += (move.strength > 0 ? "S" + number(move.strength) + " " : "") + "M3\n";
        if (on_ && !move.on) text_ += "M5\n";
        on_ = move.on;
        strength_ = move.strength;
    }
    bool is_said(Vec3 place) const {
        return said_[0] == rounded(place.x) && said_[1] == rounded(place.y) &&
               (head_.beam || said_[2] == rounded(place.z));
    }
    void add(const ToolMove& move) {
        // Shorter than a digit.
        if (move.form != ToolMove::Form::arc && is_said(move.to)) return;
        std::string line;
        if (move.form == ToolMove::Form::arc && plane_word(move.plane) != plane_) {
            plane_ = plane_word(move.plane);
            line += "G" + std::to_string(plane_) + ' ';
            // Some readers forget how it moves.
            motion_ = -1;
        }
        const int motion = move.form == ToolMove::Form::rapid  ? 0
                           : move.form == ToolMove::Form::line ? 1
                           : move.anticlockwise                ? 3
                                                               : 2;
        if (motion != motion_) line += "G" + std::to_string(motion) + ' ';
        motion_ = motion;
        add_place(line, 'X', move.to.x, said_[0]);
        add_place(line, 'Y', move.to.y, said_[1]);
        if (!head_.beam) add_place(line, 'Z', move.to.z, said_[2]);
        if (move.form == ToolMove::Form::arc) add_centre(line, move);
        if (move.form != ToolMove::Form::rapid && move.feed != feed_) {
            feed_ = move.feed;
            line += "F" + number(feed_) + ' ';
        }
        at_ = move.to;
        line.back() = '\n';
        text_ += line;
    }
    static void add_place(std::string& line, char letter, double value, std::optional<double>& said) {
        if (said == rounded(value)) return;
        said = rounded(value);
        line += letter + number(value) + ' ';
    }
    void add_centre(std::string& line, const ToolMove& move) const {
        const auto add_one = [&](char letter, double centre, double from) {
            line += letter + number(rounded(centre) - rounded(from)) + ' ';
        };
        if (move.plane != ToolMove::Plane::yz) add_one('I', move.centre.x, at_.x);
        if (move.plane != ToolMove::Plane::zx) add_one('J', move.centre.y, at_.y);
        if (move.plane != ToolMove::Plane::xy) add_one('K', move.centre.z, at_.z);
    }

    const GcodeHead& head_;
    const ByteSink& sink_;
    std::string text_;
    Vec3 at_;
    std::optional<std::uint32_t> tool_;
    std::array<std::optional<double>, 3> said_;
    int motion_ = -1, plane_ = 17;
    double feed_ = -1, strength_ = 0;
    std::uint32_t sheet_ = 0;
    bool on_ = false;
};

}  // namespace

void write_gcode(const ToolPath& path, const GcodeHead& head, const ByteSink& sink) {
    GcodeWriter(head, sink).write(path);
}

}  // namespace plume
