#include "core/base/text.hpp"
#include "core/geometry/solids/bodies.hpp"
#include "core/readers/exact_file.hpp"
#include "core/steps/files/file_support.hpp"

namespace plume {
namespace {

auto file_of(const Inputs& in, const Run& run) {
    return linked(in, run, "exact", read_exact_file);
}

FileSpace space_of(const ExactFile& file) {
    const auto bounds = [&file] {
        Box box;
        for (const ExactPart& part : file.parts)
            box.include(box_of(part));
        return box;
    };
    return {bounds, file.metres_per_unit, false};
}

// How many of each sort some parts have; solids are surfaces, too.
struct Sorts {
    std::size_t solids = 0, surfaces = 0, curves = 0;
};
Sorts sorts_of(const ExactPart& part) {
    Sorts sorts{part.solids.size(), part.faces.size(), part.curves.size()};
    for (const ExactSolid& solid : part.solids)
        sorts.surfaces += solid.patches.size();
    return sorts;
}
std::string text_of(const Sorts& sorts) {
    std::string text;
    const auto add = [&](std::size_t count, const char* one, const char* many) {
        if (count > 0) text += (text.empty() ? "" : ", ") + count_text(count, one, many);
    };
    add(sorts.solids, "solid", "solids");
    add(sorts.surfaces, "surface", "surfaces");
    add(sorts.curves, "curve", "curves");
    return text;
}

std::vector<const ExactPart*> chosen_parts(const ExactFile& file, const std::vector<std::uint8_t>& picked) {
    std::vector<const ExactPart*> parts;
    for (std::size_t at = 0; at < file.parts.size(); ++at)
        if (picked[at] != 0) parts.push_back(&file.parts[at]);
    return parts;
}

Error none_of(const std::string& what, const std::vector<const ExactPart*>& parts) {
    Sorts all;
    for (const ExactPart* part : parts) {
        const Sorts sorts = sorts_of(*part);
        all = {all.solids + sorts.solids, all.surfaces + sorts.surfaces, all.curves + sorts.curves};
    }
    return about_slot(Error{ErrorCode::empty_input, "",
                            "are not there: it has no " + what + ", but " + text_of(all), "Take these."},
                      "what");
}

Result<Value> solids_of(const std::vector<const ExactPart*>& parts, const Run& run) {
    SolidSet set;
    for (const ExactPart* part : parts)
        for (const ExactSolid& solid : part->solids) {
            Result<Body> body = solid.patches.empty()
                                    ? meshed_body(*solid.mesh)
                                    : exact_body(solid.patches, run, solid.edges_within, solid.mesh);
            if (!body) return body.error();
            set.bodies.push_back(*std::move(body));
        }
    if (set.bodies.empty()) return none_of("solids", parts);
    return Value(std::move(set));
}

Result<Value> surfaces_of(const std::vector<const ExactPart*>& parts) {
    SurfaceSet set;
    for (const ExactPart* part : parts) {
        set.patches.insert(set.patches.end(), part->faces.begin(), part->faces.end());
        for (const ExactSolid& solid : part->solids)
            set.patches.insert(set.patches.end(), solid.patches.begin(), solid.patches.end());
    }
    if (set.patches.empty()) return none_of("surfaces", parts);
    return Value(std::move(set));
}

Result<Value> curves_of(const std::vector<const ExactPart*>& parts) {
    CurveSet set;
    for (const ExactPart* part : parts)
        set.curves.insert(set.curves.end(), part->curves.begin(), part->curves.end());
    if (set.curves.empty()) return none_of("curves", parts);
    return Value(std::move(set));
}

std::vector<std::string> names_of(const ExactFile& file) {
    std::vector<std::string> names;
    for (const ExactPart& part : file.parts)
        names.push_back(part.name);
    return names;
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto file = file_of(in, run);
    if (!file) return file.error();
    const auto picked = picked_parts(names_of(**file), in, "parts");
    if (!picked) return picked.error();
    remark_losses((*file)->losses, run);
    const std::vector<const ExactPart*> parts = chosen_parts(**file, *picked);
    const std::string& what = in.word("what");
    Result<Value> made = what == "solids"     ? solids_of(parts, run)
                         : what == "surfaces" ? surfaces_of(parts)
                                              : curves_of(parts);
    if (!made) return made;
    return in_study_space(*made, space_of(**file), in, run);
}

Result<Offers> parts_offered(const Inputs& in, const Run& run) {
    const auto file = file_of(in, run);
    if (!file) return file.error();
    std::vector<FilePart> parts;
    for (const ExactPart& part : (*file)->parts)
        parts.push_back({part.name, text_of(sorts_of(part)), box_of(part)});
    return part_offers(parts, space_of(**file), in);
}

}  // namespace

StepKind read_exact() {
    std::vector<SlotSpec> slots = {choice_slot("what", "Forms",
                                               {{"solids", "the solids", "closed bodies"},
                                                {"surfaces", "the surfaces", "those of solids, too"},
                                                {"curves", "the curves", ""}}),
                                   file_slot("file", "File", {"Exact forms", {"step", "stp", "iges", "igs"}}),
                                   picks_slot("parts", "Parts", "all its parts")};
    for (SlotSpec& slot : file_space_slots())
        if (slot.key != "unit") slots.push_back(std::move(slot));
    return {
        .key = "exact.file",
        .verb = "Read exact forms from a file",
        .synonyms = "STEP STP IGES IGS import solid body surface load open link assembly kernel",
        .sentence = "Read {what} of {file}, {parts}, {placing}[placing=from| {east}, {north}, {level}].",
        .slots = std::move(slots),
        .results = {Kind::bodies, Kind::surface, Kind::curves},
        .result_name = "forms",
        .help =
            "Solids, surfaces or curves from a linked file of STEP or IGES, exactly: planes, cylinders, arcs "
            "and the like "
            "as the rational splines that they are, faces with their trims. Parts of its assembly can be "
            "chosen; they "
            "stand where the assembly places them. Solids whose edges do not meet exactly come as meshes, "
            "which is said.",
        // The kernel works in a process of its own; what it takes counts all the same.
        .estimate =
            [](const Inputs& in) {
                const Estimate file = file_estimate(in, 20, 2e-6);
                return Estimate{file.bytes, file.seconds + 0.5};
            },
        .make = make,
        .contexts = {{"parts", context(parts_offered)}},
    };
}

}  // namespace plume
