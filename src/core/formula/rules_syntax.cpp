#include "core/formula/rules_syntax.hpp"

#include <algorithm>

#include "core/formula/face_rules_syntax.hpp"
#include "core/formula/rules_parser.hpp"

namespace plume {
namespace {

constexpr std::array<RuleWord, 23> words{{
    {"becomes", "begins a rule: what a part turns into stands in the lines below"},
    {"or", "begins another choice of a rule"},
    {"otherwise", "begins the choice that is taken where no other is"},
    {"nothing", "what a part becomes that ends here"},
    {"where", "only where a condition holds: where depth < 5"},
    {"chance", "only so often: chance 0.3"},
    {"times", "several copies: leaf times 6, of which copy and copies are the number and how many"},
    {"moved", "how far from the part it comes of: moved 1 m up"},
    {"turned", "about one of its own axes: turned 30° about along"},
    {"about", "the axis that it is turned about"},
    {"bent", "its up axis leans by so much towards a goal: bent 5° towards sky"},
    {"towards", "what it is bent to: sky, ground or attractors"},
    {"sized", "times the size of the part it comes of, or a length: sized 0.8, sized 20 cm"},
    {"mirrored", "seen in a mirror: mirrored across"},
    {"with", "hands down a value: with lean = lean * 0.9"},
    {"up", "the way a part stands"},
    {"down", "against the way a part stands"},
    {"along", "the way a part looks"},
    {"back", "against the way a part looks"},
    {"across", "to the left of the way a part looks"},
    {"sky", "straight up"},
    {"ground", "straight down"},
    {"attractors", "the nearest of the attractors of this step"},
}};

class PartRulesParser : public RulesParser {
public:
    PartRulesParser(std::string_view text, const std::vector<Token>& tokens)
        : RulesParser(text, tokens, words) {}

private:
    Status made_line(RuleChoice& choice) override {
        return is_word("nothing") && !makes_nothing() ? nothing_line(choice) : part_line(choice);
    }

    Error not_a_clause() const override {
        return wrong(
            quoted() + " " + here() + " is not expected there",
            "Behind a comma stands one of moved, turned, bent, sized, mirrored, with, where, chance.");
    }

    Status own_clause(PartLine& line) override {
        PartClause clause;
        clause.begin = token().offset;
        Status read = is_word("moved")      ? moved(clause)
                      : is_word("turned")   ? turned(clause)
                      : is_word("bent")     ? bent(clause)
                      : is_word("sized")    ? read_into(clause, PartClause::Type::sized)
                      : is_word("mirrored") ? mirrored(clause)
                                            : Status(not_a_clause());
        if (!read) return read;
        clause.end = before().end();
        line.clauses.push_back(std::move(clause));
        return Done{};
    }

    Status behind_name(PartLine& line) override {
        if (!is_word("times")) return Done{};
        pass();
        const auto count = expression(false);
        if (!count) return count.error();
        line.times = *count;
        return Done{};
    }

    Status way(PartClause& clause, std::string_view after) {
        constexpr std::pair<std::string_view, PartWay> ways[] = {
            {"up", {2, 1}}, {"down", {2, -1}}, {"along", {0, 1}}, {"back", {0, -1}}, {"across", {1, 1}}};
        for (const auto& [word, meant] : ways) {
            if (!is_word(word)) continue;
            clause.way = meant;
            pass();
            return Done{};
        }
        return wrong("a way is missing behind ‘" + std::string(after) + "’ " + here(),
                     "Add up, down, along, back or across.");
    }

    Status moved(PartClause& clause) {
        if (Status read = read_into(clause, PartClause::Type::moved); !read) return read;
        return way(clause, "moved");
    }

    Status turned(PartClause& clause) {
        if (Status read = read_into(clause, PartClause::Type::turned); !read) return read;
        if (!is_word("about"))
            return wrong("‘turned’ has no axis " + here(), "Add about up, about along or about across.");
        pass();
        return way(clause, "about");
    }

    Status bent(PartClause& clause) {
        if (Status read = read_into(clause, PartClause::Type::bent); !read) return read;
        if (!is_word("towards"))
            return wrong("‘bent’ has no goal " + here(), "Add towards sky, ground or attractors.");
        pass();
        constexpr std::pair<std::string_view, BendGoal> goals[] = {
            {"sky", BendGoal::sky}, {"ground", BendGoal::ground}, {"attractors", BendGoal::attractors}};
        for (const auto& [word, goal] : goals) {
            if (!is_word(word)) continue;
            clause.goal = goal;
            pass();
            return Done{};
        }
        return wrong("a goal is missing behind ‘towards’ " + here(), "Add sky, ground or attractors.");
    }

    Status mirrored(PartClause& clause) {
        clause.type = PartClause::Type::mirrored;
        pass();
        return way(clause, "mirrored");
    }
};

}  // namespace

std::vector<const PartLine*> part_lines(const RulesSyntax& rules) {
    std::vector<const PartLine*> lines;
    for (const Rule& rule : rules.rules)
        for (const RuleChoice& choice : rule.choices)
            for (const PartLine& line : choice.parts)
                lines.push_back(&line);
    return lines;
}

std::set<std::string, std::less<>> handed_names(const RulesSyntax& rules) {
    std::set<std::string, std::less<>> names;
    for (const PartLine* line : part_lines(rules))
        for (const PartClause& clause : line->clauses)
            if (clause.type == PartClause::Type::handed) names.insert(clause.name);
    return names;
}

std::span<const RuleWord> rule_words(RulesLanguage language) {
    return language == RulesLanguage::parts ? std::span<const RuleWord>(words) : face_rule_words();
}

Result<RulesSyntax> parse_rules(std::string_view text, RulesLanguage language) {
    return language == RulesLanguage::parts ? parsed_rules<PartRulesParser>(text) : parse_face_rules(text);
}

}  // namespace plume
