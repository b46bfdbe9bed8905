#include "core/exchange/drawing_views.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "core/base/numbers.hpp"
#include "core/geometry/levels/mesh_levels.hpp"
#include "core/geometry/meshes/face_builder.hpp"
#include "core/geometry/views/straight_pieces.hpp"
#include "core/results/exact_form.hpp"

namespace plume {
namespace {

constexpr std::size_t most_levels = 1000;
// Of the size of all: what is as near to a section's plane lies in it.
constexpr double in_plane = 1e-9;

bool has_contours(SheetView view) {
    return view == SheetView::plan || view == SheetView::at_an_angle || view == SheetView::section_down;
}

SeenThing thing_of(const SceneObject& object) {
    SeenThing thing;
    if (object.form.facets) thing.mesh = &*object.form.facets;
    thing.smooth = object.form.smooth;
    for (const WrittenLine& line : object.form.lines) {
        const auto pieces = straight_pieces(line.places, line.closed);
        thing.lines.insert(thing.lines.end(), pieces.begin(), pieces.end());
    }
    for (const auto& [from, to] : object.form.bars)
        thing.lines.push_back({object.form.points[from], object.form.points[to]});
    return thing;
}

// Levels of walls and posts would be rings about them. Nothing where there are no other faces.
std::optional<Mesh> without_upright_faces(const Mesh& mesh) {
    constexpr double upright = 0.02;  // of a face's normal what rises
    FaceBuilder lying(mesh);
    for (std::size_t face = 0; face < mesh.face_count(); ++face) {
        const Vec3 normal = area_vector(mesh, face);
        if (std::abs(normal.z) > upright * length(normal)) lying.add(mesh.face(face), face);
    }
    if (lying.face_count() == 0) return {};
    auto left = std::move(lying).over_its_vertices();
    if (!left) return {};
    return without_loose_vertices(*left);
}

// Things of one view: those of the scene, or what a section leaves of them, then cut faces that hide, then
// levels.
class ViewMaker {
public:
    ViewMaker(const DrawingJob& job, const std::vector<SceneObject>& scene, SheetView of, Vec3 middle)
        : job_(job), scene_(scene) {
        view_.of = of;
        view_.frame = frame_of(of);
        if (is_section(of)) view_.depth = dot(job.cut.value_or(middle), view_.frame.away);
        for (const SceneObject& object : scene)
            things_.push_back(thing_of(object));
    }

    Result<DrawnView> make(const Run& run) {
        if (view_.depth)
            if (Status done = cut(run); !done) return done.error();
        if (job_.contour_step > 0 && has_contours(view_.of))
            if (Status done = add_contours(run); !done) return done.error();
        HiddenLineOptions options;
        options.keep_hidden = job_.dashed;
        auto pieces = seen_lines(things_, view_.frame, options, run);
        if (!pieces) return pieces.error();
        for (SeenPiece& piece : *pieces)
            sort_in(piece);
        find_box();
        if (view_.box.empty())
            return Error{ErrorCode::empty_input, "", "shows nothing " + name_of(view_.of),
                         view_.depth ? "Move where it is cut, or pick another view."
                                     : "Draw results that have a form."};
        return std::move(view_);
    }

private:
    Status cut(const Run& run) {
        for (const SeenThing& thing : things_) {
            auto left = cut_away(thing, view_.frame, *view_.depth, run);
            if (!left) return left.error();
            left_.push_back(*std::move(left));
        }
        for (std::size_t at = 0; at < left_.size(); ++at) {
            CutThing& left = left_[at];
            things_[at].mesh = left.behind ? &*left.behind : nullptr;
            things_[at].lines = left.lines;
            SheetCut& cut = view_.cuts.emplace_back();
            for (const auto& [from, to] : left.cuts)
                cut.lines.push_back({view_.frame.seen(from), view_.frame.seen(to)});
            cut.face = left.face;
            caps_.push_back(mesh_of_cut(left.face, view_.frame, *view_.depth));
        }
        for (const Mesh& cap : caps_)
            things_.push_back({&cap, true, {}});
        return Done{};
    }

    Status add_contours(const Run& run) {
        first_level_ = things_.size();
        for (std::size_t at = 0; at < scene_.size(); ++at) {
            const Mesh* const mesh = things_[at].mesh;
            if (!mesh) continue;
            const auto lying = without_upright_faces(*mesh);
            if (!lying) continue;
            if (Status done = add_contours_of(*lying, static_cast<std::uint32_t>(at), run); !done)
                return done;
        }
        return Done{};
    }
    Status add_contours_of(const Mesh& mesh, std::uint32_t object, const Run& run) {
        const Box bounds = mesh.bounds();
        const double step = job_.contour_step;
        const double first = std::ceil(bounds.low.z / step), last = std::floor(bounds.high.z / step);
        if (last - first >= most_levels)
            return about_slot(Error{ErrorCode::out_of_range, "",
                                    "makes more than " + std::to_string(most_levels) + " levels of ‘" +
                                        scene_[object].name + "’",
                                    "Type " +
                                        quantity_text({(bounds.high.z - bounds.low.z) / 100, a_length},
                                                      job_.study_units, 2) +
                                        " or more."},
                              "contour_step");
        std::vector<double> heights;
        for (double level = first; level <= last; ++level)
            heights.push_back(level * step);
        const auto lines = mesh_levels(mesh, mesh.z().span(), heights, run);
        if (!lines) return lines.error();
        const bool few = heights.size() <= 6;
        for (std::size_t level = 0; level < heights.size(); ++level) {
            view_.contours.push_back({object,
                                      heights[level],
                                      few || std::remainder(first + static_cast<double>(level), 5) == 0,
                                      {}});
            things_.push_back({});
        }
        for (std::size_t line = 0; line < lines->count(); ++line) {
            auto& into = things_[things_.size() - heights.size() + lines->level[line]].lines;
            const auto pieces = straight_pieces(lines->line(line), lines->closed[line] != 0);
            into.insert(into.end(), pieces.begin(), pieces.end());
        }
        return Done{};
    }

