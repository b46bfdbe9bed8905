// Every error that a step can be brought to names its place and the mend, in words that go together.

#include <fstream>
#include <nlohmann/json.hpp>
#include <set>

#include "core/catalogue/every_kind.hpp"
#include "core/reference/refusals.hpp"

namespace plume {
namespace {

using test::StudyMaker;

// Values that some slot of every type refuses.
std::vector<SlotValue> odd_values(const SlotSpec& slot) {
    std::vector<SlotValue> values;
    const auto add = [&](std::initializer_list<const char*> texts, auto made) {
        for (const char* text : texts)
            values.emplace_back(made(text));
    };
    const auto number = [](const char* text) { return NumberText{text}; };
    const auto formula = [](const char* text) { return FormulaText{text, {}, {}}; };
    const auto word = [](const char* text) { return WordKey{text}; };
    const auto lines = [](const char* text) { return Lines{text}; };
    if (slot.numeric())
        add({"", "0", "-1", "1", "2.5", "1e12", "1e300", "3 m", "30°", "2 m^2", "1 m + 30°", "1/0",
             "sqrt(-1)", "nothing", "3 +", "1e-300 m", "100000"},
            number);
    if (slot.type == SlotType::formula)
        add({"", "3 m", "1/0", "x", "30°", "sqrt(-1)", "a = 1\na = 2", "b = c\nc = b",
             "height = -1 m\nradius = 0 m", "to_z = 30°", "x = 1\ny = 2\nz = 3", "z = x", "2x", "sin(", "0",
             "1", "radius = 1e300 m\nheight = 1 m", "r = x / 0 m"},
            formula);
    if (slot.type == SlotType::choice || slot.type == SlotType::name || slot.type == SlotType::camera)
        add({"", "sideways", "x", "é"}, word);
    if (slot.type == SlotType::response)
        add({"", "sideways", "drawn", "drawn 0,0", "drawn 0,0 0,1 1,1", "drawn 0,0 2,1", "drawn a,b 1,1"},
            word);
    if (slot.type == SlotType::text || slot.type == SlotType::addresses)
        add({"", "a", "1\n2\n3", "nan, nan\n1, 2", "0:1, 1:0", "-5", "999999", "x, y\n", "1, 2", "i1 j",
             "100,100"},
            lines);
    if (slot.type == SlotType::target) add({"", "{", "{nothing}", "../up", "/a", "a\nb"}, word);
    if (slot.type == SlotType::results) {
        const auto listed = [&](const std::string& name, const std::string& as) {
            values.emplace_back(ResultList{ResultList::Of::listed, "", {{name, as}}});
        };
        values.emplace_back(ResultList{});
        values.emplace_back(ResultList{ResultList::Of::heading, "Nowhere", {}});
        values.emplace_back(ResultList{ResultList::Of::seen, "", {}});
        listed("nothing", "");
        listed("hills", "");
        listed("facets", "carpet");
        listed("subject", "");
    }
    if (slot.type == SlotType::file) values.emplace_back(FileName{"nowhere.csv"});
    if (slot.type == SlotType::places) {
        values.emplace_back(Places{});
        for (const char* text : {"", "a", "1/0", "30°", "1e300"})
            values.emplace_back(
                Places{{"first", text, "0 m", "0 m", "1"}, {"second", "0 m", "0 m", "0 m", text}});
        values.emplace_back(Places{{"one", "0 m", "0 m", "0 m", "0"}});
        values.emplace_back(Places{{"a", "0 m", "0 m", "0 m", "1"}, {"b", "1 m", "0 m", "0 m", "1"}});
        values.emplace_back(Places{{"a", "0 m", "0 m", "0 m", "1"},
                                   {"b", "0 m", "0 m", "0 m", "1"},
                                   {"c", "0 m", "0 m", "0 m", "1"}});
        values.emplace_back(Places{{"a", "0 m", "0 m", "0 m", "1"},
                                   {"b", "4 m", "4 m", "0 m", "1"},
                                   {"c", "4 m", "0 m", "0 m", "1"},
                                   {"d", "0 m", "4 m", "0 m", "1"}});
    }
    return values;
}

// Results that some step refuses: one point, a scatter, a row, a closed one, gaps, all in one place, no
// length.
std::vector<std::string> add_odd_results(StudyMaker& maker) {
    std::vector<std::string> names;
    const auto add = [&](const char* kind, const char* name) {
        maker.add(kind, name);
        names.emplace_back(name);
    };
    add("points.typed", "single");
    maker.set("single", "rows", Lines{"1, 2, 3"});
    add("points.typed", "strewn");
    maker.set("strewn", "rows", Lines{"1, 2, 3\n2, 3, 4\n9, 1, 1\n4, 4, 8"})
        .word("strewn", "arrangement", "scatter");
    add("points.typed", "pile");
    maker.set("pile", "rows", Lines{"1, 2, 3\n1, 2, 3\n1, 2, 3\n1, 2, 3"});
    add("points.typed", "straight");
    maker.set("straight", "rows", Lines{"0, 0, 0\n1, 0, 0\n2, 0, 0\n3, 0, 0"});
    add("points.keep_where", "holes");
    maker.set("holes", "points", ResultName{"ground"}).formula("holes", "mod(i + j, 3) > 0");
    add("points.keep_where", "last");
    maker.set("last", "points", ResultName{"ground"}).formula("last", "i + j == 0");
    add("lattice.polar", "disc");
    maker.number("disc", "rings", "3").number("disc", "spokes", "8");
    add("lattice.block", "block");
    maker.number("block", "columns", "2").number("block", "rows", "2").number("block", "layers", "2");
    add("lattice.triangular", "triangles");
    maker.number("triangles", "columns", "5").number("triangles", "rows", "4");
    add("curve.join", "line");
    maker.set("line", "points", ResultName{"straight"}).word("line", "route", "in_order");
    add("field.formula", "constant");
    maker.set("constant", "points", ResultName{"ground"}).formula("constant", "1");
    add("field.formula", "undefined");
    maker.set("undefined", "points", ResultName{"ground"}).formula("undefined", "sqrt(-1 - i)");
    add("field.formula", "angles");
    maker.set("angles", "points", ResultName{"triangles"}).formula("angles", "30° * i");
    for (const char* name : {"hills", "reach", "perches", "flow", "placements", "roof", "facets", "rows",
                             "loop", "figure", "stations", "kept", "subject", "nowhere", ""})
        names.emplace_back(name);
    return names;
}

// What every step refuses says nothing of one: odd numbers and units, words it does not have, formulas with
// mistakes, results that are missing or of another kind.
bool is_of_its_kind(const Error& error) {
    static const std::set<ErrorCode> general{
        ErrorCode::bad_number,   ErrorCode::unit_mismatch,    ErrorCode::syntax,
        ErrorCode::unknown_name, ErrorCode::missing_input,    ErrorCode::reads_below,
        ErrorCode::wrong_form,   ErrorCode::division_by_zero, ErrorCode::name_clash,
        ErrorCode::input_failed, ErrorCode::over_budget,      ErrorCode::bad_name,
        ErrorCode::too_long,     ErrorCode::not_finite,       ErrorCode::wrong_kind,
        ErrorCode::out_of_memory};
    const bool limit = error.message.starts_with("has to be at least ") ||
                       error.message.starts_with("has to be at most ") ||
                       error.message.starts_with("has to be above ");
    const bool word = error.message.starts_with("cannot be ‘");
    const bool file = error.code >= ErrorCode::file_missing && error.code <= ErrorCode::disk_full;
    return !general.contains(error.code) && !limit && !word && !file;
}

class EveryError : public testing::TestWithParam<std::string> {
protected:
    EveryError() : base_(test::ground(4, 3)), odd_results_(add_odd_results(base_)) {
        const Evaluation whole = test::run(base_.study, {}, &cache_);
        for (const std::string& name : odd_results_)
            if (const Outcome* outcome = whole.outcome(name))
                if (outcome->value) kinds_[name] = kind_of(*outcome->value);
        for (const auto& [id, outcome] : whole.outcomes)
            EXPECT_TRUE(outcome.value)
                << base_.study->step(id)->name << ": " << (outcome.error ? sentence(*outcome.error) : "");
    }

