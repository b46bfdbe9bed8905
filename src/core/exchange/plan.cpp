#include "core/exchange/plan.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/exchange/layers.hpp"
#include "core/exchange/tally.hpp"
#include "core/geometry/curves/arc_path.hpp"
#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/meshes/mesh_sides.hpp"
#include "core/results/exact_form.hpp"
#include "core/results/numbers_along.hpp"

namespace plume {
namespace {

constexpr double most_paper_mm = 100'000;
constexpr std::size_t most_paths = 1'000'000;

// 1, 2, 5, 10, 20 … until it fits a sheet.
double fitting_scale(Vec3 size_mm) {
    constexpr double sheet_width = 841 - 2 * plan_margin, sheet_height = 594 - 2 * plan_margin;
    double scale = 1;
    for (int step = 0; size_mm.x > sheet_width * scale || size_mm.y > sheet_height * scale; ++step)
        scale *= step % 3 == 1 ? 2.5 : 2;
    return scale;
}

class PlanMaker {
public:
    PlanMaker(const ExportJob& job, const std::vector<SceneObject>& scene)
        : job_(job), extent_(bounds_of(scene)), mm_(1000 * metres_per(job.study_units.length)) {
        plan_.scale = job.plan_scale > 0 ? job.plan_scale : fitting_scale(extent_.size() * mm_);
        mm_ /= plan_.scale;
        plan_.width = extent_.size().x * mm_ + 2 * plan_margin;
        plan_.height = extent_.size().y * mm_ + 2 * plan_margin;
    }

    Status add(const SceneObject& object, const Show& show) {
        if (plan_.width > most_paper_mm || plan_.height > most_paper_mm)
            return Error{ErrorCode::out_of_range, "The scale",
                         "makes a sheet of " + short_text(plan_.width / 1000) + " m by " +
                             short_text(plan_.height / 1000) + " m",
                         "Choose another, or none: then it fits a sheet."};
        const Layers layers(job_, object.name);
        switch (object.form.form) {
            case WrittenForm::lines:
                add_curves(object, layers);
                break;
            case WrittenForm::bars:
                add_bars(object, layers);
                break;
            case WrittenForm::facets:
                add_edges(object);
                break;
            default:
                add_points(object, layers);
        }
        add_labels(object, show);
        if (paths_ > most_paths)
            return Error{ErrorCode::over_budget, "‘" + object.name + "’",
                         "has more lines than a sheet can show",
                         "Thin it out, or draw its sections instead."};
        return Done{};
    }
    Plan take() {
        plan_.report.what = tally_.text() + " at 1:" + short_text(plan_.scale, 6) + " on " +
                            short_text(plan_.width, 4) + " × " + short_text(plan_.height, 4) + " mm";
        return std::move(plan_);
    }

private:
    PaperPlace on_paper(Vec3 place) const {
        return {(place.x - extent_.low.x) * mm_ + plan_margin, (place.y - extent_.low.y) * mm_ + plan_margin};
    }
    PlanLayer& layer(const std::string& name) { return layer_of(plan_, name); }
    // Pale plain grey is no ink.
    static Rgb colour_of(const SceneObject& object, const std::vector<Rgb>& colours, std::size_t index) {
        if (!colours.empty()) return colours[index];
        return object.material ? object.plain : plan_ink;
    }
    void add_path(const std::string& name, PlanPath path) {
        layer(name).paths.push_back(std::move(path));
        ++paths_;
    }

    void add_points(const SceneObject& object, const Layers& layers) {
        for (std::size_t at = 0; at < object.form.points.size(); ++at)
            layer(layers.of(object.form.numbers, at))
                .dots.push_back(
                    {on_paper(object.form.points[at]), colour_of(object, object.place_colours, at)});
        tally_.add(object.form.points.size(), "point", "points");
    }
    void add_bars(const SceneObject& object, const Layers& layers) {
        const Written& frame = object.form;
        for (std::size_t bar = 0; bar < frame.bars.size(); ++bar) {
            const auto& [from, to] = frame.bars[bar];
            add_path(layers.of(frame.numbers_of_bars, bar),
                     line(frame.points[from], frame.points[to], colour_of(object, object.bar_colours, bar)));
        }
        tally_.add(frame.bars.size(), "line", "lines");
    }
    PlanPath line(Vec3 from, Vec3 to, Rgb colour) const {
        PlanPath path{on_paper(from), {}, false, colour};
        path.steps.push_back({PlanStep::Form::line, on_paper(to)});
        return path;
    }

    // Each edge once; of a surface its rim alone.
    void add_edges(const SceneObject& object) {
        const Mesh& mesh = *object.form.facets;
        const MeshSides sides = sides_of(mesh);
        std::size_t edges = 0;
        for (std::size_t side = 0; side < sides.count(); ++side) {
            if (object.form.smooth && sides.face_count(side) != 1) continue;
            const auto [from, to] = sides.ends[side];
            add_path(object.name, line(mesh.vertex(from), mesh.vertex(to), colour_of(object, {}, 0)));
            ++edges;
        }
        tally_.add(edges, "edge", "edges");
    }

