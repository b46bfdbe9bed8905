#include "dragged_studies.hpp"

#include "core/study/edits/edits.hpp"

namespace bench {

using namespace plume;

DraggedStudy dragged_pole() {
    return {"a pole of the roof", "ridge-roof.plume", "roof", [](const Study& study, int frame) {
                Places poles = std::get<Places>(study.step("front")->slots.at("poles"));
                poles[1].z = std::to_string(5 + 0.001 * frame) + " m";
                return set_slot(study, study.step("front")->id, "poles", poles);
            }};
}

// Evened to half a metre, of the canopy's smooth skin.
DraggedStudy dragged_spacing() {
    return {"the spacing of contours", "contours.plume", "contours", [](const Study& study, int frame) {
                return set_slot(study, study.step("contours")->id, "spacing",
                                NumberText{std::to_string(200 + frame % 100) + " mm"});
            }};
}

// Its skin's points, the diagrid over them, its floors and their area.
DraggedStudy dragged_twist() {
    return {"the twist of a tower", "tower.plume", "net",
            [](const Study& study, int frame) { return set_control_value(study, "twist", 90 + frame % 40); }};
}

}  // namespace bench
