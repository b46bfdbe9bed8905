#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/data/address_text.hpp"
#include "core/geometry/frames/frame_assembly.hpp"
#include "core/geometry/frames/row_links.hpp"
#include "core/geometry/moves/copies.hpp"
#include "core/steps/formula_support.hpp"

namespace plume {
namespace {

const PointLattice& first_points(const Inputs& in) {
    return in.lattice(in.word("what") == "rows" ? "points" : "first");
}

Result<FormulaSite> site_of(const Inputs& in) {
    FormulaSite site = site_on_lattice(first_points(in));
    site.results.push_back({"", "the last line is the shift: how many points further", true});
    return site;
}

bool is_whole(double number) {
    return std::abs(number - std::round(number)) < 1e-9 && std::abs(number) < 1e9;
}

// One for all, or one a point.
Result<Doubles> shifts(const Inputs& in, const Run& run) {
    if (in.word("by") == "number") return Doubles(1, in.number("shift"));
    const PointLattice& points = first_points(in);
    const Result<FormulaSite> site = site_of(in);
    auto made = numbers_by_formula(in, *site, plain_number, run);
    if (!made) return made.error();
    Doubles& numbers = *made;
    for (std::size_t at = 0; at < numbers.size(); ++at)
        if (points.present(at) && !is_whole(numbers[at]))
            return about_slot(Error{ErrorCode::out_of_range, "",
                                    "gives " + short_text(numbers[at]) + " at the point " +
                                        address_text(points, at) + ", and a shift is whole",
                                    "Write floor(…) around it."},
                              "formula");
    return std::move(numbers);
}

bool wraps(const Inputs& in, bool closed) {
    const std::string& word = in.word("wrapping");
    return word == "round" || (word == "closed" && closed);
}

// Shifts at least as large as the count of points reach none, or the same as smaller ones.
Status check_reach(const Doubles& all, std::size_t count, bool wrapping, const Run& run) {
    const auto most = static_cast<double>(count);
    const auto [least, largest] = std::ranges::minmax(all);
    const double furthest = std::abs(least) > std::abs(largest) ? least : largest;
    if (!(std::abs(furthest) >= most)) return Done{};
    if (wrapping) {
        const double same = std::fmod(std::fmod(furthest, most) + most, most);
        run.remark("Round rows of " + count_text(count, "point", "points") + " a shift of " +
                   short_text(furthest) + " is one of " + short_text(same) + ".");
        return Done{};
    }
    if (all.size() > 1) return Done{};  // of a formula others may reach
    return about_slot(
        Error{ErrorCode::out_of_range, "", "reaches beyond rows of " + count_text(count, "point", "points"),
              "Type at most " + short_text(most - 1) + ", or let the rows wrap round."},
        "shift");
}

RowLink link_of(const Inputs& in, const Doubles& all, bool wrapping) {
    const std::string& turns = in.word("turns");
    return {[&all](std::size_t index) {
                return static_cast<std::ptrdiff_t>(std::lround(all[all.size() == 1 ? 0 : index]));
            },
            turns == "both"          ? LinkTurns::both
            : turns == "alternating" ? LinkTurns::alternating
                                     : LinkTurns::forwards,
            wrapping, in.count("every")};
}

Result<BarFrame> rows_linked(const Inputs& in, const Doubles& all, const Run& run) {
    const PointLattice& points = in.lattice("points");
    const std::size_t reach = in.count("reach"), rows = points.counts()[1];
    if (reach > 0 && reach >= rows && !points.closed(1))
        return about_slot(Error{ErrorCode::out_of_range, "",
                                "reaches beyond the last of " + count_text(rows, "row", "rows"),
                                rows > 1 ? "Type at most " + std::to_string(rows - 1) + "."
                                         : "Type 0 to link the row to itself, or take points in rows."},
                          "reach");
    const bool wrapping = wraps(in, points.closed(0));
    if (Status fine = check_reach(all, points.counts()[0], wrapping, run); !fine) return fine.error();
    auto members = linked_rows(points, reach, link_of(in, all, wrapping), run);
    if (!members) return members.error();
    return assembled_frame({points, *std::move(members)}, run);
}

// Both behind each other, marked by which of the two they are of.
Result<BarFrame> points_linked(const Inputs& in, const Doubles& all, const Run& run) {
    const PointLattice &first = in.lattice("first"), &second = in.lattice("second");
    const bool by_share = in.word("match") == "share", wrapping = wraps(in, first.closed(0));
    const std::size_t from_count = first.address_count(), to_count = second.address_count();
    if (from_count == 0 || to_count == 0)
        return about_slot(Error{ErrorCode::empty_input, "", "have no point", "Choose others."},
                          from_count == 0 ? "first" : "second");
    if (wrapping && !by_share && from_count != to_count)
        return about_slot(
            Error{ErrorCode::unlike_arrangement, "",
                  "are " + std::to_string(to_count) + ", and the first " + std::to_string(from_count) +
                      ": wrapped round, numbers would not answer to each other",
                  "Match them by share, or divide both alike."},
            "second");
    if (Status fine = check_reach(all, to_count, wrapping, run); !fine) return fine.error();
    PointLattice::Parts nodes = stacked_parts({first, second});
    nodes.arrangement = Arrangement::scatter;
    nodes.counts = {nodes.x.size(), 1, 1};
    auto places = PointLattice::make(std::move(nodes));
    if (!places) return places.error();
    std::vector<std::string> marks;
    for (const auto& [points, number] : {std::pair{&first, "1:"}, {&second, "2:"}})
        for (std::size_t at = 0; at < points->address_count(); ++at)
            marks.push_back(number + address_text(*points, at));
    return assembled_frame({*std::move(places),
                            linked_points(first, second, by_share, link_of(in, all, wrapping)),
                            {},
                            std::make_shared<const std::vector<std::string>>(std::move(marks))},
                           run);
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto all = shifts(in, run);
    if (!all) return all.error();
    const bool rows = in.word("what") == "rows";
    auto frame = rows ? rows_linked(in, *all, run) : points_linked(in, *all, run);
    if (!frame) return about_slot(frame.error(), rows ? "points" : "first");
    return Value(*std::move(frame));
}

Estimate estimate(const Inputs& in) {
    double points = static_cast<double>(first_points(in).address_count());
    double bytes = points * (in.word("by") == "formula" ? 40 : 10);
    if (in.word("what") == "two") {
        points += static_cast<double>(in.lattice("second").address_count());
        bytes += points * (100 + 8 * static_cast<double>(first_points(in).fields().size()));
    }
    const double members = points * (in.word("turns") == "both" ? 2 : 1) / in.number("every");
    return {bytes + members * 3 * sizeof(Member), members * 1e-7 + points * 5e-8};
}

}  // namespace

StepKind link_rows() {
    constexpr double most_shift = 1e9;
    return {
        .key = "frame.link",
        .verb = "Link rows of points",
        .synonyms = "bars members lines connect rings shift twist wrap frame struts hyperboloid lacing",
        .sentence =
            "Link {what}[what=rows| of {points}, each to the one {reach} further on][what=two| {first} to "
            "{second}, matched {match}], {by}[by=number| {shift}][by=formula| {formula}][more|, "
            "{turns}][more|, {wrapping}][more|, for one point in {every}].",
        .slots = {choice_slot("what", "What",
                              {{"rows", "the rows", "of one result, each to another of its rows"},
                               {"two", "the points of", "two results, one to the other"}}),
                  reference_slot("points", "Points", {Kind::points, Kind::field}),
                  count_slot("reach", "Rows further on", "1", 0),
                  reference_slot("first", "First points", {Kind::points, Kind::field}),
                  reference_slot("second", "Second points", {Kind::points, Kind::field}),
                  choice_slot("match", "Match",
                              {{"number", "by number", "the first to the first, the second to the second"},
                               {"share", "by share", "to the point as far along its row"}}),
                  choice_slot("by", "Shift",
                              {{"number", "shifted by", "point n to point n + shift"},
                               {"formula", "shifted by", "a number of points computed at each"}}),
                  count_slot("shift", "Shift", "1", -most_shift),
                  formula_slot("formula", formula_label, "1 + j"),
                  choice_slot("turns", "Turns",
                              {{"forwards", "forwards", "from every row"},
                               {"alternating", "forwards and back by turns", "row by row"},
                               {"both", "forwards and back", "two members from every point"}}),
                  choice_slot("wrapping", "Wrapping",
                              {{"closed", "wrapping round where rows are closed", "else ending with them"},
                               {"round", "wrapping round", "beyond the last point comes the first"},
                               {"open", "without wrapping", "beyond the last point comes nothing"}}),
                  count_slot("every", "One point in", "1", 1)},
        .results = {Kind::frame},
        .result_name = "links",
        .help =
            "A member from point n of a row to point n + shift of the next, all the way up: the straight "
            "lines of a hyperboloid, the lacing of a tower. A negative shift goes back; 0 rows further on "
            "links a row to itself. Of two results the second may have another number of points: by share, "
            "point n goes to the one as far along. A formula reads what formulas on points read, j being "
            "the number of the row.",
        .estimate = estimate,
        .make = make,
        .contexts = {{"formula", context(site_of)}},
    };
}

}  // namespace plume
