#include "core/base/text.hpp"
#include "core/geometry/curves/curve_interpolation.hpp"
#include "core/geometry/meshes/mesh_faults.hpp"
#include "core/geometry/meshes/vertex_places.hpp"
#include "core/steps/meshes/mesh_support.hpp"

namespace plume {
namespace {

// What a line marks, as its number `fault`.
enum class Fault { open = 1, branched, crooked, sliver, crossing };

class FaultLines {
public:
    explicit FaultLines(const Mesh& mesh) : mesh_(mesh) {}

    void add(const std::vector<MeshSide>& sides, Fault fault) {
        for (const auto& [a, b] : sides)
            add({mesh_.vertex(a), mesh_.vertex(b)}, false, fault);
    }
    void add(const std::vector<std::uint32_t>& faces, Fault fault) {
        for (const std::uint32_t face : faces)
            add(corner_places(mesh_, face), true, fault);
    }
    CurveSet take() { return std::move(lines_); }

private:
    void add(std::vector<Vec3> places, bool closed, Fault fault) {
        const std::size_t count = places.size();
        CurvePoints points;
        points.points = std::move(places);
        points.closed = closed;
        points.fields = {{"fault", Doubles(count, static_cast<double>(fault)), plain_number}};
        // Of a face that is a point there is no outline.
        if (auto line = curve_through(std::move(points), CurveShape::straight))
            lines_.curves.push_back(*std::move(line));
    }

    const Mesh& mesh_;
    CurveSet lines_;
};

void say(std::size_t count, const char* one, const char* many, const Run& run) {
    if (count > 0) run.remark_loss(count_text(count, one, many) + ".");
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto mesh = changed_mesh(in, run);
    if (!mesh) return mesh.error();
    const auto faults = faults_of(*mesh, in.number("slimness"), run);
    if (!faults) return faults.error();
    const bool rims_too = in.word("rims") == "faults";
    FaultLines lines(*mesh);
    if (rims_too) lines.add(faults->open, Fault::open);
    lines.add(faults->branched, Fault::branched);
    lines.add(faults->crooked, Fault::crooked);
    lines.add(faults->slivers, Fault::sliver);
    lines.add(faults->crossing, Fault::crossing);
    say(rims_too ? faults->open.size() : 0, "edge is open (fault 1)", "edges are open (fault 1)", run);
    say(faults->branched.size(), "edge has more than two faces (fault 2)",
        "edges have more than two faces (fault 2)", run);
    say(faults->crooked.size(), "edge has faces that turn against each other (fault 3)",
        "edges have faces that turn against each other (fault 3)", run);
    say(faults->slivers.size(), "face is a sliver (fault 4)", "faces are slivers (fault 4)", run);
    say(faults->crossing.size(), "face is crossed by others (fault 5)",
        "faces are crossed by others (fault 5)", run);
    say(faults->not_finite, "face has a corner that is not finite", "faces have a corner that is not finite",
        run);
    CurveSet found = lines.take();
    if (found.curves.empty() && faults->not_finite == 0)
        run.remark(faults->open.empty() ? "Nothing is wrong: it is closed, and nothing crosses."
                                        : "Nothing is wrong, but for its open rim.");
    return Value(std::move(found));
}

}  // namespace

StepKind check_mesh() {
    return {
        .key = "mesh.check",
        .verb = "Check a mesh",
        .synonyms =
            "faults errors manifold open naked edges crossing self intersection slivers analyse repair",
        .sentence =
            "Check {mesh} and show what is wrong[more|: edges, crossings, faces slimmer than {slimness}, "
            "open edges as {rims}].",
        .slots = {changed_mesh_slot(), number_slot("slimness", "Slimness", "0.01"),
                  choice_slot("rims", "Open edges",
                              {{"faults", "faults", "as of what has to be closed"},
                               {"rims", "rims", "as of a skin, which may have them"}})},
        .results = {Kind::curves},
        .result_name = "faults",
        .help =
            "Lines along what is wrong, with the number `fault`: 1 open edges, 2 edges of more than two "
            "faces, "
            "3 edges where faces turn against each other, 4 outlines of slivers (lower over their longest "
            "edge "
            "than that share of it), 5 outlines of faces that others cross. How many there are is said.",
        .stays_beside = true,
        .estimate = [](const Inputs& in) { return changed_estimate(in, 420, 3e-6); },
        .make = make,
    };
}

}  // namespace plume
