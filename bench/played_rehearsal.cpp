#include "played_rehearsal.hpp"

#include <QElapsedTimer>

#include "app/handoff/rehearsal_view.hpp"
#include "core/handoff/milled_work.hpp"
#include "milled_board.hpp"
#include "waiting.hpp"

namespace bench {
namespace {

using namespace plume;
using namespace plume::app;

RehearsedWorkPointer rehearsed_board() {
    const auto form = std::make_shared<const FormInBoard>(FormInBoard{relief(), {}, milled_board});
    RehearsalJob job;
    job.form = &form->form;
    job.board = milled_board;
    job.cutters = {Cutter::ball(6)};
    GcodeFile file;
    file.path = short_cuts();
    const auto work = milled_work(std::move(file), job, form, Run());
    return work ? *work : nullptr;
}

}  // namespace

double played_frames_a_second() {
    const RehearsedWorkPointer work = rehearsed_board();
    if (!work) return 0;
    RehearsalView view(nullptr);
    view.resize(740, 480);
    view.show();
    // As it is played by default: in 24 seconds, of which these are the middle.
    constexpr int frames = 240, frames_in_all = 24 * 60;
    int seen = 0;
    QElapsedTimer timer;
    QObject::connect(&view, &OrbitView::frame_shown, &view, [&] {
        if (seen == 0) timer.start();
        if (++seen > frames) return;
        work->go_to(work->minutes() * (0.5 + static_cast<double>(seen) / frames_in_all));
        view.show_now(*work, false);
    });
    view.show_now(*work, true);
    wait_until([&] { return seen > frames; });
    return frames * 1000.0 / static_cast<double>(timer.elapsed());
}

}  // namespace bench