    void add_curves(const SceneObject& object, const Layers& layers) {
        const std::vector<SplineCurve> curves = exact_form_of(*object.value).curves;
        const std::vector<Field> numbers = numbers_along(curves);
        std::size_t place = 0;
        for (std::size_t at = 0; at < curves.size(); ++at) {
            PlanPath path = path_of(curves[at]);
            path.colour = colour_of(object, object.place_colours, place);
            place += object.form.lines[at].places.size();
            add_path(layers.of(numbers, at), std::move(path));
        }
        tally_.add(curves.size(), "curve", "curves");
    }
    PlanPath path_of(const SplineCurve& curve) const {
        const auto flat = with_poles(curve, [](Vec3 pole) { return Vec3{pole.x, pole.y, 0}; });
        if (!flat) return sampled(curve);
        if (const auto arcs = arc_path(*flat)) return path_of(*arcs);
        return curve.rational() || curve.basis().degree > 3 ? sampled(*flat) : cubics(*flat);
    }
    PlanPath path_of(const ArcPath& arcs) const {
        PlanPath path{on_paper(arcs.start), {}, arcs.closed, {}};
        Vec3 from = arcs.start;
        for (const ArcPiece& piece : arcs.pieces) {
            PlanStep step{PlanStep::Form::line, on_paper(piece.to)};
            if (piece.bulge != 0) {
                step.form = PlanStep::Form::arc;
                step.radius = length(centre_of(from, piece) - from) * mm_;
                step.anticlockwise = piece.bulge > 0;
                step.large = std::abs(piece.bulge) > 1 + 1e-9;
            }
            path.steps.push_back(step);
            from = piece.to;
        }
        return path;
    }
    // Bernstein coefficients, bay by bay, are what a Bézier curve is drawn by.
    PlanPath cubics(const SplineCurve& curve) const {
        const SplineCurve cubic = curve.basis().degree < 3 ? raised(curve, 3) : curve;
        const SplineCurve bays = changed(cubic, in_bernstein_form(cubic.basis()));
        PlanPath path{on_paper(bays.pole(0)), {}, curve.closed(), {}};
        for (std::size_t pole = 1; pole + 2 < bays.x().size(); pole += 3) {
            PlanStep step{PlanStep::Form::cubic, on_paper(bays.pole(pole + 2))};
            step.first = on_paper(bays.pole(pole));
            step.second = on_paper(bays.pole(pole + 1));
            path.steps.push_back(step);
        }
        return path;
    }
    PlanPath sampled(const SplineCurve& curve) const {
        constexpr double within_mm = 0.01;
        const CurveSamples samples = sample(curve, within_mm / mm_);
        PlanPath path{on_paper(samples.points.front()), {}, samples.closed, {}};
        for (std::size_t at = 1; at < samples.points.size(); ++at)
            path.steps.push_back({PlanStep::Form::line, on_paper(samples.points[at])});
        return path;
    }

    void add_labels(const SceneObject& object, const Show& show) {
        const std::vector<SceneLabel> labels = labels_of(object, show, job_.study_units);
        for (const SceneLabel& label : labels)
            layer(object.name + " labels").texts.push_back({on_paper(label.place), label.text});
        if (!labels.empty()) tally_.add(labels.size(), "label", "labels");
    }

    const ExportJob& job_;
    Box extent_;
    double mm_;  // on paper, a study length
    Plan plan_;
    Tally tally_;
    std::size_t paths_ = 0;
};

}  // namespace

PlanLayer& layer_of(Plan& plan, const std::string& name) {
    const auto found = std::ranges::find(plan.layers, name, &PlanLayer::name);
    if (found != plan.layers.end()) return *found;
    return plan.layers.emplace_back(PlanLayer{name});
}

PaperPlace PlanArc::at(double angle_rad) const {
    return {centre.x + radius * std::cos(angle_rad), centre.y + radius * std::sin(angle_rad)};
}

PlanArc arc_of(PaperPlace from, const PlanStep& step) {
    const double chord_x = step.to.x - from.x, chord_y = step.to.y - from.y;
    const double half = std::hypot(chord_x, chord_y) / 2, radius = std::max(step.radius, half);
    double turn = 2 * std::asin(std::min(half / radius, 1.0));
    if (step.large) turn = 2 * std::numbers::pi - turn;
    if (!step.anticlockwise) turn = -turn;
    // The centre lies across the chord's middle.
    const double off = radius * std::cos(turn / 2) * (turn > 0 ? 1 : -1) / (2 * half);
    PlanArc arc{{(from.x + step.to.x) / 2 - chord_y * off, (from.y + step.to.y) / 2 + chord_x * off},
                radius,
                0,
                turn};
    arc.begin_rad = std::atan2(from.y - arc.centre.y, from.x - arc.centre.x);
    return arc;
}

std::span<const double> dash_lengths(PlanDashes dashes) {
    static constexpr std::array dashed{1.5, 1.0};
    static constexpr std::array chain{8.0, 1.5, 1.0, 1.5};
    if (dashes == PlanDashes::dashed) return dashed;
    if (dashes == PlanDashes::chain) return chain;
    return {};
}

double text_width_mm(const PlanText& text) {
    constexpr double mean_letter = 0.54;  // of its height, digits a little more
    return mean_letter * text.letters * static_cast<double>(characters_of(text.text).size());
}

Result<Plan> plan_of(const ExportJob& job, const Run& run) {
    if (Status known = check_layers(job); !known) return known.error();
    const auto scene = scene_of(job, Box::infinite, run);
    if (!scene) return scene.error();
    PlanMaker maker(job, *scene);
    for (std::size_t at = 0; at < scene->size(); ++at) {
        if (run.cancelled()) return cancelled_error();
        if (Status added = maker.add((*scene)[at], job.results[at].show); !added) return added.error();
    }
    return maker.take();
}

}  // namespace plume
