#include "core/formula/face_rules_syntax.hpp"

#include "core/formula/rules_parser.hpp"

namespace plume {
namespace {

constexpr std::array<RuleWord, 18> words{{
    {"becomes", "begins a rule: what is done to a face and what its pieces become stands in the lines below"},
    {"or", "begins another choice of a rule"},
    {"otherwise", "begins the choice that is taken where no other is"},
    {"nothing", "a face, or pieces of it, that are left out: a hole"},
    {"where", "only where a condition holds: where area > 1 m^2"},
    {"chance", "only so often: chance 0.3"},
    {"with", "hands down a value: with lift = lift / 2"},
    {"split", "into so many pieces: split 3 along, 2 across"},
    {"along", "the way of the first side of a face"},
    {"across", "the way of its last side, against it"},
    {"cut", "into two, at a share or a length from its beginning: cut 0.3 along"},
    {"inset", "a smaller face within, and a piece at each side: inset 10 cm, or a share: inset 0.2"},
    {"raised", "pulled out of its plane, with a piece at each side: raised 30 cm"},
    {"tapered", "how large the top is against the face: raised 30 cm, tapered 0.6; 0 is a point"},
    {"inside", "only the piece within"},
    {"around", "only the pieces at the sides of what is inset"},
    {"above", "only the piece on top"},
    {"beside", "only the pieces at the sides of what is raised"},
}};

class FaceRulesParser : public RulesParser {
public:
    FaceRulesParser(std::string_view text, const std::vector<Token>& tokens)
        : RulesParser(text, tokens, words) {}

private:
    Status made_line(RuleChoice& choice) override {
        if (makes_nothing()) return part_line(choice);
        if (!choice.act) return is_word("nothing") ? nothing_line(choice) : act(choice);
        return is_word("nothing") ? left_out(choice) : part_line(choice);
    }

    Error not_a_clause() const override {
        return wrong(quoted() + " " + here() + " is not expected there",
                     "Behind a comma stands one of inside, around, above, beside, with, where, chance.");
    }

    Status own_clause(PartLine& line) override {
        constexpr std::pair<std::string_view, PiecePlace> places[] = {{"inside", PiecePlace::inside},
                                                                      {"around", PiecePlace::around},
                                                                      {"above", PiecePlace::above},
                                                                      {"beside", PiecePlace::beside}};
        for (const auto& [word, place] : places) {
            if (!is_word(word)) continue;
            if (line.on != PiecePlace::anywhere)
                return wrong("a second place " + here(), "Write a line for each of them.");
            if (act_ != (place == PiecePlace::inside || place == PiecePlace::around ? FaceAct::Type::inset
                                                                                    : FaceAct::Type::raised))
                return wrong("there is nothing ‘" + std::string(word) + "’ " + here(),
                             "‘inside’ and ‘around’ are pieces of a face that is inset, ‘above’ and ‘beside’ "
                             "of one that is raised.");
            line.on = place;
            pass();
            return Done{};
        }
        return not_a_clause();
    }

    // Pieces that become a hole.
    Status left_out(RuleChoice& choice) {
        PartLine line;
        line.begin = token().offset;
        pass();
        if (Status read = clauses(line); !read) return read;
        choice.parts.push_back(std::move(line));
        return Done{};
    }

    // What is done ----------------------------------------------------------------------------------------

    Status act(RuleChoice& choice) {
        FaceAct act;
        act.begin = token().offset;
        Status read = is_word("split")    ? split(act)
                      : is_word("cut")    ? cut(act)
                      : is_word("inset")  ? number_of(act, FaceAct::Type::inset)
                      : is_word("raised") ? raised(act)
                                          : Status(no_act());
        if (!read) return read;
        if (!ends_line())
            return wrong(quoted() + " " + here() + " is not expected there",
                         "What the pieces become stands in the lines below.");
        act.end = before().end();
        act_ = act.type;
        choice.act = act;
        return Done{};
    }
    Error no_act() const {
        return wrong(quoted() + " " + here() + " is not what can be done to a face",
                     "Begin with split, cut, inset or raised, and name the pieces in the lines below.");
    }

    Status number_of(FaceAct& act, FaceAct::Type type) {
        act.type = type;
        pass();
        const auto line = expression(true);
        if (!line) return line.error();
        act.number = *line;
        return Done{};
    }

    // A number that counts pieces along or across; without either, both ways.
    Status split(FaceAct& act) {
        act.type = FaceAct::Type::split;
        pass();
        const auto first = expression(true);
        if (!first) return first.error();
        if (ends_line()) {
            act.along = act.across = *first;
            return Done{};
        }
        if (Status read = into_way(act, *first); !read) return read;
        if (!is_sign(",")) return Done{};
        pass();
        const auto second = expression(true);
        if (!second) return second.error();
        return into_way(act, *second);
    }
    Error no_way() const {
        return wrong(ends_line() ? "a way is missing " + here() : quoted() + " " + here() + " is no way",
                     "Write along or across behind the number.");
    }
    Status into_way(FaceAct& act, LineNumber line) {
        if (!is_word("along") && !is_word("across")) return no_way();
        std::optional<LineNumber>& way = is_word("along") ? act.along : act.across;
        if (way) return wrong("a second " + quoted() + " " + here(), "Split along and across.");
        way = line;
        pass();
        return Done{};
    }

    Status cut(FaceAct& act) {
        if (Status read = number_of(act, FaceAct::Type::cut); !read) return read;
        if (!is_word("along") && !is_word("across")) return no_way();
        act.cut_along = is_word("along");
        pass();
        return Done{};
    }

    Status raised(FaceAct& act) {
        if (Status read = number_of(act, FaceAct::Type::raised); !read) return read;
        if (!is_sign(",")) return Done{};
        pass();
        if (!is_word("tapered"))
            return wrong(quoted() + " " + here() + " is not expected there", "Write , tapered 0.6.");
        pass();
        const auto line = expression(true);
        if (!line) return line.error();
        act.tapered = *line;
        return Done{};
    }

    FaceAct::Type act_ = FaceAct::Type::split;  // of the choice in hand
};

}  // namespace

std::span<const RuleWord> face_rule_words() {
    return words;
}

Result<RulesSyntax> parse_face_rules(std::string_view text) {
    return parsed_rules<FaceRulesParser>(text);
}

}  // namespace plume
