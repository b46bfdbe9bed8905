#include "core/handoff/milled_work.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/geometry/meshes/mesh_volume.hpp"
#include "core/handoff/stock_picture.hpp"
#include "core/milling/playback.hpp"

namespace plume {
namespace {

// As many as a software renderer draws while it is played, and as many as it draws once.
constexpr std::size_t played_cells = 30'000, standing_cells = 250'000;

// The board while it is cut, with the form's heights over its cells.
class PlayedBoard {
public:
    PlayedBoard(std::shared_ptr<const TimedPath> path, const RehearsalJob& job, const FormInBoard* form)
        : playback_(std::move(path), job), board_(job.board) {
        if (form) form_ = form_heights(form->form, playback_.stock().grid());
    }
    const Playback& playback() const { return playback_; }
    void go_to(double minutes, const Run& run) { playback_.go_to(minutes, run); }

    RehearsedDrawing drawn() const {
        // Long enough to be seen over the whole board.
        const double length = std::max(board_.thickness + 4 * playback_.cutter().radius,
                                       0.12 * std::hypot(board_.width, board_.depth));
        return {drawn_stock(playback_.stock(), form_, board_),
                drawn_cutter(playback_.cutter(), playback_.tip(), length)};
    }

private:
    Playback playback_;
    FormHeights form_;
    Board board_;
};

class MilledWork : public RehearsedWork {
public:
    // Of the file but its moves, which are played.
    MilledWork(Rehearsal rehearsal, std::vector<std::string> remarks, std::shared_ptr<const TimedPath> path,
               RehearsalJob job, std::shared_ptr<const FormInBoard> form)
        : rehearsal_(std::move(rehearsal)),
          remarks_(std::move(remarks)),
          path_(std::move(path)),
          job_(std::move(job)),
          form_(std::move(form)),
          played_(board_of(played_cells)) {
        if (form_) lost_ = overhang_text(rehearsal_, is_closed(form_->form));
    }

    std::string summary() const override { return rehearsal_.summary(); }
    std::vector<std::string> details() const override {
        std::vector<std::string> lines = rehearsal_.details();
        if (!lost_.empty()) lines.push_back(lost_);
        return lines;
    }
    std::vector<std::string> places() const override {
        constexpr std::size_t most = 8;
        std::vector<std::string> lines;
        for (std::size_t at = 0; at < std::min(rehearsal_.left.size(), most); ++at) {
            const LeftPlace& place = rehearsal_.left[at];
            lines.push_back(short_text(place.most, 3) + " mm left over " + short_text(place.area, 3) +
                            " mm² about X " + short_text(place.worst.x, 5) + " Y " +
                            short_text(place.worst.y, 5) +
                            (place.too_tight ? ", too tight for the cutter" : ""));
        }
        return lines;
    }
    std::vector<std::string> remarks() const override { return remarks_; }
    std::vector<RehearsedFigure> figures() const override {
        const auto count = [](std::size_t number) { return static_cast<double>(number); };
        std::vector<RehearsedFigure> figures{{"minutes", rehearsal_.path.minutes},
                                             {"moves", count(rehearsal_.move_count)},
                                             {"cutting_mm", rehearsal_.path.cutting},
                                             {"rapid_mm", rehearsal_.path.rapid},
                                             {"deepest_plunge_mm", rehearsal_.path.deepest_plunge},
                                             {"rapid_cuts", count(rehearsal_.rapid_cuts)},
                                             {"below_board_mm", rehearsal_.below_board}};
        if (rehearsal_.form.heights.empty()) return figures;
        for (RehearsedFigure figure : {RehearsedFigure{"most_left_mm", rehearsal_.most_left},
                                       {"mean_left_mm", rehearsal_.mean_left},
                                       {"most_too_deep_mm", rehearsal_.most_too_deep},
                                       {"area_too_deep_mm2", rehearsal_.area_too_deep},
                                       {"places_left", count(rehearsal_.left_count)},
                                       {"places_too_tight", count(rehearsal_.too_tight_count())}})
            figures.push_back(std::move(figure));
        return figures;
    }

    double minutes() const override { return played_.playback().minutes(); }
    double now() const override { return played_.playback().now(); }
    std::uint32_t line() const override { return played_.playback().line(); }
    void go_to(double minutes) override { played_.go_to(minutes, Run()); }
    RehearsedDrawing drawn() const override { return played_.drawn(); }
    Result<RehearsedDrawing> drawn_finely(double minutes, const Run& run) override {
        if (!standing_) standing_ = std::make_unique<PlayedBoard>(board_of(standing_cells));
        standing_->go_to(minutes, run);
        if (run.cancelled()) return cancelled_error();
        return standing_->drawn();
    }
    std::vector<ColourMeaning> colours() const override { return stock_colours(); }
    bool is_flat() const override { return false; }

private:
    PlayedBoard board_of(std::size_t cells) const {
        RehearsalJob job = job_;
        job.about_cells = cells;
        return {path_, job, form_.get()};
    }

    Rehearsal rehearsal_;
    std::vector<std::string> remarks_;
    std::string lost_;  // below overhangs
    std::shared_ptr<const TimedPath> path_;
    RehearsalJob job_;
    std::shared_ptr<const FormInBoard> form_;
    PlayedBoard played_;
    std::unique_ptr<PlayedBoard> standing_;  // of the thread that asks for it
};

}  // namespace

Result<RehearsedWorkPointer> milled_work(GcodeFile file, const RehearsalJob& job,
                                         std::shared_ptr<const FormInBoard> form, const Run& run) {
    auto rehearsal = rehearsed(file.path, job, run);
    if (!rehearsal) return rehearsal.error();
    if (file.tool_count > job.cutters.size())
        file.remarks.push_back("has " + std::to_string(file.tool_count) +
                               " tools; those beyond the cutters that are known are taken to be the last "
                               "of them");
    return RehearsedWorkPointer(std::make_shared<MilledWork>(
        *std::move(rehearsal), std::move(file.remarks),
        std::make_shared<const TimedPath>(std::move(file.path), job.speeds), job, std::move(form)));
}

}  // namespace plume
