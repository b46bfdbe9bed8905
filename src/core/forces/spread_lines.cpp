#include "core/forces/spread_lines.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/parallel.hpp"
#include "core/forces/line_pushes.hpp"
#include "core/forces/place_grid.hpp"
#include "core/geometry/curves/banded_solver.hpp"
#include "core/geometry/moves/no_farther.hpp"

namespace plume {
namespace {

constexpr double points_a_gap = 5;
constexpr double farthest_of_gap = 0.2, farthest_of_free = 0.4, least_of_gap = 0.02;  // moves at once
constexpr double first_tension = 200, last_tension = 0.25, tension_left = 0.97;
constexpr double drawn_back = 0.998;  // in a round, of lines that are longer than they need be
constexpr int sweeps = 4, straightenings = 3;
// What points may lack of the gap, on the mean, where it or lengths grow; at one point where edges do there.
constexpr double room_overlap = 0.004, growing_overlap = 0.05, last_overlap = 0.002, overlap_left = 0.99;
constexpr double edge_growth = 0.02, growth_now = 0.02, stalled = 1e-4, last_quarter = 0.75;
constexpr double fastest_rate = 0.01, slowest_rate = 1e-5, slower = 0.5, faster = 1.03;  // in a round
constexpr double still = 3e-4, still_rate = 2e-5;  // of the gap, in a round
constexpr double close_share = 0.98;
constexpr double stirred = 0.05;     // of the gap, so that what grows knows where to bend
constexpr double stirred_every = 3;  // gaps

// How fast something grows: slower after each time that it turned round, faster as long as it does not.
class Pace {
public:
    double step(double wished) {
        rate_ = wished * last_ < 0 ? std::max(slowest_rate, rate_ * slower)
                                   : std::min(fastest_rate, rate_ * faster);
        last_ = wished;
        return rate_ * wished;
    }

private:
    double rate_ = fastest_rate, last_ = 0;
};

class Spreading {
public:
    Spreading(std::vector<SpreadLine> lines, const SpreadingRule& rule)
        : rule_(rule),
          lines_(std::move(lines)),
          around_(rule.around),
          gap_(rule.gap),
          grows_(rule.lengths == LineLengths::growing) {
        for (SpreadLine& line : lines_) {
            given_.push_back(length_of(line));
            line = evenly(line, spacing());
        }
        wished_ = given_;
        for (SpreadLine& line : around_)
            line = evenly(line, spacing());
        if (grows_) stir();
    }

    Result<LinesSpread> all(const Run& run) {
        LinesSpread made;
        if (!find_pushes(run)) return cancelled_error();
        while (!made.at_rest && made.rounds < rule_.most_rounds) {
            const double rate = change_wishes(made.rounds);
            const double farthest = move();
            ++made.rounds;
            run.report(static_cast<double>(made.rounds) / static_cast<double>(rule_.most_rounds));
            made.at_rest =
                !grows_ && farthest < still * gap_ && rate < still_rate && tension_ == last_tension;
            if (!made.at_rest) mend_spacings();
            if (!find_pushes(run)) return cancelled_error();
        }
        tell(made);
        return made;
    }

private:
    double spacing() const { return gap_ / points_a_gap; }
    void mend_spacings() {
        for (SpreadLine& line : lines_)
            mend_spacing(line, spacing());
        if (rule_.as_far_as_room)
            for (SpreadLine& line : around_)
                mend_spacing(line, spacing());
    }
    bool find_pushes(const Run& run) {
        return pushes_.find(lines_, around_, gap_, rule_.ends == LineEnds::held, run);
    }
    void stir() {
        std::uint32_t number = 0;
        for (SpreadLine& line : lines_)
            for (std::size_t at = 0; at < line.at.size(); ++at) {
                const double knots = static_cast<double>(at) / (points_a_gap * stirred_every);
                const double share = knots - std::floor(knots);
                if (share * points_a_gap * stirred_every < 1) ++number;
                const Vec3 by = way_by_number(number) * (1 - share) + way_by_number(number + 1) * share;
                if (may_move(line, at)) line.at[at] = line.at[at] + by * (stirred * gap_);
            }
    }
    bool is_end(const SpreadLine& line, std::size_t at) const {
        return !line.closed && (at == 0 || at + 1 == line.at.size());
    }
    bool may_move(const SpreadLine& line, std::size_t at) const {
        return rule_.ends != LineEnds::held || !is_end(line, at);
    }

