#include "core/data/gathered.hpp"
#include "core/readers/cloud_file.hpp"
#include "core/steps/files/file_support.hpp"

namespace plume {
namespace {

auto file_of(const Inputs& in, const Run& run) {
    return linked(in, run, "cloud", read_cloud_file);
}

FileSpace space_of(const CloudFile& file) {
    return {[&file] { return file.points.bounds(); }, file.metres_per_unit, false};
}

// One in so many, and numbers under names that can be read.
Result<PointLattice> thinned(const PointLattice& points, std::size_t step, const Run& run) {
    std::vector<std::uint32_t> kept;
    PointLattice::Parts parts;
    for (std::size_t at = 0; at < points.address_count(); at += step)
        kept.push_back(static_cast<std::uint32_t>(at));
    parts.arrangement = points.arrangement();
    parts.counts = {kept.size(), 1, 1};
    parts.x = step == 1 ? points.x() : gathered(points.x(), kept, run);
    parts.y = step == 1 ? points.y() : gathered(points.y(), kept, run);
    parts.z = step == 1 ? points.z() : gathered(points.z(), kept, run);
    parts.fields = readable_fields(step == 1 ? points.fields() : gathered(points.fields(), kept, run), run);
    if (points.has_gaps())
        for (const std::uint32_t at : kept)
            parts.present.push_back(points.present(at) ? 1 : 0);
    if (run.cancelled()) return cancelled_error();
    return PointLattice::make(std::move(parts));
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto file = file_of(in, run);
    if (!file) return file.error();
    remark_losses((*file)->losses, run);
    const std::size_t step = in.word("thin") == "each" ? in.count("step") : 1;
    Result<PointLattice> points = thinned((*file)->points, step, run);
    if (!points) return points.error();
    return in_study_space(Value(*std::move(points)), space_of(**file), in, run);
}

}  // namespace

StepKind read_cloud() {
    std::vector<SlotSpec> slots = {
        file_slot("file", "Cloud", {"Clouds of points", {"xyz", "pts", "txt", "asc", "ply"}}),
        choice_slot("thin", "Points",
                    {{"all", "all its points", ""}, {"each", "one point in", "of large clouds"}}),
        count_slot("step", "Step", "10", 1)};
    std::ranges::move(file_space_slots(), std::back_inserter(slots));
    return {
        .key = "points.cloud",
        .verb = "Read a cloud of points from a file",
        .synonyms = "PLY XYZ PTS scan survey import load open link laser",
        .sentence =
            std::string("Read the points of {file}, {thin}[thin=each| {step}], ") + file_space_sentence + ".",
        .slots = std::move(slots),
        .results = {Kind::points},
        .result_name = "cloud",
        .help =
            "Points without an arrangement from a file, which stays linked: the vertices of PLY, or lines of "
            "x, y, z and "
            "further numbers. Colours are the numbers red, green and blue, from 0 to 1 in PLY. Of large "
            "clouds one "
            "point in so many can be taken. Where the file states no unit, it is asked for.",
        .estimate = [](const Inputs& in) { return file_estimate(in, 3, 4e-8); },
        .make = make,
        .contexts = {{"unit", offered_units(file_of, space_of)}},
    };
}

}  // namespace plume
