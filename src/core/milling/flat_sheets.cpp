#include "core/milling/flat_sheets.hpp"

#include <algorithm>
#include <limits>

#include "core/base/numbers.hpp"
#include "core/geometry/curves/curve_interpolation.hpp"
#include "core/geometry/levels/nesting.hpp"

namespace plume {
namespace {

struct FlatBox {
    double left = std::numeric_limits<double>::infinity(), right = -left, below = left, above = -left;

    void include(const FlatLine& line) {
        for (const FlatPoint place : line.places) {
            left = std::min(left, place.x);
            right = std::max(right, place.x);
            below = std::min(below, place.y);
            above = std::max(above, place.y);
        }
    }
    bool holds(const FlatBox& other, double within) const {
        return other.left >= left - within && other.right <= right + within &&
               other.below >= below - within && other.above <= above + within;
    }
};
FlatBox box_of(const FlatLine& line) {
    FlatBox box;
    box.include(line);
    return box;
}

// Rims are drawn to a hair.
constexpr double hair = 0.01;

std::vector<FlatBox> boxes_of(const FlatLines& lines, double margin) {
    std::vector<FlatBox> boxes;
    for (const FlatLine& rim : lines.rims)
        boxes.push_back(box_of(rim));
    if (!boxes.empty()) return boxes;
    FlatBox all;
    for (const auto* some : {&lines.cuts, &lines.marks})
        for (const FlatLine& line : *some)
            all.include(line);
    return {{all.left - margin, all.right + margin, all.below - margin, all.above + margin}};
}

Result<std::size_t> sheet_of(const FlatLine& line, const std::vector<FlatBox>& boxes) {
    const FlatBox box = box_of(line);
    const auto found =
        std::ranges::find_if(boxes, [&](const FlatBox& sheet) { return sheet.holds(box, hair); });
    if (found != boxes.end()) return static_cast<std::size_t>(found - boxes.begin());
    return Error{ErrorCode::out_of_range, "",
                 "have a line that lies on no sheet, near X " + short_text(line.places.front().x, 5) + " Y " +
                     short_text(line.places.front().y, 5) + " mm",
                 "Lay it within a rim, or give no rims."};
}

FlatLine moved(FlatLine line, const FlatBox& sheet) {
    for (FlatPoint& place : line.places)
        place = {place.x - sheet.left, place.y - sheet.below};
    return line;
}

Result<SplineCurve> curve_of(const FlatLine& line) {
    CurvePoints points;
    points.closed = line.closed;
    for (const FlatPoint place : line.places)
        points.points.push_back({place.x, place.y, 0});
    return curve_through(std::move(points), CurveShape::straight);
}

// The cuts of one sheet, with what is within what.
Status add_cuts(FlatSheet& sheet, const std::vector<FlatLine>& lines, const Run& run) {
    std::vector<SplineCurve> curves;
    for (const FlatLine& line : lines) {
        auto curve = curve_of(line);
        if (!curve) return curve.error();
        curves.push_back(*std::move(curve));
    }
    const auto nesting = nesting_of(curves, std::vector<std::size_t>(curves.size(), 0), {}, run);
    if (!nesting) return nesting.error();
    // Rings have numbers of their own.
    std::vector<std::size_t> ring_of(lines.size(), 0);
    for (std::size_t at = 0, ring = 0; at < lines.size(); ++at)
        if (lines[at].closed) ring_of[at] = ring++;
    for (std::size_t at = 0; at < lines.size(); ++at) {
        if (run.cancelled()) return cancelled_error();
        std::optional<std::size_t> within = (*nesting)[at].within;
        if (within) within = ring_of[*within];
        if (!lines[at].closed) {
            sheet.open.push_back({lines[at].places, within});
            continue;
        }
        auto outline = Outline::make(curves[at]);
        if (!outline) return outline.error();
        sheet.rings.push_back({*std::move(outline), (*nesting)[at].depth, within});
    }
    return Done{};
}

}  // namespace

std::vector<std::vector<FlatPoint>> loops_beside(const CutRing& ring, double kerf) {
    constexpr double round_to = 0.0025;  // of corners, mm
    if (kerf <= 0) return {ring.outline.corners()};
    auto loops =
        offset_loops(ring.outline, ring.is_hole() ? -kerf / 2 : kerf / 2, OffsetCorners::round, round_to);
    return loops ? *std::move(loops) : std::vector<std::vector<FlatPoint>>();
}

Result<std::vector<FlatSheet>> flat_sheets(FlatLines lines, double margin, const Run& run) {
    if (lines.cuts.empty() && lines.marks.empty())
        return Error{ErrorCode::empty_input, "", "hold nothing to be cut", "Give closed lines."};
    const std::vector<FlatBox> boxes = boxes_of(lines, margin);
    std::vector<FlatSheet> sheets;
    sheets.reserve(boxes.size());
    for (const FlatBox& box : boxes)
        sheets.push_back({box.right - box.left, box.above - box.below, {}, {}, {}});
    std::vector<std::vector<FlatLine>> cuts(boxes.size());
    for (FlatLine& line : lines.cuts) {
        const auto sheet = sheet_of(line, boxes);
        if (!sheet) return sheet.error();
        cuts[*sheet].push_back(moved(std::move(line), boxes[*sheet]));
    }
    for (FlatLine& line : lines.marks) {
        const auto sheet = sheet_of(line, boxes);
        if (!sheet) return sheet.error();
        sheets[*sheet].marks.push_back(moved(std::move(line), boxes[*sheet]));
    }
    for (std::size_t sheet = 0; sheet < sheets.size(); ++sheet)
        if (Status added = add_cuts(sheets[sheet], cuts[sheet], run); !added) return added.error();
    return sheets;
}

}  // namespace plume
