#include "core/picture/still.hpp"

#include <embree3/rtcore.h>

#include <algorithm>
#include <cmath>
#include <limits>
#include <memory>

#include "core/base/parallel.hpp"
#include "core/picture/own_colours.hpp"
#include "core/picture/ramp.hpp"

namespace plume {
namespace {

constexpr int largest_side = 8192;

struct Colour {
    float r = 0, g = 0, b = 0;
};
Colour operator*(Colour c, float s) {
    return {c.r * s, c.g * s, c.b * s};
}
Colour operator+(Colour a, Colour b) {
    return {a.r + b.r, a.g + b.g, a.b + b.b};
}
Colour mix(Colour a, Colour b, float share) {
    return a * (1 - share) + b * share;
}

Colour linear(Rgb c) {
    const auto one = [](float v) {
        return v <= 0.04045F ? v / 12.92F : std::pow((v + 0.055F) / 1.055F, 2.4F);
    };
    return {one(c.red), one(c.green), one(c.blue)};
}

std::uint8_t to_byte(float value) {
    const float v = std::clamp(value, 0.0F, 1.0F);
    const float s = v <= 0.0031308F ? 12.92F * v : 1.055F * std::pow(v, 1 / 2.4F) - 0.055F;
    return static_cast<std::uint8_t>(std::lround(s * 255));
}

Colour colour_of(float coordinate, Rgb plain, const RampStyle& ramp) {
    if (coordinate <= first_own_coordinate) return linear(own_colour(coordinate));
    if (coordinate == plain_coordinate) return linear(plain);
    if (!(coordinate >= 0)) return linear(not_a_number_colour);
    return linear(ramp_colour(ramp, static_cast<double>(coordinate)));
}

struct Floats3 {
    float x, y, z;
};
Floats3 narrowed(Vec3 v) {
    return {static_cast<float>(v.x), static_cast<float>(v.y), static_cast<float>(v.z)};
}

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

// Every drawable's faces in one Embree scene, around one common origin.
class Scene {
public:
    explicit Scene(const std::vector<StillItem>& items)
        : device_(rtcNewDevice(nullptr)), scene_(rtcNewScene(device_)) {
        for (const StillItem& item : items)
            bounds_.include(item.drawable->bounds);
        origin_ = bounds_.centre();
        for (const StillItem& item : items)
            if (item.faces && !item.drawable->triangles.empty()) add(item);
        rtcCommitScene(scene_);
    }
    ~Scene() {
        for (RTCScene shape : shapes_)
            rtcReleaseScene(shape);
        rtcReleaseScene(scene_);
        rtcReleaseDevice(device_);
    }
    Scene(const Scene&) = delete;
    Scene& operator=(const Scene&) = delete;

    const Box& bounds() const { return bounds_; }
    Vec3 origin() const { return origin_; }

    struct Hit {
        double distance = std::numeric_limits<double>::infinity();
        Vec3 normal;
        Colour colour;
    };
    // Rays are relative to origin().
    bool hit(const Ray& ray, Hit& hit) const {
        RTCRayHit query{};
        set(query.ray, ray);
        query.hit.geomID = RTC_INVALID_GEOMETRY_ID;
        RTCIntersectContext context;
        rtcInitIntersectContext(&context);
        rtcIntersect1(scene_, &context, &query);
        if (query.hit.geomID == RTC_INVALID_GEOMETRY_ID) return false;
        const bool repeated = query.hit.instID[0] != RTC_INVALID_GEOMETRY_ID;
        const Source& source = sources_[repeated ? query.hit.instID[0] : query.hit.geomID];
        const Drawable& drawable = *source.item->drawable;
        const RampStyle& ramp = source.item->ramp;
        const std::size_t triangle = source.first_index + 3 * static_cast<std::size_t>(query.hit.primID);
        const auto corner = [&](std::size_t index) {
            const DrawVertex& own = drawable.vertices[drawable.triangles[triangle + index]];
            return source.repeat ? at_repeat(*source.repeat, own) : own;
        };
        const DrawVertex a = corner(0), b = corner(1), c = corner(2);
        const float u = query.hit.u, v = query.hit.v, w = 1 - u - v;
        const auto blend = [&](float p, float q, float r) {
            return static_cast<double>(w * p + u * q + v * r);
        };
        hit.distance = static_cast<double>(query.ray.tfar);
        Vec3 normal =
            unit_or_zero({blend(a.nx, b.nx, c.nx), blend(a.ny, b.ny, c.ny), blend(a.nz, b.nz, c.nz)});
        if (dot(normal, ray.direction) > 0) normal = normal * -1;
        hit.normal = normal;
        if (a.colour <= first_own_coordinate)
            hit.colour = colour_of(a.colour, plain_colour, ramp) * w +
                         colour_of(b.colour, plain_colour, ramp) * u +
                         colour_of(c.colour, plain_colour, ramp) * v;
        else if (a.colour < 0)
            hit.colour = colour_of(a.colour, plain_colour, ramp);
        else
            hit.colour =
                colour_of(static_cast<float>(blend(a.colour, b.colour, c.colour)), plain_colour, ramp);
        return true;
    }
    bool blocked(const Ray& ray) const {
        RTCRay query{};
        set(query, ray);
        RTCIntersectContext context;
        rtcInitIntersectContext(&context);
        rtcOccluded1(scene_, &context, &query);
        return query.tfar < 0;
    }

private:
    // What stands behind a geometry of the scene.
    struct Source {
        const StillItem* item = nullptr;
        std::size_t first_index = 0;         // of its triangles
        const DrawRepeat* repeat = nullptr;  // none: vertices stand where they are
    };