    // By what share gap or lengths changed.
    double change_wishes(std::size_t rounds) {
        if (rule_.as_far_as_room) {
            const double step = pace_.step(std::clamp(1 - pushes_.overlap() / room_overlap, -1.0, 1.0));
            gap_ *= 1 + step;
            return std::abs(step);
        }
        if (grows_) watch_growth(rounds);
        return cut_short_ ? shrink() : 0;
    }
    // Until all are as long as was wished, or there is hardly room for more.
    void watch_growth(std::size_t rounds) {
        double now = 0;
        bool all_grown = true;
        for (std::size_t line = 0; line < lines_.size(); ++line) {
            const double length = length_of(lines_[line]);
            now += length;
            all_grown = all_grown && length >= rule_.times * given_[line];
        }
        growth_ += ((length_ > 0 ? now / length_ - 1 : growth_) - growth_) * growth_now;
        length_ = now;
        const bool late = static_cast<double>(rounds) > last_quarter * static_cast<double>(rule_.most_rounds);
        if (!all_grown && growth_ > stalled && !late) return;
        grows_ = false;
        cut_short_ = !all_grown;
        no_room_ = !all_grown && growth_ <= stalled;
        for (std::size_t line = 0; line < lines_.size(); ++line)
            wished_[line] = length_of(lines_[line]);
    }
    // What is too near goes back to where it is not.
    double shrink() {
        overlap_ = std::max(last_overlap, overlap_ * overlap_left);
        const double step =
            std::min(0.0, pace_.step(std::clamp(1 - pushes_.overlap() / overlap_, -1.0, 1.0)));
        for (double& wished : wished_)
            wished *= 1 + step;
        return -step;
    }