    // Sides of cut faces, and rims that were cut, are drawn as cuts.
    void sort_in(SeenPiece& piece) {
        if (piece.thing >= scene_.size()) {
            if (first_level_ > 0 && piece.thing >= first_level_)
                view_.contours[piece.thing - first_level_].pieces.push_back(piece);
            return;
        }
        const bool cut = view_.depth && piece.edge == SeenEdge::rim &&
                         !view_.cuts[piece.thing].lines.empty() && lies_in_plane(piece.from) &&
                         lies_in_plane(piece.to);
        if (!cut) view_.pieces.push_back(piece);
    }
    bool lies_in_plane(Vec3 seen) const {
        return std::abs(seen.z - *view_.depth) <=
               in_plane * (std::abs(seen.x) + std::abs(seen.y) + std::abs(seen.z));
    }

    void find_box() {
        const auto include = [&](Vec3 seen) { view_.box.include(Vec3{seen.x, seen.y, 0}); };
        for (const SeenPiece& piece : view_.pieces)
            for (const Vec3 end : {piece.from, piece.to})
                include(end);
        for (const SheetCut& cut : view_.cuts)
            for (const auto& line : cut.lines)
                for (const Vec3 end : line)
                    include(end);
        for (const SceneObject& object : scene_)
            for (std::size_t at = 0; is_points(object) && at < object.form.points.size(); ++at) {
                const Vec3 seen = view_.frame.seen(object.form.points[at]);
                if (view_.shows(seen)) include(seen);
            }
    }

    const DrawingJob& job_;
    const std::vector<SceneObject>& scene_;
    DrawnView view_;
    std::vector<SeenThing> things_;
    std::vector<CutThing> left_;
    std::vector<Mesh> caps_;
    std::size_t first_level_ = 0;
};

// Straight curves piece by piece, others from end to end.
void add_segments(const SplineCurve& curve, std::vector<SheetSegment>& segments) {
    const std::size_t poles = curve.x().size();
    const std::size_t step = curve.basis().degree == 1 ? 1 : poles - 1;
    for (std::size_t pole = 0; pole + step < poles; pole += step)
        if (length(curve.pole(pole + step) - curve.pole(pole)) > 0)
            segments.push_back({curve.pole(pole), curve.pole(pole + step)});
}

}  // namespace

bool DrawnView::shows(Vec3 seen) const {
    return !depth || seen.z >= *depth - in_plane * (std::abs(seen.x) + std::abs(seen.y) + std::abs(seen.z));
}

std::size_t DrawnView::line_count() const {
    std::size_t count = pieces.size();
    for (const SheetCut& cut : cuts)
        count += cut.lines.size();
    for (const SheetContour& contour : contours)
        count += contour.pieces.size();
    return count;
}

ViewFrame frame_of(SheetView view) {
    constexpr double quarter = std::numbers::pi / 2;
    switch (view) {
        case SheetView::plan:
        case SheetView::section_down:
            return plan_view();
        case SheetView::from_south:
        case SheetView::section_north:
            return view_towards(0, 0);
        case SheetView::from_west:
        case SheetView::section_east:
            return view_towards(quarter, 0);
        case SheetView::from_north:
        case SheetView::section_south:
            return view_towards(2 * quarter, 0);
        case SheetView::from_east:
        case SheetView::section_west:
            return view_towards(3 * quarter, 0);
        case SheetView::at_an_angle:
            // All three axes as long: isometric.
            return view_towards(-quarter / 2, std::atan(std::numbers::sqrt2 / 2));
    }
    return plan_view();
}

bool is_points(const SceneObject& object) {
    return object.form.form == WrittenForm::points;
}

Result<DrawnView> drawn_view(const DrawingJob& job, const std::vector<SceneObject>& scene, SheetView of,
                             Vec3 middle, const Run& run) {
    return ViewMaker(job, scene, of, middle).make(run);
}

Result<std::vector<SheetSegment>> segments_of(std::span<const ExportedResult> results, const char* as) {
    std::vector<SheetSegment> segments;
    for (const ExportedResult& result : results) {
        const std::size_t before = segments.size();
        for (const SplineCurve& curve : exact_form_of(*result.value).curves)
            add_segments(curve, segments);
        if (segments.size() == before)
            return about_slot(Error{ErrorCode::unlike_arrangement, "",
                                    "gives ‘" + result.name + "’ as " + as + ", which has no lines",
                                    "Give curves or a frame as " + std::string(as) + '.'},
                              "results");
    }
    return segments;
}

}  // namespace plume
