#pragma once
// How much light comes along a ray of a still picture.

#include <cmath>
#include <optional>

#include "core/picture/still_light.hpp"
#include "core/picture/still_scene.hpp"

namespace plume {

// Point (index) of the R2 sequence (Martin Roberts, The unreasonable effectiveness of quasirandom sequences,
// 2018), shifted by a hash of the seed: even coverage without visible patterns.
struct Sequence {
    std::uint32_t state = 0;  // the sequence itself
    Sequence() = default;
    explicit Sequence(std::uint32_t seed) : state(seed * 747796405U + 2891336453U) { state ^= state >> 15U; }
    std::pair<double, double> at(int index) const {
        const double a = 0.5 + 0.7548776662466927 * index + state * 2.3283064365386963e-10;
        const double b = 0.5 + 0.5698402909980532 * index + (state * 2654435761U) * 2.3283064365386963e-10;
        return {a - std::floor(a), b - std::floor(b)};
    }
};

// One sample of a pixel.
struct StillSample {
    Sequence sequence;
    int index = 0;                // of the sample
    double screen_y = 0;          // 0 at the top to 1
    std::size_t* rays = nullptr;  // counted here
};

struct Seen {
    Colour colour;
    float cover = 1;  // of what the picture is laid on
    // Along the view, of what hides what lies behind it; panes that are looked through do not.
    double depth = std::numeric_limits<double>::infinity();
    // Along the view, of the first face.
    double first_depth = std::numeric_limits<double>::infinity();
};

class StillShading {
public:
    // The camera is relative to the scene's origin. All have to outlive it.
    StillShading(const StillScene& scene, const StillLight& light, const Camera& camera, StillGround ground);

    Seen seen(const Ray& ray, const StillSample& sample) const;
    // Behind everything, by how far down it is on the picture.
    Colour background(double screen_y) const;

private:
    Colour light_from(const StillScene::Hit& hit, const Ray& ray, const StillSample& sample, double& depth,
                      int bounces) const;
    Colour dull(const StillScene::Hit& hit, float lit, Colour sky) const;
    Colour behind_everything(const Ray& ray, const StillSample& sample) const;
    Colour plain(const Ray& ray, double along, const StillSample& sample) const;
    float ground_light(const Ray& ray, const StillSample& sample) const;
    std::optional<double> to_ground(const Ray& ray) const;
    Colour mirrored_at(const StillScene::Hit& hit, const Ray& ray, Vec3 place, const StillSample& sample,
                       int bounces) const;
    Colour surroundings(Vec3 towards) const;
    Colour shone_through(const StillScene::Hit& hit, const Ray& ray, const StillSample& sample, double& depth,
                         int bounces) const;
    float glint(Vec3 normal, Vec3 direction, const Material& material) const;
    float lit_share(Vec3 place, Vec3 normal, const StillSample& sample, int salt) const;
    Colour sky_light(Vec3 place, Vec3 normal, const StillSample& sample, int salt) const;

    // Two directions square to one and to each other.
    struct Across {
        Vec3 t, b;
    };
    static Across across(Vec3 n);

    const StillScene& scene_;
    const StillLight& light_;
    bool perspective_;
    Vec3 forward_, eye_;
    StillGround ground_is_;
    Across across_light_;
    double ground_, step_, reach_;
};

}  // namespace plume