    // The farthest that a point went.
    double move() {
        tension_ = std::max(last_tension, tension_ * tension_left);
        std::vector<double> farthest(lines_.size(), 0);
        std::vector<std::size_t> firsts{0};
        for (const SpreadLine& line : lines_)
            firsts.push_back(firsts.back() + line.at.size());
        parallel_blocks(lines_.size(), 1, Run(), [&](std::size_t begin, std::size_t end) {
            for (std::size_t line = begin; line < end; ++line)
                farthest[line] = move_line(line, firsts[line]);
        });
        return std::ranges::max(farthest);
    }
    double move_line(std::size_t number, std::size_t first) {
        SpreadLine& line = lines_[number];
        std::vector<Vec3> to = line.at;
        if (rule_.lengths == LineLengths::shortest) draw_short(to, line);
        for (int time = 0; time < straightenings; ++time)
            to = straightened(to, line.closed);
        // What pulls is stopped by what pushes, however hard it pulls.
        for (std::size_t at = 0; at < to.size(); ++at)
            if (may_move(line, at))
                to[at] = no_farther(line.at[at], to[at], farthest_of_gap * gap_) +
                         across(line, at, pushes_[first + at].by);
        if (rule_.lengths != LineLengths::shortest) draw_to_lengths(to, line, edge_lengths(number, first));
        double farthest = 0;
        for (std::size_t at = 0; at < to.size(); ++at) {
            if (!may_move(line, at)) continue;
            const Vec3 place = allowed(line, at, to[at], first);
            farthest = std::max(farthest, length(place - line.at[at]));
            to[at] = place;
        }
        line.at = std::move(to);
        return farthest;
    }
    // What pushes along a line would only crowd its points.
    Vec3 across(const SpreadLine& line, std::size_t at, Vec3 push) const {
        if (is_end(line, at)) return push;
        const std::size_t count = line.at.size();
        const Vec3 along = unit_or_zero(line.at[(at + 1) % count] - line.at[(at + count - 1) % count]);
        return push - along * dot(push, along);
    }
    // Against the fourth differences.
    std::vector<Vec3> straightened(const std::vector<Vec3>& bent, bool closed) const {
        std::vector<Vec3> made = bent;
        const std::size_t count = bent.size(), margin = closed ? 0 : 2;
        for (std::size_t at = margin; at + margin < count; ++at) {
            const auto place = [&](std::size_t ahead) { return bent[(at + count + ahead - 2) % count]; };
            const Vec3 bend = place(0) + place(4) + place(2) * 6 - (place(1) + place(3)) * 4;
            made[at] = made[at] - bend * (rule_.stiffness / 32);
        }
        return made;
    }
    // As by tension, at once over the whole line; ends that are held count by what they pull.
    void draw_short(std::vector<Vec3>& to, const SpreadLine& line) const {
        const std::size_t count = to.size();
        BandedSolver system(count, 1, line.closed);
        std::vector<double> sides;
        for (std::size_t at = 0; at < count; ++at) {
            const double pull = may_move(line, at) ? tension_ : 0;
            system.add(at, at, 1 + pull * (is_end(line, at) ? 1 : 2));
            if (line.closed || at > 0) system.add(at, (at + count - 1) % count, -pull);
            if (line.closed || at + 1 < count) system.add(at, (at + 1) % count, -pull);
            sides.insert(sides.end(), {to[at].x, to[at].y, to[at].z});
        }
        if (!system.factor()) return;
        system.solve(sides.data(), 3);
        for (std::size_t at = 0; at < count; ++at)
            to[at] = {sides[3 * at], sides[3 * at + 1], sides[3 * at + 2]};
    }
    // Alike; but of what grows or may get longer by a share of what each is.
    std::vector<double> edge_lengths(std::size_t number, std::size_t first) const {
        const SpreadLine& line = lines_[number];
        const double now = length_of(line), wished = wished_[number];
        std::vector<double> lengths(edges_of(line), wished / static_cast<double>(edges_of(line)));
        if (!grows_ && rule_.lengths != LineLengths::at_least) return lengths;
        const bool grown = now >= rule_.times * given_[number];
        for (std::size_t edge = 0; edge < lengths.size(); ++edge) {
            const std::size_t next = (edge + 1) % line.at.size();
            const double share = grows_ ? 1 + edge_growth * room_at(first + edge, first + next, grown)
                                        : std::max(drawn_back, wished / now);
            lengths[edge] = length(line.at[next] - line.at[edge]) * share;
        }
        return lengths;
    }
    // To grow into, of an edge: 1 where none is near, below 0 where it is pushed a lot.
    double room_at(std::size_t one, std::size_t other, bool grown) const {
        const double nearest = std::min(pushes_[one].nearest, pushes_[other].nearest);
        return std::clamp(1 - (1 - nearest / gap_) / growing_overlap, -1.0, grown ? 0.0 : 1.0);
    }
    // Edge after edge, to and fro.
    void draw_to_lengths(std::vector<Vec3>& to, const SpreadLine& line,
                         const std::vector<double>& rest) const {
        const std::size_t edges = rest.size();
        for (int sweep = 0; sweep < sweeps; ++sweep)
            for (std::size_t step = 0; step < edges; ++step) {
                const std::size_t a = sweep % 2 == 0 ? step : edges - 1 - step, b = (a + 1) % to.size();
                const double free_a = may_move(line, a) ? 1 : 0, free_b = may_move(line, b) ? 1 : 0;
                const Vec3 way = to[b] - to[a];
                const double now = length(way);
                if (free_a + free_b == 0 || !(now > 0)) continue;
                const Vec3 by = way * ((now - rest[a]) / now / (free_a + free_b));
                to[a] = to[a] + by * free_a;
                to[b] = to[b] - by * free_b;
            }
    }
    Vec3 allowed(const SpreadLine& line, std::size_t at, Vec3 to, std::size_t first) const {
        const std::size_t count = line.at.size();
        double nearest = pushes_[first + at].nearest;
        if (line.closed || at > 0)
            nearest = std::min(nearest, pushes_[first + (at + count - 1) % count].nearest);
        if (line.closed || at + 1 < count)
            nearest = std::min(nearest, pushes_[first + (at + 1) % count].nearest);
        const double most =
            std::max(least_of_gap * gap_, std::min(farthest_of_gap * gap_, farthest_of_free * nearest));
        const Vec3 from = line.at[at];
        to = no_farther(from, to, most);
        if (is_end(line, at) && rule_.ends == LineEnds::sliding && rule_.on_edge) return rule_.on_edge(to);
        return rule_.kept ? rule_.kept(from, to, from_edge(line, at)) : to;
    }
    // Half a gap, so that what lies beyond could be as even; less towards ends that stand on the edge.
    double from_edge(const SpreadLine& line, std::size_t at) const {
        const double half = gap_ / 2;
        if (line.closed || rule_.ends == LineEnds::loose) return half;
        const double from_end =
            static_cast<double>(std::min(at, line.at.size() - 1 - at)) * gap_ / points_a_gap;
        return std::min(half, 0.7 * from_end);
    }

