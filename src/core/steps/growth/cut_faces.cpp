#include <algorithm>
#include <array>

#include "core/base/text.hpp"
#include "core/geometry/meshes/face_builder.hpp"
#include "core/growth/grown_faces.hpp"
#include "core/steps/growth/growth_roots.hpp"
#include "core/steps/growth/rules_support.hpp"
#include "core/steps/meshes/mesh_support.hpp"

namespace plume {
namespace {

// The faces that it begins with, and what stands around them.
struct Ground : RulesGround {
    Mesh mesh;
};

// All but the bounds.
Result<Ground> unbounded_ground(const Inputs& in, const Run& run) {
    auto mesh = changed_mesh(in, run);
    if (!mesh) return mesh.error();
    auto rules = ground_of_rules(in, RulesLanguage::faces);
    if (!rules) return rules.error();
    Ground ground{*std::move(rules), *std::move(mesh)};
    add_inherited(fields_read(ground.mesh.face_fields(), in, ground.setting), ground.setting);
    return ground;
}

Result<Ground> ground_of(const Inputs& in, const Run& run) {
    auto ground = unbounded_ground(in, run);
    if (!ground) return ground;
    if (Status added = add_bounds(in, *ground, run); !added) return added.error();
    return ground;
}

FaceStart start_of(const Inputs& in, const Ground& ground) {
    FaceStart start = start_on(ground.mesh, in.number("seed"));
    for (const FormulaInput& input : ground.setting.inherited) {
        const auto field = std::ranges::find(ground.mesh.face_fields(), input.name, &Field::name);
        start.inherited.emplace_back(field->values.span().begin(), field->values.span().end());
    }
    return start;
}

FaceLimits limits_of(const Inputs& in) {
    FaceLimits limits;
    limits.generations = in.count("generations");
    limits.most = in.count("most");
    if (in.word("smallest") == "above") limits.least_area = in.number("least") * in.number("least");
    if (in.word("near") == "attractors") limits.reach = in.number("reach");
    return limits;
}

// A face with its corners, its place in the tree, and what growing them takes besides.
double bytes_of_face(const GrowthRules& rules, const Mesh& mesh) {
    const double columns =
        static_cast<double>(rules.values.size() + rules.fields.size() + mesh.face_fields().size()) * 16 +
        static_cast<double>(mesh.fields().size()) * 16;
    return 560 + columns;
}

// As many of the faces as are tried, spread evenly.
Mesh some_of(const Mesh& mesh, std::size_t most) {
    if (mesh.face_count() <= most) return mesh;
    FaceBuilder some(mesh);
    for (std::size_t at = 0; at < most; ++at) {
        const std::size_t face = at * mesh.face_count() / most;
        some.add(mesh.face(face), face);
    }
    auto made = std::move(some).over_its_vertices();
    return made ? *std::move(made) : mesh;
}

constexpr std::size_t tried_faces = 500;

Estimate estimate(const Inputs& in) {
    const Run run;
    auto ground = ground_of(in, run);
    if (!ground) return {};
    const auto rules = checked_rules(in, ground->setting);
    if (!rules) return {};
    const auto all = static_cast<double>(ground->mesh.face_count());
    ground->mesh = some_of(ground->mesh, tried_faces);
    const double larger = all / static_cast<double>(ground->mesh.face_count());
    const FaceLimits limits = limits_of(in);
    FaceLimits few = limits;
    few.most = std::min(limits.most, tried_parts);
    const auto tried = grow_faces(*rules, start_of(in, *ground), few, ground->around, run);
    if (!tried) return {};
    double faces = static_cast<double>(tried->faces.count());
    if (tried->end == GrowthEnd::most) {
        const auto& generations = tried->tree.generations;
        const auto last = static_cast<double>(generations.back() - generations[generations.size() - 2]);
        faces = expected_count({faces, last, static_cast<double>(tried->tree.next),
                                static_cast<double>(tried->doing), tried->depth},
                               limits.generations, static_cast<double>(limits.most) / larger);
    }
    faces *= larger;
    return {faces * bytes_of_face(*rules, ground->mesh), faces * 8e-7};
}

// Telling -----------------------------------------------------------------------------------------------

GrowthWords words_of_faces() {
    return {"face", "faces", [](const Value& made) -> const PartTree* {
                const auto* mesh = std::get_if<Mesh>(&made);
                return mesh && mesh->part_marks() ? mesh->part_marks()->grown.get() : nullptr;
            }};
}

void tell_refused(const GrownFaces& grown, const Run& run) {
    constexpr std::array<const char*, 5> why{
        "what is to be done to them is no number, or counts less than one piece",
        "only faces of four corners can be cut", "the cut is not between their ends",
        "they are too narrow to be inset by so much, or inset by nothing",
        "they have no area, or are raised by nothing"};
    for (std::size_t reason = 0; reason < why.size(); ++reason)
        if (const std::size_t count = grown.refused[reason]; count > 0)
            run.remark_loss(count_text(count, "face stays as it is: ", "faces stay as they are: ") +
                            why[reason] + ". The first is " + grown.first_refused + ".");
    if (grown.split_otherwise > 0)
        run.remark(count_text(grown.split_otherwise, "face", "faces") +
                   " without four corners: triangles are split alike both ways, others once a corner.");
}

Result<Value> make(const Inputs& in, const Run& run) {
    auto ground = ground_of(in, run);
    if (!ground) return ground.error();
    auto rules = checked_rules(in, ground->setting);
    if (!rules) return rules.error();
    const FaceLimits limits = limits_of(in);
    if (Status enough = room_for_roots(ground->mesh.face_count(), in); !enough) return enough.error();
    FaceStart start = start_of(in, *ground);
    auto grown = grow_faces(*rules, start, limits, ground->around, run);
    if (!grown) return grown.error();
    tell_end({grown->end, grown->depth, limits.generations, grown->tree.next, limits.most}, words_of_faces(),
             run);
    tell_refused(*grown, run);
    tell_unmade(*rules, run);
    return as_value(grown_faces(*std::move(grown), std::make_shared<const GrowthRules>(*std::move(rules)),
                                std::move(start), std::move(ground->around), in.units(),
                                in.word("parts") == "names" ? FaceParts::by_name : FaceParts::each, run));
}

Result<RulesSite> site_of(const Inputs& in, const Run& run) {
    const auto ground = unbounded_ground(in, run);
    if (!ground) return ground.error();
    return rules_site(in, ground->setting, words_of_faces());
}

constexpr const char* preset_rules =
    "tile becomes\n"
    "  split 2 along, 2 across\n"
    "  tile, where random(1) < 0.6\n"
    "  pane\n"
    "pane becomes\n"
    "  inset 0.15\n"
    "  frame, around\n"
    "  glass, inside";

}  // namespace

StepKind cut_faces() {
    return {
        .key = "growth.faces",
        .verb = "Cut faces by rules",
        .synonyms = "subdivide split inset extrude taper recursive rule grammar panels facade tiles pattern",
        .sentence =
            "Cut the faces of {mesh} by {formula} over {generations} generations, from seed {seed}[more|, "
            "{smallest}][smallest=above| {least}][more|, {where}][where=outline| {outline}][where=form| "
            "{form}][more|, {near}][near=attractors| {attractors}, where those within {reach} stay]" +
            std::string(reading_sentence) +
            "[more|; at most {most} faces][more|, and take {parts} for a part].",
        .slots = with_surroundings(
            "faces",
            {changed_mesh_slot(), rules_slot(RulesLanguage::faces, preset_rules), generations_slot("3"),
             seed_slot("seed", "Seed", "1"),
             choice_slot("smallest", "Smallest",
                         {{"any", "of any size", ""},
                          {"above", "none smaller than a square of",
                           "faces with less area than a square of this side stay as they are"}}),
             length_above_zero_slot("least", "Smallest side", "0.1 m"), most_parts_slot(),
             choice_slot("parts", "Parts",
                         {{"each", "each face", "faces are pointed at, picked and marked one by one"},
                          {"names", "all faces of one name", ""}})}),
        .results = {Kind::mesh},
        .result_name = "tiles",
        .help =
            "Faces that are cut into others, generation after generation. A rule begins with the name of a "
            "face and ‘becomes’; the line below says what is done: ‘split 3 along, 2 across’, ‘cut 0.3 "
            "along’, ‘inset 10 cm’, ‘raised 30 cm, tapered 0.6’. Each line below that names what pieces "
            "become and, behind commas, which: those ‘inside’ or ‘around’, ‘above’ or ‘beside’, ‘where’ a "
            "condition holds or by ‘chance’; the first line that fits is taken. Faces without a rule stay. "
            "The first rule is for the faces that it begins with. What was watertight stays so: faces get "
            "the corners of those beside them on their sides.",
        .estimate = estimate,
        .make = make,
        .contexts = {{"formula", context(site_of)}},
    };
}

}  // namespace plume
