#include "core/support.hpp"

#include <cmath>
#include <cstdlib>
#include <map>
#include <numbers>

namespace plume::test {
namespace {

constexpr double tau = 2 * std::numbers::pi;

PointLattice made(std::size_t columns, std::size_t rows, const std::function<Vec3(double, double)>& at,
                  bool closed_i = false, bool closed_j = false, std::vector<std::uint8_t> present = {}) {
    PointLattice::Parts parts;
    parts.counts = {columns, rows, 1};
    parts.closed = {closed_i, closed_j, false};
    Doubles x, y, z;
    for (std::size_t j = 0; j < rows; ++j)
        for (std::size_t i = 0; i < columns; ++i) {
            const Vec3 p = at(static_cast<double>(i), static_cast<double>(j));
            x.push_back(p.x);
            y.push_back(p.y);
            z.push_back(p.z);
        }
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    parts.present = std::move(present);
    return *PointLattice::make(std::move(parts));
}

}  // namespace

PointLattice grid(std::size_t columns, std::size_t rows, const std::function<double(double, double)>& height,
                  bool closed_i, bool closed_j) {
    return made(
        columns, rows,
        [&](double i, double j) {
            return Vec3{i, j, height ? height(i, j) : 0};
        },
        closed_i, closed_j);
}

PointLattice torus(std::size_t around, std::size_t across, double major, double minor) {
    return made(
        around, across,
        [&](double i, double j) {
            const double a = tau * i / static_cast<double>(around), b = tau * j / static_cast<double>(across);
            const double r = major + minor * std::cos(b);
            return Vec3{r * std::cos(a), r * std::sin(a), minor * std::sin(b)};
        },
        true, true);
}

std::vector<Named> pathological() {
    std::vector<std::uint8_t> gap(25, 1);
    gap[12] = 0;
    return {
        {"one point", grid(1, 1)},
        {"one row", grid(5, 1)},
        {"closed both ways", torus(8, 6, 3, 1)},
        {"a gap in the middle", made(
                                    5, 5,
                                    [](double i, double j) {
                                        return Vec3{i, j, 0};
                                    },
                                    false, false, gap)},
        {"coincident points", made(4, 4,
                                   [](double, double) {
                                       return Vec3{1, 1, 1};
                                   })},
        {"a pole", made(6, 4,
                        [](double i, double j) {
                            return Vec3{j * std::cos(i), j * std::sin(i), j};
                        })},
        {"a fold", made(5, 5,
                        [](double i, double j) {
                            return Vec3{std::abs(i - 2), j, 0};
                        })},
        {"a Moebius strip", made(12, 3,
                                 [](double i, double j) {
                                     const double a = tau * i / 12, w = j - 1;
                                     return Vec3{(3 + w * std::cos(a / 2)) * std::cos(a),
                                                 (3 + w * std::cos(a / 2)) * std::sin(a),
                                                 w * std::sin(a / 2)};
                                 })},
        {"tiny", made(4, 4,
                      [](double i, double j) {
                          return Vec3{i * 1e-9, j * 1e-9, i * j * 1e-9};
                      })},
        {"far away", made(4, 4,
                          [](double i, double j) {
                              return Vec3{1e9 + i, 1e9 + j, 1e9};
                          })},
    };
}

StudyMaker::StudyMaker() : study(std::make_shared<const Study>()) {}

ItemId StudyMaker::add(const std::string& kind, const std::string& name) {
    const StepKind* declared = standard_catalogue().find(kind);
    if (!declared) throw std::logic_error("no step kind " + kind);
    const Added added = *add_step(*study, standard_catalogue(), *declared, study->items.size());
    study = *rename_step(*added.study, added.id, name);
    return added.id;
}

StudyMaker& StudyMaker::set(const std::string& name, const std::string& slot, SlotValue value) {
    study = *set_slot(*study, study->step(name)->id, slot, std::move(value));
    return *this;
}

StudyMaker& StudyMaker::control(const std::string& name, double value, const std::string& unit) {
    study = *add_control(*study, proposed_control(name, value, unit, false));
    return *this;
}

StudyMaker canopy() {
    StudyMaker maker;
    maker.add("lattice.rectangular", "lattice");
    maker.add("attractors.points", "perches");
    maker.add("field.distance", "reach");
    maker.add("field.range", "rise");
    maker.add("points.push", "pushed");
    maker.add("skin", "roof");
    return maker;
}

double volume(const Mesh& mesh) {
    double six = 0;
    for (std::size_t at = 0; at < mesh.face_count(); ++at) {
        const auto face = mesh.face(at);
        for (std::size_t corner = 1; corner + 1 < face.size(); ++corner)
            six += dot(mesh.vertex(face[0]), cross(mesh.vertex(face[corner]), mesh.vertex(face[corner + 1])));
    }
    return six / 6;
}

std::size_t open_edges(const Mesh& mesh) {
    std::map<std::pair<std::uint32_t, std::uint32_t>, int> balance;
    for (std::size_t at = 0; at < mesh.face_count(); ++at) {
        const auto face = mesh.face(at);
        for (std::size_t corner = 0; corner < face.size(); ++corner) {
            const std::uint32_t a = face[corner], b = face[(corner + 1) % face.size()];
            if (a < b)
                balance[{a, b}] += 1;
            else
                balance[{b, a}] += 1'000'000;
        }
    }
    std::size_t open = 0;
    for (const auto& [edge, count] : balance)
        open += count == 1'000'001 ? 0 : 1;
    return open;
}

Evaluation run(const StudyPointer& study, Budget budget, ResultStore* cache) {
    EvaluationPlan plan;
    plan.catalogue = &standard_catalogue();
    plan.store = cache;
    plan.budget = std::move(budget);
    return evaluate(study, plan, plume::Run());
}

Value value_of(const Evaluation& evaluation, const std::string& name) {
    const Outcome* outcome = evaluation.outcome(name);
    if (!outcome || !outcome->value)
        throw std::runtime_error(name + " has no value: " +
                                 (outcome && outcome->error ? sentence(*outcome->error) : "no error either"));
    return *outcome->value;
}

std::string remarks_of(const Evaluation& evaluation, const std::string& name) {
    std::string text;
    for (const Remark& remark : evaluation.outcome(name)->remarks)
        text += (remark.loss ? "! " : "") + remark.text + '\n';
    return text;
}

Error error_of(const Evaluation& evaluation, const std::string& name) {
    const Outcome* outcome = evaluation.outcome(name);
    if (!outcome || !outcome->error) throw std::runtime_error(name + " has no error");
    return *outcome->error;
}

Folder::Folder() {
    std::string name = (std::filesystem::temp_directory_path() / "plume-test-XXXXXX").string();
    if (!mkdtemp(name.data())) throw std::runtime_error("no temporary folder");
    path_ = name;
}

Folder::~Folder() {
    std::error_code ignored;
    std::filesystem::remove_all(path_, ignored);
}

}  // namespace plume::test

#ifdef __SANITIZE_ADDRESS__
// The picture library keeps its last message for each thread and forgets to give it back.
extern "C" const char*
__lsan_default_suppressions();  // NOLINT(bugprone-reserved-identifier): the sanitizer's name
extern "C" const char* __lsan_default_suppressions() {  // NOLINT(bugprone-reserved-identifier)
    return "leak:OpenImageIO";
}
#endif
