#include "core/handoff/milled_work.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/geometry/meshes/mesh_volume.hpp"
#include "core/handoff/stock_picture.hpp"
#include "core/milling/playback.hpp"

namespace plume {
namespace {

// As many as a software renderer draws while it is played.
constexpr std::size_t played_cells = 30'000;

class MilledWork : public RehearsedWork {
public:
    // Of the file but its moves, which are played.
    MilledWork(Rehearsal rehearsal, std::vector<std::string> remarks, Playback playback, Board board,
               std::shared_ptr<const FormInBoard> form)
        : rehearsal_(std::move(rehearsal)),
          remarks_(std::move(remarks)),
          playback_(std::move(playback)),
          board_(board),
          form_(std::move(form)) {
        if (!form_) return;
        played_form_ = form_heights(form_->form, playback_.stock().grid());
        lost_ = overhang_text(rehearsal_, is_closed(form_->form));
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

    double minutes() const override { return playback_.minutes(); }
    double now() const override { return playback_.now(); }
    std::uint32_t line() const override { return playback_.line(); }
    void go_to(double minutes) override { playback_.go_to(minutes); }
    std::vector<std::shared_ptr<const Drawable>> drawn() const override {
        // Long enough to be seen over the whole board.
        const double length = std::max(board_.thickness + 4 * playback_.cutter().radius,
                                       0.12 * std::hypot(board_.width, board_.depth));
        return {drawn_stock(playback_.stock(), played_form_, board_),
                drawn_cutter(playback_.cutter(), playback_.tip(), length)};
    }
    std::vector<ColourMeaning> colours() const override { return stock_colours(); }
    bool is_flat() const override { return false; }

private:
    Rehearsal rehearsal_;
    std::vector<std::string> remarks_;
    std::string lost_;  // below overhangs
    // Fewer cells, with the form's heights over them.
    Playback playback_;
    FormHeights played_form_;
    Board board_;
    std::shared_ptr<const FormInBoard> form_;
};

}  // namespace

Result<RehearsedWorkPointer> milled_work(GcodeFile file, RehearsalJob job,
                                         std::shared_ptr<const FormInBoard> form, const Run& run) {
    auto rehearsal = rehearsed(file.path, job, run);
    if (!rehearsal) return rehearsal.error();
    if (file.tool_count > job.cutters.size())
        file.remarks.push_back("has " + std::to_string(file.tool_count) +
                               " tools; those beyond the cutters that are known are taken to be the last "
                               "of them");
    job.about_cells = played_cells;
    Playback playback(std::move(file.path), job);
    return RehearsedWorkPointer(std::make_shared<MilledWork>(
        *std::move(rehearsal), std::move(file.remarks), std::move(playback), job.board, std::move(form)));
}

}  // namespace plume
