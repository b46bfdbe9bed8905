// Of what is drawn as closed nobody sees the backs of triangles: they are left out.
#include <gtest/gtest.h>

#include <filesystem>

#include "core/data/solids.hpp"
#include "core/exchange/study_file.hpp"
#include "core/picture/drawable.hpp"
#include "core/study/slots/slot_form.hpp"
#include "core/support.hpp"
#include "folders.hpp"

namespace plume {
namespace {

double volume_inside(const Drawable& drawable, const DrawArray<std::uint32_t>& triangles) {
    double six_times = 0;
    const auto place = [&](std::size_t at) {
        const DrawVertex& v = drawable.vertices[triangles[at]];
        return Vec3{static_cast<double>(v.x), static_cast<double>(v.y), static_cast<double>(v.z)};
    };
    for (std::size_t at = 0; at + 2 < triangles.size(); at += 3)
        six_times += dot(place(at), cross(place(at + 1), place(at + 2)));
    return six_times / 6;
}

// The bodies of a study whose step of that name is there for them.
void expect_outsides(const std::filesystem::path& path, std::size_t& met) {
    const auto study = std::make_shared<const Study>(in_form(**load_study(path), standard_catalogue()));
    EvaluationPlan plan;
    plan.catalogue = &standard_catalogue();
    plan.files = std::make_shared<FileStore>(path.parent_path());
    const Evaluation evaluation = evaluate(study, plan, plume::Run());
    for (const Item& item : study->items) {
        const Step* step = step_of(item);
        const Outcome* outcome = step ? evaluation.outcome(step->id) : nullptr;
        const auto* bodies = outcome && outcome->value ? std::get_if<SolidSet>(&*outcome->value) : nullptr;
        if (!bodies) continue;
        const auto drawn = make_drawable(*outcome->value, {}, plume::Run());
        ASSERT_TRUE(drawn) << step->kind;
        ASSERT_TRUE(drawn->closed);
        const double whole = figures_of(*bodies).volume;
        EXPECT_NEAR(volume_inside(*drawn, drawn->triangles), whole, 0.1 * whole)
            << path.filename() << ' ' << step->name;
        if (!drawn->coarse.empty()) {
            EXPECT_NEAR(volume_inside(*drawn, drawn->coarse), whole, 0.2 * whole)
                << path.filename() << ' ' << step->name;
        }
        ++met;
    }
}

TEST(Closed, BodiesOfAllExamplesShowTheirOutsides) {
    std::size_t met = 0;
    for (const auto& entry : std::filesystem::directory_iterator(test::examples_folder))
        if (entry.path().extension() == ".plume") expect_outsides(entry.path(), met);
    EXPECT_GT(met, 10U);
}

}  // namespace
}  // namespace plume
