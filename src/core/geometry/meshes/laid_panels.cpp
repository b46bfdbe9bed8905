#include "core/geometry/meshes/laid_panels.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>
#include <optional>
#include <unordered_map>
#include <utility>

#include "core/base/sum.hpp"
#include "core/data/gathered.hpp"
#include "core/geometry/meshes/mesh_pieces.hpp"
#include "core/geometry/meshes/mesh_sides.hpp"
#include "core/geometry/meshes/panel_names.hpp"
#include "core/geometry/meshes/plates.hpp"
#include "core/geometry/parts/mesh_parts.hpp"

namespace plume {
namespace {

using std::numbers::pi;

using FlatOutline = std::vector<FlatPoint>;

// Plates one after the other, each in its own plane, with what is read on their corners.
struct FlatPlates {
    Mesh::Parts parts;
    std::vector<std::uint32_t> from_faces, from_corners;  // corners of the mesh, one a vertex
    std::vector<FlatOutline> outlines;
    double worst_gap = 0;
};

class PlateWriter {
public:
    PlateWriter(const Mesh& mesh) : mesh_(mesh), first_corner_(mesh.parts().first) {}

    void add(const Plate& plate) {
        made_.parts.part_starts.push_back(static_cast<std::uint32_t>(made_.from_faces.size()));
        vertices_.clear();
        const std::size_t first = x_.size();
        Sum height;
        for (const std::size_t face : plate.faces) {
            const auto corners = mesh_.face(face);
            for (std::size_t at = 0; at < corners.size(); ++at) {
                const auto [entry, is_new] =
                    vertices_.try_emplace(corners[at], static_cast<std::uint32_t>(x_.size()));
                if (is_new) {
                    const Vec3 place = plate.plane.to_local(mesh_.vertex(corners[at]));
                    x_.push_back(place.x);
                    y_.push_back(place.y);
                    z_.push_back(place.z);
                    height.add(place.z);
                    made_.from_corners.push_back(static_cast<std::uint32_t>(first_corner_[face] + at));
                }
                made_.parts.corners.push_back(entry->second);
            }
            made_.parts.first.push_back(static_cast<std::uint32_t>(made_.parts.corners.size()));
            made_.from_faces.push_back(static_cast<std::uint32_t>(face));
        }
        FlatOutline& outline = made_.outlines.emplace_back();
        for (const std::uint32_t corner : plate.loops.front()) {
            const std::uint32_t vertex = vertices_.at(corner);
            outline.push_back({x_[vertex], y_[vertex]});
        }
        const double middle = height.value() / static_cast<double>(x_.size() - first);
        for (std::size_t at = first; at < z_.size(); ++at)
            made_.worst_gap = std::max(made_.worst_gap, std::abs(std::exchange(z_[at], 0) - middle));
    }

    FlatPlates plates() && {
        made_.parts.x = std::move(x_);
        made_.parts.y = std::move(y_);
        made_.parts.z = std::move(z_);
        return std::move(made_);
    }

private:
    const Mesh& mesh_;
    const std::vector<std::uint32_t>& first_corner_;
    std::unordered_map<std::uint32_t, std::uint32_t> vertices_;
    Doubles x_, y_, z_;
    FlatPlates made_;
};

FlatPoint turned(FlatPoint point, double angle_rad) {
    return LaidOutline{0, angle_rad, {}}.place(point);
}

// What brings the longest edge to lie along X.
double turn_of_longest_edge(const FlatOutline& outline) {
    double longest = 0, turn = 0;
    for (std::size_t at = 0; at < outline.size(); ++at) {
        const FlatPoint a = outline[at], b = outline[(at + 1) % outline.size()];
        const double length = std::hypot(b.x - a.x, b.y - a.y);
        if (length <= longest * (1 + 1e-9)) continue;
        longest = length;
        turn = -std::atan2(b.y - a.y, b.x - a.x);
    }
    return turn;
}

std::vector<double> turns_of(Turning turning) {
    const int count = turning == Turning::up        ? 1
                      : turning == Turning::half    ? 2
                      : turning == Turning::quarter ? 4
                                                    : 24;
    std::vector<double> turns(static_cast<std::size_t>(count));
    for (std::size_t turn = 0; turn < turns.size(); ++turn)
        turns[turn] = 2 * pi * static_cast<double>(turn) / count;
    return turns;
}

// Sheets stand to the right of what is laid, in rows about as long as all of them are deep.
class SheetPlaces {
public:
    SheetPlaces(const StockSheet& sheet, std::size_t count, const Box& beside)
        : pitch_x_(1.1 * sheet.width),
          pitch_y_(sheet.length + 0.1 * sheet.width),
          a_row_(std::max<std::size_t>(1, static_cast<std::size_t>(std::ceil(
                                              std::sqrt(static_cast<double>(count) * pitch_y_ / pitch_x_))))),
          first_{beside.high.x + sheet.width / 2, beside.low.y, 0} {}

