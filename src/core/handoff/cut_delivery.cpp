#include "core/handoff/cut_delivery.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/file.hpp"
#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/meshes/sheet_lines.hpp"
#include "core/handoff/millimetres.hpp"
#include "core/milling/gcode.hpp"

namespace plume {
namespace {

constexpr double true_to = 0.01;  // of curves, mm

// Seen from above. Places that follow each other at one place are taken once.
FlatLine flat_line(const SplineCurve& curve, double mm) {
    FlatLine line;
    line.closed = curve.closed();
    for (const Vec3 place : sample(curve, true_to / mm).points) {
        const FlatPoint at{place.x * mm, place.y * mm};
        if (line.places.empty() || at.x != line.places.back().x || at.y != line.places.back().y)
            line.places.push_back(at);
    }
    return line;
}

std::vector<FlatLine>& lines_for(FlatLines& lines, const GivenResult& given, const SplineCurve& curve) {
    if (given.as == "rims") return lines.rims;
    if (given.as == "marks") return lines.marks;
    const auto pen = std::ranges::find(curve.fields(), "pen", &Field::name);
    if (pen == curve.fields().end()) return lines.cuts;
    const double drawn_by = pen->values[0];
    if (drawn_by == static_cast<double>(SheetPen::rim)) return lines.rims;
    return drawn_by == static_cast<double>(SheetPen::mark) ? lines.marks : lines.cuts;
}

Result<FlatLines> lines_of(const DeliveryContent& delivery, double mm, const Run& run) {
    FlatLines lines;
    for (const GivenResult& given : delivery.results) {
        const auto* set = std::get_if<CurveSet>(&*given.value);
        if (!set) continue;
        for (std::size_t at = 0; at < set->curves.size(); ++at) {
            if (run.cancelled()) return cancelled_error();
            FlatLine line = flat_line(set->curves[at], mm);
            if (line.places.size() < 2)
                return Error{ErrorCode::too_few_points, "",
                             "hold an upright line, the one of number " + std::to_string(at + 1) + " of ‘" +
                                 given.name + "’, of which nothing is seen from above",
                             "Lay what is cut flat."};
            lines_for(lines, given, set->curves[at]).push_back(std::move(line));
        }
    }
    return lines;
}

FlatTool tool_of(const DeliveryContent& delivery, const Units& units) {
    const CuttingWishes& wishes = *delivery.wishes.cutting;
    const double mm = mm_of(units);
    FlatTool tool;
    tool.beam = wishes.by == "beam";
    tool.kerf = wishes.kerf * mm;
    tool.lead_in = wishes.lead_in * mm;
    tool.feed = wishes.feed * mm;
    tool.mark_feed = wishes.mark_feed * mm;
    tool.pierce_s = wishes.pierce_s;
    tool.power = wishes.power;
    tool.mark_power = wishes.mark_power;
    tool.depth = (wishes.thickness + wishes.below) * mm;
    tool.step_down = wishes.step_down * mm;
    tool.mark_depth = wishes.mark_depth * mm;
    tool.plunge_feed = wishes.plunge_feed * mm;
    tool.safe = wishes.safe * mm;
    return tool;
}

std::vector<std::string> comments_of(const DeliveryContent& delivery, std::span<const FlatSheet> sheets) {
    std::string names;
    for (const GivenResult& given : delivery.results)
        names += (names.empty() ? "" : ", ") + given.name;
    std::vector<std::string> comments{names + ", cut flat, zero at the lower left corner of each sheet"};
    for (std::size_t sheet = 0; sheet < sheets.size(); ++sheet)
        comments.push_back("sheet " + std::to_string(sheet + 1) + ": " + short_text(sheets[sheet].width, 6) +
                           " x " + short_text(sheets[sheet].depth, 6) + " mm");
    return comments;
}

// What is longer along the line than as it is seen from above.
std::size_t leaning_lines(const DeliveryContent& delivery) {
    constexpr double hardly = 1e-4;
    std::size_t count = 0;
    for (const GivenResult& given : delivery.results)
        if (const auto* set = std::get_if<CurveSet>(&*given.value))
            for (const SplineCurve& curve : set->curves) {
                const auto [low, high] = std::ranges::minmax(curve.z().span());
                count += high - low > hardly * poles_box(curve).diagonal() ? 1 : 0;
            }
    return count;
}

}  // namespace

bool is_cut(const DeliveryContent& delivery) {
    return delivery.wishes.cutting.has_value();
}

Result<std::vector<FlatSheet>> sheets_of(const DeliveryContent& delivery, const Units& units,
                                         const Run& run) {
    const double mm = mm_of(units);
    auto lines = lines_of(delivery, mm, run);
    if (!lines) return about_slot(lines.error(), "results");
    auto sheets = flat_sheets(*std::move(lines), delivery.wishes.cutting->margin * mm, run);
    if (!sheets) return about_slot(sheets.error(), "results");
    return sheets;
}

Result<CuttingFile> cutting_file(const DeliveryContent& delivery, std::span<const FlatSheet> sheets,
                                 const Units& units, const Run& run) {
    const FlatTool tool = tool_of(delivery, units);
    const auto cuts = flat_cuts(sheets, tool, run);
    if (!cuts) return cuts.error();
    CuttingFile file;
    GcodeHead head{comments_of(delivery, sheets), {}, delivery.wishes.cutting->spindle, tool.beam};
    if (!tool.beam) head.cutters = {Cutter::flat(tool.kerf / 2)};
    write_gcode(cuts->path, head, [&](std::string_view bytes) { file.text += bytes; });
    if (cuts->too_narrow > 0)
        file.losses.push_back(count_text(cuts->too_narrow, "opening is", "openings are") +
                              " narrower than the cut and left out, the first near X " +
                              short_text(cuts->first_too_narrow.x, 5) + " Y " +
                              short_text(cuts->first_too_narrow.y, 5) + " mm");
    if (const std::size_t leaning = leaning_lines(delivery); leaning > 0)
        file.losses.push_back(count_text(leaning, "line leans", "lines lean") +
                              " and are cut as seen from above");
    return file;
}

FlatRehearsalJob rehearsal_of(const DeliveryContent& delivery, std::span<const FlatSheet> sheets,
                              const Units& units) {
    const CuttingWishes& wishes = *delivery.wishes.cutting;
    const double mm = mm_of(units);
    FlatRehearsalJob job;
    job.sheets = sheets;
    job.beam = wishes.by == "beam";
    job.kerf = wishes.kerf * mm;
    job.thickness = wishes.thickness * mm;
    job.mark_depth = wishes.mark_depth * mm;
    return job;
}

Result<std::string> write_cutting(const DeliveryContent& delivery, const Units& units,
                                  const std::filesystem::path& path, const Run& run) {
    const auto sheets = sheets_of(delivery, units, run);
    if (!sheets) return sheets.error();
    const auto file = cutting_file(delivery, *sheets, units, run);
    if (!file) return file.error();
    // What the file says is what is rehearsed.
    const auto read = gcode_from(file->text, run);
    if (!read) return read.error();
    const auto rehearsal = flat_rehearsed(read->path, rehearsal_of(delivery, *sheets, units), run);
    if (!rehearsal) return rehearsal.error();
    if (Status written = write_file(path, file->text); !written) return written.error();
    std::string report = "Cut in " + rehearsal->summary() + "; " + short_text(rehearsal->cut / 1000, 4) +
                         " m of cuts, begun " + count_text(rehearsal->begun, "time", "times") + ", to ‘" +
                         path.filename().string() + "’";
    for (const std::string& loss : file->losses)
        report += "; " + loss;
    return report + '.';
}

}  // namespace plume
