#include "core/picture/still.hpp"

#include <algorithm>
#include <cmath>
#include <limits>
#include <numbers>

#include "core/base/parallel.hpp"
#include "core/geometry/curves/lettering.hpp"
#include "core/picture/depth_fade.hpp"
#include "core/picture/labels.hpp"
#include "core/picture/still_canvas.hpp"
#include "core/picture/still_scene.hpp"

namespace plume {
namespace {

constexpr int largest_side = 8192;

// Point (index) of the R2 sequence (Martin Roberts, The unreasonable effectiveness of quasirandom sequences,
// 2018), shifted by a hash of the pixel: even coverage without visible patterns.
struct Sequence {
    std::uint32_t state;
    explicit Sequence(std::uint32_t seed) : state(seed * 747796405U + 2891336453U) { state ^= state >> 15U; }
    std::pair<double, double> at(int index) const {
        const double a = 0.5 + 0.7548776662466927 * index + state * 2.3283064365386963e-10;
        const double b = 0.5 + 0.5698402909980532 * index + (state * 2654435761U) * 2.3283064365386963e-10;
        return {a - std::floor(a), b - std::floor(b)};
    }
};

// Cosine-weighted direction around n.
Vec3 around(Vec3 n, std::pair<double, double> sample) {
    const Vec3 helper = std::abs(n.z) < 0.9 ? Vec3{0, 0, 1} : Vec3{1, 0, 0};
    const Vec3 t = unit_or_zero(cross(helper, n)), b = cross(n, t);
    const double angle = 2 * std::numbers::pi * sample.first, radius = std::sqrt(sample.second);
    return t * (radius * std::cos(angle)) + b * (radius * std::sin(angle)) + n * std::sqrt(1 - sample.second);
}

constexpr int light_rays = 2, sky_rays = 4;  // a sample; pixels have quality^2 samples
constexpr int most_bounces = 8;              // panes that are looked through

class Painter {
public:
    Painter(const std::vector<StillItem>& items, const StillOptions& options)
        : items_(items),
          options_(options),
          scene_(items),
          camera_(options.camera),
          aspect_(static_cast<double>(options.width) / options.height),
          canvas_(options.width, options.height, 0.004 * scene_.bounds().diagonal()) {
        if (options.pixels_per_length > 0)
            look_to_scale();
        else if (options.fit)
            camera_.fit(scene_.bounds(), aspect_);
        camera_.target = camera_.target - scene_.origin();
        ground_ = scene_.bounds().low.z - scene_.origin().z;
        light_ = camera_.light();
        step_ = 1e-4 * scene_.bounds().diagonal();
    }

    Result<Image> paint(const Run& run) {
        const auto rows = static_cast<std::size_t>(options_.height);
        if (!parallel_blocks(rows, 8, run, [&](std::size_t begin, std::size_t end) {
                for (std::size_t y = begin; y < end; ++y)
                    trace_row(static_cast<int>(y));
            }))
            return cancelled_error();
        for (const StillItem& item : items_)
            draw_over(item);
        LabelRoom room(label_view());
        for (const StillItem& item : items_)
            if (Status written = write_labels(item, room); !written) return written.error();
        return canvas_.image();
    }

private:
    void look_to_scale() {
        camera_.perspective = false;
        camera_.target = scene_.bounds().centre();
        camera_.distance *= options_.height / options_.pixels_per_length / camera_.view_height();
    }

    void trace_row(int y) {
        const int n = options_.quality;
        for (int x = 0; x < options_.width; ++x) {
            Colour sum;
            float cover = 0;
            double depth = std::numeric_limits<double>::infinity();
            for (int part = 0; part < n * n; ++part) {
                const int column = part % n, row = part / n;
                const double sx = (x + (column + 0.5) / n) / options_.width;
                const double sy = (y + (row + 0.5) / n) / options_.height;
                const auto seed = static_cast<std::uint32_t>((y * options_.width + x) * n * n + part);
                sum = sum + trace(camera_.ray_through(sx, sy, aspect_), sy, Sequence(seed), depth, cover);
            }
            const float share = 1.0F / static_cast<float>(n * n);
            canvas_.set(x, y, sum * share, depth, cover * share);
        }
    }

    Colour background(double y) const {
        return mix(linear({0.953F, 0.957F, 0.945F}), linear({0.871F, 0.894F, 0.886F}), static_cast<float>(y));
    }

