#include <cmath>

#include "core/geometry/curves/compatible_curves.hpp"
#include "core/geometry/curves/curve_division.hpp"
#include "core/geometry/curves/curve_figures.hpp"
#include "core/geometry/moves/transformed.hpp"
#include "core/geometry/parts/subset.hpp"
#include "core/steps/curves/curve_support.hpp"
#include "core/steps/formula_support.hpp"

namespace plume {
namespace {

// The lines a formula may give, each with what stands for it where it gives none.
constexpr const char *turn = "turn", *scale = "scale", *shift_x = "shift_x", *shift_y = "shift_y",
                     *blend = "blend";

std::size_t rows_a_floor(const Inputs& in) {
    return in.word("what") == "points" ? in.count("rows") : 1;
}
std::size_t row_count(const Inputs& in) {
    return in.count("floors") * rows_a_floor(in) + 1;
}

// A row a floor, or several: t runs from 0 at the foot to 1 at the top.
Result<FormulaSite> site_of(const Inputs& in) {
    const std::size_t rows = row_count(in);
    const double height = in.number("height");
    Doubles shares(rows), heights(rows), floors(rows);
    for (std::size_t row = 0; row < rows; ++row) {
        shares[row] = static_cast<double>(row) / static_cast<double>(rows - 1);
        heights[row] = shares[row] * height;
        floors[row] = static_cast<double>(row) / static_cast<double>(rows_a_floor(in));
    }
    FormulaSite site;
    site.domain.directions[0] = {rows, 0, 1, false};
    site.direction_names = {"t", "", ""};
    add_numbers(site, "t", std::move(shares), plain_number, "share of the height, 0 to 1");
    add_numbers(site, "z", std::move(heights), a_length, "height above the outline");
    add_numbers(site, "floor", std::move(floors), plain_number, "number of the floor, from 0");
    site.inputs.push_back({"height", a_length, height, "of the whole"});
    site.results = {{turn, "an angle about the middle", false, true},
                    {scale, "about the middle, 1 without", false},
                    {shift_x, "a length", false, true},
                    {shift_y, "a length", false, true}};
    if (in.word("change") == "into")
        site.results.push_back({blend, "0 the lower outline, 1 the upper; t without", false});
    return site;
}

struct Rows {
    std::optional<Doubles> turn, scale, shift_x, shift_y, blend;
};

Result<Rows> rows_of(const Inputs& in, const Run& run) {
    const Result<FormulaSite> site = site_of(in);
    Result<CheckedFormula> formula = checked_formula(in, *site);
    if (!formula) return formula.error();
    Rows rows;
    const auto read = [&](const char* name, Dimension dimension, std::optional<Doubles>& to) -> Status {
        auto made = computed(*formula, name, dimension, *site, in, run);
        if (!made) return made.error();
        to = *std::move(made);
        for (std::size_t row = 0; to && row < to->size(); ++row)
            if (!std::isfinite((*to)[row]))
                return about_slot(Error{ErrorCode::not_finite, "",
                                        "gives a " + std::string(name) + " that is not finite in row " +
                                            std::to_string(row),
                                        "Mend that line."},
                                  "formula");
        return Done{};
    };
    for (const auto& [name, dimension, to] : {std::tuple(turn, an_angle, &rows.turn),
                                              {scale, plain_number, &rows.scale},
                                              {shift_x, a_length, &rows.shift_x},
                                              {shift_y, a_length, &rows.shift_y},
                                              {blend, plain_number, &rows.blend}})
        if (Status status = read(name, dimension, *to); !status) return status.error();
    return rows;
}

// About the middle of the lower outline.
Affine map_at(const Rows& rows, std::size_t row, Vec3 middle, double rise) {
    const auto number = [&](const std::optional<Doubles>& all, double without) {
        return all ? (*all)[row] : without;
    };
    const double size = number(rows.scale, 1);
    const Affine turned = turned_about(middle, {0, 0, 1}, number(rows.turn, 0));
    const Affine scaled = scaled_about(middle, {size, size, 1});
    return composed(moved_by({number(rows.shift_x, 0), number(rows.shift_y, 0), rise}),
                    composed(turned, scaled));
}

Vec3 middle_of(const SplineCurve& outline) {
    if (outline.closed())
        if (const auto area = centroid_of_area(outline)) return *area;
    return centroid_of_line(outline);
}

double blend_at(const Rows& rows, std::size_t row, std::size_t count) {
    if (rows.blend) return (*rows.blend)[row];
    return static_cast<double>(row) / static_cast<double>(count - 1);
}

// The outline at the foot and the one it changes into, if any, turned to run alike and at the foot's height.
Result<std::vector<SplineCurve>> outlines_of(const Inputs& in) {
    const auto lower = only_curve(in, "outline");
    if (!lower) return lower.error();
    if (in.word("change") != "into") return std::vector<SplineCurve>{*lower};
    const auto upper = only_curve(in, "upper");
    if (!upper) return upper.error();
    if (upper->closed() != lower->closed())
        return about_slot(Error{ErrorCode::unlike_arrangement, "",
                                upper->closed() ? "is closed, and the lower one is open"
                                                : "is open, and the lower one is closed",
                                "Take two that are closed, or two that are open."},
                          "upper");
    const double drop = middle_of(*lower).z - middle_of(*upper).z;
    auto beside = transformed(Value(CurveSet{{*upper}}), moved_by({0, 0, drop}));
    if (!beside) return beside.error();
    return aligned({*lower, std::get<CurveSet>(*beside).curves.front()}, 0);
}

// Points at even lengths round an outline.
std::vector<Vec3> places_round(const SplineCurve& outline, std::size_t bays) {
    const CurveLength measure(outline);
    std::vector<Vec3> places;
    for (std::size_t at = 0; at < bays + (outline.closed() ? 0 : 1); ++at) {
        const double share = static_cast<double>(at) / static_cast<double>(bays);
        places.push_back(evaluate(outline, measure.parameter_at(share * measure.total())).position);
    }
    return places;
}

class Raising {
public:
    Raising(const Inputs& in, const std::vector<SplineCurve>& outlines, const Rows& rows)
        : in_(in),
          outlines_(outlines),
          rows_(rows),
          count_(row_count(in)),
          middle_(middle_of(outlines.front())) {}

