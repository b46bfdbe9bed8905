#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/geometry/frames/bar_bodies.hpp"
#include "core/geometry/frames/node_normals.hpp"
#include "core/steps/frames/frame_support.hpp"
#include "core/steps/solids/body_support.hpp"

namespace plume {
namespace {

// Lines a formula may give; sizes it does not give are those of the sentence.
constexpr const char *width = "width", *height = "height", *wall = "wall", *flange = "flange", *turn = "turn";

SectionShape shape_from(const std::string& word) {
    constexpr std::pair<const char*, SectionShape> shapes[] = {
        {"round", SectionShape::round}, {"tube", SectionShape::tube},  {"rectangle", SectionShape::rectangle},
        {"box", SectionShape::box},     {"i", SectionShape::i},        {"angle", SectionShape::angle},
        {"flat", SectionShape::flat},   {"strip", SectionShape::strip}};
    for (const auto& [key, shape] : shapes)
        if (word == key) return shape;
    return SectionShape::round;
}

BarEnds ends_from(const std::string& word) {
    if (word == "back") return BarEnds::back;
    if (word == "clear") return BarEnds::clear;
    return word == "mitred" ? BarEnds::mitred : BarEnds::none;
}

// Only sizes that the section has are asked for.
BarSection section_of(const Inputs& in) {
    const auto size = [&](const char* key) { return in.has(key) ? in.number(key) : 0.0; };
    return {shape_from(in.word("section")), in.has("diameter") ? in.number("diameter") : size("width"),
            size("height"), size("wall"), size("flange")};
}

Result<FormulaSite> site_of(const Inputs& in) {
    FormulaSite site = site_on_members(in.held<BarFrame>("frame"));
    site.results = {{width, "a length, the diameter of round ones", false, true},
                    {height, "a length", false, true},
                    {wall, "a length", false, true},
                    {flange, "a length", false, true},
                    {turn, "an angle about the member", false, true}};
    return site;
}

// What a formula gives for each member, where there is one.
struct Sizes {
    std::optional<Doubles> width, height, wall, flange, turn;