    Vec3 corner(std::size_t sheet) const {
        const std::size_t row = sheet / a_row_;
        return first_ + Vec3{pitch_x_ * static_cast<double>(sheet - row * a_row_),
                             -pitch_y_ * static_cast<double>(row), 0};
    }

private:
    double pitch_x_, pitch_y_;
    std::size_t a_row_;
    Vec3 first_;
};

// From above -180° to 180°.
double angle_within_a_turn(double angle_rad) {
    const double within = std::remainder(angle_rad, 2 * pi);
    return within > -pi + 1e-9 ? within : pi;
}

bool is_ours(const std::string& name) {
    constexpr std::array ours = {panel_names::panel, panel_names::sheet, panel_names::up};
    return std::ranges::find(ours, name) != ours.end();
}

class SheetLayout {
public:
    SheetLayout(const Mesh& mesh, const StockSheet& sheet, Turning turning, const Run& run)
        : mesh_(mesh), sheet_(sheet), turning_(turning), run_(run) {
        const auto& fields = mesh.face_fields();
        const auto marks = std::ranges::find(fields, panel_names::panel, &Field::name);
        if (marks != fields.end()) marks_ = marks->values;
    }

    // With what is beyond each corner of the mesh, if that is known.
    Result<LaidPanels> make(const std::optional<Doubles>& beyond) {
        FlatPlates plates = flat_plates(beyond);
        if (plates.outlines.empty())
            return Error{ErrorCode::empty_input, "", "holds no flat plate",
                         "Lay each face, or make panels first."};
        made_.worst_gap = plates.worst_gap;
        const auto flat = Mesh::make(std::move(plates.parts));
        if (!flat) return flat.error();
        std::vector<FlatOutline>& outlines = plates.outlines;
        for (FlatOutline& outline : outlines) {
            const bool freely = turning_ == Turning::quarter || turning_ == Turning::any;
            turns_.push_back(freely ? turn_of_longest_edge(outline) : 0);
            for (FlatPoint& corner : outline)
                corner = turned(corner, turns_.back());
        }
        const auto packing = packed(outlines, turns_of(turning_), sheet_, run_);
        if (!packing) return packing.error();
        if (packing->sheet_count == 0)
            return Error{ErrorCode::out_of_range, "", "is too small for every panel", "Type a larger one."};
        made_.sheet_count = packing->sheet_count;
        if (Status moved = lay(*flat, outlines, *packing); !moved) return moved.error();
        return std::move(made_);
    }

private:
    // All that are plates, one part each.
    FlatPlates flat_plates(const std::optional<Doubles>& beyond) {
        PlateWriter writer(mesh_);
        for (std::size_t part = 0; part < mesh_.part_count(); ++part) {
            if (const auto plate = plate_of(mesh_, part))
                writer.add(*plate);
            else
                made_.not_flat.push_back(mark_of(mesh_.part(part).begin));
        }
        FlatPlates plates = std::move(writer).plates();
        Doubles marks;
        for (const std::uint32_t face : plates.from_faces)
            marks.push_back(mark_of(face));
        for (const Field& field : mesh_.face_fields())
            if (!is_ours(field.name))
                plates.parts.face_fields.push_back(
                    {field.name, gathered(field.values, plates.from_faces), field.dimension});
        plates.parts.face_fields.push_back({panel_names::panel, std::move(marks), plain_number});
        if (beyond)
            plates.parts.fields.push_back(
                {panel_names::beyond, gathered(Column(*beyond), plates.from_corners), plain_number});
        return plates;
    }
    double mark_of(std::size_t face) const {
        return marks_ ? (*marks_)[face] : static_cast<double>(mesh_.part_of(face));
    }

