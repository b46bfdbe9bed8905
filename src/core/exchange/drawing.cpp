#include "core/exchange/drawing.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/file.hpp"
#include "core/base/listed.hpp"
#include "core/base/numbers.hpp"
#include "core/base/small_letters.hpp"
#include "core/base/text.hpp"
#include "core/exchange/drawing_views.hpp"
#include "core/exchange/sheet_table.hpp"
#include "core/exchange/tally.hpp"

namespace plume {
namespace {

constexpr std::size_t most_lines = 1'000'000;
constexpr double beside_dimensions = 14, below_dimensions = 14, off = 5;  // mm

bool is_upright(SheetView section) {
    return section != SheetView::section_down;
}
// At an angle nothing is as long as it is.
bool is_measured(SheetView view) {
    return view != SheetView::at_an_angle;
}
// Upright sections are marked where they are seen from above, level ones from the side.
bool is_marked_in(SheetView section, SheetView view) {
    const bool from_above = view == SheetView::plan || view == SheetView::section_down;
    return section != view && is_measured(view) && is_upright(section) == from_above;
}

// A, B … Z, AA, AB …
std::string letters_of(std::size_t number) {
    std::string text;
    for (std::size_t left = number + 1; left > 0; left = (left - 1) / 26)
        text.insert(text.begin(), static_cast<char>('A' + (left - 1) % 26));
    return text;
}

double stroke_of(const SeenPiece& piece) {
    if (piece.hidden) return 0.13;
    if (piece.edge == SeenEdge::crease) return 0.18;
    return piece.edge == SeenEdge::line ? 0.25 : 0.35;
}

// Lines are drawn in the darker half of what a thing is made of.
Rgb ink_of(const SceneObject& object) {
    return {object.plain.red / 2, object.plain.green / 2, object.plain.blue / 2};
}
Rgb half_way_to_white(Rgb colour) {
    return {(1 + colour.red) / 2, (1 + colour.green) / 2, (1 + colour.blue) / 2};
}

struct SheetAxis {
    SheetSegment ends;
    std::string name;
};

// A view, what is drawn beside its forms, and where it stands on the sheet.
struct View {
    DrawnView drawn;
    std::string title, letter;                         // of a section: "A"
    Box reach;                                         // of forms, axes and distances; as the frame sees them
    double left = 0, right = 0, above = 0, below = 0;  // mm besides
    PaperPlace low;                                    // of the box of its forms
    double mm = 1;

    SheetSize size_at(double scaled_mm) const {
        return {reach.size().x * scaled_mm + left + right, reach.size().y * scaled_mm + above + below};
    }
    void place(PaperPlace corner, double scaled_mm) {
        mm = scaled_mm;
        low = {corner.x + left + (drawn.box.low.x - reach.low.x) * mm,
               corner.y + below + (drawn.box.low.y - reach.low.y) * mm};
    }
    PaperPlace on_paper(Vec3 seen) const {
        return {low.x + (seen.x - drawn.box.low.x) * mm, low.y + (seen.y - drawn.box.low.y) * mm};
    }
};

class DrawingMaker {
public:
    DrawingMaker(const DrawingJob& job, const std::vector<SceneObject>& scene) : job_(job), scene_(scene) {}

    Result<Plan> make(const Run& run) {
        if (Status seen = see_all(run); !seen) return seen.error();
        for (const ExportedResult& result : job_.schedules) {
            auto table = sheet_table_of(result, job_, room(), run);
            if (!table) return table.error();
            tables_.push_back(*std::move(table));
        }
        plan_.width = job_.paper.width;
        plan_.height = job_.paper.height;
        if (Status placed = place_all(); !placed) return placed.error();
        for (const View& view : views_)
            draw(view);
        PlanLayer& sheet = layer("sheet");
        add_title_block(sheet, job_, plan_.scale);
        add_scale_bar(sheet, job_.study_units, plan_.scale);
        if (std::ranges::find(job_.views, SheetView::plan) != job_.views.end()) add_north(sheet);
        tell();
        return std::move(plan_);
    }

private:
    // --- what is seen

