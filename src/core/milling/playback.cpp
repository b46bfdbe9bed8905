#include "core/milling/playback.hpp"

#include <algorithm>

namespace plume {
namespace {

constexpr std::size_t most_kept = 32;
constexpr double true_to = 0.02;  // of arcs, mm

}  // namespace

Playback::Playback(ToolPath path, const RehearsalJob& job)
    : path_(std::move(path)),
      cutters_(job.cutters),
      ends_(minutes_of(path_, job.speeds)),
      stock_(cells_over(0, 0, job.board.width, job.board.depth, job.about_cells), 0),
      tip_(path_.start) {
    kept_.push_back({0, stock_});
}

const Cutter& Playback::cutter_of(const ToolMove& move) const {
    return cutters_[std::min<std::size_t>(move.tool, cutters_.size() - 1)];
}
const Cutter& Playback::cutter() const {
    return path_.moves.empty() ? cutters_.front()
                               : cutter_of(path_.moves[std::min(done_, path_.moves.size() - 1)]);
}
std::uint32_t Playback::line() const {
    return done_ < path_.moves.size() ? path_.moves[done_].line : 0;
}
bool Playback::between_cuts() const {
    return done_ >= path_.moves.size() || path_.moves[done_].form == ToolMove::Form::rapid;
}

void Playback::cut_whole(std::size_t move) {
    Vec3 at = begin_of(move);
    for (const Vec3 place : places_along(at, path_.moves[move], true_to)) {
        stock_.cut(cutter_of(path_.moves[move]), at, place);
        at = place;
    }
}

void Playback::cut_part(std::size_t move, double share) {
    Vec3 at = begin_of(move);
    for (const Vec3 to : places_until(at, path_.moves[move], share, true_to)) {
        stock_.cut(cutter_of(path_.moves[move]), at, to);
        at = to;
    }
    tip_ = at;
}

void Playback::go_to(double minutes) {
    const double before = now_;
    now_ = std::clamp(minutes, 0.0, this->minutes());
    const auto wanted = static_cast<std::size_t>(std::ranges::upper_bound(ends_, now_) - ends_.begin());
    // Of the move in hand a part may have been cut beyond.
    if (wanted < done_ || now_ < before) {
        const auto after = std::ranges::upper_bound(kept_, std::min(wanted, done_), {}, &Kept::done);
        stock_ = std::prev(after)->stock;
        done_ = std::prev(after)->done;
    }
    const std::size_t apart = std::max<std::size_t>(1, path_.moves.size() / most_kept);
    for (; done_ < wanted; ++done_) {
        if (done_ >= kept_.back().done + apart) kept_.push_back({done_, stock_});
        cut_whole(done_);
    }
    tip_ = begin_of(done_);
    if (done_ == path_.moves.size()) return;
    cut_part(done_, share_done(path_, ends_, done_, now_));
}

}  // namespace plume
