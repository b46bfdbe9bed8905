#pragma once
// What views of a drawing show, before they have a place and a scale.

#include <span>

#include "core/exchange/drawing.hpp"
#include "core/geometry/views/cut_away.hpp"

namespace plume {

// A level of one result.
struct SheetContour {
    std::uint32_t object = 0;
    double height = 0;
    bool heavy = false;             // every fifth, and each where they are few
    std::vector<SeenPiece> pieces;  // in order along its lines
};
struct SheetCut {
    std::vector<std::array<Vec3, 2>> lines;  // as the frame sees them
    FlatRegion face;
};

struct DrawnView {
    SheetView of = SheetView::plan;
    ViewFrame frame;
    std::optional<double> depth;      // of a section's plane along the frame's `away`
    std::vector<SeenPiece> pieces;    // their things are objects of the scene
    std::vector<SheetCut> cuts = {};  // of a section one an object
    std::vector<SheetContour> contours = {};
    Box box = {};  // of what is drawn, as the frame sees it; z 0

    // Whether something at that place is left when the section is cut.
    bool shows(Vec3 seen) const;
    std::size_t line_count() const;
};

ViewFrame frame_of(SheetView view);
bool is_points(const SceneObject& object);

// `middle`: where sections cut unless the job says where. Errors: see drawing_of().
Result<DrawnView> drawn_view(const DrawingJob& job, const std::vector<SceneObject>& scene, SheetView of,
                             Vec3 middle, const Run& run);

// A straight piece to be measured, or an axis. Error: see drawing_of(); `as` says what it was to be.
using SheetSegment = std::array<Vec3, 2>;
Result<std::vector<SheetSegment>> segments_of(std::span<const ExportedResult> results, const char* as);

}  // namespace plume
