#include "core/exchange/drawing.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

#include "core/base/file.hpp"
#include "core/base/numbers.hpp"
#include "core/base/small_letters.hpp"
#include "core/base/text.hpp"
#include "core/exchange/drawing_sheet.hpp"
#include "core/exchange/listed.hpp"
#include "core/exchange/tally.hpp"
#include "core/geometry/views/hidden_lines.hpp"

namespace plume {
namespace {

constexpr std::size_t most_lines = 1'000'000;

ViewFrame frame_of(SheetView view) {
    constexpr double quarter = std::numbers::pi / 2;
    switch (view) {
        case SheetView::plan:
            return plan_view();
        case SheetView::from_south:
            return view_towards(0, 0);
        case SheetView::from_west:
            return view_towards(quarter, 0);
        case SheetView::from_north:
            return view_towards(2 * quarter, 0);
        case SheetView::from_east:
            return view_towards(3 * quarter, 0);
        case SheetView::at_an_angle:
            // All three axes as long: isometric.
            return view_towards(-quarter / 2, std::atan(std::numbers::sqrt2 / 2));
    }
    return plan_view();
}

// As it is written below the view.
std::string title_of(SheetView view) {
    std::string title(view_names()[static_cast<std::size_t>(view)]);
    title.front() = static_cast<char>(title.front() - 'a' + 'A');
    return title;
}

double stroke_of(const SeenPiece& piece) {
    if (piece.hidden) return 0.13;
    if (piece.edge == SeenEdge::crease) return 0.18;
    return piece.edge == SeenEdge::line ? 0.25 : 0.35;
}

struct View {
    SheetView of = SheetView::plan;
    ViewFrame frame;
    std::vector<SeenPiece> pieces;
    Box box;  // of what is drawn, study lengths
};

class DrawingMaker {
public:
    DrawingMaker(const DrawingJob& job, const std::vector<SceneObject>& scene) : job_(job), scene_(scene) {
        for (const SceneObject& object : scene)
            things_.push_back(thing_of(object));
    }

    Result<Plan> make(const Run& run) {
        for (const SheetView view : job_.views)
            if (Status seen = see(view, run); !seen) return seen.error();
        plan_.width = job_.paper.width;
        plan_.height = job_.paper.height;
        const auto places = choose_scale();
        if (!places) return places.error();
        for (std::size_t at = 0; at < views_.size(); ++at)
            draw(views_[at], (*places)[at]);
        PlanLayer& sheet = layer("sheet");
        add_title_block(sheet, job_, plan_.scale);
        add_scale_bar(sheet, job_.study_units, plan_.scale);
        const bool north = std::ranges::find(job_.views, SheetView::plan) != job_.views.end();
        if (north) add_north(sheet);
        plan_.report.what = count_text(views_.size(), "view", "views") + " of " +
                            count_text(job_.results.size(), "result", "results") +
                            " at 1:" + short_text(plan_.scale, 6) + " on " + std::string(job_.paper.name) +
                            " (" + tally_.text() + ")";
        return std::move(plan_);
    }

private:
    static SeenThing thing_of(const SceneObject& object) {
        SeenThing thing;
        if (object.form.facets) thing.mesh = &*object.form.facets;
        thing.smooth = object.form.smooth;
        for (const WrittenLine& line : object.form.lines) {
            for (std::size_t at = 1; at < line.places.size(); ++at)
                thing.lines.push_back({line.places[at - 1], line.places[at]});
            if (line.closed && line.places.size() > 2)
                thing.lines.push_back({line.places.back(), line.places.front()});
        }
        for (const auto& [from, to] : object.form.bars)
            thing.lines.push_back({object.form.points[from], object.form.points[to]});
        return thing;
    }
    static bool is_points(const SceneObject& object) { return object.form.form == WrittenForm::points; }

    Status see(SheetView of, const Run& run) {
        View view{of, frame_of(of), {}, {}};
        HiddenLineOptions options;
        options.keep_hidden = job_.dashed;
        auto pieces = seen_lines(things_, view.frame, options, run);
        if (!pieces) return pieces.error();
        view.pieces = *std::move(pieces);
        lines_ += view.pieces.size();
        if (lines_ > most_lines)
            return Error{ErrorCode::over_budget, "", "has more lines than a sheet can show",
                         "Draw fewer results or views."};
        for (const SeenPiece& piece : view.pieces)
            for (const Vec3 end : {piece.from, piece.to})
                view.box.include(Vec3{end.x, end.y, 0});
        for (const SceneObject& object : scene_)
            for (std::size_t at = 0; is_points(object) && at < object.form.points.size(); ++at) {
                const Vec3 place = view.frame.seen(object.form.points[at]);
                view.box.include(Vec3{place.x, place.y, 0});
            }
        if (view.box.empty())
            return Error{ErrorCode::empty_input, "",
                         "shows nothing " + std::string(view_names()[static_cast<std::size_t>(of)]),
                         "Draw results that have a form."};
        views_.push_back(std::move(view));
        return Done{};
    }

