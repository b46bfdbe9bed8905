#include "core/picture/still_scene.hpp"

#include <algorithm>
#include <array>
#include <cmath>

#include "core/picture/own_colours.hpp"
#include "core/picture/painted.hpp"

namespace plume {
namespace {

constexpr Colour clay_colour{0.74F, 0.71F, 0.66F};

}  // namespace

Colour linear(Rgb colour) {
    const auto one = [](float v) {
        return v <= 0.04045F ? v / 12.92F : std::pow((v + 0.055F) / 1.055F, 2.4F);
    };
    return {one(colour.red), one(colour.green), one(colour.blue)};
}

Colour colour_at(float coordinate, Rgb plain, const RampStyle& ramp) {
    return linear(colour_of(coordinate, plain, ramp));
}

StillScene::Floats3 StillScene::narrowed(Vec3 v) {
    return {static_cast<float>(v.x), static_cast<float>(v.y), static_cast<float>(v.z)};
}

StillScene::StillScene(const std::vector<StillItem>& items, bool clay)
    : device_(rtcNewDevice(nullptr)), scene_(rtcNewScene(device_)), clay_(clay) {
    bounds_ = bounds_of(items);
    origin_ = bounds_.centre();
    for (const StillItem& item : items)
        if (item.faces && !item.drawable->triangles.empty()) add(item);
    rtcCommitScene(scene_);
}

StillScene::~StillScene() {
    for (RTCScene shape : shapes_)
        rtcReleaseScene(shape);
    rtcReleaseScene(scene_);
    rtcReleaseDevice(device_);
}

bool StillScene::hit(const Ray& ray, Hit& hit) const {
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
    const Rgb plain = plain_colour_of(source.item->material);
    const std::size_t triangle = source.first_index + 3 * static_cast<std::size_t>(query.hit.primID);
    const auto corner = [&](std::size_t index) {
        const DrawVertex& own = drawable.vertices[drawable.triangles[triangle + index]];
        return source.repeat ? at_repeat(*source.repeat, own) : own;
    };
    const DrawVertex a = corner(0), b = corner(1), c = corner(2);
    const float u = query.hit.u, v = query.hit.v, w = 1 - u - v;
    const auto blend = [&](float p, float q, float r) { return static_cast<double>(w * p + u * q + v * r); };
    hit.distance = static_cast<double>(query.ray.tfar);
    const Vec3 normal =
        unit_or_zero({blend(a.nx, b.nx, c.nx), blend(a.ny, b.ny, c.ny), blend(a.nz, b.nz, c.nz)});
    hit.normal = dot(normal, ray.direction) > 0 ? normal * -1 : normal;
    hit.material = nullptr;
    hit.colour = clay_colour;
    if (clay_) return true;
    if (source.item->material) hit.material = &*source.item->material;
    if (a.colour <= first_own_coordinate)
        hit.colour = colour_at(a.colour, plain, ramp) * w + colour_at(b.colour, plain, ramp) * u +
                     colour_at(c.colour, plain, ramp) * v;
    else if (a.colour < 0)
        hit.colour = colour_at(a.colour, plain, ramp);
    else
        hit.colour = colour_at(static_cast<float>(blend(a.colour, b.colour, c.colour)), plain, ramp);
    return true;
}

float StillScene::light_along(const Ray& ray) const {
    if (!transparent_) {
        RTCRay query{};
        set(query, ray);
        RTCIntersectContext context;
        rtcInitIntersectContext(&context);
        rtcOccluded1(scene_, &context, &query);
        return query.tfar < 0 ? 0 : 1;
    }
    constexpr int most_panes = 16;
    const double step = 1e-4 * bounds_.diagonal();
    float light = 1;
    Ray rest = ray;
    for (int pane = 0; pane < most_panes; ++pane) {
        Hit met;
        if (!hit(rest, met)) return light;
        if (!met.material || !(met.material->transparency > 0)) return 0;
        light *= met.material->transparency;
        rest.origin = rest.origin + rest.direction * (met.distance + step);
    }
    return 0;
}

void StillScene::add(const StillItem& item) {
    transparent_ = transparent_ || (!clay_ && item.material && item.material->transparency > 0);
    const Drawable& drawable = *item.drawable;
    const Floats3 shift = narrowed(drawable.origin - origin_);
    if (drawable.shapes.empty())
        attach_triangles(scene_, drawable, 0, drawable.triangles.size(), shift, {&item});
    for (const DrawShape& shape : drawable.shapes) {
        shapes_.push_back(rtcNewScene(device_));
        attach_triangles(shapes_.back(), drawable, shape.first_triangle_index, shape.triangle_index_count, {},
                         {});
        rtcCommitScene(shapes_.back());
        for (std::size_t at = 0; at < shape.repeat_count; ++at) {
            const DrawRepeat& repeat = drawable.repeats[shape.first_repeat + at];
            attach_repeat(shapes_.back(), repeat, shift, {&item, shape.first_triangle_index, &repeat});
        }
    }
}

void StillScene::attach_triangles(RTCScene scene, const Drawable& drawable, std::size_t first_index,
                                  std::size_t index_count, Floats3 shift, Source source) {
    RTCGeometry geometry = rtcNewGeometry(device_, RTC_GEOMETRY_TYPE_TRIANGLE);
    auto* positions = static_cast<Floats3*>(rtcSetNewGeometryBuffer(
        geometry, RTC_BUFFER_TYPE_VERTEX, 0, RTC_FORMAT_FLOAT3, sizeof(Floats3), drawable.vertices.size()));
    for (std::size_t index = 0; index < drawable.vertices.size(); ++index) {
        const DrawVertex& v = drawable.vertices[index];
        positions[index] = {v.x + shift.x, v.y + shift.y, v.z + shift.z};
    }
    auto* indices = static_cast<std::uint32_t*>(rtcSetNewGeometryBuffer(
        geometry, RTC_BUFFER_TYPE_INDEX, 0, RTC_FORMAT_UINT3, 3 * sizeof(std::uint32_t), index_count / 3));
    std::copy_n(drawable.triangles.data() + first_index, index_count, indices);
    attach(scene, geometry);
    if (source.item) sources_.push_back(source);
}

void StillScene::attach_repeat(RTCScene shape, const DrawRepeat& repeat, Floats3 shift, Source source) {
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
void StillScene::attach(RTCScene scene, RTCGeometry geometry) {
    rtcCommitGeometry(geometry);
    rtcAttachGeometry(scene, geometry);
    rtcReleaseGeometry(geometry);
}

void StillScene::set(RTCRay& query, const Ray& ray) {
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

}  // namespace plume
