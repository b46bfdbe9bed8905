// Every demo through every format that has a place for it, and back through our readers where these know the
// format.

#include "core/exchange/export.hpp"
#include "core/exchange/study_file.hpp"
#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/measures/bounds.hpp"
#include "core/readers/curve_file.hpp"
#include "core/readers/exact_file.hpp"
#include "core/readers/files.hpp"
#include "core/results/exact_form.hpp"
#include "folders.hpp"

namespace plume {
namespace {

std::vector<std::filesystem::path> demos() {
    std::vector<std::filesystem::path> files;
    for (const auto& entry : std::filesystem::directory_iterator(test::demo_folder))
        if (entry.path().extension() == ".plume") files.push_back(entry.path());
    std::ranges::sort(files);
    return files;
}

// What the demo shows and the format takes; one alone where a file holds no more.
std::vector<ExportedResult> that_fit(const Study& study, const Evaluation& evaluation,
                                     const ExportFormat& format) {
    std::vector<ExportedResult> results;
    for (const Item& item : study.items) {
        const Step* step = step_of(item);
        const Outcome* outcome = step && step->show.visible ? evaluation.outcome(step->id) : nullptr;
        if (outcome && outcome->value && format.takes(*outcome->value))
            results.push_back({outcome->value, step->name, step->show});
    }
    if (!format.several && results.size() > 1) results.resize(1);
    return results;
}

// Bytes of a STEP file that the kernel reads in seconds.
constexpr std::uintmax_t small_enough = 2'000'000;

// Of what was read again, in metres; empty where no reader knows the format, or it has no form in it that the
// reader reads.
Box read_again(const std::filesystem::path& path) {
    const std::string ending = path.extension().string();
    Box box;
    if (ending == ".obj" || ending == ".stl" || ending == ".ply" || ending == ".glb" || ending == ".3mf") {
        const auto file = read_mesh_file(path, plume::Run());
        if (!file) {
            EXPECT_EQ(file.error().code, ErrorCode::empty_input) << path << sentence(file.error());
            return {};
        }
        const double metres = file->metres_per_unit.value_or(1);
        for (std::size_t at = 0; at < file->mesh.vertex_count(); ++at) {
            const Vec3 v = file->mesh.vertex(at) * metres;
            box.include(file->y_up ? Vec3{v.x, -v.z, v.y} : v);
        }
    } else if (ending == ".dxf") {
        const auto file = read_curve_file(path, plume::Run());
        if (!file) {
            EXPECT_EQ(file.error().code, ErrorCode::empty_input) << path << sentence(file.error());
            return {};
        }
        for (const SplineCurve& curve : file->curves) {
            const Box of_curve = poles_box(curve);
            box.include(of_curve.low * *file->metres_per_unit);
            box.include(of_curve.high * *file->metres_per_unit);
        }
    } else if (ending == ".step" && std::filesystem::file_size(path) < small_enough) {
        const auto file = read_exact_file(path, plume::Run());
        EXPECT_TRUE(file) << path << sentence(file.error());
        if (!file) return {};
        Box in_millimetres;
        for (const ExactPart& part : file->parts)
            in_millimetres.include(box_of(part));
        box.include(in_millimetres.low * 0.001);
        box.include(in_millimetres.high * 0.001);
    }
    return box;
}

// The kernel makes a plane and its edges of every facet: by the ten thousand they take minutes.
bool too_many_planes(const ExportFormat& format, const std::vector<ExportedResult>& results) {
    if (format.extension != ".step" && format.extension != ".igs") return false;
    std::size_t facets = 0;
    for (const ExportedResult& result : results)
        for (const Mesh& mesh : exact_form_of(*result.value).facets)
            facets += mesh.face_count();
    return facets > 3000;
}

// Where everything that was written is; poles reach further than what they hold.
Box bounds_of(const std::vector<ExportedResult>& results, double metres) {
    Box box;
    for (const ExportedResult& result : results) {
        const Box of_one = bounds_of(*result.value);
        box.include(of_one.low * metres);
        box.include(of_one.high * metres);
    }
    return box;
}

class EveryDemo : public testing::TestWithParam<std::filesystem::path> {};

TEST_P(EveryDemo, GoesThroughEveryFormatThatFits) {
    const test::Folder folder;
    const auto study = *load_study(GetParam());
    EvaluationPlan plan;
    plan.catalogue = &standard_catalogue();
    plan.files = std::make_shared<FileStore>(GetParam().parent_path());
    const Evaluation evaluation = evaluate(study, plan, plume::Run());
    ASSERT_EQ(evaluation.problem_count(), 0U);
    std::size_t written = 0;
    for (const ExportFormat& format : export_formats()) {
        const std::vector<ExportedResult> results = that_fit(*study, evaluation, format);
        if (results.empty() || too_many_planes(format, results)) continue;
        ++written;
        ExportJob job{results, study->units, format.own_unit.value_or(LengthUnit::metre)};
        const std::filesystem::path path = folder / ("it" + format.extension).c_str();
        auto report = export_results(job, path, plume::Run());
        ASSERT_TRUE(report) << format.extension << ' ' << sentence(report.error());
        if (format.exact_if_wanted) {
            job.exact = true;
            report = export_results(job, path, plume::Run());
            ASSERT_TRUE(report) << format.extension << ' ' << sentence(report.error());
            EXPECT_EQ(report->find("exact curvature"), std::string::npos) << *report;
        }
        const Box back = read_again(path), there = bounds_of(results, metres_per(study->units.length));
        if (back.empty()) continue;
        // What a reader knows is within what was written, and as large where it knows all of it.
        const double slack =
            1e-3 * there.diagonal() +
            (format.extension == ".step" || format.extension == ".dxf" ? 0.2 * there.diagonal() : 0);
        EXPECT_GE(back.low.x, there.low.x - slack) << format.extension;
        EXPECT_GE(back.low.z, there.low.z - slack) << format.extension;
        EXPECT_LE(back.high.y, there.high.y + slack) << format.extension;
        EXPECT_LE(back.high.z, there.high.z + slack) << format.extension;
        EXPECT_GT(back.diagonal(), 0.2 * there.diagonal()) << format.extension;
    }
    EXPECT_GE(written, 7U);
}

INSTANTIATE_TEST_SUITE_P(Demos, EveryDemo, testing::ValuesIn(demos()), [](const auto& one) {
    std::string name = one.param.stem().string();
    std::ranges::replace(name, '-', '_');
    return name;
});

}  // namespace
}  // namespace plume
