#include "core/geometry/meshes/sheet_lines.hpp"

#include <algorithm>
#include <cmath>
#include <map>
#include <numeric>
#include <optional>
#include <tuple>
#include <vector>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/geometry/curves/curve_interpolation.hpp"
#include "core/geometry/curves/lettering.hpp"
#include "core/geometry/curves/roomiest_place.hpp"
#include "core/geometry/meshes/panel_names.hpp"
#include "core/geometry/meshes/plates.hpp"

namespace plume {
namespace {

// The numbers that tell where panels lie: of faces, and of corners.
struct SheetNumbers {
    Column sheet, up;
    Column on_x, on_y, width, length;
};

Error carries_none(const std::string& name) {
    return {ErrorCode::unlike_arrangement, "", "carries no number ‘" + name + "’",
            "Choose panels that were laid on sheets."};
}

Result<Column> numbers_called(const std::vector<Field>& fields, const std::string& name) {
    const auto field = std::ranges::find(fields, name, &Field::name);
    if (field == fields.end()) return carries_none(name);
    return field->values;
}

Result<SheetNumbers> sheet_numbers(const Mesh& mesh) {
    SheetNumbers numbers;
    const std::tuple<const std::vector<Field>*, const char*, Column*> wanted[] = {
        {&mesh.face_fields(), panel_names::sheet, &numbers.sheet},
        {&mesh.face_fields(), panel_names::up, &numbers.up},
        {&mesh.fields(), panel_names::on_x, &numbers.on_x},
        {&mesh.fields(), panel_names::on_y, &numbers.on_y},
        {&mesh.fields(), panel_names::sheet_width, &numbers.width},
        {&mesh.fields(), panel_names::sheet_length, &numbers.length}};
    for (const auto& [fields, name, to] : wanted) {
        auto column = numbers_called(*fields, name);
        if (!column) return column.error();
        *to = *std::move(column);
    }
    return numbers;
}

// Where a sheet is, and how large.
struct Rim {
    Vec3 corner;
    double width = 0, length = 0;

    double hair() const { return 1e-6 * (width + length + plume::length(corner)); }
};

class SheetDrawing {
public:
    SheetDrawing(const Mesh& mesh, const SheetLinePlan& plan, SheetNumbers numbers, const Run& run)
        : mesh_(mesh), plan_(plan), numbers_(std::move(numbers)), run_(run) {
        const auto beyond = std::ranges::find(mesh.fields(), panel_names::beyond, &Field::name);
        if (beyond != mesh.fields().end()) beyond_ = beyond->values;
    }

    Result<SheetLines> make(const Column& marks) {
        if (Status lies = find_rims(); !lies) return lies.error();
        if (plan_.rims)
            if (Status drawn = draw_rims(); !drawn) return drawn.error();
        made_.panels = mesh_.part_count();
        for (std::size_t part = 0; part < mesh_.part_count(); ++part) {
            if (run_.cancelled()) return cancelled_error();
            run_.report(static_cast<double>(part) / static_cast<double>(mesh_.part_count()));
            sheet_ = numbers_.sheet[mesh_.part(part).begin];
            const std::vector<VertexLoop> panel = loops_of(part);
            if (plan_.cuts)
                if (Status drawn = draw_cuts(panel); !drawn) return drawn.error();
            if (plan_.marks)
                if (Status drawn = draw_marks(part, panel, marks); !drawn) return drawn.error();
        }
        return std::move(made_);
    }

private:
    // The sheets by their numbers; each face lies on its own.
    Status find_rims() {
        for (std::size_t face = 0; face < mesh_.face_count(); ++face) {
            if (area_vector(mesh_, face).z <= 0)
                return Error{ErrorCode::unlike_arrangement, "",
                             "has panels that lie upside down, the first on the face " + std::to_string(face),
                             "Choose panels as they were laid, and mirror what is drawn of them."};
            for (const std::uint32_t vertex : mesh_.face(face))
                if (!lies_on(numbers_.sheet[face], vertex))
                    return Error{ErrorCode::unlike_arrangement, "",
                                 "has panels that do not lie on their sheets, the first on the face " +
                                     std::to_string(face),
                                 "Choose panels as they were laid, and turn what is drawn of them."};
        }
        made_.sheets = rims_.size();
        return Done{};
    }
    bool lies_on(double sheet, std::uint32_t vertex) {
        const Vec3 on{numbers_.on_x[vertex], numbers_.on_y[vertex], 0}, corner = mesh_.vertex(vertex) - on;
        const auto [entry, is_new] =
            rims_.try_emplace(sheet, Rim{corner, numbers_.width[vertex], numbers_.length[vertex]});
        const Rim& rim = entry->second;
        const double hair = rim.hair();
        return std::isfinite(hair) && length(corner - rim.corner) <= hair && on.x >= -hair && on.y >= -hair &&
               on.x <= rim.width + hair && on.y <= rim.length + hair;
    }

    Status add(std::vector<Vec3> points, SheetPen pen, bool closed) {
        CurvePoints line;
        line.points = std::move(points);
        line.closed = closed;
        for (const auto& [name, number] :
             {std::pair("pen", static_cast<double>(pen)), {panel_names::sheet, sheet_}})
            line.fields.push_back({name, Doubles(line.points.size(), number), plain_number});
        auto curve = curve_through(std::move(line), CurveShape::straight);
        if (!curve) return curve.error();
        made_.curves.curves.push_back(*std::move(curve));
        return Done{};
    }

