#include "core/evaluation/moving_points.hpp"

#include "core/base/parallel.hpp"
#include "core/exchange/study_file.hpp"
#include "core/study/slots/slot_form.hpp"

namespace plume::test {
namespace {

// Points that drift along x by a speed and rise by a push, moment after moment.
Result<Value> drift(const PointLattice& points, Vec3 by, const Run& run) {
    Doubles x(points.address_count()), z(points.address_count());
    const bool finished = parallel_blocks(x.size(), 64, run, [&](std::size_t begin, std::size_t end) {
        for (std::size_t index = begin; index < end; ++index) {
            x[index] = points.point(index).x + by.x;
            z[index] = points.point(index).z + by.z;
        }
    });
    if (!finished) return cancelled_error();
    return Value(points.moved(Column(std::move(x)), points.y(), Column(std::move(z))));
}

StepKind drifting() {
    return {.key = "test.drift",
            .verb = "Let points drift",
            .synonyms = "",
            .sentence = "Let {points} drift at {speed} and rise at {push}.",
            .slots = {reference_slot("points", "Points", {Kind::points}),
                      length_slot("speed", "Speed", "1 m"), number_slot("push", "Push", "0")},
            .results = {Kind::points},
            .result_name = "drifting",
            .help = "",
            .make = [](const Inputs& in, const Run&) -> Result<Value> {
                ++begun;
                return Value(in.points("points"));
            },
            .advance =
                [](const Inputs& in, const MomentBefore& before, double seconds, const Run& run) {
                    ++gone_on;
                    return drift(std::get<PointLattice>(before.value),
                                 Vec3{in.number("speed"), 0, in.number("push")} * seconds, run);
                },
            .begins_again = [](const Inputs& before, const Inputs& now) -> std::string {
                const bool same = before.points("points").counts() == now.points("points").counts();
                return same ? "" : "There are other points than before.";
            }};
}

}  // namespace

const Catalogue& moving_catalogue() {
    static const Catalogue all([] {
        std::vector<StepKind> kinds(standard_catalogue().kinds().begin(), standard_catalogue().kinds().end());
        kinds.push_back(drifting());
        return kinds;
    }());
    return all;
}

StudyPointer moving_study(const std::string& slots, const std::string& steps, int columns) {
    const auto study = study_from_text(R"({"plume": 1, "page": [
      {"step": "lattice.rectangular", "result": "ground", "slots": {"columns": )" +
                                       std::to_string(columns) + R"(, "rows": 1}},
      {"step": "test.drift", "result": "leaves", "slots": {"points": {"result": "ground"})" +
                                       slots + "}}" + steps + "]}");
    return std::make_shared<const Study>(in_form(**study, moving_catalogue()));
}

}  // namespace plume::test