    Status see_all(const Run& run) {
        if (Status read = read_lines(); !read) return read;
        const Box box = bounds_of(scene_);
        std::size_t sections = 0;
        for (const SheetView of : job_.views) {
            auto drawn = drawn_view(job_, scene_, of, (box.low + box.high) * 0.5, run);
            if (!drawn) return drawn.error();
            lines_ += drawn->line_count();
            if (lines_ > most_lines)
                return Error{ErrorCode::over_budget, "", "has more lines than a sheet can show",
                             "Draw fewer results or views."};
            View& view = views_.emplace_back();
            view.drawn = *std::move(drawn);
            if (is_section(of)) view.letter = letters_of(sections++);
            view.title = title_of(of, view.letter);
        }
        for (View& view : views_)
            set_margins(view);
        return Done{};
    }
    Status read_lines() {
        auto distances = segments_of(job_.distances, "distances");
        if (!distances) return distances.error();
        distances_ = *std::move(distances);
        const auto axes = segments_of(job_.axes, "axes");
        if (!axes) return axes.error();
        name_axes(*axes);
        return Done{};
    }
    // Those that run north have numbers from west to east, those that run east letters from south to north.
    void name_axes(std::vector<SheetSegment> axes) {
        const auto runs_north = [](const SheetSegment& axis) {
            return std::abs(axis[1].y - axis[0].y) > std::abs(axis[1].x - axis[0].x);
        };
        const auto across = [&](const SheetSegment& axis) {
            return runs_north(axis) ? axis[0].x + axis[1].x : axis[0].y + axis[1].y;
        };
        std::ranges::stable_sort(axes, {}, across);
        std::size_t numbers = 0, letters = 0;
        for (const SheetSegment& axis : axes)
            axes_.push_back({axis, runs_north(axis) ? std::to_string(++numbers) : letters_of(letters++)});
    }
    // "Section A-A, looking north"
    static std::string title_of(SheetView of, const std::string& letter) {
        std::string title = name_of(of);
        title.front() = static_cast<char>(title.front() - 'a' + 'A');
        if (is_section(of)) title.insert(title.find(' '), ' ' + letter + '-' + letter + ',');
        return title;
    }

    void set_margins(View& view) const {
        const DrawnView& drawn = view.drawn;
        view.reach = drawn.box;
        const auto include = [&](Vec3 place) {
            const Vec3 seen = drawn.frame.seen(place);
            view.reach.include(Vec3{seen.x, seen.y, 0});
        };
        bool axes = false;
        for (const SheetAxis& axis : axes_) {
            axes = axes || is_measured(drawn.of);
            if (is_measured(drawn.of) && (is_seen_along(axis.ends, drawn) || is_seen_whole(axis.ends, drawn)))
                std::ranges::for_each(axis.ends, include);
        }
        for (const SheetSegment& distance : distances_)
            if (is_seen_whole(distance, drawn)) std::ranges::for_each(distance, include);
        const bool marks = std::ranges::any_of(views_, [&](const View& other) {
            return is_section(other.drawn.of) && is_marked_in(other.drawn.of, drawn.of);
        });
        const double around = (marks ? section_mark : 0) + (axes ? axis_mark : 0);
        view.left = view.right = view.above = view.below = around;
        view.below += below_dimensions;
        if (is_measured(drawn.of)) view.right += beside_dimensions;
    }
    static double length_seen(const SheetSegment& segment, const DrawnView& view) {
        const Vec3 from = view.frame.seen(segment[0]), to = view.frame.seen(segment[1]);
        return std::hypot(to.x - from.x, to.y - from.y);
    }
    // As long as it is.
    static bool is_seen_whole(const SheetSegment& segment, const DrawnView& view) {
        return is_measured(view.of) &&
               length_seen(segment, view) > (1 - 1e-9) * length(segment[1] - segment[0]) &&
               view.shows(view.frame.seen(segment[0])) && view.shows(view.frame.seen(segment[1]));
    }
    // As a point.
    static bool is_seen_along(const SheetSegment& segment, const DrawnView& view) {
        return is_measured(view.of) && length_seen(segment, view) < 1e-6 * length(segment[1] - segment[0]);
    }

    // --- where it stands

