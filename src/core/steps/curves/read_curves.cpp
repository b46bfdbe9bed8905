#include "core/base/text.hpp"
#include "core/geometry/curves/curve_edit.hpp"
#include "core/readers/curve_file.hpp"
#include "core/steps/files/file_support.hpp"

namespace plume {
namespace {

auto file_of(const Inputs& in, const Run& run) {
    return linked(in, run, "curves", read_curve_file);
}

FileSpace space_of(const CurveFile& file) {
    const auto bounds = [&file] {
        Box box;
        for (const SplineCurve& curve : file.curves)
            box.include(poles_box(curve));
        return box;
    };
    return {bounds, file.metres_per_unit, false};
}

// Which layer a curve is of, as a number along it.
SplineCurve with_layer(const SplineCurve& curve, std::uint32_t layer) {
    return with_fields(curve, {{"layer", Doubles(curve.basis().pole_count(), layer + 1.0), plain_number}});
}

// Of the layers that are taken, where they are several.
void remark_layers(const CurveFile& file, const std::vector<std::uint8_t>& picked, const Run& run) {
    std::vector<NumberedName> names;
    for (std::size_t at = 0; at < picked.size(); ++at)
        if (picked[at] != 0) names.push_back({at + 1, file.layers[at]});
    if (names.size() > 1) remark_numbers("layers", names, run);
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto file = file_of(in, run);
    if (!file) return file.error();
    const auto picked = picked_parts((*file)->layers, in, "layers");
    if (!picked) return picked.error();
    remark_losses((*file)->losses, run);
    remark_layers(**file, *picked, run);
    CurveSet set;
    for (std::size_t at = 0; at < (*file)->curves.size(); ++at) {
        const std::uint32_t layer = (*file)->layer_of[at];
        if ((*picked)[layer] == 0) continue;
        const SplineCurve& curve = (*file)->curves[at];
        set.curves.push_back((*file)->layers.size() > 1 ? with_layer(curve, layer) : curve);
    }
    return in_study_space(Value(std::move(set)), space_of(**file), in, run);
}

Result<Offers> layers_offered(const Inputs& in, const Run& run) {
    const auto file = file_of(in, run);
    if (!file) return file.error();
    std::vector<std::size_t> counts((*file)->layers.size(), 0);
    std::vector<FilePart> parts(counts.size());
    for (std::size_t at = 0; at < (*file)->curves.size(); ++at) {
        const std::uint32_t layer = (*file)->layer_of[at];
        ++counts[layer];
        parts[layer].bounds.include(poles_box((*file)->curves[at]));
    }
    for (std::size_t layer = 0; layer < parts.size(); ++layer) {
        parts[layer].name = (*file)->layers[layer];
        parts[layer].counted = count_text(counts[layer], "curve", "curves");
    }
    return part_offers(parts, space_of(**file), in);
}

}  // namespace

StepKind read_curves() {
    std::vector<SlotSpec> slots = {file_slot("file", "Drawing", {"Drawings", {"dxf", "svg"}}),
                                   picks_slot("layers", "Layers", "all its layers")};
    std::ranges::move(file_space_slots(), std::back_inserter(slots));
    return {
        .key = "curve.file",
        .verb = "Read curves from a drawing",
        .synonyms = "DXF SVG import load open link plan site layers blocks lines file",
        .sentence =
            std::string("Read the curves of the drawing {file}, {layers}, ") + file_space_sentence + ".",
        .slots = std::move(slots),
        .results = {Kind::curves},
        .result_name = "drawing",
        .help =
            "Curves from a linked drawing: lines, arcs, ellipses, polylines with arcs and splines, exactly. "
            "Blocks stand "
            "where they are placed. Some of its layers can be chosen; which one a curve is of is its number "
            "`layer`. "
            "Drawings of sites lie far from the origin of their grid: put the origin near them, so that what "
            "is made of "
            "them keeps its digits. Where the file states no unit, it is asked for.",
        .estimate = [](const Inputs& in) { return file_estimate(in, 8, 1e-7); },
        .make = make,
        .contexts = {{"layers", context(layers_offered)}, {"unit", offered_units(file_of, space_of)}},
    };
}

}  // namespace plume