    BarSection of(BarSection section, std::size_t member) const {
        const auto take = [&](const std::optional<Doubles>& from, double& to) {
            if (from) to = (*from)[member];
        };
        take(width, section.width);
        take(height, section.height);
        take(wall, section.wall);
        take(flange, section.flange);
        return section;
    }
};

Result<Sizes> sizes_of(const Inputs& in, const Run& run) {
    Sizes sizes;
    if (in.word("sizes") != "formula") return sizes;
    const Result<FormulaSite> site = site_of(in);
    Result<CheckedFormula> formula = checked_formula(in, *site);
    if (!formula) return formula.error();
    for (const auto& [name, dimension, to] : {std::tuple(width, a_length, &sizes.width),
                                              {height, a_length, &sizes.height},
                                              {wall, a_length, &sizes.wall},
                                              {flange, a_length, &sizes.flange},
                                              {turn, an_angle, &sizes.turn}}) {
        auto made = computed(*formula, name, dimension, *site, in, run);
        if (!made) return made.error();
        *to = *std::move(made);
    }
    return sizes;
}

// Which way the sections' ups point.
Result<std::function<Vec3(std::size_t)>> ups_of(const Inputs& in, const BarFrame& frame, const Run& run) {
    using Up = std::function<Vec3(std::size_t)>;
    const std::string& rule = in.word("up");
    if (rule == "place") {
        if (in.places("place").empty())
            return about_slot(Error{ErrorCode::missing_input, "", "is not given", "Add one."}, "place");
        return Up([&frame, goal = in.places("place").front().position](std::size_t member) {
            const Member& bar = frame.members()[member];
            return goal - (frame.start(bar) + frame.end(bar)) * 0.5;
        });
    }
    if (rule != "normal") return Up([](std::size_t) { return Vec3{0, 0, 1}; });
    auto normals = node_normals(frame, run);
    if (!normals) return normals.error();
    return Up(
        [&frame, all = std::make_shared<const std::vector<Vec3>>(*std::move(normals))](std::size_t member) {
            const Member& bar = frame.members()[member];
            return (*all)[bar.from] + (*all)[bar.to];
        });
}

// Kilograms a cubic metre, of the middle of each sort.
constexpr std::pair<const char*, double> materials[] = {
    {"steel", 7850}, {"timber", 450}, {"aluminium", 2700}};

// Kilograms a volume of 1 in study lengths.
double density_of(const Inputs& in) {
    const double metre = metres_per(in.units().length);
    double density = in.has("density") ? in.number("density") : 0;
    for (const auto& [key, known] : materials)
        if (in.word("material") == key) density = known;
    return density * metre * metre * metre;
}

std::string mass_text(double kilograms) {
    return kilograms < 1000 ? short_text(kilograms, 3) + " kg" : short_text(kilograms / 1000, 3) + " t";
}

void say(const BarBodies& made, const Inputs& in, const Run& run) {
    const std::string material = in.word("material") == "other" ? "" : " of " + in.word("material");
    if (made.volume > 0)
        run.remark("Together " + quantity_text({made.volume, {3, 0}}, in.units(), 3) + ", " +
                   mass_text(made.volume * density_of(in)) + material + ".");
    const auto told = [&](double length) { return quantity_text({length, a_length}, in.units(), 3); };
    if (made.used_up > 0)
        run.remark_loss(count_text(made.used_up, "member is", "members are") +
                        " shorter than what is cut off at the nodes, and left out.");
    if (made.overlapping_nodes > 0)
        run.remark("Bars run into each other at " + count_text(made.overlapping_nodes, "node", "nodes") +
                   ": cut back by " + told(made.clearing) + " none would.");
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto& frame = in.held<BarFrame>("frame");
    const auto sizes = sizes_of(in, run);
    if (!sizes) return sizes.error();
    const auto ups = ups_of(in, frame, run);
    if (!ups) return ups.error();
    const BarSection section = section_of(in);
    const double turned = in.number("turn");
    const BarPlan plan{
        [&](std::size_t member) { return sizes->of(section, member); },
        *ups,
        [&](std::size_t member) { return turned + (sizes->turn ? (*sizes->turn)[member] : 0); },
        ends_from(in.word("ends")),
        in.has("back") ? in.number("back") : 0,
        density_of(in)};
    auto made = bar_bodies(frame, plan, run);
    if (!made) return about_slot(made.error(), in.word("sizes") == "formula" ? "formula" : "frame");
    say(*made, in, run);
    return Value(std::move(made->mesh));
}

Estimate estimate(const Inputs& in) {
    const std::string& section = in.word("section");
    const double vertices = section == "round" ? 32 : section == "tube" ? 64 : section == "i" ? 24 : 12;
    const auto members = static_cast<double>(in.held<BarFrame>("frame").member_count());
    const auto fields = static_cast<double>(in.held<BarFrame>("frame").fields().size() + 1);
    return {members * (vertices * (44 + 8 * fields) + 350), members * vertices * 4e-8};
}

}  // namespace

StepKind make_bars() {
    const auto size = [](const char* key, const char* label, const char* preset) {
        return length_above_zero_slot(key, label, preset);
    };
    return {
        .key = "mesh.bars",
        .verb = "Give members sections",
        .synonyms =
            "bars beams struts profile pipe tube round rectangle box angle flat strip timber steel solid "
            "extrude thicken",
        .sentence =
            "Give the members of {frame} {section} sections[section=round,tube| of "
            "{diameter}][section=rectangle,box,i,angle| of {width} by {height}][section=flat,strip| of "
            "{width}][section=tube,box,i,angle,flat|, {wall} thick][section=i| with flanges of "
            "{flange}][more|, {sizes}][sizes=formula| {formula}][more|, {up}][up=place| {place}][more|, "
            "turned by {turn}], {ends}[ends=back| {back}], of {material}[material=other| {density} kg/m³].",
        .slots = {frame_slot(),
                  choice_slot("section", "Section",
                              {{"round", "round", "solid"},
                               {"tube", "tube", "round and hollow"},
                               {"rectangle", "rectangular", "solid"},
                               {"box", "box", "rectangular and hollow"},
                               {"i", "I", "a web between two flanges"},
                               {"angle", "angle", "two legs"},
                               {"flat", "flat", "its thickness along its up"},
                               {"strip", "strip", "a surface without thickness"}}),
                  size("diameter", "Diameter", "0.12 m"), size("width", "Width", "0.1 m"),
                  size("height", "Height", "0.16 m"), size("wall", "Thickness", "8 mm"),
                  size("flange", "Flange", "12 mm"),
                  choice_slot("sizes", "Sizes",
                              {{"alike", "all alike", ""},
                               {"formula", "by", "lines width, height, wall, flange, turn for each member"}}),
                  formula_slot("formula", formula_label, "width = 60 mm + length / 40"),
                  choice_slot("up", "Up",
                              {{"z", "upright", "their height as near to Z as can be"},
                               {"normal", "square to the surface", "that the frame follows"},
                               {"place", "towards", "a place"}}),
                  places_slot("place", "Place", {{"middle", "0 m", "0 m", "0 m", "1"}}),
                  angle_slot("turn", "Turn", "0°"),
                  choice_slot(
                      "ends", "Ends",
                      {{"nodes", "to their nodes", "running into each other there"},
                       {"back", "cut back at both ends by", "a length"},
                       {"clear", "cut back until they are clear", "at each node as far as it takes"},
                       {"mitred", "mitred where two meet", "elsewhere cut back until they are clear"}}),
                  length_slot("back", "Cut back", "0.1 m"),
                  choice_slot("material", "Material",
                              {{"steel", "steel", "7850 kg/m³"},
                               {"timber", "timber", "450 kg/m³, softwood"},
                               {"aluminium", "aluminium", "2700 kg/m³"},
                               {"other", "a material of", "a density"}}),
                  density_slot()},
        .results = {Kind::mesh},
        .result_name = "bars",
        .help =
            "A closed part of a mesh for every member, which can be picked and carries the numbers of its "
            "member. A formula gives sizes member by member, from its length, height, way or any number. "
            "Where "
            "bars run into each other the step says at how many nodes, and the least cut-back that clears "
            "them all, reckoned as if bars were as round as their sections reach. It says what they come to "
            "together, and each carries its mass in kilograms.",
        .drawn_plain = true,
        .estimate = estimate,
        .make = make,
        .contexts = {{"formula", context(site_of)}},
    };
}

}  // namespace plume
