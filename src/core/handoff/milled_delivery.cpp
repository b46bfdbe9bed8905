#include "core/handoff/milled_delivery.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/file.hpp"
#include "core/base/numbers.hpp"
#include "core/exchange/drawing_views.hpp"
#include "core/geometry/meshes/joined_meshes.hpp"
#include "core/geometry/meshes/mesh_volume.hpp"
#include "core/geometry/moves/transformed.hpp"
#include "core/handoff/millimetres.hpp"
#include "core/milling/gcode.hpp"

namespace plume {
namespace {

// As the machine has it: x and y across the view, z towards the viewer.
Affine to_machine(const std::string& seen, double mm) {
    const auto [right, up, away] = frame_of(sheet_view_from("from the " + seen).value_or(SheetView::plan));
    return {Vec3{right.x, up.x, -away.x} * mm, Vec3{right.y, up.y, -away.y} * mm,
            Vec3{right.z, up.z, -away.z} * mm};
}

Cutter cutter_of(const std::string& sort, double diameter, double corner, double mm) {
    if (sort == "flat") return Cutter::flat(diameter / 2 * mm);
    if (sort == "rounded") return {diameter / 2 * mm, corner * mm};
    return Cutter::ball(diameter / 2 * mm);
}

// Faces of the results that are given so, as the machine sees them.
Result<std::optional<Mesh>> seen_faces(const DeliveryContent& delivery, const std::string& as,
                                       const Units& units, const Run& run) {
    ExportJob job{{}, units, units.length};
    for (const GivenResult& given : delivery.results)
        if (given.as == as) job.results.push_back({given.value, given.name});
    if (job.results.empty()) return std::optional<Mesh>();
    const auto scene = scene_of(job, Box::infinite, run);
    if (!scene) return scene.error();
    const Affine map = to_machine(delivery.wishes.milling->seen, mm_of(units));
    std::vector<Mesh> seen;
    for (const SceneObject& object : *scene) {
        if (!object.form.facets) continue;
        auto mesh = transformed(Value(*object.form.facets), map);
        if (!mesh) return mesh.error();
        seen.push_back(std::get<Mesh>(*std::move(mesh)));
    }
    if (seen.empty()) return std::optional<Mesh>();
    auto all = joined(seen);
    if (!all) return all.error();
    return std::optional<Mesh>(*std::move(all));
}

std::string text_of_mm(double mm, const Units& units) {
    return quantity_text({mm / mm_of(units), a_length}, units, 4);
}

Status check_sizes(const MillingWishes& wishes, Vec3 size, const Units& units) {
    const double thickness = wishes.thickness * mm_of(units), diameter = wishes.diameter * mm_of(units);
    if (thickness < size.z)
        return about_slot(Error{ErrorCode::out_of_range, "",
                                "of " + text_of_mm(thickness, units) + " is less than the relief is deep, " +
                                    text_of_mm(size.z, units),
                                "Type at least that."},
                          "thickness");
    if (diameter > std::min(size.x, size.y))
        return about_slot(Error{ErrorCode::out_of_range, "",
                                "of " + text_of_mm(diameter, units) + " is more than the form is wide, " +
                                    text_of_mm(std::min(size.x, size.y), units),
                                "Choose a thinner cutter."},
                          "diameter");
    return Done{};
}

MillingJob job_of(const DeliveryContent& delivery, const FormInBoard& form, const Units& units) {
    const MillingWishes& wishes = *delivery.wishes.milling;
    const double mm = mm_of(units);
    MillingJob job;
    job.form = &form.form;
    job.clamps = form.clamps ? &*form.clamps : nullptr;
    job.clearance = wishes.clearance * mm;
    const std::vector<Cutter> cutters = cutters_of(delivery, units);
    job.cutter = cutters.back();
    job.way = wishes.way == "contours" ? MillingWay::contours
              : wishes.way == "spiral" ? MillingWay::spiral
                                       : MillingWay::parallel;
    job.angle_rad = wishes.angle;
    job.apart = wishes.ridge > 0 ? apart_for_ridge(job.cutter, wishes.ridge * mm) : wishes.apart * mm;
    if (wishes.rough_diameter > 0)
        job.roughing =
            Roughing{cutters.front(), wishes.rough_apart * mm, wishes.step_down * mm, wishes.allowance * mm};
    job.feed = wishes.feed * mm;
    job.plunge_feed = wishes.plunge_feed * mm;
    job.safe = wishes.safe * mm;
    return job;
}

std::vector<std::string> comments_of(const DeliveryContent& delivery, const FormInBoard& form) {
    std::string names;
    for (const GivenResult& given : delivery.results)
        if (given.as.empty()) names += (names.empty() ? "" : ", ") + given.name;
    return {names + ", milled from " + (delivery.wishes.milling->seen == "above" ? "" : "the ") +
                delivery.wishes.milling->seen,
            "board " + short_text(form.board.width, 6) + " x " + short_text(form.board.depth, 6) + " x " +
                short_text(form.board.thickness, 6) + " mm, zero at the lower left corner of its top"};
}

}  // namespace

bool is_milled(const DeliveryContent& delivery) {
    return delivery.wishes.milling.has_value();
}

Result<FormInBoard> form_in_board(const DeliveryContent& delivery, const Units& units, const Run& run) {
    auto form = seen_faces(delivery, "", units, run);
    if (!form) return form.error();
    auto clamps = seen_faces(delivery, "clamps", units, run);
    if (!clamps) return clamps.error();
    if (!*form)
        return Error{ErrorCode::empty_input, "", "has no faces to be milled",
                     "Give a surface, a mesh or bodies."};
    const MillingWishes& wishes = *delivery.wishes.milling;
    const Box bounds = (*form)->bounds();
    if (Status fine = check_sizes(wishes, bounds.size(), units); !fine) return fine.error();
    const double margin = wishes.margin * mm_of(units);
    const Vec3 by{margin - bounds.low.x, margin - bounds.low.y, -bounds.high.z};
    const auto placed_form = transformed(Value(**form), moved_by(by));
    if (!placed_form) return placed_form.error();
    FormInBoard placed{std::get<Mesh>(*placed_form), {}, {}};
    if (*clamps) {
        const auto placed_clamps = transformed(Value(**clamps), moved_by(by));
        if (!placed_clamps) return placed_clamps.error();
        placed.clamps = std::get<Mesh>(*placed_clamps);
    }
    placed.board = {bounds.size().x + 2 * margin, bounds.size().y + 2 * margin,
                    wishes.thickness * mm_of(units)};
    return placed;
}

std::vector<Cutter> cutters_of(const DeliveryContent& delivery, const Units& units) {
    const MillingWishes& wishes = *delivery.wishes.milling;
    const double mm = mm_of(units);
    std::vector<Cutter> cutters;
    if (wishes.rough_diameter > 0)
        cutters.push_back(cutter_of(wishes.rough_cutter, wishes.rough_diameter, 0, mm));
    cutters.push_back(cutter_of(wishes.cutter, wishes.diameter, wishes.corner, mm));
    return cutters;
}

Result<std::string> milling_file(const DeliveryContent& delivery, const FormInBoard& form, const Units& units,
                                 const Run& run) {
    const MillingJob job = job_of(delivery, form, units);
    auto milled = milling_paths(job, run);
    if (!milled) return milled.error();
    std::string text;
    const GcodeHead head{comments_of(delivery, form), milled->cutters, delivery.wishes.milling->spindle};
    write_gcode(with_arcs(milled->path, job.within), head, [&](std::string_view bytes) { text += bytes; });
    return text;
}

RehearsalJob rehearsal_of(const DeliveryContent& delivery, const FormInBoard& form, const Units& units) {
    constexpr double of_ridges = 1.5;
    const MillingJob milling = job_of(delivery, form, units);
    RehearsalJob job{&form.form, form.board, cutters_of(delivery, units)};
    job.within = std::max(job.within, of_ridges * ridge_between(milling.cutter, milling.apart));
    return job;
}

std::string overhang_text(const Rehearsal& rehearsal, bool closed) {
    const std::uint8_t usual = closed ? 2 : 1;
    std::size_t covered = 0, hidden = 0;
    for (const std::uint8_t layers : rehearsal.form.layers) {
        covered += layers > 0 ? 1 : 0;
        hidden += layers > usual ? 1 : 0;
    }
    const double share = covered > 0 ? 100.0 * static_cast<double>(hidden) / static_cast<double>(covered) : 0;
    if (share < 0.1) return {};
    return short_text(share, 2) + " % of the form lies below overhangs and is lost";
}

Result<std::string> write_milling(const DeliveryContent& delivery, const Units& units,
                                  const std::filesystem::path& path, const Run& run) {
    const auto form = form_in_board(delivery, units, run);
    if (!form) return form.error();
    const auto file = milling_file(delivery, *form, units, run);
    if (!file) return file.error();
    // What the file says is what is rehearsed.
    const auto read = gcode_from(*file, run);
    if (!read) return read.error();
    const auto rehearsal = rehearsed(read->path, rehearsal_of(delivery, *form, units), run);
    if (!rehearsal) return rehearsal.error();
    if (Status written = write_file(path, *file); !written) return written.error();
    const std::string lost = overhang_text(*rehearsal, is_closed(form->form));
    return "Milled in " + rehearsal->summary() + "; " +
           grouped_text(static_cast<std::int64_t>(rehearsal->move_count)) + " moves, " +
           short_text((rehearsal->path.cutting + rehearsal->path.rapid) / 1000, 4) + " m, to ‘" +
           path.filename().string() + "’" + (lost.empty() ? "" : "; " + lost) + '.';
}

}  // namespace plume