    void look_at(const StudyMaker& maker, const std::string& what) {
        const Outcome outcome = test::outcome_of_subject(maker.study, cache_);
        if (!outcome.error) return;
        const Error& error = *outcome.error;
        const std::string text = sentence(error);
        const StepKind& kind = *standard_catalogue().find(maker.study->step("subject")->kind);
        if (is_of_its_kind(error)) keep(kind.key, error);
        if (!seen_.insert(text).second) return;
        EXPECT_FALSE(error.where.empty()) << what << ": " << text;
        EXPECT_TRUE(kind.slot(error.slot) || error.where == "This step")
            << what << ": ‘" << error.slot << "’ " << text;
        EXPECT_FALSE(error.mend.empty()) << what << ": " << text;
        EXPECT_NE(error.code, ErrorCode::broken_invariant) << what << ": " << text;
        ASSERT_FALSE(error.message.empty()) << what;
        const std::string before_mend = text.substr(0, text.size() - error.mend.size());
        EXPECT_EQ(before_mend.find(": "), before_mend.rfind(": ")) << what << ": " << text;
        EXPECT_FALSE(text.ends_with("..") || text.find(".. ") != std::string::npos) << text;
        EXPECT_EQ(text.find("  "), std::string::npos) << text;
    }

    // One for each mend of each slot, the first that was met, whatever its numbers.
    void keep(const std::string& kind, const Error& error) {
        constexpr std::size_t most = 8;
        std::vector<Refusal>& kept = refusals_[kind];
        const auto same = [&](const Refusal& one) {
            return one.slot == error.slot && first_words(one.mend) == first_words(error.mend);
        };
        if (kept.size() == most || std::ranges::any_of(kept, same)) return;
        Error told = labelled(error, *standard_catalogue().find(kind));
        told.mend.clear();
        kept.push_back({error.slot, sentence(told), error.mend});
    }
    static std::string first_words(const std::string& text) {
        return text.substr(0, text.find_first_of("0123456789"));
    }

