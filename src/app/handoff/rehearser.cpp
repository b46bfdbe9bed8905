#include "app/handoff/rehearser.hpp"

#include "core/base/file.hpp"
#include "core/geometry/meshes/mesh_volume.hpp"
#include "core/milling/gcode.hpp"

namespace plume::app {
namespace {

constexpr std::size_t most_bytes = 2'000'000'000;
// As many as a software renderer draws while it is played.
constexpr std::size_t played_cells = 30'000;

Result<std::string> text_of_file(const DeliveryContent& delivery, const FormInBoard& form, const Units& units,
                                 const std::filesystem::path& file, const Run& run) {
    if (file.empty()) return milling_file(delivery, form, units, run);
    return read_file(file, most_bytes);
}

Result<std::shared_ptr<Rehearser::State>> rehearsed_state(const DeliveryContent& delivery, const Units& units,
                                                          const std::filesystem::path& file, const Run& run) {
    auto form = form_in_board(delivery, units, run);
    if (!form) return form.error();
    const auto text = text_of_file(delivery, *form, units, file, run);
    if (!text) return text.error();
    auto moves = gcode_from(*text, run);
    if (!moves) return moves.error();
    RehearsalJob job = rehearsal_of(delivery, *form, units);
    auto rehearsal = rehearsed(moves->path, job, run);
    if (!rehearsal) return rehearsal.error();
    const std::string overhangs = overhang_text(*rehearsal, is_closed(form->form));
    job.about_cells = played_cells;
    Playback playback(std::move(moves->path), job);
    FormHeights played = form_heights(form->form, playback.stock().grid());
    return std::make_shared<Rehearser::State>(Rehearser::State{*std::move(form), *std::move(rehearsal),
                                                               overhangs, std::move(moves->remarks),
                                                               std::move(playback), std::move(played)});
}

}  // namespace

Rehearser::Rehearser(QObject* parent)
    : QObject(parent),
      work_(
          this, [this] { return next(); }, [this](const Made& made, bool more) { take(made, more); }) {}

void Rehearser::make(const Delivery& delivery, const Hash& key, const Units& units) {
    if (bool(delivery) == bool(delivery_) && (!delivery || key == key_)) return;
    delivery_ = delivery;
    key_ = key;
    units_ = units;
    start();
}

void Rehearser::rehearse_file(const std::filesystem::path& file) {
    file_ = file;
    start();
}

void Rehearser::start() {
    error_ = {};
    work_.cancel();
    work_.start();
    Q_EMIT changed();
}

LatestWork<Rehearser::Made>::Work Rehearser::next() const {
    return [delivery = delivery_, units = units_, file = file_](const Run& run) {
        Made made;
        if (!delivery) return made;
        auto state = rehearsed_state(*delivery, units, file, run);
        if (state)
            made.state = *std::move(state);
        else
            made.error = state.error();
        return made;
    };
}

void Rehearser::take(const Made& made, bool more) {
    const bool given_up = made.error && made.error->code == ErrorCode::cancelled && more;
    if (!given_up) {
        state_ = made.state;
        error_ = made.error;
    }
    Q_EMIT changed();
}

}  // namespace plume::app
