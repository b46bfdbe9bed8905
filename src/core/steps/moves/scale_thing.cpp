#include "core/geometry/measures/bounds.hpp"
#include "core/steps/moves/axis_slots.hpp"

namespace plume {
namespace {

Status check_factor(const char* slot, double factor) {
    if (factor != 0) return Done{};
    return about_slot(Error{ErrorCode::out_of_range, "", "may not be 0: everything would lie on one plane",
                            "Type another factor; below 0 mirrors."},
                      slot);
}

Result<Value> make(const Inputs& in, const Run& /*run*/) {
    Vec3 factors{1, 1, 1};
    if (in.word("evenness") == "even") {
        factors = factors * in.number("factor");
        if (Status fine = check_factor("factor", factors.x); !fine) return fine.error();
    } else {
        factors = {in.number("along_x"), in.number("along_y"), in.number("along_z")};
        for (const auto& [slot, factor] :
             {std::pair{"along_x", factors.x}, {"along_y", factors.y}, {"along_z", factors.z}})
            if (Status fine = check_factor(slot, factor); !fine) return fine.error();
    }
    const Vec3 about = in.word("about") == "middle" ? bounds_of(in.value("thing")).centre() : Vec3{};
    return moved_thing(in, scaled_about(about, factors));
}

}  // namespace

StepKind scale_thing() {
    return {
        .key = "thing.scale",
        .verb = "Scale",
        .synonyms = "size enlarge shrink stretch factor",
        .sentence =
            "Scale {thing} {evenness} [evenness=even|{factor}][evenness=apart|{along_x}, {along_y}, "
            "{along_z}] about {about}.",
        .slots = {thing_slot(),
                  choice_slot("evenness", "Evenness",
                              {{"even", "by", "the same along all axes"},
                               {"apart", "along X, Y, Z by", "each its own"}}),
                  number_slot("factor", "Factor", "2"), number_slot("along_x", "Factor along X", "1"),
                  number_slot("along_y", "Factor along Y", "1"),
                  number_slot("along_z", "Factor along Z", "2"),
                  choice_slot("about", "About",
                              {{"origin", "the origin", ""}, {"middle", "its middle", "of its extents"}})},
        .results = movable_kinds(),
        .result_name = "scaled",
        .help = "Anything, scaled about the origin or the middle of its extents.",
        .estimate = moved_estimate,
        .make = make,
    };
}

}  // namespace plume
