#include "app/document/moment_edits.hpp"

#include "core/study/edits/edit_keys.hpp"
#include "core/study/moving.hpp"

namespace plume::app {
namespace {

using Change = std::function<Edited(const Study&, double seconds)>;

// At the moment that is seen by then.
bool edit_now(Document& document, const std::vector<Keyed>& things, const Change& change,
              const QString& label, const std::string& stroke) {
    const double seconds = document.playing().seconds();
    if (!document.playing().is_recording())
        return document.apply(change(document.study(), seconds), label, stroke);
    const auto change_now = [&](const Study& study) { return change(study, seconds); };
    return document.apply(recorded(document.study(), document.catalogue(), things, seconds, change_now),
                          label, stroke);
}

// What is moved on and on is recorded frame by frame.
bool edit_in_time(Document& document, const std::vector<Keyed>& things, const Change& change,
                  const QString& label, const std::string& stroke) {
    if (!document.playing().is_recording() || stroke.empty())
        return edit_now(document, things, change, label, stroke);
    document.playing().edit_next_frame(stroke, [&document, things, change, label, stroke] {
        edit_now(document, things, change, label, stroke);
    });
    return true;
}

}  // namespace

double value_now(const Document& document, const Control& control) {
    return value_at(control, document.playing().seconds());
}

void set_control_now(Document& document, const std::string& name, double value, const std::string& stroke) {
    const Control* control = document.study().control(name);
    const bool keyed = control && !control->keys.empty();
    if (keyed && !document.playing().is_recording()) document.playing().pause();
    const auto set = [name, value](const Study& study, double seconds) {
        return set_control_value(study, name, value, seconds);
    };
    edit_in_time(document, {keyed_control(name)}, set, QObject::tr("change of %1").arg(text_of(name)),
                 stroke);
}

bool move_places_now(Document& document, const std::vector<PlaceMove>& moves, const ShownValue& shown,
                     const std::string& stroke) {
    std::vector<Keyed> things;
    things.reserve(moves.size());
    for (const PlaceMove& move : moves)
        things.push_back(keyed_place(document.study(), document.catalogue(), move));
    const auto move = [&catalogue = document.catalogue(), moves, shown](const Study& study, double seconds) {
        return move_places(study, catalogue, moves, shown, seconds);
    };
    return edit_in_time(document, things, move, QObject::tr("drag"), stroke);
}

}  // namespace plume::app