    Status draw_rims() {
        for (const auto& [sheet, rim] : rims_) {
            sheet_ = sheet;
            const Vec3 across{rim.width, 0, 0}, along{0, rim.length, 0};
            Status added =
                add({rim.corner, rim.corner + across, rim.corner + across + along, rim.corner + along},
                    SheetPen::rim, true);
            if (!added) return added;
        }
        return Done{};
    }

    // The outline of a panel first, which begins at its first corner; what else is cut are its openings.
    std::vector<VertexLoop> loops_of(std::size_t part) const {
        std::vector<std::size_t> faces(mesh_.part(part).end - mesh_.part(part).begin);
        std::iota(faces.begin(), faces.end(), mesh_.part(part).begin);
        return loops_around(mesh_, faces);
    }

    std::vector<Vec3> places_of(const VertexLoop& loop) const {
        std::vector<Vec3> places;
        for (const std::uint32_t vertex : loop)
            places.push_back(mesh_.vertex(vertex));
        return places;
    }

    Status draw_cuts(const std::vector<VertexLoop>& panel) {
        for (const VertexLoop& loop : panel)
            if (Status added = add(places_of(loop), SheetPen::cut, true); !added) return added;
        return Done{};
    }

    // Marks ----------------------------------------------------------------------------------------------

    // Over the middle of a line, which way it runs.
    Status write(const Lettering& letters, Vec3 middle, Vec3 along, double height) {
        const Placement page{middle, along, {-along.y, along.x, 0}, {0, 0, 1}};
        for (std::vector<Vec3>& stroke : strokes_on(page, letters, height))
            if (Status added = add(std::move(stroke), SheetPen::mark, false); !added) return added;
        return Done{};
    }

    Result<const Lettering*> letters_of(const std::string& text) {
        const auto [entry, is_new] = letters_.try_emplace(text);
        if (is_new) {
            auto made = lettering(text);
            if (!made) return made.error();
            entry->second = *std::move(made);
        }
        return &entry->second;
    }

    RoomyPlace room_in(const std::vector<VertexLoop>& panel) const {
        std::vector<std::vector<Vec3>> loops;
        loops.reserve(panel.size());
        for (const VertexLoop& loop : panel)
            loops.push_back(places_of(loop));
        return roomiest_place(loops);
    }

    Status draw_marks(std::size_t part, const std::vector<VertexLoop>& panel, const Column& marks) {
        const std::size_t face = mesh_.part(part).begin;
        const auto letters = letters_of(short_text(marks[face], 6));
        if (!letters) return letters.error();
        const RoomyPlace room = room_in(panel);
        if (!(room.radius > 0)) {
            ++made_.without_marks;
            return Done{};
        }
        // The mark and the arrow above it, 2.5 heights together, in the circle that has room.
        const double width = (*letters)->width, half = std::hypot(width / 2, 1.25);
        const double height = std::min(plan_.letter_height, 0.9 * room.radius / half);
        const double up = numbers_.up[face];
        const Vec3 upwards{std::cos(up), std::sin(up), 0}, along{upwards.y, -upwards.x, 0};
        if (Status written = write(**letters, room.place - upwards * (1.25 * height), along, height);
            !written)
            return written;
        const Vec3 foot = room.place + upwards * (0.05 * height), tip = foot + upwards * (1.2 * height);
        const Vec3 barb = upwards * (-0.4 * height), aside = along * (0.3 * height);
        if (Status added = add({foot, tip}, SheetPen::mark, false); !added) return added;
        if (Status added = add({tip + barb - aside, tip, tip + barb + aside}, SheetPen::mark, false); !added)
            return added;
        // Without neighbours nobody asks which edge is which.
        return beyond_ ? number_edges(panel.front(), height / 2) : Done{};
    }

    Status number_edges(const VertexLoop& outline, double usual_height) {
        for (std::size_t at = 0; at < outline.size(); ++at) {
            const Vec3 a = mesh_.vertex(outline[at]), b = mesh_.vertex(outline[(at + 1) % outline.size()]);
            std::string text = std::to_string(at + 1);
            if (beyond_ && (*beyond_)[outline[at]] != panel_names::none)
                text += " > " + short_text((*beyond_)[outline[at]], 6);
            const auto letters = letters_of(text);
            if (!letters) return letters.error();
            const double edge = length(b - a);
            const double height = std::min(usual_height, 0.6 * edge / (*letters)->width);
            if (height < usual_height / 4) {
                ++made_.without_edges;
                continue;
            }
            const Vec3 along = (b - a) * (1 / edge), inwards{-along.y, along.x, 0};
            if (Status written = write(**letters, (a + b) * 0.5 + inwards * (0.5 * height), along, height);
                !written)
                return written;
        }
        return Done{};
    }

    const Mesh& mesh_;
    const SheetLinePlan& plan_;
    SheetNumbers numbers_;
    const Run& run_;
    std::optional<Column> beyond_;
    std::map<double, Rim> rims_;
    std::map<std::string, Lettering> letters_;
    double sheet_ = 0;  // in hand
    SheetLines made_;
};

}  // namespace

Result<SheetLines> sheet_lines(const Mesh& laid, const SheetLinePlan& plan, const Run& run) {
    auto numbers = sheet_numbers(laid);
    if (!numbers) return numbers.error();
    Column marks;
    if (plan.marks) {
        auto found = numbers_called(laid.face_fields(), plan.marked_by);
        if (!found) return found.error();
        marks = *std::move(found);
    }
    return SheetDrawing(laid, plan, *std::move(numbers), run).make(marks);
}

}  // namespace plume
