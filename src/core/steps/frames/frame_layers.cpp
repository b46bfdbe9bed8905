#include "core/geometry/frames/layered_frame.hpp"
#include "core/geometry/moves/push.hpp"
#include "core/study/step_kind.hpp"

namespace plume {
namespace {

Webs webs_from(const std::string& word) {
    if (word == "posts") return Webs::posts;
    return word == "diagonals" ? Webs::diagonals : Webs::both;
}

// One for all, or one a point.
Result<Column> depths_of(const Inputs& in, const PointLattice& points) {
    if (in.word("by") == "length") return Column(Doubles(points.address_count(), in.number("depth")));
    const FieldOnPoints& numbers = in.field("numbers");
    if (!points.same_arrangement(numbers.points))
        return about_slot(Error{ErrorCode::unlike_arrangement, "",
                                "stand on " + arrangement_text(numbers.points) + ", and the points are " +
                                    arrangement_text(points),
                                "Measure the numbers on the points you frame."},
                          "numbers");
    if (numbers.field().dimension != a_length)
        return about_slot(
            Error{ErrorCode::unit_mismatch, "", "are no lengths", "Bring them to a range of lengths before."},
            "numbers");
    return numbers.field().values;
}

Result<Value> make(const Inputs& in, const Run& run) {
    const PointLattice& points = in.lattice("points");
    const auto depths = depths_of(in, points);
    if (!depths) return depths.error();
    LayeredPattern pattern{in.word("lower") == "cells",
                           in.word("lower") == "cells" ? Webs::both : webs_from(in.word("webs")),
                           {}};
    std::optional<Normals> normals;
    if (in.word("way") == "normal") {
        auto found = lattice_normals(points, run);
        if (!found) return about_slot(found.error(), "points");
        remark_missing(*found, points, "have their lower node at their own place", run);
        normals = *std::move(found);
    }
    pattern.down = [&](std::size_t index) {
        const Vec3 up =
            normals ? Vec3{normals->x[index], normals->y[index], normals->z[index]} : Vec3{0, 0, 1};
        return up * -(*depths)[index];
    };
    auto frame = layered_frame(points, pattern, run);
    if (!frame) return about_slot(frame.error(), "points");
    return Value(*std::move(frame));
}

Estimate estimate(const Inputs& in) {
    const auto points = static_cast<double>(in.lattice("points").address_count());
    const bool cells = in.word("lower") == "cells";
    return {points * (cells ? 1100 : 650), points * (cells ? 4e-6 : 1e-6)};
}

}  // namespace

StepKind frame_layers() {
    return {
        .key = "frame.layers",
        .verb = "Frame points in two layers",
        .synonyms = "space frame truss double layer webs depth dome shell bars members structure",
        .sentence =
            "Frame {points} in two layers, {by}[by=length| {depth}][by=numbers| {numbers}] apart[more| "
            "{way}], the lower {lower}[lower=points| with {webs}].",
        .slots = {reference_slot("points", "Points", {Kind::points, Kind::field}),
                  choice_slot(
                      "by", "Depth by",
                      {{"length", "everywhere", "one depth"}, {"numbers", "by", "a depth at each point"}}),
                  length_slot("depth", "Depth", "0.6 m"), reference_slot("numbers", "Depths", {Kind::field}),
                  choice_slot("way", "Way",
                              {{"normal", "along the normals", "square to the surface of the points"},
                               {"z", "along Z", "straight down"}}),
                  choice_slot(
                      "lower", "Lower layer",
                      {{"points", "below the points", "both layers alike"},
                       {"cells", "below the middles of cells", "half a bay aside, a pyramid a cell"}}),
                  choice_slot("webs", "Webs",
                              {{"both", "posts and diagonals between", "triangles upright"},
                               {"posts", "posts between", "square to the layers"},
                               {"diagonals", "diagonals between", "rising and falling by turns"}})},
        .results = {Kind::frame},
        .result_name = "layers",
        .help =
            "An upper layer of members between neighbours, a lower one below it, and webs. The lower layer "
            "repeats the upper one, or stands below the middles of its cells, with webs to their corners: of "
            "a "
            "grid half a bay aside, of a honeycomb triangles below hexagons. A negative depth puts it above. "
            "Members carry the number layer: 0 above, 1 below, 0.5 between.",
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume
