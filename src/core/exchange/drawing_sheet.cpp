#include "core/exchange/drawing_sheet.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/listed.hpp"
#include "core/base/numbers.hpp"
#include "core/base/text.hpp"

namespace plume {
namespace {

constexpr double between_views = 10, thin = 0.13, middling = 0.25, heavy = 0.5;
constexpr double block_width = 150, block_height = 26;

PlanPath rectangle(PaperPlace low, SheetSize size, double stroke) {
    PlanPath path = sheet_line(low, {low.x + size.width, low.y}, stroke);
    path.steps.push_back({PlanStep::Form::line, {low.x + size.width, low.y + size.height}});
    path.steps.push_back({PlanStep::Form::line, {low.x, low.y + size.height}});
    path.closed = true;
    return path;
}

// About a place.
void add_letters(PlanLayer& layer, PaperPlace middle, const std::string& text, double letters) {
    constexpr double capitals = 0.72;  // of the height of letters
    layer.texts.push_back({{middle.x, middle.y - capitals * letters / 2}, text, letters, true});
}

}  // namespace

PlanPath sheet_line(PaperPlace from, PaperPlace to, double stroke) {
    PlanPath path{from, {{PlanStep::Form::line, to}}, false, plan_ink};
    path.stroke = stroke;
    return path;
}

std::optional<std::vector<PaperPlace>> laid_out(const std::vector<SheetSize>& sizes, SheetSize room) {
    std::vector<PaperPlace> places(sizes.size());
    double top = room.height;
    for (std::size_t first = 0; first < sizes.size();) {
        double width = 0, height = 0;
        std::size_t end = first;
        for (; end < sizes.size(); ++end) {
            const double more = sizes[end].width + (end > first ? between_views : 0);
            if (width + more > room.width) break;
            width += more;
            height = std::max(height, sizes[end].height);
        }
        if (end == first) return {};
        top -= height + (first > 0 ? between_views : 0);
        if (top < 0) return {};
        double left = (room.width - width) / 2;
        for (; first < end; ++first) {
            places[first] = {left, top};
            left += sizes[first].width + between_views;
        }
    }
    // What is left over below is shared out above and below.
    for (PaperPlace& place : places)
        place.y -= top / 2;
    return places;
}

void add_title_block(PlanLayer& layer, const DrawingJob& job, double scale) {
    const double width = job.paper.width, height = job.paper.height;
    layer.paths.push_back(
        rectangle({plan_margin, plan_margin}, {width - 2 * plan_margin, height - 2 * plan_margin}, middling));
    const PaperPlace low{width - plan_margin - block_width, plan_margin};
    layer.paths.push_back(rectangle(low, {block_width, block_height}, heavy));
    const double second = low.y + 9, column = low.x + block_width - 45;
    layer.paths.push_back(sheet_line({low.x, second}, {low.x + block_width, second}, middling));
    layer.paths.push_back(sheet_line({column, low.y}, {column, second}, middling));
    std::vector<std::string> names;
    for (const ExportedResult& result : job.results)
        names.push_back(result.name);
    layer.texts.push_back({{low.x + 4, second + 6}, shortened(job.title, 48), 5, false});
    layer.texts.push_back({{low.x + 4, low.y + 3.2}, shortened(listed(names), 60), 2.5, false});
    layer.texts.push_back({{column + 4, low.y + 3.2},
                           "1 : " + short_text(scale, 6) + "   " + std::string(job.paper.name),
                           3.5,
                           false});
}

void add_scale_bar(PlanLayer& layer, const Units& units, double scale) {
    constexpr double about_mm = 50, thick = 1.6;
    constexpr int pieces = 5;
    const double mm = 1000 * metres_per(units.length) / scale;
    const double step = round_step(about_mm / mm / pieces);
    const PaperPlace low{plan_margin + 8, plan_margin + 8};
    for (int piece = 0; piece < pieces; ++piece) {
        const PaperPlace at{low.x + piece * step * mm, low.y};
        layer.paths.push_back(rectangle(at, {step * mm, thick}, middling));
        if (piece % 2 == 0)
            layer.paths.push_back(sheet_line({at.x + thick / 2, at.y + thick / 2},
                                             {at.x + step * mm - thick / 2, at.y + thick / 2}, thick));
    }
    layer.texts.push_back({{low.x, low.y + thick + 1.5}, "0", 2.5, true});
    layer.texts.push_back({{low.x + pieces * step * mm, low.y + thick + 1.5},
                           quantity_text({pieces * step, a_length}, units, 4),
                           2.5,
                           true});
}

void add_north(PlanLayer& layer) {
    constexpr double high = 12, wide = 3;
    const PaperPlace foot{plan_margin + 85, plan_margin + 5};
    layer.paths.push_back(sheet_line(foot, {foot.x, foot.y + high}, middling));
    PlanPath head = sheet_line({foot.x - wide / 2, foot.y + high - 4}, {foot.x, foot.y + high}, middling);
    head.steps.push_back({PlanStep::Form::line, {foot.x + wide / 2, foot.y + high - 4}});
    layer.paths.push_back(std::move(head));
    layer.texts.push_back({{foot.x, foot.y + high + 1.5}, "N", 3.5, true});
}

void add_dimension(PlanLayer& layer, PaperPlace from, PaperPlace to, const std::string& text) {
    constexpr double tick = 1.2, letters = 2.5;
    layer.paths.push_back(sheet_line(from, to, thin));
    for (const PaperPlace end : {from, to})
        layer.paths.push_back(
            sheet_line({end.x - tick, end.y - tick}, {end.x + tick, end.y + tick}, middling));
    const bool level = std::abs(to.x - from.x) > std::abs(to.y - from.y);
    PlanText written{{(from.x + to.x) / 2, (from.y + to.y) / 2}, text, letters, level};
    if (level)
        written.at.y += 1;
    else
        written.at.x += 1.5;
    layer.texts.push_back(std::move(written));
}

void add_view_title(PlanLayer& layer, PaperPlace middle, const std::string& title) {
    PlanText text{middle, title};
    text.letters = 3.5;
    text.middle = true;
    layer.texts.push_back(std::move(text));
}

void add_section_mark(PlanLayer& layer, PaperPlace end, PaperPlace outwards, PaperPlace looks,
                      const std::string& letter) {
    constexpr double gap = 1, stroke = 4, arrow = 3, head = 1;
    const PaperPlace near{end.x + outwards.x * gap, end.y + outwards.y * gap},
        far{near.x + outwards.x * stroke, near.y + outwards.y * stroke},
        tip{far.x + looks.x * arrow, far.y + looks.y * arrow};
    layer.paths.push_back(sheet_line(near, far, heavy));
    layer.paths.push_back(sheet_line(far, tip, middling));
    for (const double side : {head, -head})
        layer.paths.push_back(sheet_line(
            {tip.x - looks.x * head + outwards.x * side / 2, tip.y - looks.y * head + outwards.y * side / 2},
            tip, middling));
    // Behind the arrow's foot.
    add_letters(layer, {far.x - looks.x * 2.2, far.y - looks.y * 2.2}, letter, 3.5);
}

void add_axis_mark(PlanLayer& layer, PaperPlace end, PaperPlace outwards, const std::string& name) {
    constexpr double gap = 1, radius = 3.5;
    const PaperPlace near{end.x + outwards.x * gap, end.y + outwards.y * gap},
        middle{near.x + outwards.x * radius, near.y + outwards.y * radius};
    layer.paths.push_back(sheet_line(end, near, thin));
    PlanPath circle{{middle.x - radius, middle.y}, {}, true, plan_ink, middling};
    circle.steps.push_back({PlanStep::Form::arc, {middle.x + radius, middle.y}, radius, true});
    circle.steps.push_back({PlanStep::Form::arc, {middle.x - radius, middle.y}, radius, true});
    layer.paths.push_back(std::move(circle));
    add_letters(layer, middle, name, 3);
}

}  // namespace plume