    void add(const StillItem& item) {
        const Drawable& drawable = *item.drawable;
        const Floats3 shift = narrowed(drawable.origin - origin_);
        if (drawable.shapes.empty())
            attach_triangles(scene_, drawable, 0, drawable.triangles.size(), shift, {&item});
        for (const DrawShape& shape : drawable.shapes) {
            shapes_.push_back(rtcNewScene(device_));
            attach_triangles(shapes_.back(), drawable, shape.first_triangle_index, shape.triangle_index_count,
                             {}, {});
            rtcCommitScene(shapes_.back());
            for (std::size_t at = 0; at < shape.repeat_count; ++at) {
                const DrawRepeat& repeat = drawable.repeats[shape.first_repeat + at];
                attach_repeat(shapes_.back(), repeat, shift, {&item, shape.first_triangle_index, &repeat});
            }
        }
    }
    // Without an item it is a shape, whose repeats are the sources.
    void attach_triangles(RTCScene scene, const Drawable& drawable, std::size_t first_index,
                          std::size_t index_count, Floats3 shift, Source source) {
        RTCGeometry geometry = rtcNewGeometry(device_, RTC_GEOMETRY_TYPE_TRIANGLE);
        auto* positions = static_cast<Floats3*>(rtcSetNewGeometryBuffer(geometry, RTC_BUFFER_TYPE_VERTEX, 0,
                                                                        RTC_FORMAT_FLOAT3, sizeof(Floats3),
                                                                        drawable.vertices.size()));
        for (std::size_t index = 0; index < drawable.vertices.size(); ++index) {
            const DrawVertex& v = drawable.vertices[index];
            positions[index] = {v.x + shift.x, v.y + shift.y, v.z + shift.z};
        }
        auto* indices = static_cast<std::uint32_t*>(
            rtcSetNewGeometryBuffer(geometry, RTC_BUFFER_TYPE_INDEX, 0, RTC_FORMAT_UINT3,
                                    3 * sizeof(std::uint32_t), index_count / 3));
        std::copy_n(drawable.triangles.data() + first_index, index_count, indices);
        attach(scene, geometry);
        if (source.item) sources_.push_back(source);
    }
    void attach_repeat(RTCScene shape, const DrawRepeat& repeat, Floats3 shift, Source source) {
        RTCGeometry geometry = rtcNewGeometry(device_, RTC_GEOMETRY_TYPE_INSTANCE);
        rtcSetGeometryInstancedScene(geometry, shape);
        const std::array<float, 12> columns{repeat.x[0],
                                            repeat.x[1],
                                            repeat.x[2],
                                            repeat.y[0],
                                            repeat.y[1],
                                            repeat.y[2],
                                            repeat.z[0],
                                            repeat.z[1],
                                            repeat.z[2],
                                            repeat.to[0] + shift.x,
                                            repeat.to[1] + shift.y,
                                            repeat.to[2] + shift.z};
        rtcSetGeometryTransform(geometry, 0, RTC_FORMAT_FLOAT3X4_COLUMN_MAJOR, columns.data());
        attach(scene_, geometry);
        sources_.push_back(source);
    }
    // Numbered in the order they come in.
    static void attach(RTCScene scene, RTCGeometry geometry) {
        rtcCommitGeometry(geometry);
        rtcAttachGeometry(scene, geometry);
        rtcReleaseGeometry(geometry);
    }
    void set(RTCRay& query, const Ray& ray) const {
        const Floats3 from = narrowed(ray.origin), to = narrowed(ray.direction);
        query.org_x = from.x;
        query.org_y = from.y;
        query.org_z = from.z;
        query.dir_x = to.x;
        query.dir_y = to.y;
        query.dir_z = to.z;
        query.tnear = 0;
        query.tfar = std::numeric_limits<float>::infinity();
        query.mask = 0xFFFFFFFFU;
    }

