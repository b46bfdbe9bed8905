#include "core/readers/svg_path.hpp"

#include <array>
#include <cmath>
#include <numbers>

#include "core/base/text.hpp"
#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/curves/curve_interpolation.hpp"
#include "core/geometry/curves/exact_curves.hpp"
#include "core/readers/text_scan.hpp"

namespace plume {
namespace {

class Numbers {
public:
    explicit Numbers(std::string_view text) : rest_(text) {}

    void skip() {
        const std::size_t begin = rest_.find_first_not_of(" \t\r\n,");
        rest_.remove_prefix(begin == std::string_view::npos ? rest_.size() : begin);
    }
    std::string_view rest() const { return rest_; }
    char take() {
        const char c = rest_.front();
        rest_.remove_prefix(1);
        return c;
    }
    std::optional<double> next() {
        skip();
        std::string_view digits = rest_;
        if (digits.starts_with('+')) digits.remove_prefix(1);
        double value = 0;
        const auto [end, problem] = std::from_chars(digits.data(), digits.data() + digits.size(), value);
        if (problem != std::errc() || !std::isfinite(value)) return {};
        rest_.remove_prefix(static_cast<std::size_t>(end - rest_.data()));
        return value;
    }
    // 0 or 1, which may stand right before the next number.
    std::optional<bool> flag() {
        skip();
        if (rest_.empty() || (rest_.front() != '0' && rest_.front() != '1')) return {};
        return take() == '1';
    }

private:
    std::string_view rest_;
};

SplineCurve bezier(const std::vector<Vec3>& poles) {
    SplineCurve::Parts parts;
    parts.basis.degree = static_cast<int>(poles.size()) - 1;
    parts.basis.knots.assign(poles.size(), 0);
    parts.basis.knots.insert(parts.basis.knots.end(), poles.size(), 1);
    Doubles x, y;
    for (const Vec3 pole : poles) {
        x.push_back(pole.x);
        y.push_back(pole.y);
    }
    parts.z = Doubles(poles.size(), 0.0);
    parts.x = std::move(x);
    parts.y = std::move(y);
    return *SplineCurve::make(std::move(parts));
}

// From its ends to its centre (SVG 1.1, F.6): radii too small are made large enough.
SplineCurve elliptic_arc(Vec3 from, Vec3 to, double half_x, double half_y, double turn_rad, bool large,
                         bool sweeps) {
    const Vec3 along{std::cos(turn_rad), std::sin(turn_rad), 0}, across{-along.y, along.x, 0},
        half = (from - to) * 0.5;
    const double x = dot(half, along), y = dot(half, across);
    const double excess = x * x / (half_x * half_x) + y * y / (half_y * half_y);
    if (excess > 1) {
        half_x *= std::sqrt(excess);
        half_y *= std::sqrt(excess);
    }
    const double a = half_x * half_x * half_y * half_y, b = half_x * half_x * y * y + half_y * half_y * x * x;
    const double reach = (large == sweeps ? -1 : 1) * std::sqrt(std::max(0.0, a / b - 1));
    const double centre_x = reach * half_x * y / half_y, centre_y = -reach * half_y * x / half_x;
    const Vec3 centre = (from + to) * 0.5 + along * centre_x + across * centre_y;
    const double begin = std::atan2((y - centre_y) / half_y, (x - centre_x) / half_x);
    const double end = std::atan2((-y - centre_y) / half_y, (-x - centre_x) / half_x);
    double sweep = end - begin;
    if (sweeps && sweep < 0) sweep += 2 * std::numbers::pi;
    if (!sweeps && sweep > 0) sweep -= 2 * std::numbers::pi;
    return ellipse_arc({{centre, along, across, {0, 0, 1}}, half_x, half_y, begin, sweep});
}

class PathReader {
public:
    explicit PathReader(std::string_view data) : data_(data), numbers_(data) {}