    // Adds to `cover` how much of what the picture is laid on is hidden.
    Colour trace(const Ray& ray, double screen_y, const Sequence& sequence, double& depth,
                 float& cover) const {
        StillScene::Hit hit;
        const bool met = scene_.hit(ray, hit);
        if (!met && options_.transparent) {
            cover += 1 - ground_light(ray, sequence);
            return {};
        }
        cover += 1;
        if (!met) return ground(ray, screen_y, sequence);
        const bool clear = hit.material && hit.material->transparency > 0;
        if (!clear) depth = std::min(depth, hit.distance * dot(ray.direction, camera_.forward()));
        return light_from(hit, ray, screen_y, sequence, depth, most_bounces);
    }

    // What a place sends back along a ray: dull light, what it mirrors, what shines through.
    Colour light_from(const StillScene::Hit& hit, const Ray& ray, double screen_y, const Sequence& sequence,
                      double& depth, int bounces) const {
        const Vec3 place = ray.origin + ray.direction * hit.distance;
        const Vec3 before = place + hit.normal * step_;
        const float sun = lit_share(before, hit.normal, sequence),
                    sky = open_share(before, hit.normal, sequence);
        const auto facing = static_cast<float>(std::max(0.0, dot(hit.normal, light_)));
        const Colour dull = hit.colour * (0.26F + 0.36F * sky + 0.52F * sun * facing);
        if (!hit.material || is_dull(*hit.material)) return dull;
        const Material& material = *hit.material;
        if (material.stripes > 0) return striped(hit, ray, material) * (0.8F + 0.2F * sky);
        // Schlick, An inexpensive BRDF model for physically-based rendering, Computer Graphics Forum 13(3),
        // 1994: mirrors more the flatter one looks; the rougher, the less of that.
        const auto across = static_cast<float>(std::max(0.0, -dot(hit.normal, ray.direction)));
        const float flat = std::pow(1 - across, 5.0F) * (1 - 0.8F * material.roughness);
        const Colour head_on = mix({0.04F, 0.04F, 0.04F}, hit.colour, material.metalness);
        const Colour mirrors = mix(head_on, {1, 1, 1}, flat);
        const Colour mirrored = mirrored_at(hit, ray, before, sequence, bounces) +
                                Colour{1, 1, 1} * (sun * glint(hit.normal, ray.direction, material));
        Colour own = dull * (1 - material.metalness);
        if (material.transparency > 0 && bounces > 0) {
            const Ray onwards{place + ray.direction * step_, ray.direction};
            StillScene::Hit behind;
            const bool met = scene_.hit(onwards, behind);
            const bool clear = met && behind.material && behind.material->transparency > 0;
            if (met && !clear) {
                const Vec3 there = onwards.origin + onwards.direction * behind.distance;
                depth = std::min(depth, dot(there - camera_.eye(), camera_.forward()));
            }
            const Colour through = met ? light_from(behind, onwards, screen_y, sequence, depth, bounces - 1)
                                       : ground(onwards, screen_y, sequence);
            own = mix(own, through * hit.colour, material.transparency);
        }
        const Colour rest{1 - mirrors.r, 1 - mirrors.g, 1 - mirrors.b};
        return own * rest + mirrored * mirrors;
    }

    static bool is_dull(const Material& material) {
        return material.roughness >= 1 && material.metalness <= 0 && material.transparency <= 0;
    }

    // A light or the dark between two, wherever the mirror looks: that of the model (gl_scene.cpp), but hard
    // at its edges, which many rays soften.
    static Colour striped(const StillScene::Hit& hit, const Ray& ray, const Material& material) {
        const Vec3 mirror = ray.direction - hit.normal * (2 * dot(ray.direction, hit.normal));
        const double turn =
            std::atan2(mirror.y, mirror.z) / (2 * std::numbers::pi) * static_cast<double>(material.stripes);
        return std::abs(turn - std::floor(turn) - 0.5) > 0.25 ? hit.colour : Colour{0.010F, 0.012F, 0.014F};
    }

    // One ray, the further from the mirror's direction the rougher it is; what it meets sends dull light.
    Colour mirrored_at(const StillScene::Hit& hit, const Ray& ray, Vec3 place, const Sequence& sequence,
                       int bounces) const {
        const Vec3 mirror = ray.direction - hit.normal * (2 * dot(ray.direction, hit.normal));
        const double rough = static_cast<double>(hit.material->roughness);
        Vec3 towards = unit_or_zero(mirror + (around(mirror, sequence.at(bounces + 31)) - mirror) *
                                                 (0.7 * rough * rough));
        if (dot(towards, hit.normal) < 0) towards = mirror;
        StillScene::Hit met;
        const Ray onwards{place, towards};
        if (!scene_.hit(onwards, met)) return surroundings(towards);
        met.material = nullptr;
        double depth = 0;
        return light_from(met, onwards, 0.5, sequence, depth, 0);
    }