    RTCDevice device_;
    RTCScene scene_;
    std::vector<RTCScene> shapes_;
    std::vector<Source> sources_;  // by geometry of the scene
    Box bounds_;
    Vec3 origin_;
};

constexpr int light_rays = 2, sky_rays = 4;  // a sample; pixels have quality^2 samples

class Painter {
public:
    Painter(const std::vector<StillItem>& items, const StillOptions& options)
        : items_(items),
          options_(options),
          scene_(items),
          camera_(options.camera),
          aspect_(static_cast<double>(options.width) / options.height) {
        if (options.fit) camera_.fit(scene_.bounds(), aspect_);
        camera_.target = camera_.target - scene_.origin();
        ground_ = scene_.bounds().low.z - scene_.origin().z;
        light_ = camera_.light();
        step_ = 1e-4 * scene_.bounds().diagonal();
        const auto pixels =
            static_cast<std::size_t>(options.width) * static_cast<std::size_t>(options.height);
        colours_.resize(pixels);
        depths_.assign(pixels, std::numeric_limits<double>::infinity());
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
        return image();
    }

private:
    void trace_row(int y) {
        const int n = options_.quality;
        for (int x = 0; x < options_.width; ++x) {
            Colour sum;
            double depth = std::numeric_limits<double>::infinity();
            for (int part = 0; part < n * n; ++part) {
                const int column = part % n, row = part / n;
                const double sx = (x + (column + 0.5) / n) / options_.width;
                const double sy = (y + (row + 0.5) / n) / options_.height;
                const auto seed = static_cast<std::uint32_t>((y * options_.width + x) * n * n + part);
                sum = sum + trace(camera_.ray_through(sx, sy, aspect_), sy, Sequence(seed), depth);
            }
            colours_[index(x, y)] = sum * (1.0F / static_cast<float>(n * n));
            depths_[index(x, y)] = depth;
        }
    }

    Colour background(double y) const {
        return mix(linear({0.953F, 0.957F, 0.945F}), linear({0.871F, 0.894F, 0.886F}), static_cast<float>(y));
    }

    Colour trace(const Ray& ray, double screen_y, const Sequence& sequence, double& depth) const {
        Scene::Hit hit;
        if (!scene_.hit(ray, hit)) return ground(ray, screen_y, sequence);
        depth = std::min(depth, hit.distance * dot(ray.direction, camera_.forward()));
        const Vec3 place = ray.origin + ray.direction * hit.distance + hit.normal * step_;
        const float sun = lit_share(place, hit.normal, sequence),
                    sky = open_share(place, hit.normal, sequence);
        const auto facing = static_cast<float>(std::max(0.0, dot(hit.normal, light_)));
        return hit.colour * (0.26F + 0.36F * sky + 0.52F * sun * facing);
    }

    // The ground shows nothing but the shadow on it.
    Colour ground(const Ray& ray, double screen_y, const Sequence& sequence) const {
        const Colour empty = background(screen_y);
        const double along = (ground_ - step_ - ray.origin.z) / ray.direction.z;
        if (!(along > 0) || !std::isfinite(along)) return empty;
        const Vec3 place = ray.origin + ray.direction * along;
        const double reach = scene_.bounds().diagonal();
        if (length(place - Vec3{0, 0, ground_}) > 2 * reach) return empty;
        const Vec3 up{0, 0, 1};
        const float sun = lit_share(place, up, sequence), sky = open_share(place, up, sequence);
        return empty * (0.55F + 0.22F * sun + 0.23F * sky);
    }

    float lit_share(Vec3 place, Vec3 normal, const Sequence& sequence) const {
        int lit = 0;
        for (int index = 0; index < light_rays; ++index) {
            // A round light about eight degrees across.
            const Vec3 wobble = around(light_, sequence.at(index + 17));
            const Vec3 towards = unit_or_zero(light_ + (wobble - light_ * dot(wobble, light_)) * 0.07);
            if (dot(towards, normal) > 0 && !scene_.blocked({place, towards})) ++lit;
        }
        return static_cast<float>(lit) / light_rays;
    }

    float open_share(Vec3 place, Vec3 normal, const Sequence& sequence) const {
        int open = 0;
        for (int index = 0; index < sky_rays; ++index)
            if (!scene_.blocked({place, around(normal, sequence.at(index))})) ++open;
        return static_cast<float>(open) / sky_rays;
    }

    std::size_t index(int x, int y) const {
        return static_cast<std::size_t>(x) +
               static_cast<std::size_t>(options_.width) * static_cast<std::size_t>(y);
    }

    struct Spot {
        double x, y, depth;
        bool visible;
    };
    Spot spot(const Drawable& drawable, float x, float y, float z) const {
        Spot s{};
        s.visible = camera_.project(drawable.absolute(x, y, z) - scene_.origin(), aspect_, s.x, s.y, s.depth);
        s.x *= options_.width;
        s.y *= options_.height;
        return s;
    }