    Result<Value> points(const Run& run) const {
        std::vector<std::vector<Vec3>> round;
        for (const SplineCurve& outline : outlines_)
            round.push_back(places_round(outline, in_.count("bays")));
        const std::size_t columns = round.front().size();
        std::vector<Vec3> places;
        places.reserve(columns * count_);
        for (std::size_t row = 0; row < count_; ++row) {
            if (run.cancelled()) return cancelled_error();
            const Affine map = map_of(row);
            const double share = round.size() > 1 ? blend_at(rows_, row, count_) : 0;
            for (std::size_t at = 0; at < columns; ++at) {
                const Vec3 from = round.front()[at];
                places.push_back(map.at(round.size() > 1 ? from + (round[1][at] - from) * share : from));
            }
        }
        return Value(points_at(
            {Arrangement::grid, {columns, count_, 1}, {outlines_.front().closed(), false, false}}, places));
    }

    // Exact ones, with the number of their floor and their height along them.
    Result<Value> outlines(const Run& run) const {
        auto poles =
            outlines_.size() > 1 ? compatible(outlines_, run) : Result<std::vector<SplineCurve>>(outlines_);
        if (!poles) return about_slot(poles.error(), "upper");
        CurveSet raised;
        for (std::size_t row = 0; row < count_; ++row) {
            if (run.cancelled()) return cancelled_error();
            auto curve = raised_outline(*poles, row);
            if (!curve) return curve.error();
            raised.curves.push_back(*std::move(curve));
        }
        return Value(std::move(raised));
    }

private:
    double rise_of(std::size_t row) const {
        return in_.number("height") * static_cast<double>(row) / static_cast<double>(count_ - 1);
    }
    Affine map_of(std::size_t row) const { return map_at(rows_, row, middle_, rise_of(row)); }