    double mm_at(double scale) const { return 1000 * metres_per(job_.study_units.length) / scale; }
    SheetSize room() const {
        return {job_.paper.width - 2 * plan_margin - 8, job_.paper.height - 2 * plan_margin - sheet_foot - 4};
    }
    std::vector<SheetSize> sizes_at(double scale) const {
        std::vector<SheetSize> sizes;
        for (const View& view : views_)
            sizes.push_back(view.size_at(mm_at(scale)));
        for (const SheetTable& table : tables_)
            sizes.push_back(size_of(table));
        return sizes;
    }
    std::optional<std::vector<PaperPlace>> places_at(double scale) const {
        return laid_out(sizes_at(scale), room());
    }
    // The first of 1, 2, 5, 10, 20, 25, 50, 100 … at which all views fit; nothing where they would be specks.
    std::optional<double> fitting_scale() const {
        constexpr double speck_mm = 5;
        double largest = 0;
        for (const View& view : views_)
            largest = std::max({largest, view.reach.size().x, view.reach.size().y});
        for (double tens = 1; tens == 1 || largest * mm_at(tens) > speck_mm; tens *= 10)
            for (const double step : {1.0, 2.0, 2.5, 5.0})
                if (std::floor(step * tens) == step * tens && places_at(step * tens)) return step * tens;
        return {};
    }
    Result<std::vector<PaperPlace>> choose_scale() {
        const std::optional<double> fits = fitting_scale();
        if (!fits) {
            const std::string schedules =
                tables_.empty() ? "" : " and " + count_text(tables_.size(), "schedule", "schedules");
            return Error{ErrorCode::out_of_range, "",
                         count_text(views_.size(), "view", "views") + schedules + " do not fit " +
                             std::string(job_.paper.name),
                         tables_.empty() ? "Choose larger paper, or fewer views."
                                         : "Choose larger paper, fewer views, or group the schedules’ rows."};
        }
        plan_.scale = job_.scale > 0 ? job_.scale : *fits;
        if (auto places = places_at(plan_.scale)) return *std::move(places);
        return about_slot(Error{ErrorCode::out_of_range, "",
                                "of 1 : " + short_text(plan_.scale, 6) + " makes the views larger than " +
                                    std::string(job_.paper.name),
                                "Type " + short_text(*fits, 6) + " or more, or choose larger paper."},
                          "scale");
    }
    Status place_all() {
        auto places = choose_scale();
        if (!places) return places.error();
        const std::vector<SheetSize> sizes = sizes_at(plan_.scale);
        for (std::size_t at = 0; at < sizes.size(); ++at) {
            const std::string name = name_of_item(at);
            PaperPlace low{(*places)[at].x + plan_margin + 4, (*places)[at].y + plan_margin + sheet_foot};
            const auto placed = std::ranges::find(job_.placed, name, &SheetPlace::of);
            if (placed != job_.placed.end()) {
                low = {placed->x, placed->y};
                if (Status fine = check_place(*placed, sizes[at]); !fine) return fine;
            }
            plan_.items.push_back({name, low, sizes[at].width, sizes[at].height});
            if (at < views_.size())
                views_[at].place(low, mm_at(plan_.scale));
            else
                add_table(layer(name), tables_[at - views_.size()], low);
        }
        return Done{};
    }
    std::string name_of_item(std::size_t at) const {
        return at < views_.size() ? name_of(views_[at].drawn.of)
                                  : "schedule of " + tables_[at - views_.size()].name;
    }
    Status check_place(const SheetPlace& item, SheetSize size) const {
        const bool on_paper = item.x >= 0 && item.y >= 0 && item.x + size.width <= job_.paper.width &&
                              item.y + size.height <= job_.paper.height;
        if (on_paper) return Done{};
        return about_slot(Error{ErrorCode::out_of_range, "",
                                "puts ‘" + item.of + "’, " + short_text(size.width, 4) + " × " +
                                    short_text(size.height, 4) + " mm, beyond the paper",
                                "Move it back, or choose larger paper or a smaller scale."},
                          "places");
    }

    // --- what is drawn

    PlanLayer& layer(const std::string& name) { return layer_of(plan_, name); }

    void draw(const View& view) {
        draw_forms(view);
        draw_cuts(view);
        draw_contours(view);
        draw_points_and_labels(view);
        draw_axes(view);
        draw_distances(view);
        draw_section_marks(view);
        draw_dimensions(view);
    }