    // A pale sky over a darker ground.
    static Colour surroundings(Vec3 towards) {
        const auto up = static_cast<float>(std::clamp(0.5 + 2.5 * towards.z, 0.0, 1.0));
        return mix(
            {0.45F, 0.46F, 0.45F},
            mix({0.62F, 0.66F, 0.68F}, {0.95F, 0.97F, 1}, static_cast<float>(std::max(0.0, towards.z))), up);
    }

    // The light as it is mirrored (Trowbridge & Reitz, Average irregularity representation of a rough surface
    // for ray reflection, J. Opt. Soc. Am. 65, 1975), as bright as a white face at its brightest.
    float glint(Vec3 normal, Vec3 direction, const Material& material) const {
        const Vec3 half = unit_or_zero(light_ - direction);
        const double rough = std::max(0.08, static_cast<double>(material.roughness)), a = rough * rough;
        const double along = std::max(0.0, dot(normal, half)), spread = along * along * (a * a - 1) + 1;
        return static_cast<float>(std::min(4.0, 0.25 * a * a / (spread * spread) / (a + 0.05)));
    }

    // The ground shows nothing but the shadow on it.
    Colour ground(const Ray& ray, double screen_y, const Sequence& sequence) const {
        return background(screen_y) * ground_light(ray, sequence);
    }
    float ground_light(const Ray& ray, const Sequence& sequence) const {
        const double along = (ground_ - step_ - ray.origin.z) / ray.direction.z;
        if (!(along > 0) || !std::isfinite(along)) return 1;
        const Vec3 place = ray.origin + ray.direction * along;
        const double reach = scene_.bounds().diagonal();
        if (length(place - Vec3{0, 0, ground_}) > 2 * reach) return 1;
        const Vec3 up{0, 0, 1};
        const float sun = lit_share(place, up, sequence), sky = open_share(place, up, sequence);
        return 0.55F + 0.22F * sun + 0.23F * sky;
    }

    float lit_share(Vec3 place, Vec3 normal, const Sequence& sequence) const {
        float lit = 0;
        for (int index = 0; index < light_rays; ++index) {
            // A round light about eight degrees across.
            const Vec3 wobble = around(light_, sequence.at(index + 17));
            const Vec3 towards = unit_or_zero(light_ + (wobble - light_ * dot(wobble, light_)) * 0.07);
            if (dot(towards, normal) > 0) lit += scene_.light_along({place, towards});
        }
        return lit / light_rays;
    }

    float open_share(Vec3 place, Vec3 normal, const Sequence& sequence) const {
        float open = 0;
        for (int index = 0; index < sky_rays; ++index)
            open += scene_.light_along({place, around(normal, sequence.at(index))});
        return open / sky_rays;
    }

    using Spot = StillCanvas::Spot;
    Spot spot(const Drawable& drawable, float x, float y, float z) const {
        Spot s{};
        s.visible = camera_.project(drawable.absolute(x, y, z) - scene_.origin(), aspect_, s.x, s.y, s.depth);
        s.x *= options_.width;
        s.y *= options_.height;
        return s;
    }
    // Pixels of what a picture 800 pixels high has one of.
    double unit() const { return std::max(1.0, options_.height / 800.0); }

    void draw_over(const StillItem& item) {
        if (item.edges) draw_edges(item);
        if (item.points) draw_points(item);
    }

    static constexpr double bar_width = 2;  // pixels of a picture 800 high

    void draw_edges(const StillItem& item) {
        const Drawable& drawable = *item.drawable;
        const bool lines = drawable.lines_are != LineRole::edges, bars = drawable.lines_are == LineRole::bars;
        Camera absolute = camera_;
        absolute.target = absolute.target + scene_.origin();
        const DepthFade fade(absolute, bars ? drawable.bounds : Box());
        const Colour ink = drawable.points_are == PointRole::handles ? linear(attractor_colour)
                                                                     : Colour{0.02F, 0.03F, 0.03F};
        const auto draw = [&](const DrawVertex& a, const DrawVertex& b, double width) {
            const bool coloured = lines && a.colour != plain_coordinate;
            const Vec3 middle = (drawable.absolute(a.x, a.y, a.z) + drawable.absolute(b.x, b.y, b.z)) * 0.5;
            canvas_.line(spot(drawable, a.x, a.y, a.z), spot(drawable, b.x, b.y, b.z),
                         coloured ? colour_at(a.colour, plain_colour, item.ramp) : ink,
                         (lines ? 0.9F : 0.30F) * static_cast<float>(fade.share_left(middle)), width);
        };
        const double usual = bars ? bar_width * unit() : 1;
        for_each_edge(drawable, [&](const DrawVertex& a, const DrawVertex& b) { draw(a, b, usual); });
        if (item.heavier_each <= 0 || drawable.lines_are != LineRole::lines) return;
        for (const DrawLine& line : drawable.lines) {
            if (line.rank % item.heavier_each != 0) continue;
            for (std::size_t edge = 0; edge + 1 < line.edge_index_count; edge += 2) {
                const std::size_t at = line.first_edge_index + edge;
                draw(drawable.vertices[drawable.edges[at]], drawable.vertices[drawable.edges[at + 1]],
                     2.5 * unit());
            }
        }
    }

