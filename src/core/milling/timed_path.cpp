#include "core/milling/timed_path.hpp"

#include <algorithm>

namespace plume {

TimedPath::TimedPath(ToolPath path, const MachineSpeeds& speeds)
    : path_(std::move(path)), ends_(minutes_of(path_, speeds)) {}

std::size_t TimedPath::move_at(double minute) const {
    return static_cast<std::size_t>(std::ranges::upper_bound(ends_, minute) - ends_.begin());
}

double TimedPath::share_done(std::size_t move, double minute) const {
    if (move >= moves().size()) return 0;
    const double begin = begin_minute_of(move) + moves()[move].wait_s / 60, taken = ends_[move] - begin;
    return taken > 0 ? std::clamp((minute - begin) / taken, 0.0, 1.0) : 0;
}

std::uint32_t TimedPath::line_of(std::size_t move) const {
    return move < moves().size() ? moves()[move].line : 0;
}

}  // namespace plume