    StudyMaker base_;
    std::vector<std::string> odd_results_;
    std::map<std::string, Kind> kinds_;  // of those that there are
    ResultStore cache_{200'000'000};
    std::set<std::string> seen_;
    std::map<std::string, std::vector<Refusal>> refusals_;  // by kind
};

// Beside those that are in the file already.
void add_to(const char* file, const std::map<std::string, std::vector<Refusal>>& refusals) {
    std::map<std::string, nlohmann::ordered_json> table;
    if (std::ifstream before(file); before) {
        const auto kept = nlohmann::ordered_json::parse(before);
        for (const auto& [kind, list] : kept.items())
            table[kind] = list;
    }
    for (const auto& [kind, list] : refusals)
        for (const Refusal& refusal : list)
            table[kind].push_back({{"slot", refusal.slot}, {"text", refusal.text}, {"mend", refusal.mend}});
    std::ofstream(file) << nlohmann::ordered_json(table).dump(1) << '\n';
}

TEST_P(EveryError, HasAPlaceAMendAndWordsThatGoTogether) {
    for (const StepKind& kind : test::kinds_of(GetParam())) {
        const StudyMaker good = test::with_subject(base_, kind);
        for (const SlotSpec& slot : kind.slots) {
            for (const SlotValue& value : odd_values(slot)) {
                StudyMaker maker = good;
                maker.set("subject", slot.key, value);
                look_at(maker, kind.key + " " + slot.key);
            }
            if (slot.type != SlotType::reference) continue;
            for (const std::string& name : odd_results_) {
                StudyMaker maker = good;
                maker.set("subject", slot.key, ResultName{name});
                look_at(maker, kind.key + " " + slot.key + " " + name);
            }
        }
        // Every word, with the ground and with odd results to read.
        for (const SlotSpec& choice : kind.slots)
            for (const Word& word : choice.words) {
                StudyMaker maker = good;
                maker.word("subject", choice.key, word.key);
                look_at(maker, kind.key + " " + choice.key + " " + word.key);
                for (const SlotSpec& slot : kind.slots)
                    if (slot.type == SlotType::reference)
                        for (const auto& [name, of] : kinds_) {
                            if (std::ranges::find(slot.accepts, of) == slot.accepts.end()) continue;
                            StudyMaker odd = maker;
                            odd.set("subject", slot.key, ResultName{name});
                            look_at(odd, kind.key + " " + choice.key + " " + word.key + " " + name);
                        }
            }
    }
    // Of steps that stand as one, those refuse.
    EXPECT_GE(seen_.size(), GetParam() == "group" ? 0 : 6 * test::kinds_of(GetParam()).size());
    // What the reference tells of them; `scripts/reference` writes it anew.
    if (const char* file = std::getenv("PLUME_REFUSALS_TO")) add_to(file, refusals_);
    for (const auto& [kind, list] : refusals_) {
        const auto told = refusals_of(kind);
        EXPECT_TRUE(std::ranges::equal(told, list,
                                       [](const Refusal& a, const Refusal& b) {
                                           return a.slot == b.slot && a.text == b.text && a.mend == b.mend;
                                       }))
            << kind << ": the reference tells " << told.size() << " refusals, found were " << list.size()
            << "; run scripts/reference";
    }
}

INSTANTIATE_TEST_SUITE_P(Every, EveryError, testing::ValuesIn(test::families()), test::family_name);

}  // namespace
}  // namespace plume
