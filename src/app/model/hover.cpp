#include "app/model/hover.hpp"

#include <QPainter>
#include <limits>

#include "app/model/model_view.hpp"
#include "app/model/note.hpp"
#include "app/parts/asked_parts.hpp"
#include "app/theme/look.hpp"
#include "core/base/text.hpp"
#include "core/results/items.hpp"
#include "core/study/told_number.hpp"
#include "core/tracing/part_places.hpp"
#include "core/tracing/part_told.hpp"

namespace plume::app {
namespace {

// The edges of a curve, or of a bar.
std::optional<DrawLine> line_of(const Drawable& drawable, std::size_t item) {
    if (item < drawable.lines.size()) return drawable.lines[item];
    const bool bar = drawable.lines_are == LineRole::bars && 2 * item < drawable.edges.size();
    return bar ? std::optional(DrawLine{2 * item, 2}) : std::nullopt;
}

// The curve under the cursor as a whole.
void trace_curve(QPainter& painter, const Drawable& drawable, const DrawLine& line, const ModelView& view) {
    const auto place = [&](std::uint32_t vertex) {
        const DrawVertex& v = drawable.vertices[vertex];
        return view.position_of(drawable.absolute(v.x, v.y, v.z));
    };
    const std::size_t end = line.first_edge_index + line.edge_index_count;
    for (std::size_t edge = line.first_edge_index; edge < end; edge += 2) {
        const auto from = place(drawable.edges[edge]), to = place(drawable.edges[edge + 1]);
        if (from && to) painter.drawLine(*from, *to);
    }
}

void trace_face(QPainter& painter, const std::vector<Vec3>& corners, const ModelView& view) {
    QPolygonF outline;
    for (const Vec3 corner : corners)
        if (const auto seen = view.position_of(corner)) outline << *seen;
    painter.drawPolygon(outline);
}

// Of a long line of descent, its ends.
constexpr std::size_t most_ancestors = 9;

void add_descent(QStringList& lines, const std::vector<std::string>& ancestors) {
    lines << QString();
    const std::size_t left_out = ancestors.size() > most_ancestors ? ancestors.size() - most_ancestors : 0;
    for (std::size_t at = 0; at < ancestors.size(); ++at) {
        if (at == 1 && left_out > 0) lines << QObject::tr("… %1 more …").arg(left_out);
        if (at == 0 || at > left_out) lines << text_of(shortened(ancestors[at], 80));
    }
}

// Nowhere where there is no such part.
Vec3 middle_of(const Value& value, PartRef part) {
    if (part.sort == PartSort::item && has_part(value, part)) {
        const Items items = items_of(value);
        const auto& [sort, number] = pointed_at(items, part.number);
        return sort.place(number);
    }
    const std::vector<Vec3> places = has_part(value, part) ? places_of(value, part) : std::vector<Vec3>();
    Vec3 sum;
    for (const Vec3 place : places)
        sum = sum + place;
    return sum * (1 / static_cast<double>(places.size()));
}

// What is told of what is under the cursor.
struct Pointed {
    std::string title;
    Vec3 place;
    std::string place_is = {};
    std::vector<std::pair<std::string, Quantity>> numbers;
    std::vector<std::string> ancestors = {};
};

std::optional<Pointed> pointed(const Value& value, const Hovered& hovered) {
    if (hovered.within) {
        const PartRef part = *hovered.within;
        if (!has_part(value, part)) return {};
        const bool face = part.sort == PartSort::face;
        return Pointed{title_of(value, part), middle_of(value, part), face ? in_the_middle : "",
                       numbers_of(value, part)};
    }
    const Items all = items_of(value);
    if (hovered.index >= all.total() || !all.noted) return {};
    const PointedAt item = pointed_at(all, hovered.index);
    const auto& [items, number] = item;
    return Pointed{items.title(number), items.place(number), items.place_is, numbers_of(item),
                   items.why ? items.why(number) : std::vector<std::string>()};
}

QStringList hover_lines(const Pointed& pointed, const Step& step, const Units& units) {
    const auto number = [&](double value) { return text_of(told_number(value)); };
    const Vec3 p = pointed.place;
    QStringList lines;
    lines << text_of(step.name + "  " + pointed.title);
    lines << text_of(pointed.place_is.empty() ? "" : pointed.place_is + "  ") +
                 QString("x %1  y %2  z %3 %4")
                     .arg(number(p.x), number(p.y), number(p.z), text_of(symbol(units.length)));
    for (const auto& [name, quantity] : pointed.numbers)
        lines << text_of(name + "  " + told_number(quantity, units));
    if (!pointed.ancestors.empty()) add_descent(lines, pointed.ancestors);
    lines << QObject::tr("F3 tells why it is so");
    return lines;
}

// Whether a face stands before a line, and not just beside it on a slope.
bool hides(const OrbitView& view, const PickedPart& face, const PickedPart& line) {
    constexpr double steepest = 4;  // lengths into the depth for one across
    const Camera& camera = view.camera();
    const Vec3 at = camera.eye() + camera.forward() * face.depth;
    const double beside = point_reach / camera.pixels_per_length(at, view.view_size().height);
    return face.depth < line.depth - steepest * beside;
}

}  // namespace

Hovered part_under(QPointF cursor, const OrbitView& view) {
    // Lines are drawn on faces, which are under the cursor all around them.
    std::optional<PickedPart> face, line;
    Hovered on_face, on_line;
    for (const SceneItem& item : view.scene()) {
        const bool lines = item.drawable->triangles.empty();
        if (!item.show.faces && !lines) continue;
        const auto picked =
            pick_part(*item.drawable, view.camera(), view.view_size(), {cursor.x(), cursor.y()}, point_reach);
        std::optional<PickedPart>& best = lines ? line : face;
        if (!picked ||
            (best && std::pair(picked->apart, picked->depth) >= std::pair(best->apart, best->depth)))
            continue;
        best = picked;
        Hovered& found = lines ? on_line : on_face;
        found = {item.step, picked->part};
        if (picked->face) found.within = PartRef{PartSort::face, *picked->face};
        if (picked->node) found.within = PartRef{PartSort::vertex, *picked->node};
    }
    return line && (!face || !hides(view, *face, *line)) ? on_line : on_face;
}

Hovered hovered_under(QPointF cursor, const ModelView& view) {
    Hovered found;
    double nearest = std::numeric_limits<double>::infinity();
    for (const SceneItem& item : view.scene()) {
        if (!item.show.points && !item.drawable->triangles.empty()) continue;
        const double reach = item.drawable->points_are == PointRole::handles ? handle_reach : point_reach;
        const auto picked =
            pick_point(*item.drawable, view.camera(), view.view_size(), {cursor.x(), cursor.y()}, reach);
        if (!picked || picked->apart >= nearest) continue;
        nearest = picked->apart;
        found = {item.step, item.drawable->points[picked->point].index};
    }
    return found.step == 0 ? part_under(cursor, view) : found;
}

void paint_hover(QPainter& painter, const Document& document, const ModelView& view) {
    const Hovered& hovered = document.attention().hovered();
    const Step* step = hovered.step ? document.study().step(hovered.step) : nullptr;
    const Shown* shown = step ? document.results().shown(step->id) : nullptr;
    const auto told = shown && shown->value ? pointed(*shown->value, hovered) : std::nullopt;
    const auto at = told && is_finite(told->place) ? view.position_of(told->place) : std::nullopt;
    if (!at) return;
    painter.setPen(QPen(look().attention, 2));
    painter.setBrush(Qt::NoBrush);
    const auto line =
        shown->drawable && !hovered.within ? line_of(*shown->drawable, hovered.index) : std::nullopt;
    if (line)
        trace_curve(painter, *shown->drawable, *line, view);
    else if (hovered.within && hovered.within->sort == PartSort::face)
        trace_face(painter, places_of(*shown->value, *hovered.within), view);
    else
        painter.drawEllipse(*at, 7, 7);
    // The middle of what is large may be far from where it is pointed at.
    const bool far = view.underMouse() && QLineF(view.cursor_at(), *at).length() > handle_reach;
    draw_note(painter, hover_lines(*told, *step, document.study().units), far ? view.cursor_at() : *at,
              view.rect());
}

void paint_asked(QPainter& painter, const Document& document, const ModelView& view) {
    const std::vector<AskedPart>& asked = document.attention().wishes().asked;
    for (std::size_t at = 0; at < asked.size(); ++at) {
        const Shown* shown = document.results().shown(asked[at].step);
        if (!shown || !shown->value) continue;
        const Vec3 middle = middle_of(*shown->value, asked[at].part);
        const auto seen = is_finite(middle) ? view.position_of(middle) : std::nullopt;
        if (!seen) continue;
        const QColor colour = asked_colour(at);
        painter.setPen(QPen(colour, 2.5));
        painter.setBrush(Qt::NoBrush);
        painter.drawEllipse(*seen, 9, 9);
        painter.setFont(text_font(12, QFont::DemiBold));
        painter.drawText(*seen + QPointF(12, -6), asked_letter(at));
    }
}

}  // namespace plume::app
