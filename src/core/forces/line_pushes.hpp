#pragma once
// How far points of lines are from other lines, and where these push them.

#include <cstdint>
#include <limits>
#include <vector>

#include "core/base/run.hpp"
#include "core/forces/spread_line.hpp"

namespace plume {

struct LinePush {
    Vec3 by;
    double nearest = 0;  // line; the gap where none is nearer
};

class LinePushes {
public:
    // Of the points of the lines that move, one line after the other. Points within the gap of the edges of
    // another line go half as far from there as would be needed, all of it from those that stay; of its own
    // line what is near along it may be nearer, and so may what is near ends that are held near each other.
    // False where cancelled.
    bool find(const std::vector<SpreadLine>& moving, const std::vector<SpreadLine>& staying, double gap,
              bool ends_held, const Run& run);

    const LinePush& operator[](std::size_t point) const { return pushes_[point]; }
    // By how much points lack the gap on the mean, as a share of it.
    double overlap() const;

private:
    static constexpr std::uint32_t none = std::numeric_limits<std::uint32_t>::max();
    // The line of a point, the next on it, and how far along it is; and from its nearer end, if that is held.
    struct OfLine {
        std::uint32_t line = 0, next = 0, end = none;
        double along = 0, from_end = 0;
    };
    // That begins at a point; out of everyone's reach where none does.
    struct Edge {
        Vec3 start, along;
        double inverse = 0;  // of the square of its length
        double reach_square = 0;
    };

    void add(const SpreadLine& line);
    void note_ends(std::size_t first);
    double way_between(std::uint32_t a, std::uint32_t b) const;
    LinePush push_of(std::uint32_t at, const std::vector<std::uint32_t>& others) const;
    Vec3 way_to_part(std::uint32_t at, std::uint32_t other) const;
    double wished_gap(std::uint32_t at, std::uint32_t other) const;

    double gap_ = 0;
    std::vector<Vec3> at_;
    std::vector<OfLine> of_;
    std::vector<Edge> edges_;
    std::vector<double> turns_;  // of each line: its length where it is closed, 0 otherwise
    double longest_ = 0;         // edge
    std::size_t moving_ = 0;     // points; those after them stay
    std::vector<LinePush> pushes_;
};

}  // namespace plume