    void draw_forms(const View& view) {
        for (const SeenPiece& piece : view.drawn.pieces) {
            const SceneObject& object = scene_[piece.thing];
            PlanPath path = sheet_line(view.on_paper(piece.from), view.on_paper(piece.to), stroke_of(piece));
            path.colour = object.material && !piece.hidden ? ink_of(object) : plan_ink;
            if (piece.hidden) path.dashes = PlanDashes::dashed;
            layer(piece.hidden ? object.name + " hidden" : object.name).paths.push_back(std::move(path));
        }
        tally_.add(view.drawn.pieces.size(), "line", "lines");
    }
    void draw_cuts(const View& view) {
        constexpr double heavy = 0.5;
        for (std::size_t at = 0; at < view.drawn.cuts.size(); ++at) {
            const SheetCut& cut = view.drawn.cuts[at];
            if (cut.lines.empty()) continue;
            const SceneObject& object = scene_[at];
            PlanLayer& into = layer(object.name + " cut");
            PlanFill fill{{}, half_way_to_white(object.plain)};
            for (const FlatRing& ring : cut.face.rings) {
                auto& places = fill.rings.emplace_back();
                for (const FlatPoint place : ring)
                    places.push_back(view.on_paper({place.x, place.y, 0}));
            }
            if (!fill.rings.empty()) into.fills.push_back(std::move(fill));
            for (const auto& [from, to] : cut.lines) {
                into.paths.push_back(sheet_line(view.on_paper(from), view.on_paper(to), heavy));
                if (object.material) into.paths.back().colour = ink_of(object);
            }
            tally_.add(cut.lines.size(), "line", "lines");
        }
    }
    void draw_contours(const View& view) {
        constexpr double light = 0.1, heavy = 0.2;
        for (const SheetContour& contour : view.drawn.contours) {
            if (contour.pieces.empty()) continue;
            PlanLayer& into = layer(scene_[contour.object].name + " contours");
            for (const SeenPiece& piece : contour.pieces) {
                if (piece.hidden) continue;
                into.paths.push_back(sheet_line(view.on_paper(piece.from), view.on_paper(piece.to),
                                                contour.heavy ? heavy : light));
            }
            if (contour.heavy && is_measured(view.drawn.of)) add_height(into, contour, view);
            tally_.add(contour.pieces.size(), "line", "lines");
        }
    }
    // At the middle of the longest line of the level.
    void add_height(PlanLayer& into, const SheetContour& contour, const View& view) const {
        constexpr double shortest_mm = 15;
        const auto drawn = [](const SeenPiece& piece) {
            return std::hypot(piece.to.x - piece.from.x, piece.to.y - piece.from.y);
        };
        double longest = 0;
        std::size_t middle = 0;
        for (std::size_t begin = 0, end = 0; begin < contour.pieces.size(); begin = end) {
            double run = 0;
            for (end = begin; end < contour.pieces.size(); ++end) {
                const SeenPiece& piece = contour.pieces[end];
                if (piece.hidden || (end > begin && piece.from != contour.pieces[end - 1].to)) break;
                run += drawn(piece);
            }
            if (run > longest) {
                longest = run;
                middle = begin + (end - begin) / 2;
            }
            end = std::max(end, begin + 1);
        }
        if (longest * view.mm < shortest_mm) return;
        const Vec3 at = contour.pieces[middle].from;
        PlanText text{view.on_paper(at), quantity_text({contour.height, a_length}, job_.study_units, 4)};
        text.letters = 1.8;
        into.texts.push_back(std::move(text));
    }
    void draw_points_and_labels(const View& view) {
        for (std::size_t number = 0; number < scene_.size(); ++number) {
            const SceneObject& object = scene_[number];
            for (std::size_t point = 0; is_points(object) && point < object.form.points.size(); ++point) {
                const Vec3 seen = view.drawn.frame.seen(object.form.points[point]);
                if (view.drawn.shows(seen))
                    layer(object.name).dots.push_back({view.on_paper(seen), plan_ink});
            }
            for (const SceneLabel& label : labels_of(object, job_.results[number].show, job_.study_units)) {
                const Vec3 seen = view.drawn.frame.seen(label.place);
                if (view.drawn.shows(seen))
                    layer(object.name + " labels").texts.push_back({view.on_paper(seen), label.text});
            }
        }
    }

