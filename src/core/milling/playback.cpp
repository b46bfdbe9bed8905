#include "core/milling/playback.hpp"

#include <algorithm>

namespace plume {
namespace {

constexpr std::size_t most_kept = 32, moves_told_at_once = 1024;
constexpr double true_to = 0.02;  // of arcs, mm

}  // namespace

Playback::Playback(std::shared_ptr<const TimedPath> timed, const RehearsalJob& job)
    : timed_(std::move(timed)),
      cutters_(job.cutters),
      stock_(cells_over(0, 0, job.board.width, job.board.depth, job.about_cells), 0),
      tip_(timed_->path().start) {
    kept_.push_back({0, stock_});
}

const Cutter& Playback::cutter_of(const ToolMove& move) const {
    return cutters_[std::min<std::size_t>(move.tool, cutters_.size() - 1)];
}
const Cutter& Playback::cutter() const {
    return moves().empty() ? cutters_.front() : cutter_of(moves()[std::min(done_, moves().size() - 1)]);
}
bool Playback::between_cuts() const {
    return done_ >= moves().size() || moves()[done_].form == ToolMove::Form::rapid;
}

void Playback::cut_whole(std::size_t move) {
    Vec3 at = timed_->begin_of(move);
    for (const Vec3 place : places_along(at, moves()[move], true_to)) {
        stock_.cut(cutter_of(moves()[move]), at, place);
        at = place;
    }
}

void Playback::cut_part(std::size_t move, double share) {
    Vec3 at = timed_->begin_of(move);
    for (const Vec3 to : places_until(at, moves()[move], share, true_to)) {
        stock_.cut(cutter_of(moves()[move]), at, to);
        at = to;
    }
    tip_ = at;
}

void Playback::go_back_before(std::size_t move) {
    const auto after = std::ranges::upper_bound(kept_, move, {}, &Kept::done);
    stock_ = std::prev(after)->stock;
    done_ = std::prev(after)->done;
}

void Playback::go_to(double minutes, const Run& run) {
    const double before = now_;
    now_ = std::clamp(minutes, 0.0, this->minutes());
    const std::size_t wanted = timed_->move_at(now_);
    // Of the move in hand a part may have been cut beyond.
    if (wanted < done_ || now_ < before) go_back_before(std::min(wanted, done_));
    const std::size_t first = done_;
    const std::size_t apart = std::max<std::size_t>(1, moves().size() / most_kept);
    for (; done_ < wanted && !run.cancelled(); ++done_) {
        if (done_ >= kept_.back().done + apart) kept_.push_back({done_, stock_});
        if (done_ % moves_told_at_once == 0)
            run.report(static_cast<double>(done_ - first) / static_cast<double>(wanted - first));
        cut_whole(done_);
    }
    tip_ = timed_->begin_of(done_);
    if (done_ < wanted)
        now_ = timed_->begin_minute_of(done_);
    else if (done_ < moves().size())
        cut_part(done_, timed_->share_done(done_, now_));
}

}  // namespace plume
