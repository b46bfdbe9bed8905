#pragma once
// A milling file as it runs: the board and the tip at any minute, forwards and backwards.

#include "core/milling/rehearsal.hpp"

namespace plume {

class Playback {
public:
    // The form is not looked at. Finding out when each move ends: O(moves).
    Playback(ToolPath path, const RehearsalJob& job);

    double minutes() const { return ends_.empty() ? 0 : ends_.back(); }
    // Forwards what is passed is cut; backwards it goes on from what was kept before. O(moves passed x cells
    // beside them), of at most one in 32 of all when it goes back.
    void go_to(double minutes);

    double now() const { return now_; }
    const Stock& stock() const { return stock_; }
    Vec3 tip() const { return tip_; }
    const Cutter& cutter() const;
    std::size_t move() const { return done_; }  // the one that is made, or their count
    std::size_t move_count() const { return path_.moves.size(); }
    std::uint32_t line() const;  // of the file
    bool between_cuts() const;

private:
    struct Kept {
        std::size_t done = 0;
        Stock stock;
    };
    Vec3 begin_of(std::size_t move) const { return move == 0 ? path_.start : path_.moves[move - 1].to; }
    const Cutter& cutter_of(const ToolMove& move) const;
    void cut_whole(std::size_t move);
    void cut_part(std::size_t move, double share);

    ToolPath path_;
    std::vector<Cutter> cutters_;
    std::vector<double> ends_;
    Stock stock_;
    std::vector<Kept> kept_;
    std::size_t done_ = 0;
    double now_ = 0;
    Vec3 tip_;
};

}  // namespace plume
