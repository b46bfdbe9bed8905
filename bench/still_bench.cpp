// Still pictures: passes over a tower of tubes, against the ray library alone with as many rays.

#include <benchmark/benchmark.h>
#include <embree3/rtcore.h>

#include <cmath>
#include <numbers>
#include <random>

#include "core/base/parallel.hpp"
#include "core/evaluation/evaluator.hpp"
#include "core/exchange/study_file.hpp"
#include "core/picture/still.hpp"
#include "core/picture/sun.hpp"
#include "core/steps/catalogue.hpp"
#include "core/study/edits/edits.hpp"

namespace plume {
namespace {

constexpr int width = 1280, height = 800;
constexpr double degree = std::numbers::pi / 180;

// What the tower shows.
const std::vector<Drawable>& tower() {
    static const std::vector<Drawable> drawn = [] {
        const Catalogue& catalogue = standard_catalogue();
        StudyPointer study = *load_study(std::string(PLUME_BENCH_STUDIES) + "/tower.plume");
        const Added added =
            *add_step(*study, catalogue, *catalogue.find("mesh.bars"), study->items.size(), "net");
        study = *rename_step(*added.study, added.id, "steel");
        study = *set_slot(*study, added.id, "section", WordKey{"tube"});
        for (const auto& [slot, length] : {std::pair("diameter", "0.22 m"), std::pair("wall", "10 mm")})
            study = *set_slot(*study, added.id, slot, NumberText{length});
        study = *set_slot(*study, added.id, "ends", WordKey{"clear"});
        EvaluationPlan plan;
        plan.catalogue = &catalogue;
        const Evaluation evaluation = evaluate(study, plan, Run());
        std::vector<Drawable> made;
        for (const char* name : {"steel", "plates"})
            made.push_back(*make_drawable(*evaluation.outcome(name)->value, {.colour_by = "-"}, Run()));
        return made;
    }();
    return drawn;
}

std::vector<StillItem> items() {
    std::vector<StillItem> all;
    for (const Drawable& drawable : tower())
        all.push_back({&drawable, false, false, true});
    return all;
}

StillOptions options() {
    StillOptions still;
    still.width = width;
    still.height = height;
    still.sun = direction_of({215 * degree, 35 * degree});
    return still;
}

// One sample a pixel with everything: what is seen after the first pass, beginning with nothing.
void BM_Still_first_picture(benchmark::State& state) {
    const std::vector<StillItem> all = items();
    for (auto _ : state) {
        StillWork work(all, options());
        work.pass(Run());
        const auto image = work.image();
        benchmark::DoNotOptimize(image);
    }
}
BENCHMARK(BM_Still_first_picture)->Unit(benchmark::kMillisecond)->UseRealTime();

void BM_Still_pass(benchmark::State& state) {
    const std::vector<StillItem> all = items();
    StillWork work(all, options());
    for (auto _ : state)
        work.pass(Run());
    state.counters["rays"] =
        benchmark::Counter(static_cast<double>(work.rays()), benchmark::Counter::kIsRate);
}
BENCHMARK(BM_Still_pass)->Unit(benchmark::kMillisecond)->UseRealTime();

// The same faces, in the library's scene with every repeat where it stands.
class PlainScene {
public:
    PlainScene() : device_(rtcNewDevice(nullptr)), scene_(rtcNewScene(device_)) {
        for (const Drawable& drawable : tower())
            add(drawable);
        rtcCommitScene(scene_);
    }
    ~PlainScene() {
        rtcReleaseScene(scene_);
        rtcReleaseDevice(device_);
    }
    PlainScene(const PlainScene&) = delete;
    PlainScene& operator=(const PlainScene&) = delete;

    const Box& bounds() const { return bounds_; }
    bool hit(RTCRayHit& query) const {
        RTCIntersectContext context;
        rtcInitIntersectContext(&context);
        rtcIntersect1(scene_, &context, &query);
        return query.hit.geomID != RTC_INVALID_GEOMETRY_ID;
    }
    bool shaded(RTCRay& query) const {
        RTCIntersectContext context;
        rtcInitIntersectContext(&context);
        rtcOccluded1(scene_, &context, &query);
        return query.tfar < 0;
    }

private:
    void add(const Drawable& drawable) {
        bounds_.include(drawable.bounds);
        std::vector<float> corners;
        const auto put = [&](const DrawVertex& v) {
            const Vec3 place = drawable.absolute(v.x, v.y, v.z);
            for (const double part : {place.x, place.y, place.z})
                corners.push_back(static_cast<float>(part));
        };
        const auto triangles = [&](std::size_t first, std::size_t count, const DrawRepeat* repeat) {
            for (std::size_t at = first; at < first + count; ++at) {
                const DrawVertex& own = drawable.vertices[drawable.triangles[at]];
                put(repeat ? at_repeat(*repeat, own) : own);
            }
        };
        if (drawable.shapes.empty()) triangles(0, drawable.triangles.size(), nullptr);
        for (const DrawShape& shape : drawable.shapes)
            for (std::size_t at = 0; at < shape.repeat_count; ++at)
                triangles(shape.first_triangle_index, shape.triangle_index_count,
                          &drawable.repeats[shape.first_repeat + at]);
        RTCGeometry geometry = rtcNewGeometry(device_, RTC_GEOMETRY_TYPE_TRIANGLE);
        const std::size_t count = corners.size() / 3;
        auto* positions = static_cast<float*>(rtcSetNewGeometryBuffer(
            geometry, RTC_BUFFER_TYPE_VERTEX, 0, RTC_FORMAT_FLOAT3, 3 * sizeof(float), count));
        std::copy(corners.begin(), corners.end(), positions);
        auto* indices = static_cast<std::uint32_t*>(rtcSetNewGeometryBuffer(
            geometry, RTC_BUFFER_TYPE_INDEX, 0, RTC_FORMAT_UINT3, 3 * sizeof(std::uint32_t), count / 3));
        for (std::size_t at = 0; at < count; ++at)
            indices[at] = static_cast<std::uint32_t>(at);
        rtcCommitGeometry(geometry);
        rtcAttachGeometry(scene_, geometry);
        rtcReleaseGeometry(geometry);
    }

