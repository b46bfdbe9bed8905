#include "core/forces/line_pushes.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/parallel.hpp"
#include "core/forces/place_grid.hpp"

namespace plume {
namespace {

constexpr std::size_t block = 512;
// Less than the chord of a half circle to its arc, 2 / pi; below so much of the gap bends are left to be.
constexpr double chord_of_way = 0.6, near_on_line = 0.8;
// Of how far two are too near, lest lines that are pushed from both sides swing.
constexpr double push_share = 0.7;

}  // namespace

bool LinePushes::find(const std::vector<SpreadLine>& moving, const std::vector<SpreadLine>& staying,
                      double gap, bool ends_held, const Run& run) {
    gap_ = gap;
    at_.clear();
    of_.clear();
    edges_.clear();
    turns_.clear();
    longest_ = 0;
    for (const SpreadLine& line : moving) {
        const std::size_t first = at_.size();
        add(line);
        if (ends_held && !line.closed) note_ends(first);
    }
    moving_ = at_.size();
    for (const SpreadLine& line : staying)
        add(line);
    pushes_.resize(moving_);
    PlaceGrid grid(gap + longest_);
    grid.sort(at_);
    return parallel_blocks(at_.size(), block, run.part(0, 0), [&](std::size_t begin, std::size_t end) {
        grid.each(at_, begin, end, [&](std::uint32_t at, const std::vector<std::uint32_t>& others) {
            if (at < moving_) pushes_[at] = push_of(at, others);
        });
    });
}

double LinePushes::overlap() const {
    double sum = 0;
    for (const LinePush& push : pushes_)
        sum += 1 - push.nearest / gap_;
    return sum / static_cast<double>(pushes_.size());
}

void LinePushes::add(const SpreadLine& line) {
    const auto first = static_cast<std::uint32_t>(at_.size()),
               number = static_cast<std::uint32_t>(turns_.size());
    double along = 0;
    for (std::size_t point = 0; point < line.at.size(); ++point) {
        const bool last = point + 1 == line.at.size();
        const Vec3 start = line.at[point], edge = line.at[last ? 0 : point + 1] - start;
        const double square = dot(edge, edge), long_by = std::sqrt(square), reach = gap_ + long_by;
        const bool is_edge = !last || line.closed;
        at_.push_back(start);
        of_.push_back({number, last ? first : first + static_cast<std::uint32_t>(point) + 1, none, along, 0});
        edges_.push_back({start, edge, square > 0 ? 1 / square : 0, is_edge ? reach * reach : 0});
        if (!is_edge) break;
        along += long_by;
        longest_ = std::max(longest_, long_by);
    }
    turns_.push_back(line.closed ? along : 0);
}

void LinePushes::note_ends(std::size_t first) {
    const auto last = static_cast<std::uint32_t>(at_.size() - 1);
    for (std::size_t at = first; at <= last; ++at) {
        const double behind = of_[last].along - of_[at].along;
        of_[at].end = of_[at].along < behind ? static_cast<std::uint32_t>(first) : last;
        of_[at].from_end = std::min(of_[at].along, behind);
    }
}

double LinePushes::way_between(std::uint32_t a, std::uint32_t b) const {
    const double way = std::abs(of_[a].along - of_[b].along), turn = turns_[of_[a].line];
    return turn > 0 ? std::min(way, turn - way) : way;
}

LinePush LinePushes::push_of(std::uint32_t at, const std::vector<std::uint32_t>& others) const {
    LinePush push{{}, gap_};
    // Of several that push the nearer count for more, so that none that comes into reach changes it at once.
    double nearness = 0;
    for (const std::uint32_t other : others) {
        const Edge& edge = edges_[other];
        const Vec3 from_start = at_[at] - edge.start;
        if (dot(from_start, from_start) >= edge.reach_square) continue;
        const double wished = wished_gap(at, other);
        const double share = std::clamp(dot(from_start, edge.along) * edge.inverse, 0.0, 1.0);
        const Vec3 apart = from_start - edge.along * share;
        const double square = dot(apart, apart);
        if (square >= wished * wished) continue;
        const double distance = std::sqrt(square), lacking = wished - distance;
        push.nearest = std::min(push.nearest, gap_ - lacking);
        const Vec3 way = distance > 1e-9 * gap_ ? apart * (1 / distance) : way_to_part(at, other);
        push.by = push.by + way * (lacking * lacking * (other < moving_ ? 0.5 : 1));
        nearness += lacking;
    }
    if (nearness > 0) push.by = push.by * (push_share / nearness);
    return push;
}

// Of lines that lie on each other each goes one way as a whole.
Vec3 LinePushes::way_to_part(std::uint32_t at, std::uint32_t other) const {
    const std::uint32_t line = of_[at].line, another = of_[other].line;
    const bool first = line == another ? at < other : line < another;
    return way_by_number(line + another) * (first ? 1 : -1);
}

// Of its own line what is near along it may be nearer, as on a half circle as wide as the gap; and lines part
// as they can from ends that are held.
double LinePushes::wished_gap(std::uint32_t at, std::uint32_t other) const {
    const OfLine &one = of_[at], &two = of_[other];
    if (one.line != two.line) {
        if (one.end == none || two.end == none) return gap_;
        const double room =
            length(at_[one.end] - at_[two.end]) + chord_of_way * (one.from_end + two.from_end);
        return std::min(gap_, room);
    }
    const double way = std::min(way_between(at, other), way_between(at, two.next));
    return way < near_on_line * gap_ ? 0 : std::min(gap_, chord_of_way * way);
}

}  // namespace plume
