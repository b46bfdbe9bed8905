#pragma once
// A milling file as it runs: the board and the tip at any minute, forwards and backwards.

#include <memory>

#include "core/milling/rehearsal.hpp"
#include "core/milling/timed_path.hpp"

namespace plume {

class Playback {
public:
    // The job's form and speeds are not looked at.
    Playback(std::shared_ptr<const TimedPath> timed, const RehearsalJob& job);

    double minutes() const { return timed_->minutes(); }
    // Forwards what is passed is cut; backwards it goes on from what was kept before. Cancelled it stands
    // where it came to. O(moves passed x cells beside them), of at most one in 32 of all when it goes back.
    void go_to(double minutes, const Run& run = Run());

    double now() const { return now_; }
    const Stock& stock() const { return stock_; }
    Vec3 tip() const { return tip_; }
    const Cutter& cutter() const;
    std::size_t move() const { return done_; }  // the one that is made, or their count
    std::size_t move_count() const { return moves().size(); }
    std::uint32_t line() const { return timed_->line_of(done_); }  // of the file
    bool between_cuts() const;

private:
    struct Kept {
        std::size_t done = 0;
        Stock stock;
    };
    const std::vector<ToolMove>& moves() const { return timed_->moves(); }
    const Cutter& cutter_of(const ToolMove& move) const;
    void cut_whole(std::size_t move);
    void cut_part(std::size_t move, double share);
    void go_back_before(std::size_t move);

    std::shared_ptr<const TimedPath> timed_;
    std::vector<Cutter> cutters_;
    Stock stock_;
    std::vector<Kept> kept_;
    std::size_t done_ = 0;
    double now_ = 0;
    Vec3 tip_;
};

}  // namespace plume
