#include "app/document/moment_edits.hpp"

#include "core/study/moving.hpp"

namespace plume::app {

double value_now(const Document& document, const Control& control) {
    return value_at(control, document.playing().seconds());
}

void set_control_now(Document& document, const std::string& name, double value, const std::string& stroke) {
    const Control* control = document.study().control(name);
    if (control && !control->keys.empty()) document.playing().pause();
    document.apply(set_control_value(document.study(), name, value, document.playing().seconds()),
                   QObject::tr("change of %1").arg(text_of(name)), stroke);
}

}  // namespace plume::app