    Result<SplineCurve> raised_outline(const std::vector<SplineCurve>& outlines, std::size_t row) const {
        const SplineCurve& lower = outlines.front();
        const SplineCurve& upper = outlines.back();
        const double share = outlines.size() > 1 ? blend_at(rows_, row, count_) : 0;
        const Affine map = map_of(row);
        const std::size_t poles = lower.x().size();
        const bool rational = lower.rational() || upper.rational();
        Doubles x(poles), y(poles), z(poles), weights(rational ? poles : 0);
        for (std::size_t pole = 0; pole < poles; ++pole) {
            // Rational ones are blended as what they are shadows of.
            const double a = lower.weight(pole) * (1 - share), b = upper.weight(pole) * share;
            const Vec3 to = map.at((lower.pole(pole) * a + upper.pole(pole) * b) * (1 / (a + b)));
            x[pole] = to.x;
            y[pole] = to.y;
            z[pole] = to.z;
            if (rational) weights[pole] = a + b;
        }
        return SplineCurve::make({lower.basis(),
                                  std::move(x),
                                  std::move(y),
                                  std::move(z),
                                  std::move(weights),
                                  {{"floor", Doubles(poles, static_cast<double>(row)), plain_number},
                                   {"height", Doubles(poles, rise_of(row)), a_length}}});
    }

    const Inputs& in_;
    const std::vector<SplineCurve>& outlines_;
    const Rows& rows_;
    std::size_t count_;
    Vec3 middle_;
};

Result<Value> make(const Inputs& in, const Run& run) {
    const auto outlines = outlines_of(in);
    if (!outlines) return outlines.error();
    const auto rows = rows_of(in, run);
    if (!rows) return rows.error();
    const Raising raising(in, *outlines, *rows);
    return in.word("what") == "points" ? raising.points(run) : raising.outlines(run);
}

Estimate estimate(const Inputs& in) {
    const double floors = in.number("floors") + 1;
    if (in.word("what") == "points") {
        const double points = (in.number("bays") + 1) * floors * in.number("rows");
        return {points * 2 * sizeof(Vec3), points * 2e-8};
    }
    const double poles = pole_count(in.held<CurveSet>("outline")) +
                         (in.word("change") == "into" ? pole_count(in.held<CurveSet>("upper")) : 0);
    return {floors * (poles * 80 + 1000), floors * poles * 1e-7};
}

}  // namespace

StepKind raise_outline() {
    return {
        .key = "lattice.tower",
        .verb = "Raise an outline as a tower",
        .synonyms = "storeys floors twist turn taper high rise levels extrude section repeat up helix",
        .sentence =
            "Raise {outline}[more|, {change}][change=into| {upper}], {height} high in {floors} floors, by "
            "{formula}, {what}[more&what=points| in {bays} bays round and {rows} rows a floor].",
        .slots = {reference_slot("outline", "Outline", {Kind::curves}),
                  choice_slot("change", "Change",
                              {{"kept", "as it is", "the same outline all the way up"},
                               {"into", "changing into", "another one at the top"}}),
                  reference_slot("upper", "Upper outline", {Kind::curves}),
                  length_above_zero_slot("height", "Height", "48 m"), count_slot("floors", "Floors", "16", 1),
                  formula_slot("formula", formula_label, "turn = 90° * smoothstep(0, 1, t)"),
                  choice_slot("what", "What",
                              {{"points", "as points", "rings of a grid, to be framed and skinned"},
                               {"outlines", "as outlines", "exact curves, one a floor, to be filled"}}),
                  count_slot("bays", "Bays round", "48", 1), count_slot("rows", "Rows a floor", "1", 1)},
        .results = {Kind::points, Kind::curves},
        .result_name = "tower",
        .help =
            "An outline again and again on the way up, turned, scaled and shifted about its middle by lines "
            "of a formula: turn, scale, shift_x and shift_y, each if it is there. They read t, the share of "
            "the height from 0 to 1, z, floor and height; smoothstep(0, 1, t) eases in and out. Changing "
            "into "
            "another outline, points at even lengths of both are blended, by t or a line blend. Points are a "
            "grid closed round a closed outline, its rows being floors or parts of them; outlines are exact "
            "and carry floor and height.",
        .estimate = estimate,
        .make = make,
        .contexts = {{"formula", context(site_of)}},
    };
}

}  // namespace plume