    RTCDevice device_;
    RTCScene scene_;
    Box bounds_;
};

RTCRay ray_from(Vec3 from, Vec3 towards) {
    RTCRay ray{};
    ray.org_x = static_cast<float>(from.x);
    ray.org_y = static_cast<float>(from.y);
    ray.org_z = static_cast<float>(from.z);
    ray.dir_x = static_cast<float>(towards.x);
    ray.dir_y = static_cast<float>(towards.y);
    ray.dir_z = static_cast<float>(towards.z);
    ray.tfar = std::numeric_limits<float>::infinity();
    ray.mask = 0xFFFFFFFFU;
    return ray;
}

// The rays of one pass, made beforehand: one through every pixel, and from where it meets something one to
// the sun and two anywhere above. Nothing is shaded.
void BM_Still_library_alone(benchmark::State& state) {
    const PlainScene scene;
    Camera camera;
    const double aspect = static_cast<double>(width) / height;
    camera.fit(scene.bounds(), aspect);
    const Vec3 sun = direction_of({215 * degree, 35 * degree});
    struct Pixel {
        RTCRayHit first;
        std::array<RTCRay, 3> lights;
        bool met;
    };
    std::vector<Pixel> pixels(static_cast<std::size_t>(width * height));
    std::mt19937 random(3);
    std::normal_distribution<double> normal;
    for (int y = 0; y < height; ++y)
        for (int x = 0; x < width; ++x) {
            Pixel& pixel = pixels[static_cast<std::size_t>(x + width * y)];
            const Ray through = camera.ray_through((x + 0.5) / width, (y + 0.5) / height, aspect);
            pixel.first.ray = ray_from(through.origin, through.direction);
            pixel.first.hit.geomID = RTC_INVALID_GEOMETRY_ID;
            RTCRayHit query = pixel.first;
            double along = 0;
            pixel.met = scene.hit(query);
            if (pixel.met)
                along = static_cast<double>(query.ray.tfar) - 0.01;
            else
                along = (scene.bounds().low.z - through.origin.z) / through.direction.z;
            const Vec3 place = through.origin + through.direction * along;
            // The ground as far as shadows fall.
            const Vec3 foot{scene.bounds().centre().x, scene.bounds().centre().y, scene.bounds().low.z};
            const double reach = 2 * scene.bounds().diagonal();
            pixel.met = pixel.met || (along > 0 && length(place - foot) <= reach);
            pixel.lights[0] = ray_from(place, sun);
            for (std::size_t light = 1; light < 3; ++light) {
                const Vec3 any = unit_or_zero({normal(random), normal(random), normal(random)});
                pixel.lights[light] = ray_from(place, {any.x, any.y, std::abs(any.z)});
            }
        }
    std::size_t rays = 0;
    for (const Pixel& pixel : pixels)
        rays += pixel.met ? 4 : 1;
    for (auto _ : state)
        parallel_blocks(pixels.size(), std::size_t{8} * width, Run(),
                        [&](std::size_t begin, std::size_t end) {
                            int dark = 0;
                            for (std::size_t at = begin; at < end; ++at) {
                                RTCRayHit first = pixels[at].first;
                                scene.hit(first);
                                for (RTCRay light : pixels[at].lights)
                                    dark += pixels[at].met && scene.shaded(light) ? 1 : 0;
                            }
                            benchmark::DoNotOptimize(dark);
                        });
    state.counters["rays"] = benchmark::Counter(
        static_cast<double>(rays) * static_cast<double>(state.iterations()), benchmark::Counter::kIsRate);
}
BENCHMARK(BM_Still_library_alone)->Unit(benchmark::kMillisecond)->UseRealTime();

}  // namespace
}  // namespace plume