    void draw_points(const StillItem& item) {
        const Drawable& drawable = *item.drawable;
        const bool handles = drawable.points_are == PointRole::handles;
        for (const DrawPoint& point : drawable.points) {
            const Spot s = spot(drawable, point.x, point.y, point.z);
            if (!s.visible || canvas_.hidden(s, 0.02 * scene_.bounds().diagonal())) continue;
            if (handles) canvas_.disc(s, 8.5 * unit(), {1, 1, 1});
            canvas_.disc(
                s, (handles ? 7 : 2) * unit(),
                colour_at(point.colour, handles ? attractor_colour : Rgb{0.30F, 0.33F, 0.34F}, item.ramp));
        }
    }

    // As if it were no more than 800 pixels high: as many labels whatever its size.
    ViewSize label_view() const { return {options_.width / unit(), options_.height / unit()}; }

    Status write_labels(const StillItem& item, LabelRoom& room) {
        if (!item.label) return Done{};
        constexpr double capital = 11;  // pixels of that view
        constexpr std::size_t most = 400;
        Camera camera = camera_;
        camera.target = camera.target + scene_.origin();
        std::size_t written = 0;
        for (const LabelSpot& label :
             label_spots(*item.drawable, item.labelled, camera, label_view(), {20, 12}, 4 * most)) {
            const Spot there{label.at.x * unit(), label.at.y * unit(), label.depth, true};
            if (written == most) break;
            if (canvas_.hidden(there, 0.02 * scene_.bounds().diagonal())) continue;
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
                const double x = (from.x + letter.x * capital) * unit(),
                             y = (from.y - letter.y * capital) * unit();
                line.push_back({there.x + x * std::cos(turn) - y * std::sin(turn),
                                there.y + x * std::sin(turn) + y * std::cos(turn), 0, true});
            }
        }
        canvas_.strokes(strokes, background(0), 0.75F, 3.2 * unit());
        canvas_.strokes(strokes, {0.02F, 0.03F, 0.03F}, 0.95F, 1.1 * unit());
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

    const std::vector<StillItem>& items_;
    const StillOptions& options_;
    StillScene scene_;
    Camera camera_;  // relative to the scene's origin
    double aspect_;
    StillCanvas canvas_;
    Vec3 light_;
    double ground_ = 0, step_ = 0;
};

}  // namespace

PixelSize size_to_scale(const std::vector<StillItem>& items, const Camera& camera, double pixels_per_length) {
    Box box;
    for (const StillItem& item : items)
        box.include(item.drawable->bounds);
    double low_x = 0, high_x = 0, low_y = 0, high_y = 0;
    for (int corner = 0; corner < 8 && !box.empty(); ++corner) {
        const Vec3 place{corner & 1 ? box.high.x : box.low.x, corner & 2 ? box.high.y : box.low.y,
                         corner & 4 ? box.high.z : box.low.z};
        const double x = dot(place - box.centre(), camera.right()),
                     y = dot(place - box.centre(), camera.up());
        low_x = std::min(low_x, x);
        high_x = std::max(high_x, x);
        low_y = std::min(low_y, y);
        high_y = std::max(high_y, y);
    }
    // Lines and discs reach beyond the places they stand for.
    constexpr double margin = 24;
    const double half_width = std::max(high_x, -low_x), half_height = std::max(high_y, -low_y);
    return {2 * half_width * pixels_per_length + 2 * margin,
            2 * half_height * pixels_per_length + 2 * margin};
}

Result<Image> render_still(const std::vector<StillItem>& items, const StillOptions& options, const Run& run) {
    for (const int side : {options.width, options.height})
        if (side < 1 || side > largest_side)
            return Error{ErrorCode::out_of_range, "The picture", "has to be 1 to 8192 pixels each way",
                         "Choose another size, such as 1280x800."};
    Box bounds;
    for (const StillItem& item : items)
        bounds.include(item.drawable->bounds);
    if (bounds.empty())
        return Error{ErrorCode::nothing_to_write, "The picture", "would be empty: nothing is visible",
                     "Show a result first."};
    return Painter(items, options).paint(run);
}

}  // namespace plume
