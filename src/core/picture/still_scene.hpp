#pragma once
// The faces of drawables for rays (Embree 3): what a ray meets, and how much light comes along one.

#include <embree3/rtcore.h>

#include <limits>
#include <vector>

#include "core/picture/still.hpp"

namespace plume {

// Linear light.
struct Colour {
    float r = 0, g = 0, b = 0;
};
inline Colour operator*(Colour c, float s) {
    return {c.r * s, c.g * s, c.b * s};
}
inline Colour operator*(Colour a, Colour b) {
    return {a.r * b.r, a.g * b.g, a.b * b.b};
}
inline Colour operator+(Colour a, Colour b) {
    return {a.r + b.r, a.g + b.g, a.b + b.b};
}
inline Colour mix(Colour a, Colour b, float share) {
    return a * (1 - share) + b * share;
}
Colour linear(Rgb colour);
// Of a drawable's colour coordinate.
Colour colour_at(float coordinate, Rgb plain, const RampStyle& ramp);

// Every drawable's faces in one scene, around one common origin.
class StillScene {
public:
    // The items have to outlive it. In clay they have neither colours nor materials.
    StillScene(const std::vector<StillItem>& items, bool clay);
    ~StillScene();
    StillScene(const StillScene&) = delete;
    StillScene& operator=(const StillScene&) = delete;

    const Box& bounds() const { return bounds_; }
    Vec3 origin() const { return origin_; }

    struct Hit {
        double distance = std::numeric_limits<double>::infinity();
        Vec3 normal;  // towards where the ray comes from
        Colour colour;
        const Material* material = nullptr;  // none: dull
    };
    // Rays are relative to origin().
    bool hit(const Ray& ray, Hit& hit) const;
    // 0 where something stands in the way, 1 where nothing does; glass takes a part.
    float light_along(const Ray& ray) const;

private:
    // What stands behind a geometry of the scene.
    struct Source {
        const StillItem* item = nullptr;
        std::size_t first_index = 0;         // of its triangles
        const DrawRepeat* repeat = nullptr;  // none: vertices stand where they are
    };
    struct Floats3 {
        float x, y, z;
    };
    static Floats3 narrowed(Vec3 v);
    static void set(RTCRay& query, const Ray& ray);
    void add(const StillItem& item);
    // Without an item it is a shape, whose repeats are the sources.
    void attach_triangles(RTCScene scene, const Drawable& drawable, std::size_t first_index,
                          std::size_t index_count, Floats3 shift, Source source);
    void attach_repeat(RTCScene shape, const DrawRepeat& repeat, Floats3 shift, Source source);
    static void attach(RTCScene scene, RTCGeometry geometry);

    RTCDevice device_;
    RTCScene scene_;
    std::vector<RTCScene> shapes_;
    std::vector<Source> sources_;  // by geometry of the scene
    bool clay_ = false;
    bool transparent_ = false;  // any of it
    Box bounds_;
    Vec3 origin_;
};

}  // namespace plume
