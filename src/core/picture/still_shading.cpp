#include "core/picture/still_shading.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace plume {
namespace {

constexpr int most_bounces = 8;  // panes that are looked through
constexpr Colour plain_ground{0.64F, 0.62F, 0.56F};

// Points of a sequence that has nothing to do with that of another salt.
int salted(int index, int salt) {
    return index + 4099 * salt;
}

// Cosine and sine of a share of a whole turn. In single precision: directions of samples need no more.
struct Turned {
    double cosine, sine;
};
Turned turned(double share) {
    const float angle = static_cast<float>(share) * 2 * std::numbers::pi_v<float>;
    return {static_cast<double>(std::cos(angle)), static_cast<double>(std::sin(angle))};
}

// A direction around n by two shares: of a turn, and of the square of its distance from n.
Vec3 cosine_weighted(Vec3 n, Vec3 t, Vec3 b, double turn, double square) {
    const Turned way = turned(turn);
    const double radius = std::sqrt(square);
    return t * (radius * way.cosine) + b * (radius * way.sine) + n * std::sqrt(1 - square);
}

bool is_clear(const StillScene::Hit& hit) {
    return hit.material && hit.material->transparency > 0;
}

bool is_dull(const Material& material) {
    return material.roughness >= 1 && material.metalness <= 0 && material.transparency <= 0;
}

// A light or the dark between two, wherever the mirror looks: that of the model (gl_scene.cpp), but hard
// at its edges, which many rays soften.
Colour striped(const StillScene::Hit& hit, const Ray& ray, const Material& material) {
    const Vec3 mirror = ray.direction - hit.normal * (2 * dot(ray.direction, hit.normal));
    const double turn =
        std::atan2(mirror.y, mirror.z) / (2 * std::numbers::pi) * static_cast<double>(material.stripes);
    return std::abs(turn - std::floor(turn) - 0.5) > 0.25 ? hit.colour : Colour{0.010F, 0.012F, 0.014F};
}

}  // namespace

StillShading::StillShading(const StillScene& scene, const StillLight& light, const Camera& camera,
                           StillGround ground)
    : scene_(scene),
      light_(light),
      perspective_(camera.perspective),
      forward_(camera.forward()),
      eye_(camera.eye()),
      ground_is_(ground),
      across_light_(across(light.towards)),
      ground_(scene.bounds().low.z - scene.origin().z),
      step_(1e-4 * scene.bounds().diagonal()) {
    // As far as shadows fall of what stands in a low sun.
    const double flat = std::hypot(light.towards.x, light.towards.y);
    reach_ = scene.bounds().diagonal() * std::clamp(flat / std::max(light.towards.z, 0.02), 2.0, 40.0);
}

StillShading::Across StillShading::across(Vec3 n) {
    const Vec3 helper = std::abs(n.z) < 0.9 ? Vec3{0, 0, 1} : Vec3{1, 0, 0};
    const Vec3 t = unit_or_zero(cross(helper, n));
    return {t, cross(n, t)};
}

Seen StillShading::seen(const Ray& ray, const StillSample& sample) const {
    StillScene::Hit hit;
    Seen seen;
    ++*sample.rays;
    if (!scene_.hit(ray, hit)) {
        if (ground_is_ == StillGround::none)
            seen.cover = 1 - ground_light(ray, sample);
        else
            seen.colour = behind_everything(ray, sample);
        return seen;
    }
    seen.first_depth = hit.distance * dot(ray.direction, forward_);
    if (!is_clear(hit)) seen.depth = seen.first_depth;
    seen.colour = light_from(hit, ray, sample, seen.depth, most_bounces);
    return seen;
}

Colour StillShading::background(double screen_y) const {
    const auto down = static_cast<float>(screen_y);
    if (light_.sky_seen > 0) return mix(light_.zenith, light_.horizon, down) * light_.sky_seen;
    return mix(linear({0.953F, 0.957F, 0.945F}), linear({0.871F, 0.894F, 0.886F}), down);
}

// The lower edge of the sky is where the eye is level.
Colour StillShading::behind_everything(const Ray& ray, const StillSample& sample) const {
    const bool level_sky = light_.sky_seen > 0 && perspective_;
    const std::optional<double> along = to_ground(ray);
    if (along && ground_is_ == StillGround::plain) return plain(ray, *along, sample);
    const Colour sky =
        level_sky
            ? light_.sky({ray.direction.x, ray.direction.y, std::max(0.0, ray.direction.z)}) * light_.sky_seen
            : background(sample.screen_y);
    return sky * ground_light(ray, sample);
}

// A level face, the paler the further away.
Colour StillShading::plain(const Ray& ray, double along, const StillSample& sample) const {
    const Vec3 place = ray.origin + ray.direction * along, up{0, 0, 1};
    const double away = length(place - Vec3{0, 0, ground_}) / (12 * scene_.bounds().diagonal());
    const auto left = static_cast<float>(std::exp(-away * away));
    StillScene::Hit hit;
    hit.normal = up;
    hit.colour = plain_ground;
    const bool near = left > 0.01F;
    const float lit = near ? lit_share(place, up, sample, 0) : 1;
    const Colour ground = dull(hit, lit, near ? sky_light(place, up, sample, 0) : light_.zenith);
    const Colour haze = light_.sky_seen > 0 ? light_.horizon * light_.sky_seen : background(0.5);
    return mix(haze, ground, left);
}

// Of a face that mirrors nothing.
Colour StillShading::dull(const StillScene::Hit& hit, float lit, Colour sky) const {
    const auto facing = static_cast<float>(std::max(0.0, dot(hit.normal, light_.towards)));
    return hit.colour * (light_.ambient + sky + light_.direct * (lit * facing));
}

// What a place sends back along a ray: dull light, what it mirrors, what shines through.
Colour StillShading::light_from(const StillScene::Hit& hit, const Ray& ray, const StillSample& sample,
                                double& depth, int bounces) const {
    const Vec3 place = ray.origin + ray.direction * hit.distance;
    const Vec3 before = place + hit.normal * step_;
    const int salt = most_bounces - bounces;
    const float lit = lit_share(before, hit.normal, sample, salt);
    const Colour sky = sky_light(before, hit.normal, sample, salt);
    const Colour own_dull = dull(hit, lit, sky);
    if (!hit.material || is_dull(*hit.material)) return own_dull;
    const Material& material = *hit.material;
    if (material.stripes > 0) return striped(hit, ray, material) * (0.8F + 0.55F * sky.g);
    // Schlick, An inexpensive BRDF model for physically-based rendering, Computer Graphics Forum 13(3),
    // 1994: mirrors more the flatter one looks; the rougher, the less of that.
    const auto across = static_cast<float>(std::max(0.0, -dot(hit.normal, ray.direction)));
    const float flat = std::pow(1 - across, 5.0F) * (1 - 0.8F * material.roughness);
    const Colour head_on = mix({0.04F, 0.04F, 0.04F}, hit.colour, material.metalness);
    const Colour mirrors = mix(head_on, {1, 1, 1}, flat);
    const Colour mirrored = mirrored_at(hit, ray, before, sample, bounces) +
                            light_.direct * (lit * glint(hit.normal, ray.direction, material) / 0.52F);
    Colour own = own_dull * (1 - material.metalness);
    if (material.transparency > 0 && bounces > 0)
        own = mix(own, shone_through(hit, ray, sample, depth, bounces) * hit.colour, material.transparency);
    const Colour rest{1 - mirrors.r, 1 - mirrors.g, 1 - mirrors.b};
    return own * rest + mirrored * mirrors;
}

Colour StillShading::shone_through(const StillScene::Hit& hit, const Ray& ray, const StillSample& sample,
                                   double& depth, int bounces) const {
    const Ray onwards{ray.origin + ray.direction * (hit.distance + step_), ray.direction};
    StillScene::Hit behind;
    ++*sample.rays;
    if (!scene_.hit(onwards, behind)) return behind_everything(onwards, sample);
    if (!is_clear(behind)) {
        const Vec3 there = onwards.origin + onwards.direction * behind.distance;
        depth = std::min(depth, dot(there - eye_, forward_));
    }
    return light_from(behind, onwards, sample, depth, bounces - 1);
}