    // Moves each plate to its place; those that are too large are named and left out.
    Status lay(const Mesh& flat, const std::vector<FlatOutline>& outlines, const Packing& packing) {
        std::vector<std::uint8_t> fits(flat.part_count());
        std::vector<std::size_t> plates;
        for (std::size_t plate = 0; plate < fits.size(); ++plate) {
            fits[plate] = packing.laid[plate] ? 1 : 0;
            if (fits[plate] != 0)
                plates.push_back(plate);
            else
                leave_out(flat, plate, outlines[plate]);
        }
        const Mesh kept = plates.size() == fits.size() ? flat : with_parts(flat, fits);
        const std::size_t vertices = kept.vertex_count(), faces = kept.face_count();
        const SheetPlaces places(sheet_, packing.sheet_count, mesh_.bounds());
        Doubles x(vertices), y(vertices), on_x(vertices), on_y(vertices), sheets(faces), ups(faces);
        Sum area;
        for (std::size_t part = 0; part < plates.size(); ++part) {
            const LaidOutline& laid = *packing.laid[plates[part]];
            const double before = turns_[plates[part]];
            const Vec3 corner = places.corner(laid.sheet);
            for (std::size_t face = kept.part(part).begin; face < kept.part(part).end; ++face) {
                for (const std::uint32_t vertex : kept.face(face)) {
                    const FlatPoint place = laid.place(turned({kept.x()[vertex], kept.y()[vertex]}, before));
                    on_x[vertex] = place.x;
                    on_y[vertex] = place.y;
                    x[vertex] = corner.x + place.x;
                    y[vertex] = corner.y + place.y;
                }
                sheets[face] = static_cast<double>(laid.sheet);
                ups[face] = angle_within_a_turn(pi / 2 + before + laid.turn_rad);
                area.add(length(area_vector(kept, face)));
            }
        }
        Mesh::Parts parts = kept.parts();
        parts.x = std::move(x);
        parts.y = std::move(y);
        parts.fields.push_back({panel_names::on_x, std::move(on_x), a_length});
        parts.fields.push_back({panel_names::on_y, std::move(on_y), a_length});
        parts.fields.push_back({panel_names::sheet_width, Doubles(vertices, sheet_.width), a_length});
        parts.fields.push_back({panel_names::sheet_length, Doubles(vertices, sheet_.length), a_length});
        parts.face_fields.push_back({panel_names::up, std::move(ups), an_angle});
        parts.face_fields.push_back({panel_names::sheet, std::move(sheets), plain_number});
        auto mesh = Mesh::make(std::move(parts));
        if (!mesh) return mesh.error();
        made_.mesh = *std::move(mesh);
        made_.area = area.value();
        return Done{};
    }
    void leave_out(const Mesh& flat, std::size_t plate, const FlatOutline& outline) {
        const FlatExtent extent = extent_of(outline);
        const auto marks = std::ranges::find(flat.face_fields(), panel_names::panel, &Field::name);
        made_.too_large.push_back({marks->values[flat.part(plate).begin], extent.width, extent.length});
    }

    const Mesh& mesh_;
    const StockSheet& sheet_;
    Turning turning_;
    const Run& run_;
    std::optional<Column> marks_;  // of faces
    std::vector<double> turns_;    // of each plate, before it is packed
    LaidPanels made_{*Mesh::make({}), 0, 0, 0, {}, {}};
};

Doubles beyond_corners(const Mesh& mesh) {
    const std::vector<std::uint32_t> faces = faces_beyond(mesh);
    Doubles beyond(faces.size());
    std::ranges::transform(faces, beyond.begin(), [](std::uint32_t face) {
        return face == no_face ? panel_names::none : static_cast<double>(face);
    });
    return beyond;
}

std::optional<Doubles> carried_beyond(const Mesh& mesh) {
    const auto field = std::ranges::find(mesh.fields(), panel_names::beyond, &Field::name);
    if (field == mesh.fields().end()) return {};
    Doubles beyond;
    for (const std::uint32_t vertex : mesh.parts().corners)
        beyond.push_back(field->values[vertex]);
    return beyond;
}

}  // namespace

Result<LaidPanels> laid_on_sheets(const Mesh& mesh, bool by_face, const StockSheet& sheet, Turning turning,
                                  const Run& run) {
    if (!by_face) return SheetLayout(mesh, sheet, turning, run).make(carried_beyond(mesh));
    // Faces are marked anew, as their neighbours are told by their numbers.
    Mesh::Parts parts = parted_by_faces(mesh).parts();
    std::erase_if(parts.face_fields, [](const Field& field) { return field.name == panel_names::panel; });
    const auto faces = Mesh::make(std::move(parts));
    if (!faces) return faces.error();
    return SheetLayout(*faces, sheet, turning, run).make(beyond_corners(mesh));
}

}  // namespace plume