    double mm_at(double scale) const { return 1000 * metres_per(job_.study_units.length) / scale; }
    SheetSize room() const {
        return {job_.paper.width - 2 * plan_margin - 8, job_.paper.height - 2 * plan_margin - sheet_foot - 4};
    }
    std::optional<std::vector<PaperPlace>> places_at(double scale) const {
        std::vector<SheetSize> sizes;
        for (const View& view : views_)
            sizes.push_back({view.box.size().x * mm_at(scale) + (measured(view) ? beside_a_view : 0),
                             view.box.size().y * mm_at(scale) + below_a_view});
        return laid_out(sizes, room());
    }
    // At an angle nothing is as long as it is.
    static bool measured(const View& view) { return view.of != SheetView::at_an_angle; }
    // The first of 1, 2, 5, 10, 20, 25, 50, 100 … at which all views fit; nothing where they would be specks.
    std::optional<double> fitting_scale() const {
        constexpr double speck_mm = 5;
        double largest = 0;
        for (const View& view : views_)
            largest = std::max({largest, view.box.size().x, view.box.size().y});
        for (double tens = 1; tens == 1 || largest * mm_at(tens) > speck_mm; tens *= 10)
            for (const double step : {1.0, 2.0, 2.5, 5.0})
                if (std::floor(step * tens) == step * tens && places_at(step * tens)) return step * tens;
        return {};
    }
    Result<std::vector<PaperPlace>> choose_scale() {
        const std::optional<double> fits = fitting_scale();
        if (!fits)
            return Error{ErrorCode::out_of_range, "",
                         std::to_string(views_.size()) + " views do not fit " + std::string(job_.paper.name),
                         "Choose larger paper, or fewer views."};
        plan_.scale = job_.scale > 0 ? job_.scale : *fits;
        if (auto places = places_at(plan_.scale)) return *std::move(places);
        return about_slot(Error{ErrorCode::out_of_range, "",
                                "of 1 : " + short_text(plan_.scale, 6) + " makes the views larger than " +
                                    std::string(job_.paper.name),
                                "Type " + short_text(*fits, 6) + " or more, or choose larger paper."},
                          "scale");
    }

    PlanLayer& layer(const std::string& name) { return layer_of(plan_, name); }

    void draw(const View& view, PaperPlace at) {
        const double mm = mm_at(plan_.scale);
        const PaperPlace low{at.x + plan_margin + 4, at.y + plan_margin + sheet_foot + below_a_view};
        const auto on_paper = [&](Vec3 seen) {
            return PaperPlace{low.x + (seen.x - view.box.low.x) * mm, low.y + (seen.y - view.box.low.y) * mm};
        };
        for (const SeenPiece& piece : view.pieces) {
            const SceneObject& object = scene_[piece.thing];
            PlanPath path = sheet_line(on_paper(piece.from), on_paper(piece.to), stroke_of(piece));
            path.colour = object.material && !piece.hidden ? ink_of(object) : plan_ink;
            path.dashed = piece.hidden;
            layer(piece.hidden ? object.name + " hidden" : object.name).paths.push_back(std::move(path));
        }
        tally_.add(view.pieces.size(), "line", "lines");
        for (std::size_t number = 0; number < scene_.size(); ++number) {
            const SceneObject& object = scene_[number];
            for (std::size_t point = 0; is_points(object) && point < object.form.points.size(); ++point)
                layer(object.name)
                    .dots.push_back({on_paper(view.frame.seen(object.form.points[point])), plan_ink});
            for (const SceneLabel& label : labels_of(object, job_.results[number].show, job_.study_units))
                layer(object.name + " labels")
                    .texts.push_back({on_paper(view.frame.seen(label.place)), label.text});
        }
        const SheetSize size{view.box.size().x * mm, view.box.size().y * mm};
        PlanLayer& dimensions = layer("dimensions");
        if (measured(view)) add_dimensions(dimensions, low, size, mm, job_.study_units);
        add_view_title(dimensions, low, size, title_of(view.of));
    }
    // Lines are drawn in the darker half of what a thing is made of.
    static Rgb ink_of(const SceneObject& object) {
        return {object.plain.red / 2, object.plain.green / 2, object.plain.blue / 2};
    }

    const DrawingJob& job_;
    const std::vector<SceneObject>& scene_;
    std::vector<SeenThing> things_;
    std::vector<View> views_;
    Plan plan_;
    Tally tally_;
    std::size_t lines_ = 0;
};

}  // namespace

std::optional<SheetView> sheet_view_from(std::string_view name) {
    const auto names = view_names();
    const auto found = std::ranges::find(names, name);
    if (found == names.end()) return {};
    return static_cast<SheetView>(found - names.begin());
}

Result<Plan> drawing_of(const DrawingJob& job, const Run& run) {
    const ExportJob as_export{job.results, job.study_units, job.study_units.length};
    const auto scene = scene_of(as_export, Box::infinite, run);
    if (!scene) return scene.error();
    return DrawingMaker(job, *scene).make(run);
}

Result<std::string> write_drawing(const DrawingJob& job, const std::filesystem::path& path, const Run& run) {
    Result<Plan> plan = drawing_of(job, run);
    if (!plan) return plan.error();
    const std::string ending = ending_of(path);
    const Status written = write_file(path, [&](const ByteSink& sink) -> Status {
        if (ending == ".svg")
            write_plan_svg(*plan, job.title, sink);
        else if (ending == ".dxf")
            return write_plan_dxf(*plan, sink);
        else
            write_plan_pdf(*plan, job.title, sink);
        return Done{};
    });
    if (!written) return written.error();
    const std::vector<std::string>& lost = plan->report.left_out;
    return "Drew " + plan->report.what + " to ‘" + path.filename().string() + "’" +
           (lost.empty() ? "" : "; left out: " + listed(lost, "and")) + '.';
}

}  // namespace plume
