// Any text: the reader of rules answers with rules or an error that says where, and what they grow keeps its
// shape whatever they ask for.

#include <cmath>
#include <cstddef>
#include <cstdint>
#include <memory>
#include <string_view>

#include "core/growth/grown_faces.hpp"
#include "core/growth/growth.hpp"
#include "fuzz/demand.hpp"

namespace {

using namespace plume;

RulesSetting setting() {
    RulesSetting made;
    made.attractors = true;
    made.inherited = {{"warmth", plain_number, InputRef{InputType::column, part_input::first_own}, {}}};
    return made;
}

void grow_by(const GrowthRules& rules) {
    GrowthStart start;
    start.placements = {Placement{}, Placement{{3, 0, 0}}};
    start.identities = {1, 2};
    start.inherited = {Doubles{0.5, -2}};
    GrowthLimits limits;
    limits.generations = 6;
    limits.most = 300;
    limits.apart = rules.parts.size() > 1 ? 0.01 : 0;
    Surroundings around;
    around.attractors = std::make_shared<const AttractorSearch>(*Attractors::make({{"a", {1, 2, 3}, 1}}));
    const auto grown = grow(rules, start, limits, around, Run());
    if (!grown) return demand(!sentence(grown.error()).empty());
    const Population& parts = grown->parts;
    demand(parts.size() >= 2 && parts.size() <= limits.most && parts.generations.back() == parts.size());
    for (std::size_t part = 0; part < parts.size(); ++part) {
        const Placement& placement = parts.placements[part];
        demand(is_finite(placement.origin) && std::abs(dot(placement.up, placement.along)) < 1e-9);
        demand(parts.sizes[part] > 0 && std::isfinite(parts.sizes[part]));
        demand(part < 2 ? parts.parents[part] == PartTree::none : parts.parents[part] < part);
        demand(parts.names[part] < rules.parts.size() && parts.lines[part] < rules.line_texts.size());
    }
}

Mesh three_faces() {
    Mesh::Parts parts;
    parts.x = Column(Doubles{0, 1, 1, 0, 2, 2, 3});
    parts.y = Column(Doubles{0, 0, 1, 1, 0.3, 1, 0.5});
    parts.z = Column(Doubles{0, 0, 0, 0.2, 0, 0, 1});
    parts.corners = {0, 1, 2, 3, 1, 4, 2, 1, 4, 6, 5, 2};
    parts.first = {0, 4, 7, 12};
    return *Mesh::make(std::move(parts));
}

void cut_by(const GrowthRules& rules) {
    const Mesh mesh = three_faces();
    FaceStart start = start_on(mesh, 1);
    start.inherited = {Doubles{0.5, -2, 1}};
    FaceLimits limits;
    limits.generations = 5;
    limits.most = 300;
    Surroundings around;
    around.attractors = std::make_shared<const AttractorSearch>(*Attractors::make({{"a", {1, 2, 3}, 1}}));
    auto grown = grow_faces(rules, start, limits, around, Run());
    if (!grown) return demand(!sentence(grown.error()).empty());
    demand(grown->faces.count() <= limits.most);
    const std::size_t faces = grown->faces.count();
    const auto kept = std::make_shared<const GrowthRules>(rules);
    const auto made = grown_faces(*std::move(grown), kept, start, around, Units{}, FaceParts::each, Run());
    if (!made) return demand(!sentence(made.error()).empty());
    demand(made->face_count() <= faces);
    const PartMarks& marks = *made->part_marks();
    demand(!marks.mark(marks.count - 1).empty() && !marks.why(marks.count - 1).empty());
}

}  // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const std::string_view text(reinterpret_cast<const char*>(data), size);
    for (const RulesLanguage language : {RulesLanguage::parts, RulesLanguage::faces}) {
        RulesSetting where = setting();
        where.language = language;
        const auto rules = check_rules(text, where);
        if (rules) {
            language == RulesLanguage::parts ? grow_by(*rules) : cut_by(*rules);
            continue;
        }
        demand(rules.error().begin <= rules.error().end && rules.error().end <= size);
        demand(!sentence(rules.error()).empty());
    }
    return 0;
}