    SvgPath read() {
        char command = 0;
        for (numbers_.skip(); !numbers_.rest().empty(); numbers_.skip()) {
            const char c = numbers_.rest().front();
            const bool letter = (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z');
            if (letter) command = numbers_.take();
            const std::size_t left = numbers_.rest().size();
            if (command == 0 || (made_.curves.empty() && !moved_ && command != 'M' && command != 'm') ||
                !draw(command)) {
                made_.wrong = "at character " + std::to_string(data_.size() - numbers_.rest().size() + 1);
                break;
            }
            // What takes no numbers is not repeated.
            if (!letter && numbers_.rest().size() == left) {
                made_.wrong = "at character " + std::to_string(data_.size() - left + 1);
                break;
            }
            if (command == 'M') command = 'L';
            if (command == 'm') command = 'l';
        }
        lift(false);
        return std::move(made_);
    }

private:
    std::optional<Vec3> place(bool relative) {
        const auto x = numbers_.next(), y = x ? numbers_.next() : std::nullopt;
        if (!y) return {};
        return (relative ? at_ : Vec3{}) + Vec3{*x, *y, 0};
    }
    // Several places, each counted from where the pen is.
    template <std::size_t count>
    std::optional<std::array<Vec3, count>> places(bool relative) {
        std::array<Vec3, count> all;
        for (Vec3& one : all) {
            const auto read = place(relative);
            if (!read) return {};
            one = *read;
        }
        return all;
    }

    bool draw(char command) {
        const bool relative = command >= 'a';
        const char what = relative ? static_cast<char>(command - 32) : command;
        Vec3 held = at_;
        const char before = std::exchange(last_, what);
        switch (what) {
            case 'M': {
                lift(false);
                const auto to = place(relative);
                if (to) begin_ = at_ = *to;
                moved_ = to.has_value();
                break;
            }
            case 'L': {
                const auto to = place(relative);
                if (!to) return false;
                line(*to);
                break;
            }
            case 'H':
            case 'V': {
                const auto number = numbers_.next();
                if (!number) return false;
                Vec3 to = at_;
                (what == 'H' ? to.x : to.y) = *number + (relative ? (what == 'H' ? at_.x : at_.y) : 0);
                line(to);
                break;
            }
            case 'C': {
                const auto poles = places<3>(relative);
                if (!poles) return false;
                curve({at_, (*poles)[0], (*poles)[1], (*poles)[2]});
                break;
            }
            case 'S': {
                const auto poles = places<2>(relative);
                if (!poles) return false;
                if (before == 'C' || before == 'S') held = at_ * 2 - held_;
                curve({at_, held, (*poles)[0], (*poles)[1]});
                break;
            }
            case 'Q': {
                const auto poles = places<2>(relative);
                if (!poles) return false;
                curve({at_, (*poles)[0], (*poles)[1]});
                break;
            }
            case 'T': {
                const auto to = place(relative);
                if (!to) return false;
                if (before == 'Q' || before == 'T') held = at_ * 2 - held_;
                curve({at_, held, *to});
                break;
            }
            case 'A':
                return arc(relative);
            case 'Z':
                if (!(at_ == begin_)) line(begin_);
                lift(true);
                moved_ = true;
                return true;
            default:
                return false;
        }
        return what != 'M' || moved_;
    }
    bool arc(bool relative) {
        const auto half_x = numbers_.next(), half_y = half_x ? numbers_.next() : std::nullopt,
                   turn = half_y ? numbers_.next() : std::nullopt;
        const auto large = turn ? numbers_.flag() : std::nullopt,
                   sweeps = large ? numbers_.flag() : std::nullopt;
        const auto to = sweeps ? place(relative) : std::nullopt;
        if (!to) return false;
        if (*half_x == 0 || *half_y == 0) {
            line(*to);
        } else if (!(*to == at_)) {
            pieces_.push_back(elliptic_arc(at_, *to, std::abs(*half_x), std::abs(*half_y),
                                           std::fmod(*turn, 360) * std::numbers::pi / 180, *large, *sweeps));
            at_ = *to;
        }
        return true;
    }
    void line(Vec3 to) {
        if (!(to == at_)) pieces_.push_back(*line_between(at_, to));
        at_ = to;
    }
    void curve(const std::vector<Vec3>& poles) {
        bool moves = false;
        for (const Vec3 pole : poles)
            moves = moves || !(pole == at_);
        if (moves) pieces_.push_back(bezier(poles));
        held_ = poles[poles.size() - 2];
        at_ = poles.back();
    }

    // Lines alone are a polyline; what else is put end to end as it is.
    void lift(bool close) {
        at_ = close ? begin_ : at_;
        if (pieces_.empty()) return;
        bool straight = true;
        for (const SplineCurve& piece : pieces_)
            straight = straight && piece.basis().degree == 1;
        const bool closes = close && pieces_.size() > 1;
        if (straight) {
            std::vector<Vec3> corners{pieces_.front().pole(0)};
            for (const SplineCurve& piece : pieces_)
                corners.push_back(piece.pole(1));
            if (closes) corners.pop_back();
            if (auto made =
                    curve_through({corners, {}, {}, closes && corners.size() > 2}, CurveShape::straight))
                made_.curves.push_back(*std::move(made));
        } else {
            const SplineCurve whole = pieces_.size() == 1 ? pieces_.front() : end_to_end(pieces_);
            made_.curves.push_back(close ? closed_up(whole) : whole);
        }
        pieces_.clear();
    }

    std::string_view data_;
    Numbers numbers_;
    SvgPath made_;
    Vec3 at_, begin_, held_;
    char last_ = 0;
    bool moved_ = false;
    std::vector<SplineCurve> pieces_;
};

}  // namespace

std::vector<double> svg_numbers(std::string_view text) {
    Numbers numbers(text);
    std::vector<double> values;
    while (const auto number = numbers.next())
        values.push_back(*number);
    return values;
}

SvgPath svg_path(std::string_view data) {
    return PathReader(data).read();
}

}  // namespace plume