    void blend(int x, int y, double depth, Colour colour, float share) {
        if (x < 0 || y < 0 || x >= options_.width || y >= options_.height) return;
        const std::size_t at = index(x, y);
        // Lines lie on the faces they belong to: lift them by a little of the form's size.
        if (depth > depths_[at] + 0.004 * scene_.bounds().diagonal()) return;
        colours_[at] = mix(colours_[at], colour, share);
    }

    void draw_over(const StillItem& item) {
        const Drawable& drawable = *item.drawable;
        const double unit = std::max(1.0, options_.height / 800.0);
        const bool handles = drawable.points_are == PointRole::handles;
        const bool lines = drawable.lines_are != LineRole::edges;
        const Colour ink = handles ? linear(attractor_colour) : Colour{0.02F, 0.03F, 0.03F};
        const auto draw_edge = [&](const DrawVertex& a, const DrawVertex& b) {
            const bool coloured = lines && a.colour != plain_coordinate;
            draw_line(spot(drawable, a.x, a.y, a.z), spot(drawable, b.x, b.y, b.z),
                      coloured ? colour_of(a.colour, plain_colour, item.ramp) : ink, lines ? 0.9F : 0.30F);
        };
        if (item.edges) for_each_edge(drawable, draw_edge);
        if (!item.points) return;
        for (const DrawPoint& point : drawable.points) {
            const Spot s = spot(drawable, point.x, point.y, point.z);
            if (!s.visible) continue;
            if (handles) draw_disc(s, 8.5 * unit, {1, 1, 1});
            draw_disc(
                s, (handles ? 7 : 2) * unit,
                colour_of(point.colour, handles ? attractor_colour : Rgb{0.30F, 0.33F, 0.34F}, item.ramp));
        }
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

    // One blended pixel a step along the longer axis, shared between its two neighbours across.
    void draw_line(const Spot& a, const Spot& b, Colour ink, float share) {
        if (!a.visible || !b.visible) return;
        const double dx = b.x - a.x, dy = b.y - a.y;
        const double longest = std::max(std::abs(dx), std::abs(dy));
        if (longest > 4.0 * (options_.width + options_.height)) return;
        const int steps = std::max(1, static_cast<int>(std::ceil(longest)));
        const bool flat = std::abs(dx) >= std::abs(dy);
        for (int step = 0; step < steps; ++step) {
            const double t = (step + 0.5) / steps, x = a.x + dx * t - 0.5, y = a.y + dy * t - 0.5;
            const double depth = std::lerp(a.depth, b.depth, t), across = flat ? y : x;
            const double base = std::floor(across);
            const auto part = static_cast<float>(across - base);
            const int main = static_cast<int>(std::lround(flat ? x : y)), side = static_cast<int>(base);
            blend(flat ? main : side, flat ? side : main, depth, ink, share * (1 - part));
            blend(flat ? main : side + 1, flat ? side + 1 : main, depth, ink, share * part);
        }
    }

    // Discs keep their whole shape: what lies in front of their middle hides them, what touches them does
    // not.
    void draw_disc(Spot s, double radius, Colour colour) {
        const int middle_x = static_cast<int>(s.x), middle_y = static_cast<int>(s.y);
        if (middle_x < 0 || middle_y < 0 || middle_x >= options_.width || middle_y >= options_.height) return;
        if (s.depth > depths_[index(middle_x, middle_y)] + 0.02 * scene_.bounds().diagonal()) return;
        s.depth = -std::numeric_limits<double>::infinity();
        for (int y = static_cast<int>(s.y - radius - 1); y <= static_cast<int>(s.y + radius + 1); ++y)
            for (int x = static_cast<int>(s.x - radius - 1); x <= static_cast<int>(s.x + radius + 1); ++x) {
                const double apart = std::hypot(x + 0.5 - s.x, y + 0.5 - s.y);
                const auto share = static_cast<float>(std::clamp(radius + 0.5 - apart, 0.0, 1.0));
                if (share > 0) blend(x, y, s.depth, colour, share);
            }
    }

    Image image() const {
        Image result{options_.width, options_.height, {}};
        result.rgba.reserve(colours_.size() * 4);
        for (const Colour& c : colours_) {
            result.rgba.push_back(to_byte(c.r));
            result.rgba.push_back(to_byte(c.g));
            result.rgba.push_back(to_byte(c.b));
            result.rgba.push_back(255);
        }
        return result;
    }

    const std::vector<StillItem>& items_;
    const StillOptions& options_;
    Scene scene_;
    Camera camera_;  // relative to the scene's origin
    double aspect_;
    Vec3 light_;
    double ground_ = 0, step_ = 0;
    std::vector<Colour> colours_;
    std::vector<double> depths_;
};

}  // namespace

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
