#include <algorithm>
#include <cmath>

#include "core/base/noise.hpp"
#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/geometry/measures/bounds.hpp"
#include "core/geometry/parts/subset.hpp"
#include "core/growth/colonisation.hpp"
#include "core/growth/grown_parts.hpp"
#include "core/steps/growth/growth_roots.hpp"

namespace plume {
namespace {

// Of lines, places so far apart along them.
std::vector<Vec3> goals_of(const Attractors& attractors, double apart) {
    std::vector<Vec3> goals;
    for (const Attractor& item : attractors.items()) {
        if (!item.path) {
            goals.push_back(item.position);
            continue;
        }
        for (std::size_t corner = 0; corner + 1 < item.path->size(); ++corner) {
            const Vec3 from = (*item.path)[corner], to = (*item.path)[corner + 1];
            const double pieces = std::clamp(std::ceil(length(to - from) / apart), 1.0, 1e5);
            for (double piece = corner == 0 ? 0 : 1; piece <= pieces; ++piece)
                goals.push_back(from + (to - from) * (piece / pieces));
        }
    }
    return goals;
}

// Places thrown into the box around a form until so many lie in it: of slender forms few throws do.
constexpr double throws_each = 400;

Result<std::vector<Vec3>> goals_in(const Inputs& in, const Run& run) {
    const auto search = closed_form(in, run);
    if (!search) return search.error();
    const std::size_t count = in.count("count");
    const double seed = in.number("seed");
    const Box box = bounds_of(in.value("form"));
    std::vector<Vec3> goals;
    const double most = throws_each * static_cast<double>(count);
    for (double index = 0; goals.size() < count && index < most; ++index) {
        if (std::fmod(index, 1024) == 0 && run.cancelled()) return cancelled_error();
        const auto at = [&](double low, double high, double stream) {
            return low + (high - low) * random_of(seed + stream / 8, index);
        };
        const Vec3 place{at(box.low.x, box.high.x, 1), at(box.low.y, box.high.y, 2),
                         at(box.low.z, box.high.z, 3)};
        if (search->signed_distance(place) < 0) goals.push_back(place);
    }
    if (goals.size() == count) return goals;
    return about_slot(Error{ErrorCode::empty_input, "",
                            "is too slender for " + std::to_string(count) + " places to be thrown into it",
                            "Ask for fewer, or give points as goals."},
                      "form");
}

Result<std::vector<Vec3>> goals_of(const Inputs& in, const Run& run) {
    if (in.word("goals") == "attractors")
        return goals_of(in.held<Attractors>("attractors"), in.number("step"));
    if (in.word("goals") == "form") return goals_in(in, run);
    std::vector<Vec3> goals = finite_points(in.lattice("goal_points")).places;
    if (goals.empty())
        return about_slot(
            Error{ErrorCode::empty_input, "", "have no point to grow towards", "Choose others."},
            "goal_points");
    return goals;
}

std::string goals_text(std::size_t count) {
    return count_text(count, "goal", "goals");
}

void tell(const Colonised& made, const Inputs& in, const Run& run) {
    const auto reached = static_cast<std::size_t>(std::ranges::count(made.reached, 1));
    const std::size_t left = made.reached.size() - reached;
    const std::string left_text = goals_text(left) + (left == 1 ? " is" : " are") + " not reached";
    const std::string generations = std::to_string(made.generations.size() - 2);
    switch (made.end) {
        case ColonisationEnd::reached:
            return run.remark("All " + goals_text(reached) + (reached == 1 ? " is" : " are") +
                              " reached, after " + generations + " generations.");
        case ColonisationEnd::generations:
            return run.remark("After " + generations + " generations " + left_text + ".");
        case ColonisationEnd::most:
            return run.remark_loss("It ended at generation " + generations + ", with " + left_text +
                                   ": at most " + grouped_text(static_cast<std::int64_t>(in.number("most"))) +
                                   " parts are allowed.");
        case ColonisationEnd::stuck:
            return run.remark_loss(left_text + ": no part comes nearer to " + (left == 1 ? "it" : "them") +
                                   ". Take shorter steps, or call more of them near.");
    }
}

// Why a part is there: what drew it and each that it came of.
std::function<std::vector<std::string>(std::size_t)> descent_of(std::vector<std::uint32_t> parents,
                                                                std::vector<std::uint32_t> drawn_by,
                                                                std::vector<std::uint32_t> nearest) {
    return [parents = std::move(parents), drawn_by = std::move(drawn_by),
            nearest = std::move(nearest)](std::size_t part) {
        std::vector<std::string> lines;
        for (auto at = static_cast<std::uint32_t>(part); at != PartTree::none; at = parents[at])
            lines.push_back(parents[at] == PartTree::none ? "where it began"
                            : drawn_by[at] == 1           ? "straight to goal " + std::to_string(nearest[at])
                                                          : "drawn by " + std::to_string(drawn_by[at]) +
                                                      " goals, the nearest " + std::to_string(nearest[at]));
        std::ranges::reverse(lines);
        for (std::size_t step = 0; step < lines.size(); ++step)
            lines[step] = "part " + std::to_string(step) + ": " + lines[step];
        return lines;
    };
}

Result<Placements> placements_of(Colonised made, double step) {
    const std::size_t count = made.placements.size();
    Doubles depths(made.depths.begin(), made.depths.end()), sizes(count, step), numbers(count);
    std::vector<double> children(count, 0);
    for (std::size_t part = 0; part < count; ++part)
        numbers[part] = made.parents[part] == PartTree::none ? 0 : children[made.parents[part]]++;
    auto tree = std::make_shared<PartTree>();
    tree->parents = std::move(made.parents);
    tree->names.assign(count, 0);
    tree->lines.assign(count, 0);
    tree->generations = std::move(made.generations);
    tree->part_names = {"branch"};
    tree->line_texts = {"towards the goals"};
    tree->descent = descent_of(tree->parents, std::move(made.drawn_by), std::move(made.nearest_goal));
    return placed_parts(std::move(made.placements),
                        {{"depth", std::move(depths), plain_number},
                         {"number", std::move(numbers), plain_number},
                         {"size", std::move(sizes), a_length}},
                        {}, std::move(tree));
}

Result<Value> make(const Inputs& in, const Run& run) {
    auto goals = goals_of(in, run);
    if (!goals) return goals.error();
    Colonisation wishes{in.number("step"), in.number("reach"), in.number("near")};
    wishes.generations = in.count("generations");
    wishes.most = in.count("most");
    wishes.up = in.number("up");
    if (wishes.near > wishes.reach)
        return about_slot(
            Error{ErrorCode::out_of_range, "", "is more than they reach", "Make it less than the reach."},
            "near");
    const std::vector<Placement> roots = root_placements(in);
    if (Status enough = room_for_roots(roots.size(), in); !enough) return enough.error();
    auto made = colonise(roots, *goals, wishes, run);
    if (!made) return made.error();
    tell(*made, in, run);
    return as_value(placements_of(*std::move(made), wishes.step));
}

// Roughly the length of a tree through that many places spread over their box, in steps; and a memory of
// goals. J. M. Steele, 1988: such lengths go as n^((d - 1) / d).
Estimate estimate(const Inputs& in) {
    Box box;
    double count = 0, work = 0;
    if (in.word("goals") == "form") {
        count = in.number("count");
        box = bounds_of(in.value("form"));
        work = count * 2e-5;
    } else {
        const std::vector<Vec3> goals = in.word("goals") == "points"
                                            ? finite_points(in.lattice("goal_points")).places
                                            : goals_of(in.held<Attractors>("attractors"), in.number("step"));
        count = static_cast<double>(goals.size());
        for (const Vec3 goal : goals)
            box.include(goal);
    }
    const Vec3 size = box.size();
    std::array<double, 3> sides{size.x, size.y, size.z};
    std::ranges::sort(sides, std::greater());
    const double apart = count > 0 ? std::max(std::sqrt(sides[0] * sides[1] / count),
                                              std::cbrt(sides[0] * sides[1] * sides[2] / count))
                                   : 0;
    const double way = 0.7 * count * apart + sides[0];
    const auto roots = static_cast<double>(root_placements(in).size());
    const double parts = std::min(in.number("most"), roots + way / in.number("step"));
    return {parts * 300 + count * 110, parts * 1e-5 + work};
}

}  // namespace

StepKind grow_towards() {
    SlotSpec up = number_slot("up", "Upwards", "0");
    up.least = -1000;
    up.most = 1000;
    return {
        .key = "growth.towards",
        .verb = "Grow branches towards places",
        .synonyms = "space colonisation colonization tree veins roots attractors reach recursion branching",
        .sentence = "Grow branches " + std::string(root_sentence) +
                    " towards {goals}[goals=points| {goal_points}][goals=attractors| "
                    "{attractors}][goals=form| {form}, {count} places from seed {seed}], in steps of {step}, "
                    "drawn by goals up to {reach} away[more| until they are {near} near, and {up} "
                    "upwards][more|; over {generations} generations and at most {most} parts].",
        .slots = with_roots(
            {choice_slot(
                 "goals", "Goals",
                 {{"points", "the points of", ""},
                  {"attractors", "the attractors", "their points, and places along their lines"},
                  {"form", "the inside of", "places thrown into a closed form, which the branches fill"}}),
             reference_slot("goal_points", "Goals", {Kind::points, Kind::field}),
             reference_slot("attractors", "Attractors", {Kind::attractors}),
             reference_slot("form", "Form", {Kind::mesh, Kind::bodies}),
             count_slot("count", "Places", "1000", 1), seed_slot("seed", "Seed", "1"),
             length_above_zero_slot("step", "Step", "0.4 m"), length_above_zero_slot("reach", "Reach", "4 m"),
             length_above_zero_slot("near", "Nearness", "0.6 m"), up, generations_slot("1000"),
             most_parts_slot()}),
        .results = {Kind::placements},
        .result_name = "boughs",
        .help =
            "Branches that reach for places and share them out: each goal draws the part that is nearest to "
            "it, "
            "and each part that is drawn makes one more, a step on towards all its goals. Goals that are "
            "come near "
            "to draw no more. Where none is within reach, the nearest part goes straight towards it. Short "
            "steps "
            "and a long reach make smooth boughs, a short reach twists them.",
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume
