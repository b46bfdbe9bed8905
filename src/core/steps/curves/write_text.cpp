#include <algorithm>
#include <cmath>
#include <limits>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/geometry/curves/curve_division.hpp"
#include "core/geometry/curves/curve_interpolation.hpp"
#include "core/geometry/curves/lettering.hpp"
#include "core/geometry/parts/address_list.hpp"
#include "core/steps/curves/curve_support.hpp"
#include "core/steps/moves/axis_slots.hpp"

namespace plume {
namespace {

// A place that is written at: its axes as the text is read, and what could be written there.
struct Spot {
    Placement page;
    Quantity number;  // not a number: none
    std::string address;
};
using Spots = std::vector<Spot>;

// As it is read looking against its up axis, whose across points upwards where that can be.
Placement upright_page(Vec3 up) {
    const Vec3 level = cross({0, 0, 1}, up);
    return placement_of({}, up, length(level) > 1e-9 ? level : Vec3{1, 0, 0});
}

// Along a line, from left to right, or upwards.
Placement page_along(Vec3 origin, Vec3 tangent, const Placement& page) {
    Vec3 along = tangent - page.up * dot(tangent, page.up);
    if (length(along) <= 1e-9 * length(tangent)) along = page.along;
    const double right = dot(along, page.along), upwards = dot(along, page.across);
    const bool backwards = right < -1e-9 * length(along) || (right < 1e-9 * length(along) && upwards < 0);
    return placement_of(origin, page.up, backwards ? along * -1 : along);
}

// The name of the number that is written, where one is wished for.
std::string wished_number(const Inputs& in) {
    if (in.word("what") == "named") return in.word("number");
    const std::vector<std::string> names = field_names(in.value("thing"));
    return names.empty() ? std::string() : names.back();
}

std::vector<double> places_along(const CurveLength& measure, const Inputs& in) {
    const double total = measure.total();
    if (in.word("times") == "once") return {total / 2};
    const auto count = static_cast<std::size_t>(std::max(1.0, std::floor(total / in.number("spacing"))));
    std::vector<double> places;
    for (std::size_t at = 0; at < count; ++at)
        places.push_back(total * (static_cast<double>(at) + 0.5) / static_cast<double>(count));
    return places;
}

Result<Spots> spots_on(const CurveSet& set, const Inputs& in, const Run& run) {
    const Placement page = upright_page(way_of(in));
    const std::string number = wished_number(in);
    Spots spots;
    for (std::size_t item = 0; item < set.curves.size(); ++item) {
        if (run.cancelled()) return cancelled_error();
        const SplineCurve& curve = set.curves[item];
        const auto field = std::ranges::find(curve.fields(), number, &Field::name);
        const Dimension dimension = field == curve.fields().end() ? plain_number : field->dimension;
        const CurveLength measure(curve);
        for (const double length : places_along(measure, in)) {
            const double t = measure.parameter_at(length);
            const CurvePoint here = evaluate(curve, t);
            spots.push_back({page_along(here.position, here.along, page),
                             {field_at(curve, number, t), dimension},
                             std::to_string(item)});
        }
    }
    return spots;
}

// At points in the direction they are read from, or each in the plane of its placement.
Spots spots_on(const PointLattice& points, const std::vector<Placement>* pages, const Inputs& in) {
    const Field* const field = points.field(wished_number(in));
    Placement upright;
    if (!pages) upright = upright_page(way_of(in));
    Spots spots;
    for (std::size_t item = 0; item < points.address_count(); ++item) {
        if (!points.present(item) || !is_finite(points.point(item))) continue;
        upright.origin = points.point(item);
        spots.push_back({pages ? (*pages)[item] : upright,
                         {field ? field->values[item] : std::numeric_limits<double>::quiet_NaN(),
                          field ? field->dimension : plain_number},
                         address_text(points, item)});
    }
    return spots;
}

Result<Spots> spots_of(const Inputs& in, const Run& run) {
    const Value& thing = in.value("thing");
    if (const auto* set = std::get_if<CurveSet>(&thing)) return spots_on(*set, in, run);
    if (const auto* placements = std::get_if<Placements>(&thing))
        return spots_on(placements->origins(), &placements->placements(), in);
    return spots_on(in.lattice("thing"), nullptr, in);
}

Error carries_no(const Inputs& in) {
    const std::vector<std::string> names = field_names(in.value("thing"));
    const std::string mend = names.empty() ? "Compute one first, or write addresses or a text."
                                           : "Type one that it carries: " + listed_names(names) + ".";
    return in.word("what") == "named"
               ? about_slot(Error{ErrorCode::out_of_range, "", "is not carried by what is written on", mend},
                            "number")
               : about_slot(Error{ErrorCode::empty_input, "", "carries no number", mend}, "thing");
}

class Writing {
public:
    Writing(const Inputs& in, const Run& run) : in_(in), run_(run) {}

    Result<Value> written(const Spots& spots) {
        const std::string& what = in_.word("what");
        const bool numbers = what == "last" || what == "named";
        for (const Spot& spot : spots) {
            if (run_.cancelled()) return cancelled_error();
            if (numbers && !std::isfinite(spot.number.value)) {
                ++without_;
                continue;
            }
            const std::string text = numbers          ? quantity_text(spot.number, in_.units(), 3)
                                     : what == "text" ? in_.word("text")
                                                      : spot.address;
            if (Status added = write(text, spot); !added) return added.error();
        }
        if (set_.curves.empty()) return nothing_written(spots, numbers);
        remark(spots.size());
        return Value(std::move(set_));
    }

private:
    // Lines of a text stand below each other.
    Status write(const std::string& text, const Spot& spot) {
        const std::vector<std::string_view> lines = words_between(text, "\n\r");
        const auto further = static_cast<double>(std::max<std::size_t>(lines.size(), 1) - 1) * line_height;
        const std::string& stand = in_.word("stand");
        // Half a capital between the line and letters beside it.
        double lift = stand == "on" ? (further - 1) / 2 : stand == "above" ? 0.5 + further : -1.5;
        for (const std::string_view line : lines) {
            if (Status added = write_line(line, lift, spot); !added) return added;
            lift -= line_height;
        }
        return Done{};
    }
    Status write_line(std::string_view text, double lift, const Spot& spot) {
        const auto letters = lettering(text);
        if (!letters) return letters.error();
        if (unknown_.find(letters->unknown) == std::string::npos) unknown_ += letters->unknown;
        for (std::vector<Vec3>& stroke : strokes_on(spot.page, *letters, in_.number("height"), lift)) {
            CurvePoints line;
            line.points = std::move(stroke);
            auto curve = curve_through(std::move(line), CurveShape::straight);
            if (!curve) return about_slot(curve.error(), "height");
            set_.curves.push_back(*std::move(curve));
        }
        return Done{};
    }
    Error nothing_written(const Spots& spots, bool numbers) const {
        if (spots.empty())
            return about_slot(
                Error{ErrorCode::empty_input, "", "holds nothing to write on", "Choose another."}, "thing");
        if (numbers) return carries_no(in_);
        return about_slot(Error{ErrorCode::empty_input, "", "has no letters", "Type some."}, "text");
    }
    void remark(std::size_t spots) const {
        run_.remark(count_text(spots - without_, "text", "texts") + ", " +
                    count_text(set_.curves.size(), "stroke.", "strokes."));
        if (without_ > 0)
            run_.remark_loss(count_text(without_, "number is not there or not finite and is left out.",
                                        "numbers are not there or not finite and are left out."));
        if (!unknown_.empty())
            run_.remark_loss("There are no strokes for ‘" + shortened(printable(unknown_)) + "’.");
    }

    static constexpr double line_height = 1.6;

    const Inputs& in_;
    const Run& run_;
    CurveSet set_;
    std::size_t without_ = 0;
    std::string unknown_;
};

Result<Value> make(const Inputs& in, const Run& run) {
    const std::string& what = in.word("what");
    if (what == "last" || what == "named") {
        const std::vector<std::string> names = field_names(in.value("thing"));
        if (std::ranges::find(names, wished_number(in)) == names.end()) return carries_no(in);
    }
    const auto spots = spots_of(in, run);
    if (!spots) return spots.error();
    return Writing(in, run).written(*spots);
}

Estimate estimate(const Inputs& in) {
    double texts = 0;
    if (const auto* set = std::get_if<CurveSet>(&in.value("thing"))) {
        texts = static_cast<double>(set->curves.size());
        if (in.word("times") == "every")
            for (const SplineCurve& curve : set->curves)
                texts += polygon_length(curve) / in.number("spacing");
    } else {
        const PointLattice* const lattice = lattice_of(in.value("thing"));
        if (lattice) texts = static_cast<double>(lattice->point_count());
    }
    const double letters = in.word("what") == "text" ? static_cast<double>(in.word("text").size()) : 5;
    return {texts * letters * 1500, texts * letters * 2e-6};
}

}  // namespace

StepKind write_text() {
    std::vector<SlotSpec> slots = with_direction(
        {choice_slot("what", "What",
                     {{"last", "the number in hand", "of what carries several, the last one"},
                      {"named", "the number called", "any that it carries"},
                      {"address", "the address", "of points i and j, of curves the number of each"},
                      {"text", "the text", "the same everywhere"}}),
         name_slot("number", "Number", "level"), text_slot("text", "Text", "A"),
         choice_slot("stand", "Where",
                     {{"above", "above", "clear of the line or point"},
                      {"on", "over", "its middle on the line or point"},
                      {"below", "below", "clear of the line or point"}}),
         reference_slot("thing", "Thing", {Kind::curves, Kind::points, Kind::field, Kind::placements}),
         choice_slot("times", "How often",
                     {{"once", "once", "in the middle of each curve"},
                      {"every", "about every", "at even lengths of each curve, once at least"}}),
         length_above_zero_slot("spacing", "Spacing", "2 m"),
         length_above_zero_slot("height", "Height", "100 mm")});
    return {
        .key = "curve.write",
        .verb = "Write on curves and points",
        .synonyms = "text label letters lettering number engrave mark annotate tag contour",
        .sentence = std::string("Write {what}[what=named| {number}][what=text| {text}] {stand} {thing} "
                                "{times}[times=every| {spacing}], {height} high, read from ") +
                    direction_words + ".",
        .slots = std::move(slots),
        .results = {Kind::curves},
        .result_name = "writing",
        .help =
            "Numbers, addresses or a text as single strokes, to be drawn, engraved and exported: along "
            "curves, never upside down; at points, level or upright; in the planes of placements. Capitals "
            "have the height.",
        .stays_beside = true,
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume
