#include "core/handoff/cut_work.hpp"

#include <algorithm>

#include "core/handoff/sheet_picture.hpp"
#include "core/milling/timed_path.hpp"

namespace plume {
namespace {

class CutWork : public RehearsedWork {
public:
    CutWork(const FlatRehearsal& rehearsal, GcodeFile file, std::vector<FlatSheet> sheets,
            const FlatRehearsalJob& job)
        : rehearsal_(rehearsal),
          remarks_(std::move(file.remarks)),
          timed_(std::move(file.path), job.speeds),
          picture_(timed_.path(), std::move(sheets), job) {
        go_to(minutes());
    }

    std::string summary() const override { return rehearsal_.summary(); }
    std::vector<std::string> details() const override { return rehearsal_.details(); }
    std::vector<std::string> remarks() const override { return remarks_; }
    std::vector<RehearsedFigure> figures() const override {
        const auto count = [](std::size_t number) { return static_cast<double>(number); };
        return {{"minutes", rehearsal_.path.minutes},
                {"moves", count(rehearsal_.move_count)},
                {"sheets", count(rehearsal_.sheet_count)},
                {"cut_mm", rehearsal_.cut},
                {"marked_mm", rehearsal_.marked},
                {"between_mm", rehearsal_.travelled},
                {"begun", count(rehearsal_.begun)},
                {"waited_s", rehearsal_.waited_s},
                {"uncut_mm", rehearsal_.uncut},
                {"unmarked_mm", rehearsal_.unmarked},
                {"too_tight_mm", rehearsal_.too_tight},
                {"into_parts_mm", rehearsal_.bitten},
                {"deepest_into_parts_mm", rehearsal_.deepest_bite},
                {"off_sheet_mm", rehearsal_.off_sheet},
                {"loose_cuts", count(rehearsal_.loose_cuts)},
                {"rapid_cuts", count(rehearsal_.rapid_cuts)}};
    }

    double minutes() const override { return timed_.minutes(); }
    double now() const override { return now_; }
    std::uint32_t line() const override { return timed_.line_of(done_); }
    void go_to(double minutes) override {
        now_ = std::clamp(minutes, 0.0, this->minutes());
        done_ = timed_.move_at(now_);
        share_ = timed_.share_done(done_, now_);
    }
    RehearsedDrawing drawn() const override { return picture_.drawn(timed_.path(), done_, share_); }
    std::vector<ColourMeaning> colours() const override { return SheetPicture::colours(); }
    bool is_flat() const override { return true; }

private:
    FlatRehearsal rehearsal_;
    std::vector<std::string> remarks_;
    TimedPath timed_;
    SheetPicture picture_;
    std::size_t done_ = 0;  // moves
    double share_ = 0;      // of the one that is made
    double now_ = 0;
};

}  // namespace

Result<RehearsedWorkPointer> cut_work(GcodeFile file, std::vector<FlatSheet> sheets, FlatRehearsalJob job,
                                      const Run& run) {
    job.sheets = sheets;
    auto rehearsal = flat_rehearsed(file.path, job, run);
    if (!rehearsal) return rehearsal.error();
    return RehearsedWorkPointer(
        std::make_shared<CutWork>(*rehearsal, std::move(file), std::move(sheets), job));
}

}  // namespace plume
