#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/overloaded.hpp"
#include "core/data/address_text.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/curves/mapped_curve.hpp"
#include "core/geometry/measures/bounds.hpp"
#include "core/geometry/meshes/cell_units.hpp"
#include "core/geometry/meshes/joined_meshes.hpp"
#include "core/geometry/moves/copies.hpp"
#include "core/geometry/parts/mesh_parts.hpp"
#include "core/geometry/solids/bodies.hpp"
#include "core/geometry/solids/body_mesh.hpp"
#include "core/steps/curves/curve_support.hpp"

namespace plume {
namespace {

constexpr std::size_t body_polygons = 600;  // of a body that is morphed
constexpr double curves_true_to = 1e-6;     // of the size of what they fill

// Units ---------------------------------------------------------------------------------------------------

struct Units {
    std::vector<CellUnit> meshes;  // of a mesh its parts, of bodies one each
    std::vector<std::pair<SplineCurve, Box>> curves;
};

Box typed_box(const Inputs& in) {
    Box box;
    box.include(Vec3{0, 0, 0});
    box.include(Vec3{in.number("width"), in.number("depth"), in.number("height")});
    return box;
}

// All together, or each for itself, in its own box or in the one that is typed.
Result<Units> units_of(const Inputs& in, const Run& run) {
    const bool each = in.word("chosen") != "all", typed = in.word("box") == "typed";
    const Value& unit = in.value("unit");
    Units units;
    const auto box_of = [&](const Box& own) { return typed ? typed_box(in) : own; };
    if (const auto* mesh = std::get_if<Mesh>(&unit)) {
        for (std::size_t part = 0; part < (each ? mesh->part_count() : 1); ++part) {
            const Mesh one = each ? part_alone(*mesh, part).mesh : *mesh;
            units.meshes.push_back({one, box_of(one.bounds())});
        }
    } else if (const auto* set = std::get_if<SolidSet>(&unit)) {
        std::vector<Mesh> meshes;
        for (const Body& body : set->bodies) {
            auto closed = closed_mesh(body, body_polygons, run);
            if (!closed) return closed.error();
            meshes.push_back(*std::move(closed));
        }
        if (!each) {
            auto all = joined(meshes);
            if (!all) return all.error();
            meshes = {*std::move(all)};
        }
        for (const Mesh& one : meshes)
            units.meshes.push_back({one, box_of(one.bounds())});
    } else {
        const CurveSet& curves = in.held<CurveSet>("unit");
        for (const SplineCurve& curve : curves.curves)
            units.curves.emplace_back(curve, box_of(each ? bounds_of(curve) : bounds_of(unit)));
    }
    std::erase_if(units.meshes, [](const CellUnit& one) { return one.mesh.face_count() == 0; });
    if (units.meshes.empty() && units.curves.empty())
        return about_slot(
            Error{ErrorCode::empty_input, "", "holds nothing to fill cells with", "Choose another."}, "unit");
    return units;
}

// A unit that reaches beyond its box reaches into the next cells.
void remark_reach(const Inputs& in, const Run& run) {
    if (in.word("box") != "typed") return;
    const Box own = bounds_of(in.value("unit")), box = typed_box(in);
    const Vec3 low = box.low - own.low, high = own.high - box.high;
    const double beyond = std::max({low.x, low.y, low.z, high.x, high.y, high.z});
    if (beyond > 1e-9 * box.diagonal())
        run.remark("The unit reaches " + quantity_text({beyond, a_length}, in.units(), 3) +
                   " beyond its box, and into neighbouring cells.");
}

// Cells ---------------------------------------------------------------------------------------------------

Result<CellBoxes> cells_of_points(const Inputs& in) {
    const PointLattice& points = in.lattice("points");
    const std::string& depth = in.word("depth_rule");
    const bool block = points.arrangement() == Arrangement::block;
    if (block != (depth == "own"))
        return about_slot(block ? Error{ErrorCode::unlike_arrangement, "", "is for cells that are flat",
                                        "Fill the cells of a block as deep as they are."}
                                : Error{ErrorCode::unlike_arrangement, "", "is for the cells of a block",
                                        "Give a depth, or other points above."},
                          "depth_rule");
    auto cells = block ? block_boxes(points)
                       : boxes_between(points, depth == "between" ? in.lattice("upper")
                                                                  : lifted(points, in.number("thickness")));
    if (!cells) return about_slot(cells.error(), depth == "between" ? "upper" : "points");
    return cells;
}

double mean_of(const Column& numbers, const EightCorners& corners) {
    double sum = 0;
    for (const std::size_t corner : corners)
        sum += numbers[corner] / 8;
    return sum;
}

struct Fills {
    std::vector<CellFill> fills;
    std::size_t unknown = 0, larger = 0;
};

// The share of the units that a number from 0 to 1 chooses.
std::size_t chosen_of(double number, std::size_t count) {
    const double at = std::floor(std::clamp(number, 0.0, 1.0) * static_cast<double>(count));
    return std::min(static_cast<std::size_t>(at), count - 1);
}

Status check_alike(const Inputs& in, const std::string& slot) {
    if (in.lattice("points").same_arrangement(in.lattice(slot))) return Done{};
    return about_slot(Error{ErrorCode::unlike_arrangement, "", "is on points that are arranged otherwise",
                            "Choose numbers on the points whose cells are filled."},
                      slot);
}

Result<Fills> fills_of(const Inputs& in, const CellBoxes& cells, std::size_t unit_count) {
    const bool chosen = in.word("chosen") == "number", scaled = in.word("size") == "scaled";
    for (const auto& [used, slot] : {std::pair(chosen, "choice"), std::pair(scaled, "scale")})
        if (used)
            if (Status alike = check_alike(in, slot); !alike) return alike.error();
    Fills made;
    made.fills.resize(cells.boxes.size());
    for (std::size_t cell = 0; cell < made.fills.size(); ++cell) {
        CellFill& fill = made.fills[cell];
        const EightCorners& corners = cells.addresses[cell];
        const double number = chosen ? mean_of(in.field("choice").field().values, corners) : 0;
        const double scale = scaled ? mean_of(in.field("scale").field().values, corners) : 1;
        if (!std::isfinite(number) || !std::isfinite(scale)) {
            ++made.unknown;
            fill.scale = 0;
            continue;
        }
        fill.unit = chosen ? chosen_of(number, unit_count) : cell % unit_count;
        fill.scale = std::max(scale, 0.0);
        if (scale > 1 + 1e-9) ++made.larger;
    }
    return made;
}

void remark_fills(const CellBoxes& cells, const Fills& made, const Run& run) {
    const auto counted = [](std::size_t count, const char* one, const char* many) {
        return grouped_text(static_cast<std::int64_t>(count)) + (count == 1 ? one : many);
    };
    if (cells.not_finite > 0)
        run.remark_loss(counted(cells.not_finite, " cell has", " cells have") +
                        " a corner that is not finite, and nothing in it.");
    if (made.unknown > 0)
        run.remark_loss(counted(made.unknown, " cell has", " cells have") +
                        " a number that is not finite, and nothing in it.");
    if (made.larger > 0)
        run.remark("In " + counted(made.larger, " cell", " cells") +
                   " the number is above 1, and the unit larger than the cell.");
}

// Results -------------------------------------------------------------------------------------------------

// Numbers of the points, the mean of each cell's corners on all faces in it.
std::vector<Field> numbers_of_cells(const PointLattice& points, const CellBoxes& cells,
                                    const std::vector<CellFill>& fills, const Mesh& mesh) {
    std::vector<Field> fields;
    for (const Field& field : points.fields()) {
        Doubles numbers(mesh.face_count());
        std::size_t part = 0;
        for (std::size_t cell = 0; cell < fills.size(); ++cell) {
            if (fills[cell].scale == 0) continue;
            const Mesh::Faces faces = mesh.part(part++);
            std::fill(numbers.begin() + static_cast<std::ptrdiff_t>(faces.begin),
                      numbers.begin() + static_cast<std::ptrdiff_t>(faces.end),
                      mean_of(field.values, cells.addresses[cell]));
        }
        fields.push_back({field.name, std::move(numbers), field.dimension});
    }
    return fields;
}

Result<Value> filled_with_curves(const Inputs& in, const Units& units, const CellBoxes& cells,
                                 const std::vector<CellFill>& fills, const Run& run) {
    const double size = bounds_of(in.value("points")).diagonal();
    const bool all = in.word("chosen") == "all";
    CurveSet made;
    double deviation = 0;
    for (std::size_t cell = 0; cell < fills.size(); ++cell) {
        if (run.cancelled()) return cancelled_error();
        run.report(static_cast<double>(cell) / static_cast<double>(fills.size()));
        if (fills[cell].scale == 0) continue;
        for (std::size_t number = 0; number < units.curves.size(); ++number) {
            if (!all && number != fills[cell].unit) continue;
            const auto& [curve, box] = units.curves[number];
            const CurvePlace place = [&, &unit = curve, &around = box](double t) -> Result<Vec3> {
                return place_in_cell(cells.boxes[cell], around, fills[cell].scale,
                                     evaluate(unit, t).position);
            };
            auto image = image_of(curve, place, curves_true_to * size, run);
            if (!image) return about_slot(image.error(), "unit");
            deviation = std::max(deviation, image->deviation);
            made.curves.push_back(std::move(image->to));
        }
    }
    if (deviation > 10 * curves_true_to * size) run.remark(deviation_sentence(deviation, in));
    return Value(std::move(made));
}

// Cells that reach to the other side turn what is in them inside out.
bool are_turned(const CellBoxes& cells) {
    double volume = 0;
    for (const CellBox& cell : cells.boxes) {
        const Vec3 middle = cell.at(0.5, 0.5, 0.5);
        volume += dot(cross(cell.at(1, 0.5, 0.5) - middle, cell.at(0.5, 1, 0.5) - middle),
                      cell.at(0.5, 0.5, 1) - middle);
    }
    return volume < 0;
}

// A part for each cell that is filled, called by the address of its first corner.
Mesh marked_by_cells(const Mesh& mesh, const PointLattice& points, const CellBoxes& cells, const Fills& fills,
                     const std::vector<CellUnit>& units) {
    std::vector<std::size_t> corners;
    for (std::size_t cell = 0; cell < fills.fills.size(); ++cell)
        if (fills.fills[cell].scale != 0 && units[fills.fills[cell].unit].mesh.face_count() > 0)
            corners.push_back(cells.addresses[cell].front());
    return mesh.with_marks([points, corners = std::move(corners)](std::size_t part) {
        return address_text(points, corners[part]);
    });
}

// A body for each part.
Result<Value> as_bodies(const Mesh& mesh, const Run& run) {
    SolidSet set;
    for (std::size_t part = 0; part < mesh.part_count(); ++part) {
        if (run.cancelled()) return cancelled_error();
        auto body = meshed_body(part_alone(mesh, part).mesh);
        if (!body) return about_slot(body.error(), "points");
        set.bodies.push_back(*std::move(body));
    }
    set.marks = mesh.part_marks();
    return Value(std::move(set));
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto units = units_of(in, run);
    if (!units) return units.error();
    const auto cells = cells_of_points(in);
    if (!cells) return cells.error();
    const std::size_t count = in.word("chosen") == "all" ? 1
                              : units->curves.empty()    ? units->meshes.size()
                                                         : units->curves.size();
    const auto fills = fills_of(in, *cells, count);
    if (!fills) return fills.error();
    remark_reach(in, run);
    remark_fills(*cells, *fills, run);
    if (!units->curves.empty()) return filled_with_curves(in, *units, *cells, fills->fills, run);
    auto mesh = units_in_cells(units->meshes, *cells, fills->fills, run);
    if (!mesh) return mesh.error();
    mesh = marked_by_cells(*mesh, in.lattice("points"), *cells, *fills, units->meshes);
    if (std::holds_alternative<SolidSet>(in.value("unit"))) return as_bodies(*mesh, run);
    if (are_turned(*cells)) mesh = turned_over(*mesh);
    Mesh::Parts parts = mesh->parts();
    parts.face_fields = numbers_of_cells(in.lattice("points"), *cells, fills->fills, *mesh);
    mesh = Mesh::make(std::move(parts));
    if (!mesh || in.word("joints") == "apart") return as_value(std::move(mesh));
    return Value(welded(*mesh, 1e-9 * mesh->bounds().diagonal()));
}

Estimate estimate(const Inputs& in) {
    const auto points = static_cast<double>(in.lattice("points").address_count());
    const Value& unit = in.value("unit");
    if (const auto* set = std::get_if<CurveSet>(&unit)) {
        const double poles = points * (pole_count(*set) + 8) * 4;
        return {poles * 400, poles * 4e-6};
    }
    double bytes = static_cast<double>(bytes_of(unit));
    const bool bodies = std::holds_alternative<SolidSet>(unit);
    if (const auto* set = std::get_if<SolidSet>(&unit))
        bytes += static_cast<double>(set->bodies.size() * body_polygons) * 60;
    else
        bytes +=
            static_cast<double>(std::get<Mesh>(unit).face_count() * in.lattice("points").fields().size()) *
            sizeof(double);
    const bool welds = !bodies && in.word("joints") == "welded";
    return {points * bytes * (bodies || welds ? 3 : 1.2), points * bytes * (bodies || welds ? 5e-8 : 2e-9)};
}

}  // namespace

StepKind fill_cells() {
    return {
        .key = "cells.fill",
        .verb = "Fill cells with a unit",
        .synonyms = "unit cell panel component module morph pattern populate facade pyramids mesh tile box",
        .sentence =
            "Put {unit}[more|, drawn in {box}][box=typed| of {width} by {depth} by {height}], into every "
            "cell of {points}, {depth_rule}[depth_rule=normal| {thickness}][depth_rule=between| "
            "{upper}][more|, {chosen}][chosen=number| {choice}], {size}[size=scaled| {scale}][more|, "
            "{joints}].",
        .slots = {reference_slot("unit", "Unit", {Kind::mesh, Kind::bodies, Kind::curves}),
                  choice_slot("box", "Box",
                              {{"own", "its own extent", "what is around it fills the cell"},
                               {"typed", "a box", "from the origin; the unit may leave some of it empty"}}),
                  length_above_zero_slot("width", "Width", "1 m"),
                  length_above_zero_slot("depth", "Depth", "1 m"),
                  length_above_zero_slot("height", "Height", "1 m"),
                  reference_slot("points", "Points", {Kind::points, Kind::field}),
                  choice_slot("depth_rule", "Depth of cells",
                              {{"normal", "along the normals by", "of the points; below 0 to the other side"},
                               {"between", "as deep as to", "other points of the same rows and columns"},
                               {"own", "as deep as they are", "of a block"}}),
                  length_slot("thickness", "Thickness", "500 mm"),
                  reference_slot("upper", "Upper points", {Kind::points, Kind::field}),
                  choice_slot("chosen", "Chosen",
                              {{"all", "whole", "all of the unit in each cell"},
                               {"turns", "its parts by turns", "one after the other"},
                               {"number", "one of its parts by", "0 the first, 1 the last"}}),
                  reference_slot("choice", "Choice", {Kind::field}),
                  choice_slot("size", "Size",
                              {{"filling", "filling the cell", ""},
                               {"scaled", "scaled by", "about the middle of the cell: 1 fills it"}}),
                  reference_slot("scale", "Scale", {Kind::field}),
                  choice_slot("joints", "Joints",
                              {{"apart", "each for itself", "a part a cell"},
                               {"welded", "joined where they touch", "one mesh; of meshes alone"}})},
        .results = {Kind::mesh, Kind::bodies, Kind::curves},
        .result_name = "filled",
        .help =
            "A small form, drawn once in a box, in every cell of a lattice: the box is bent to the cell's "
            "eight corners, so that neighbours share the places between them exactly. Numbers of the points "
            "become numbers of the faces. Where the unit has several parts, a number may choose among them.",
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume
