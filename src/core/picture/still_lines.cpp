#include "core/picture/still_lines.hpp"

#include <algorithm>
#include <cmath>

#include "core/geometry/curves/lettering.hpp"
#include "core/picture/depth_fade.hpp"
#include "core/picture/labels.hpp"

namespace plume {
namespace {

class LineDrawer {
public:
    LineDrawer(StillCanvas& canvas, const StillLines& lines)
        : canvas_(canvas),
          items_(lines.items),
          camera_(lines.camera),
          origin_(lines.origin),
          size_(lines.size),
          paper_(lines.paper),
          unit_(lines.unit),
          aspect_(static_cast<double>(canvas.width()) / canvas.height()) {}

    Status draw() {
        for (const StillItem& item : items_)
            draw_over(item);
        LabelRoom room(label_view());
        for (const StillItem& item : items_)
            if (Status written = write_labels(item, room); !written) return written;
        return Done{};
    }

private:
    using Spot = StillCanvas::Spot;
    Spot spot(const Drawable& drawable, float x, float y, float z) const {
        Spot s{};
        s.visible = camera_.project(drawable.absolute(x, y, z) - origin_, aspect_, s.x, s.y, s.depth);
        s.x *= canvas_.width();
        s.y *= canvas_.height();
        return s;
    }

    void draw_over(const StillItem& item) {
        if (item.edges) draw_edges(item);
        if (item.points) draw_points(item);
    }

    // Edges closer than a few pixels would only blacken what they should explain; as in the model.
    double edge_share(const Drawable& drawable, const Camera& camera) const {
        constexpr double gone = 3, full = 9;
        const double apart = drawable.edge_length *
                             camera.pixels_per_length(drawable.bounds.centre(), canvas_.height()) / unit_;
        return std::clamp((apart - gone) / (full - gone), 0.0, 1.0);
    }

    static constexpr double bar_width = 2;  // pixels of a picture 800 high

    void draw_edges(const StillItem& item) {
        const Drawable& drawable = *item.drawable;
        const bool lines = drawable.lines_are != LineRole::edges, bars = drawable.lines_are == LineRole::bars;
        Camera absolute = camera_;
        absolute.target = absolute.target + origin_;
        const DepthFade fade(absolute, bars ? drawable.bounds : Box());
        const Colour ink = drawable.points_are == PointRole::handles ? linear(attractor_colour)
                                                                     : Colour{0.02F, 0.03F, 0.03F};
        const auto near_together = static_cast<float>(lines ? 1 : edge_share(drawable, absolute));
        if (near_together <= 0) return;
        const auto draw = [&](const DrawVertex& a, const DrawVertex& b, double width) {
            const bool coloured = lines && a.colour != plain_coordinate;
            const Vec3 middle = (drawable.absolute(a.x, a.y, a.z) + drawable.absolute(b.x, b.y, b.z)) * 0.5;
            canvas_.line(spot(drawable, a.x, a.y, a.z), spot(drawable, b.x, b.y, b.z),
                         coloured ? colour_at(a.colour, plain_colour, item.ramp) : ink,
                         (lines ? 0.9F : 0.30F * near_together) * static_cast<float>(fade.share_left(middle)),
                         width);
        };
        const double usual = (bars ? bar_width : 1) * unit_;
        for_each_edge(drawable, [&](const DrawVertex& a, const DrawVertex& b) { draw(a, b, usual); });
        if (item.heavier_each <= 0 || drawable.lines_are != LineRole::lines) return;
        for (const DrawLine& line : drawable.lines) {
            if (line.rank % item.heavier_each != 0) continue;
            for (std::size_t edge = 0; edge + 1 < line.edge_index_count; edge += 2) {
                const std::size_t at = line.first_edge_index + edge;
                draw(drawable.vertices[drawable.edges[at]], drawable.vertices[drawable.edges[at + 1]],
                     2.5 * unit_);
            }
        }
    }

    void draw_points(const StillItem& item) {
        const Drawable& drawable = *item.drawable;
        const bool handles = drawable.points_are == PointRole::handles;
        for (const DrawPoint& point : drawable.points) {
            const Spot s = spot(drawable, point.x, point.y, point.z);
            if (!s.visible || canvas_.hidden(s, 0.02 * size_)) continue;
            if (handles) canvas_.disc(s, 8.5 * unit_, {1, 1, 1});
            canvas_.disc(
                s, (handles ? 7 : 2) * unit_,
                colour_at(point.colour, handles ? attractor_colour : Rgb{0.30F, 0.33F, 0.34F}, item.ramp));
        }
    }

    // As if it were no more than 800 pixels high: as many labels whatever its size.
    ViewSize label_view() const { return {canvas_.width() / unit_, canvas_.height() / unit_}; }

    Status write_labels(const StillItem& item, LabelRoom& room) {
        if (!item.label) return Done{};
        constexpr double capital = 11;  // pixels of that view
        constexpr std::size_t most = 400;
        Camera camera = camera_;
        camera.target = camera.target + origin_;
        std::size_t written = 0;
        for (const LabelSpot& label :
             label_spots(*item.drawable, item.labelled, camera, label_view(), {20, 12}, 4 * most)) {
            const Spot there{label.at.x * unit_, label.at.y * unit_, label.depth, true};
            if (written == most) break;
            if (canvas_.hidden(there, 0.02 * size_)) continue;
            const auto letters = lettering(item.label(label.item));
            if (!letters) return letters.error();
            // Beside points, over the middles of lines.
            const double width = letters->width * capital;
            const ViewPoint from = label.along ? ViewPoint{-width / 2, capital / 2} : ViewPoint{6, -4};
            if (!room.take({label.at.x + from.x, label.at.y + from.y - capital}, {width, capital})) continue;
            ++written;
            write(*letters, there, from, label.turn_rad, capital);
        }
        return Done{};
    }

    // With a pale rim, which is readable over any colour.
    void write(const Lettering& letters, const Spot& there, ViewPoint from, double turn, double capital) {
        std::vector<std::vector<Spot>> strokes;
        for (const std::vector<Vec3>& stroke : letters.strokes) {
            std::vector<Spot>& line = strokes.emplace_back();
            for (const Vec3 letter : stroke) {
                const double x = (from.x + letter.x * capital) * unit_,
                             y = (from.y - letter.y * capital) * unit_;
                line.push_back({there.x + x * std::cos(turn) - y * std::sin(turn),
                                there.y + x * std::sin(turn) + y * std::cos(turn), 0, true});
            }
        }
        canvas_.strokes(strokes, paper_, 0.75F, 3.2 * unit_);
        canvas_.strokes(strokes, {0.02F, 0.03F, 0.03F}, 0.95F, 1.1 * unit_);
    }

    template <class Draw>
    static void for_each_edge(const Drawable& drawable, Draw draw) {
        const auto end = [&](std::size_t index) -> const DrawVertex& {
            return drawable.vertices[drawable.edges[index]];
        };
        if (drawable.shapes.empty())
            for (std::size_t edge = 0; edge + 1 < drawable.edges.size(); edge += 2)
                draw(end(edge), end(edge + 1));
        for (const DrawShape& shape : drawable.shapes)
            for (std::size_t at = 0; at < shape.repeat_count; ++at) {
                const DrawRepeat& repeat = drawable.repeats[shape.first_repeat + at];
                for (std::size_t edge = 0; edge + 1 < shape.edge_index_count; edge += 2)
                    draw(at_repeat(repeat, end(shape.first_edge_index + edge)),
                         at_repeat(repeat, end(shape.first_edge_index + edge + 1)));
            }
    }

    StillCanvas& canvas_;
    const std::vector<StillItem>& items_;
    const Camera& camera_;
    Vec3 origin_;
    double size_;
    Colour paper_;
    double unit_;
    double aspect_;
};

}  // namespace

double still_unit(const StillOptions& options) {
    return std::max(1.0, options.height / 800.0) * options.density;
}

Status draw_lines(StillCanvas& canvas, const StillLines& lines) {
    return LineDrawer(canvas, lines).draw();
}

}  // namespace plume