    void draw_axes(const View& view) {
        for (const SheetAxis& axis : axes_) {
            Vec3 from = view.drawn.frame.seen(axis.ends[0]), to = view.drawn.frame.seen(axis.ends[1]);
            if (is_seen_along(axis.ends, view.drawn)) {
                from = {from.x, view.reach.low.y, 0};
                to = {from.x, view.reach.high.y, 0};
            } else if (!is_seen_whole(axis.ends, view.drawn)) {
                continue;
            }
            const PaperPlace begin = view.on_paper(from), end = view.on_paper(to);
            PlanLayer& into = layer("axes");
            into.paths.push_back(sheet_line(begin, end, 0.13));
            into.paths.back().dashes = PlanDashes::chain;
            const double drawn = std::hypot(end.x - begin.x, end.y - begin.y);
            if (drawn < 1e-9) continue;
            const PaperPlace along{(end.x - begin.x) / drawn, (end.y - begin.y) / drawn};
            add_axis_mark(into, begin, {-along.x, -along.y}, axis.name);
            add_axis_mark(into, end, along, axis.name);
        }
    }
    void draw_distances(const View& view) {
        for (const SheetSegment& distance : distances_) {
            if (!is_seen_whole(distance, view.drawn)) continue;
            add_dimension(layer("distances"), view.on_paper(view.drawn.frame.seen(distance[0])),
                          view.on_paper(view.drawn.frame.seen(distance[1])),
                          quantity_text({length(distance[1] - distance[0]), a_length}, job_.study_units, 4));
        }
    }
    void draw_section_marks(const View& view) {
        for (const View& other : views_)
            if (is_section(other.drawn.of) && is_marked_in(other.drawn.of, view.drawn.of))
                mark_section(view, other.drawn, other.letter);
    }
    void mark_section(const View& view, const DrawnView& cut, const std::string& letter) {
        const Vec3 looks = view.drawn.frame.seen(cut.frame.away), on = looks * *cut.depth;
        const bool level = std::abs(looks.y) > std::abs(looks.x);
        const Vec3 low = level ? Vec3{view.reach.low.x, on.y, 0} : Vec3{on.x, view.reach.low.y, 0},
                   high = level ? Vec3{view.reach.high.x, on.y, 0} : Vec3{on.x, view.reach.high.y, 0};
        PlanLayer& into = layer("sections");
        const PaperPlace outwards = level ? PaperPlace{1, 0} : PaperPlace{0, 1},
                         way{std::round(looks.x), std::round(looks.y)};
        add_section_mark(into, view.on_paper(low), {-outwards.x, -outwards.y}, way, letter);
        add_section_mark(into, view.on_paper(high), outwards, way, letter);
        into.paths.push_back(sheet_line(view.on_paper(low), view.on_paper(high), 0.13));
        into.paths.back().dashes = PlanDashes::chain;
    }
    void draw_dimensions(const View& view) {
        PlanLayer& into = layer("dimensions");
        const Box& box = view.drawn.box;
        const PaperPlace low = view.on_paper(box.low), high = view.on_paper(box.high),
                         corner = view.on_paper(view.reach.low), far = view.on_paper(view.reach.high);
        const double below = corner.y - (view.below - below_dimensions),
                     beside = far.x + (view.right - beside_dimensions);
        const auto text = [&](double along) { return quantity_text({along, a_length}, job_.study_units, 4); };
        if (is_measured(view.drawn.of) && box.size().x > 0)
            add_dimension(into, {low.x, below - off}, {high.x, below - off}, text(box.size().x));
        if (is_measured(view.drawn.of) && box.size().y > 0)
            add_dimension(into, {beside + off, low.y}, {beside + off, high.y}, text(box.size().y));
        add_view_title(into, {(low.x + high.x) / 2, below - off - 6}, view.title);
    }

    // --- what is said

    void tell() {
        std::string tables;
        if (!tables_.empty()) tables = " and " + count_text(tables_.size(), "schedule", "schedules");
        plan_.report.what = count_text(views_.size(), "view", "views") + " of " +
                            count_text(job_.results.size(), "result", "results") + tables +
                            " at 1:" + short_text(plan_.scale, 6) + " on " + std::string(job_.paper.name) +
                            " (" + tally_.text() + ")";
        const auto nowhere = [&](const SheetSegment& line) {
            return std::ranges::none_of(views_,
                                        [&](const View& view) { return is_seen_whole(line, view.drawn); });
        };
        const auto unseen = static_cast<std::size_t>(std::ranges::count_if(distances_, nowhere));
        if (unseen > 0)
            plan_.report.left_out.push_back(count_text(unseen, "distance", "distances") +
                                            " that no view shows as long as it is");
    }

    const DrawingJob& job_;
    const std::vector<SceneObject>& scene_;
    std::vector<SheetSegment> distances_;
    std::vector<SheetAxis> axes_;
    std::vector<View> views_;
    std::vector<SheetTable> tables_;
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
std::string name_of(SheetView view) {
    return std::string(view_names()[static_cast<std::size_t>(view)]);
}
bool is_section(SheetView view) {
    return view >= SheetView::section_north;
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
