#pragma once
// Moves as they follow each other in time: what playbacks of one file share.

#include "core/milling/tool_path.hpp"

namespace plume {

class TimedPath {
public:
    // O(moves).
    TimedPath(ToolPath path, const MachineSpeeds& speeds);

    const ToolPath& path() const { return path_; }
    const std::vector<ToolMove>& moves() const { return path_.moves; }
    Vec3 begin_of(std::size_t move) const { return move == 0 ? path_.start : path_.moves[move - 1].to; }

    // Minutes that have passed when all are made, and before one is begun.
    double minutes() const { return begin_minute_of(ends_.size()); }
    double begin_minute_of(std::size_t move) const { return move == 0 ? 0 : ends_[move - 1]; }
    // The move that is made at a minute, their count at the end. O(log moves).
    std::size_t move_at(double minute) const;
    // How much of it is made then, 0 to 1: nothing while it waits before.
    double share_done(std::size_t move, double minute) const;
    std::uint32_t line_of(std::size_t move) const;  // of the file; 0 at the end

private:
    ToolPath path_;
    std::vector<double> ends_;
};

}  // namespace plume