    void tell(LinesSpread& made) {
        double before = 0, now = 0, sum = 0;
        std::size_t point = 0;
        made.gap = made.least = gap_;
        for (std::size_t line = 0; line < lines_.size(); ++line) {
            before += given_[line];
            now += length_of(lines_[line]);
            std::vector<double>& apart = made.apart.emplace_back();
            for (std::size_t at = 0; at < lines_[line].at.size(); ++at, ++point) {
                const double nearest = pushes_[point].nearest;
                apart.push_back(nearest);
                made.least = std::min(made.least, nearest);
                if (nearest < close_share * gap_) ++made.close;
                sum += nearest;
            }
        }
        made.mean = sum / static_cast<double>(point);
        made.times = now / before;
        made.no_room = no_room_;
        made.lines = std::move(lines_);
    }

    const SpreadingRule& rule_;
    std::vector<SpreadLine> lines_, around_;
    std::vector<double> given_, wished_;  // lengths
    double gap_;
    bool grows_;                   // still
    bool cut_short_ = false;       // before they were as long as was wished
    bool no_room_ = false;         // to grow on
    double length_ = 0;            // of all, in the round before
    double growth_ = edge_growth;  // of late, in a round
    double overlap_ = growing_overlap;
    Pace pace_;
    double tension_ = first_tension;
    LinePushes pushes_;
};

Status check(const std::vector<SpreadLine>& lines) {
    for (const SpreadLine& line : lines) {
        if (!std::ranges::all_of(line.at, [](Vec3 at) { return is_finite(at); }))
            return Error{ErrorCode::not_finite, "", "has a place that is not finite",
                         "Mend the step that makes it."};
        if (line.at.size() < (line.closed ? 3 : 2) || !(length_of(line) > 0))
            return Error{ErrorCode::too_few_points, "", "has a line without length", "Leave it out."};
    }
    return Done{};
}

Status check(const SpreadingRule& rule) {
    if (!(rule.gap > 0) || !std::isfinite(rule.gap) || !(rule.times >= 1) || !std::isfinite(rule.times) ||
        !(rule.stiffness >= 0) || rule.stiffness > 1)
        return Error{ErrorCode::out_of_range, "", "is beyond what lines are spread by", "Set it anew."};
    if (rule.lengths == LineLengths::shortest && rule.ends == LineEnds::loose)
        return Error{ErrorCode::unlike_arrangement, "", "would be drawn together to nothing",
                     "Hold the ends, let them slide, or keep the lengths."};
    if (rule.lengths == LineLengths::growing && rule.as_far_as_room)
        return Error{ErrorCode::wrong_kind, "", "is as far as there is room, and so is how long they grow",
                     "Give the gap that they keep."};
    return check(rule.around);
}

}  // namespace

double spread_points(double length, double gap) {
    return length * points_a_gap / gap;
}

Result<LinesSpread> spread_lines(std::vector<SpreadLine> lines, const SpreadingRule& rule, const Run& run) {
    if (lines.empty()) return LinesSpread{};
    if (Status good = check(lines); !good) return good.error();
    if (Status good = check(rule); !good) return good.error();
    return Spreading(std::move(lines), rule).all(run);
}

}  // namespace plume
