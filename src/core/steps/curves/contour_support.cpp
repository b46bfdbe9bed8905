#include "core/steps/curves/contour_support.hpp"

#include <algorithm>
#include <cctype>
#include <cmath>
#include <numeric>

#include "core/base/numbers.hpp"
#include "core/base/parallel.hpp"
#include "core/base/parallel_results.hpp"
#include "core/base/text.hpp"
#include "core/formula/expression.hpp"
#include "core/geometry/curves/curve_division.hpp"
#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/levels/nesting.hpp"
#include "core/geometry/measures/bounds.hpp"
#include "core/steps/curves/curve_support.hpp"
#include "core/steps/curves/line_points.hpp"

namespace plume {
namespace {

// "0, 1.5 m, 200 cm": a number, and behind it what begins with a letter.
std::vector<std::string> typed_numbers(const std::string& text) {
    std::vector<std::string> numbers;
    for (const std::string_view word : words_between(text, " ,;\t\n\r")) {
        const auto first = static_cast<unsigned char>(word.front());
        const bool is_unit = std::isalpha(first) != 0 || first >= 0x80;
        if (is_unit && !numbers.empty())
            numbers.back().append(" ").append(word);
        else
            numbers.emplace_back(word);
    }
    return numbers;
}

Result<std::vector<double>> typed_levels(const Inputs& in, Dimension dimension) {
    Scope scope;
    scope.units = in.units();
    scope.plain = in.text_units();
    std::vector<double> levels;
    for (const std::string& text : typed_numbers(in.word("list"))) {
        const auto level = evaluate_as(dimension, text, scope);
        if (!level)
            return about_slot(
                Error{ErrorCode::bad_number, "",
                      "hold ‘" + printable(text) + "’, which is not " + dimension_name(dimension, in.units()),
                      "Type numbers, as in 0 0.5 1."},
                "list");
        levels.push_back(*level);
    }
    if (levels.empty())
        return about_slot(Error{ErrorCode::empty_input, "", "are not given", "Type some, as in 0 0.5 1."},
                          "list");
    std::ranges::sort(levels);
    levels.erase(std::unique(levels.begin(), levels.end()), levels.end());
    return levels;
}

// As the levels are measured.
Result<LevelSteps> steps_of(const Inputs& in, Dimension dimension) {
    if (std::holds_alternative<double>(in.all().at("spacing")))
        return LevelSteps{in.number("spacing"), in.number("start")};
    const auto read = [&](const char* slot) -> Result<double> {
        const Quantity quantity = in.quantity(slot);
        if (quantity.dimension == dimension) return quantity.value;
        if (quantity.dimension == plain_number)
            return quantity.value * internal_per_plain(dimension, in.text_units(), in.units());
        return about_slot(Error{ErrorCode::unit_mismatch, "",
                                "is " + dimension_name(quantity.dimension, in.units()) +
                                    ", and the numbers are " + dimension_name(dimension, in.units()),
                                "Type it in the unit of the numbers."},
                          slot);
    };
    const auto spacing = read("spacing"), start = read("start");
    if (!spacing) return spacing.error();
    if (!start) return start.error();
    if (!(*spacing > 0))
        return about_slot(Error{ErrorCode::out_of_range, "", "has to be above 0", "Type a larger one."},
                          "spacing");
    return LevelSteps{*spacing, *start};
}

Error no_level(const Inputs& in, std::pair<double, double> range, Dimension dimension,
               const std::string& slot) {
    return about_slot(
        Error{ErrorCode::out_of_range, "",
              "gives no level between " + range_text(range.first, range.second, dimension, in.units()),
              slot == "list" ? "Type levels in between." : "Type a smaller one, or another start."},
        slot);
}

std::string closed_words(std::size_t closed, std::size_t lines) {
    if (lines == 1) return closed == 1 ? "closed" : "open";
    if (closed == lines) return "all closed";
    return closed == 0 ? "none closed" : grouped_text(static_cast<std::int64_t>(closed)) + " closed";
}

void remark_on(const Contours& contours, double deviation, std::size_t closed, const Inputs& in,
               const Run& run) {
    run.remark(count_text(contours.lines.size(), "line", "lines") + ", " +
               closed_words(closed, contours.lines.size()) + ". " +
               deviation_sentence(std::max(deviation, contours.deviation), in));
    if (contours.level_faces > 0)
        run.remark(count_text(contours.level_faces, "face lies in a level as a whole and counts as above it.",
                              "faces lie in a level as a whole and count as above it."));
    if (contours.faces_without > 0)
        run.remark_loss(count_text(contours.faces_without,
                                   "face has a number that is not finite and is left out.",
                                   "faces have a number that is not finite and are left out."));
}

// The largest deviation of those that were changed.
Result<double> take_wished_points(Contours& contours, const Inputs& in, const Run& run) {
    std::vector<double> deviations(contours.lines.size(), 0);
    const auto wished = parallel_results<SplineCurve>(contours.lines.size(), run, [&](std::size_t line) {
        return with_wished_points(contours.lines[line].curve, in, run, deviations[line]);
    });
    if (!wished) return wished.error();
    for (std::size_t line = 0; line < wished->size(); ++line)
        contours.lines[line].curve = (*wished)[line];
    return deviations.empty() ? 0 : std::ranges::max(deviations);
}

// By level, the longest first; their lengths.
Result<std::vector<double>> put_in_order(Contours& contours, const Run& run) {
    std::vector<double> lengths(contours.lines.size());
    const bool done = parallel_blocks(lengths.size(), 4, run, [&](std::size_t begin, std::size_t end) {
        for (std::size_t line = begin; line < end; ++line)
            lengths[line] = length_of(contours.lines[line].curve);
    });
    if (!done) return cancelled_error();
    std::vector<std::size_t> order(lengths.size());
    std::iota(order.begin(), order.end(), std::size_t{0});
    std::ranges::stable_sort(order, [&](std::size_t a, std::size_t b) {
        return contours.lines[a].level != contours.lines[b].level
                   ? contours.lines[a].level < contours.lines[b].level
                   : lengths[a] > lengths[b];
    });
    std::vector<Contour> lines;
    std::vector<double> sorted;
    for (const std::size_t line : order) {
        lines.push_back(std::move(contours.lines[line]));
        sorted.push_back(lengths[line]);
    }
    contours.lines = std::move(lines);
    return sorted;
}

// Of lines by level.
Result<std::vector<Nesting>> nesting_in(const Contours& contours, std::span<const Placement> views,
                                        const Run& run) {
    std::vector<SplineCurve> curves;
    std::vector<std::size_t> levels;
    for (const Contour& line : contours.lines) {
        curves.push_back(line.curve);
        levels.push_back(line.level);
    }
    if (views.size() == 1) return nesting_of(curves, levels, views.front(), run);
    std::vector<Nesting> all;
    while (all.size() < curves.size()) {
        const std::size_t first = all.size(), level = levels[first];
        const auto count = static_cast<std::size_t>(std::ranges::count(levels, level));
        const auto found = nesting_of(std::span(curves).subspan(first, count),
                                      std::span(levels).subspan(first, count), views[level], run);
        if (!found) return found.error();
        for (Nesting nested : *found) {
            if (nested.within) *nested.within += first;
            all.push_back(nested);
        }
    }
    return all;
}

}  // namespace

SlotSpec levelled_slot(std::string key) {
    return reference_slot(std::move(key), "Thing",
                          {Kind::surface, Kind::mesh, Kind::bodies, Kind::points, Kind::field});
}

std::vector<SlotSpec> with_level_rule(std::vector<SlotSpec> slots, bool lengths) {
    slots.push_back(choice_slot("rule", "Levels",
                                {{"every", "every", "so far apart, from a start on both ways"},
                                 {"count", "as many as", "evenly between the lowest and the highest"},
                                 {"list", "at", "levels typed one by one"}}));
    slots.push_back(lengths ? length_above_zero_slot("spacing", "Spacing", "0.5 m")
                            : quantity_slot("spacing", "Spacing", "0.5"));
    slots.push_back(lengths ? length_slot("start", "Start", "0 m") : quantity_slot("start", "Start", "0"));
    slots.push_back(count_slot("count", "Count", "12", 1));
    slots.push_back(text_slot("list", "Levels", "0 0.5 1"));
    return slots;
}

Result<std::vector<double>> levels_every(const LevelSteps& steps, std::pair<double, double> range) {
    const double first = std::ceil((range.first - steps.start) / steps.spacing),
                 last = std::floor((range.second - steps.start) / steps.spacing);
    // Steps from so far away have no digits left.
    constexpr double most_steps = 1e12;
    if (!(std::max(std::abs(first), std::abs(last)) < most_steps))
        return about_slot(Error{ErrorCode::out_of_range, "", "lies too far away for steps as small as that",
                                "Type a nearer start, or a larger spacing."},
                          "start");
    std::vector<double> levels;
    for (double number = first; number <= last; ++number)
        levels.push_back(steps.start + steps.spacing * number);
    return levels;
}

Result<std::vector<double>> wished_levels(const Inputs& in, std::pair<double, double> range,
                                          Dimension dimension) {
    const auto [low, high] = range;
    if (in.word("rule") == "list") {
        auto levels = typed_levels(in, dimension);
        if (!levels) return levels.error();
        if (levels->back() < low || levels->front() > high) return no_level(in, range, dimension, "list");
        return levels;
    }
    std::vector<double> levels;
    if (in.word("rule") == "count") {
        const auto count = static_cast<double>(in.count("count"));
        for (double level = 1; level <= count; ++level)
            levels.push_back(low + (high - low) * level / (count + 1));
    } else {
        const auto steps = steps_of(in, dimension);
        if (!steps) return steps.error();
        auto made = levels_every(*steps, range);
        if (!made) return made.error();
        levels = *std::move(made);
    }
    // Where all is level, so many levels are one.
    levels.erase(std::unique(levels.begin(), levels.end()), levels.end());
    if (levels.empty()) return no_level(in, range, dimension, "spacing");
    return levels;
}

Result<LineTruth> wished_truth(const Value& thing, const Inputs& in) {
    if (in.word("points") != "true") return LineTruth{};
    const double distance = in.number("true_to");
    constexpr double told_apart = 1e-12;
    if (distance < told_apart * bounds_of(thing).diagonal())
        return about_slot(Error{ErrorCode::out_of_range, "", "is less than numbers of that size can tell",
                                "Type a larger one."},
                          "true_to");
    // Lines are measured halfway between two places, where they are nearly farthest off.
    constexpr double nearly = 0.8;
    return LineTruth{0, nearly * distance};
}

double level_count(const Inputs& in, double extent) {
    if (in.word("rule") == "count") return in.number("count");
    if (in.word("rule") == "list") return static_cast<double>(in.word("list").size()) / 2 + 1;
    const Resolved& spacing = in.all().at("spacing");
    const double step =
        std::holds_alternative<double>(spacing) ? std::get<double>(spacing) : in.quantity("spacing").value;
    return step > 0 ? extent / step + 1 : 1;
}

double bays_across(const Value& thing) {
    double bays = 0;
    const auto of_patches = [&](const std::vector<SplinePatch>& patches) {
        for (const SplinePatch& patch : patches)
            bays += static_cast<double>(patch.u().pole_count() + patch.v().pole_count());
    };
    const auto of_mesh = [&](const Mesh& mesh) {
        bays += 4 * std::sqrt(static_cast<double>(mesh.corner_count()));
    };
    if (const auto* surface = std::get_if<SurfaceSet>(&thing)) of_patches(surface->patches);
    if (const auto* mesh = std::get_if<Mesh>(&thing)) of_mesh(*mesh);
    if (const auto* set = std::get_if<SolidSet>(&thing))
        for (const Body& body : set->bodies)
            body.exact() ? of_patches(body.patches()) : of_mesh(body.mesh());
    if (const PointLattice* lattice = lattice_of(thing))
        bays += static_cast<double>(lattice->counts()[0] + lattice->counts()[1]);
    return bays;
}

Estimate contours_estimate(const Value& thing, double cuts) {
    const double read = static_cast<double>(bytes_of(thing)), bays = cuts * bays_across(thing);
    return {read * 8 + bays * 400 + cuts * 100, read * 1e-8 + bays * 3e-6 + cuts * 1e-6};
}

Estimate with_points_estimate(Estimate lines, const Value& thing, double cuts, const Inputs& in) {
    if (in.word("points") != "exact" && in.word("points") != "true")
        lines.seconds += cuts * bays_across(thing) * 1e-4;
    return lines;
}

Result<Value> drawn_contours(Contours contours, const LevelField& level, std::span<const Placement> views,
                             const std::string& thing, const Inputs& in, const Run& run) {
    if (contours.lines.empty())
        return about_slot(Error{ErrorCode::empty_input, "",
                                contours.level_faces > 0 ? "lies in a level as a whole, where it has no line"
                                                         : "has no line at any level",
                                "Choose other levels, or another direction."},
                          thing);
    const auto deviation = take_wished_points(contours, in, run);
    if (!deviation) return deviation.error();
    const auto lengths = put_in_order(contours, run);
    if (!lengths) return lengths.error();
    const auto nesting = nesting_in(contours, views, run);
    if (!nesting) return nesting.error();
    CurveSet set;
    std::size_t closed = 0;
    for (std::size_t line = 0; line < contours.lines.size(); ++line) {
        const SplineCurve& curve = contours.lines[line].curve;
        const Nesting& nested = (*nesting)[line];
        closed += curve.closed() ? 1 : 0;
        const auto everywhere = [&](double number) { return Doubles(curve.x().size(), number); };
        set.curves.push_back(with_fields(
            curve,
            {{"length", everywhere((*lengths)[line]), a_length},
             {"closed", everywhere(curve.closed() ? 1 : 0), plain_number},
             {"within", everywhere(nested.within ? static_cast<double>(*nested.within) : -1), plain_number},
             {"depth", everywhere(static_cast<double>(nested.depth)), plain_number},
             {level.name, everywhere(level.numbers[contours.lines[line].level]), level.dimension}}));
    }
    remark_on(contours, *deviation, closed, in, run);
    return Value(std::move(set));
}

}  // namespace plume
