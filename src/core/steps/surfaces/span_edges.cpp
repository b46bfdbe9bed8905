#include "core/geometry/surfaces/coons.hpp"
#include "core/steps/curves/curve_support.hpp"

namespace plume {
namespace {

Result<std::vector<SplineCurve>> edges_of(const Inputs& in) {
    const std::string& which = in.word("edges");
    if (which == "all") return in.held<CurveSet>("curve").curves;
    std::vector<SplineCurve> edges;
    for (const char* slot : {"first", "second", "third", "fourth"}) {
        if (slot == std::string_view("fourth") && which == "three") continue;
        Result<SplineCurve> edge = only_curve(in, slot);
        if (!edge) return edge.error();
        edges.push_back(*std::move(edge));
    }
    return edges;
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto edges = edges_of(in);
    if (!edges) return edges.error();
    Result<SplinePatch> patch = spanned_by_edges(*edges, run);
    if (!patch) return about_slot(patch.error(), in.word("edges") == "all" ? "curve" : "edges");
    return Value(SurfaceSet{{*std::move(patch)}});
}

// As many poles one way as both of two opposite edges have knots, times those of the other two; a few hundred
// for each arc.
Estimate estimate(const Inputs& in) {
    double poles = 0;
    for (const char* slot : {"first", "second", "third", "fourth", "curve"})
        if (in.has(slot)) poles += pole_count(in.held<CurveSet>(slot)) * 4;
    return {poles * poles * 12 + poles * 2000, poles * poles * 2e-8 + poles * 2e-5};
}

}  // namespace

StepKind span_edges() {
    return {
        .key = "surface.span",
        .verb = "Span a surface between edges",
        .synonyms = "patch coons boundary four three sided fill rims sail",
        .sentence =
            "Span a surface between {edges}[edges=four,three|: {first}, {second}, {third}]"
            "[edges=four|, {fourth}][edges=all| of {curve}].",
        .slots = {choice_slot("edges", "Edges",
                              {{"four", "four edges", "that follow each other round"},
                               {"three", "three edges", "the corner of the last two is a tip"},
                               {"all", "the edges", "three or four curves of one result"}}),
                  curves_slot("first", "First edge"), curves_slot("second", "Second edge"),
                  curves_slot("third", "Third edge"), curves_slot("fourth", "Fourth edge"),
                  curves_slot("curve", "Edges of one result")},
        .results = {Kind::surface},
        .result_name = "sail",
        .help =
            "A surface whose rims are three or four curves that meet at their ends, whichever way they run "
            "and in whatever order. Exact, but for edges with arcs, which are true to a ten millionth of the "
            "size.",
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume
