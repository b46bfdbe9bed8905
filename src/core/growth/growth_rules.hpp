#pragma once
// Rules of growth, checked and made into one graph: what every line of them reads, in which unit.
//
// A part has a place with axes, a size, which is a length, and values. A value line that some part hands down
// (`with lean = ...`) is what the first parts have of it; all others have what was handed to them, or what
// the part had that they came from. Any other value line is computed for each part when it is read.
//
// Rules of faces are rules whose parts are faces, with an act for every choice that makes something.

#include <memory>
#include <string>
#include <vector>

#include "core/formula/formula.hpp"
#include "core/formula/rules_syntax.hpp"

namespace plume {

// The numbers that rules read of a part, by the number of their column. copy and copies are known only where
// a part is made; identity is what random() goes by.
namespace part_input {
enum : std::uint32_t {
    x,
    y,
    z,
    size,
    depth,
    number,
    siblings,
    share,
    leaning,
    to_attractor,
    copy,
    copies,
    line,
    area,
    width,
    height,
    i,
    j,
    corners,
    identity,
    first_own
};
}

// What stands where rules are.
struct RulesSetting {
    Scope scope;
    std::vector<std::string> muted;
    // Numbers of the first parts that they hand down, columns from first_own on; then numbers at any place.
    std::vector<FormulaInput> inherited, at_place;
    bool attractors = false;  // whether there are any
    RulesLanguage language = RulesLanguage::parts;
    bool placed = true;  // whether rules know where parts stand
};

// A clause, ready to be computed. `node` is an angle, a length, a factor or what is handed.
struct GrownClause {
    PartClause::Type type = PartClause::Type::moved;
    PartWay way;
    BendGoal goal = BendGoal::sky;
    NodeId node = 0;
    bool absolute = false;   // sized: a length and not a factor
    std::size_t handed = 0;  // which of the values
};

struct GrownConditions {
    std::optional<NodeId> where, chance;
    bool any() const { return where || chance; }
};

// A line that makes parts, or says what pieces of a face become.
struct GrownLine {
    static constexpr std::uint16_t left_out = 0xffff;
    std::uint16_t part = 0;  // in GrowthRules::parts; left_out of pieces that become a hole
    PiecePlace on = PiecePlace::anywhere;
    std::uint16_t number = 0;  // in GrowthRules::line_texts
    std::optional<NodeId> times;
    GrownConditions conditions;
    std::vector<GrownClause> clauses;
    std::uint64_t salt =
        0;  // of the identities of what it makes: stays the same while other lines come and go
};

// What is done to a face; nodes as of FaceAct.
struct GrownAct {
    FaceAct::Type type = FaceAct::Type::split;
    std::optional<NodeId> along = {}, across = {}, number = {}, tapered = {};
    bool cut_along = true;
    bool absolute = false;  // number: a length and not a share
};

struct GrownChoice {
    GrownConditions conditions;
    std::optional<GrownAct> act;  // of faces that do not become nothing
    std::vector<GrownLine> lines;
};

// A value that parts have.
struct PartValue {
    std::string name;
    Dimension dimension;
    NodeId at_roots = 0;  // in GrowthRules::roots
};

struct PartField {
    std::string name;
    Dimension dimension;
    NodeId node = 0;
};

struct GrowthRules {
    CheckedFormula roots;                         // what the first parts have of values
    CheckedFormula formula;                       // all the rest
    std::vector<std::string> parts;               // the first is what stands at the roots
    std::vector<std::vector<GrownChoice>> rules;  // of each part; none: it stays
    std::vector<PartValue> values;                // columns from first_own on
    std::vector<PartField> fields;
    std::vector<std::string> line_texts;  // as they are written; the first is "where it began"
    std::vector<std::size_t> line_begins;
    std::vector<std::size_t> line_ends;
    std::uint16_t rest = 0;  // of faces: what pieces are called that no line names
};

// What rules can read, for editors; with the values they hand down.
std::vector<FormulaInput> inputs_of_rules(const RulesSetting& setting);

// Errors, in the language of the setting: those of reading and of formulas; name_clash (a part that is called
// like a control, a value or what rules read), unknown_name (a value that is handed and that no line gives;
// copy outside of a part), wrong units, missing_input (attractors that there are not), out_of_range (more
// than 65 000 lines). begin and end say where.
Result<GrowthRules> check_rules(std::string_view text, const RulesSetting& setting);

// The lines that make parts, by their numbers, from the first on.
std::vector<const GrownLine*> grown_lines(const GrowthRules& rules);
// The columns that these nodes of a graph of rules come from.
std::vector<std::uint32_t> columns_read(const Graph& graph, std::span<const NodeId> outputs);

// Parts that have a rule and that no line makes, as "twig".
std::vector<std::string> unmade_parts(const GrowthRules& rules);

}  // namespace plume