// One ray, the further from the mirror's direction the rougher it is; what it meets sends dull light.
Colour StillShading::mirrored_at(const StillScene::Hit& hit, const Ray& ray, Vec3 place,
                                 const StillSample& sample, int bounces) const {
    const Vec3 mirror = ray.direction - hit.normal * (2 * dot(ray.direction, hit.normal));
    const auto rough = static_cast<double>(hit.material->roughness);
    const auto chance = sample.sequence.at(salted(sample.index, bounces + 31));
    const Across sideways = across(mirror);
    const Vec3 around = cosine_weighted(mirror, sideways.t, sideways.b, chance.first, chance.second);
    Vec3 towards = unit_or_zero(mirror + (around - mirror) * (0.7 * rough * rough));
    if (dot(towards, hit.normal) < 0) towards = mirror;
    StillScene::Hit met;
    const Ray onwards{place, towards};
    ++*sample.rays;
    if (!scene_.hit(onwards, met)) return surroundings(towards);
    met.material = nullptr;
    double depth = 0;
    return light_from(met, onwards, sample, depth, 0);
}

// A pale sky over a darker ground.
Colour StillShading::surroundings(Vec3 towards) const {
    if (light_.sky_seen > 0) return light_.sky(towards) * light_.sky_seen;
    const auto up = static_cast<float>(std::clamp(0.5 + 2.5 * towards.z, 0.0, 1.0));
    return mix({0.45F, 0.46F, 0.45F},
               mix({0.62F, 0.66F, 0.68F}, {0.95F, 0.97F, 1}, static_cast<float>(std::max(0.0, towards.z))),
               up);
}

// The light as it is mirrored (Trowbridge & Reitz, Average irregularity representation of a rough surface
// for ray reflection, J. Opt. Soc. Am. 65, 1975), as bright as a white face at its brightest.
float StillShading::glint(Vec3 normal, Vec3 direction, const Material& material) const {
    const Vec3 half = unit_or_zero(light_.towards - direction);
    const double rough = std::max(0.08, static_cast<double>(material.roughness)), a = rough * rough;
    const double along = std::max(0.0, dot(normal, half)), spread = along * along * (a * a - 1) + 1;
    return static_cast<float>(std::min(4.0, 0.25 * a * a / (spread * spread) / (a + 0.05)));
}

// How far along a ray the ground lies, where it does.
std::optional<double> StillShading::to_ground(const Ray& ray) const {
    const double along = (ground_ - step_ - ray.origin.z) / ray.direction.z;
    if (!(along > 0) || !std::isfinite(along)) return {};
    return along;
}

// How bright the ground is where a ray meets it: 1 in the open.
float StillShading::ground_light(const Ray& ray, const StillSample& sample) const {
    const std::optional<double> along = to_ground(ray);
    if (!along) return 1;
    const Vec3 place = ray.origin + ray.direction * *along, up{0, 0, 1};
    if (length(place - Vec3{0, 0, ground_}) > reach_) return 1;
    const float open = sky_light(place, up, sample, 0).g / light_.sky(up).g;
    const float from_sky = 1 - light_.ground_left - light_.ground_direct;
    return light_.ground_left + light_.ground_direct * lit_share(place, up, sample, 0) +
           from_sky * std::min(1.0F, open);
}

float StillShading::lit_share(Vec3 place, Vec3 normal, const StillSample& sample, int salt) const {
    if (light_.direct.g <= 0) return 0;
    const auto [turn, radius] = sample.sequence.at(salted(sample.index, salt) + 17);
    const Turned wobble = turned(turn);
    const double spread = light_.spread * std::sqrt(radius);
    const Vec3 towards = light_.towards + across_light_.t * (spread * wobble.cosine) +
                         across_light_.b * (spread * wobble.sine);
    if (dot(towards, normal) <= 0) return 0;
    ++*sample.rays;
    return scene_.light_along({place, towards});
}

// Rays to either side, one steep where the other is flat.
Colour StillShading::sky_light(Vec3 place, Vec3 normal, const StillSample& sample, int salt) const {
    const auto [turn, square] = sample.sequence.at(salted(sample.index, salt));
    const Across sideways = across(normal);
    const Turned way = turned(turn);
    const Vec3 out = sideways.t * way.cosine + sideways.b * way.sine;
    Colour sum;
    for (const double side : {1.0, -1.0}) {
        const double radius = side > 0 ? square : square < 0.5 ? square + 0.5 : square - 0.5;
        const Vec3 from = out * (side * std::sqrt(radius)) + normal * std::sqrt(1 - radius);
        ++*sample.rays;
        const float open = scene_.light_along({place, from});
        sum = sum + mix(light_.blocked, light_.sky(from), open);
    }
    return sum * 0.5F;
}

}  // namespace plume
