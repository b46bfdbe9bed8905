#include <cmath>

#include "core/base/numbers.hpp"
#include "core/data/address_text.hpp"
#include "core/geometry/meshes/posts.hpp"
#include "core/steps/formula_support.hpp"

namespace plume {
namespace {

bool is_box(const Inputs& in) {
    return in.word("footprint") == "box";
}

Result<FormulaSite> site_of(const Inputs& in) {
    FormulaSite site = site_on_lattice(in.lattice("points"));
    if (is_box(in)) {
        site.results.push_back({"width", "of the footprint, along its first axis", true, true});
        site.results.push_back({"depth", "of the footprint, along its second axis", true, true});
    } else {
        site.results.push_back({"radius", "of the footprint, to its corners", true, true});
    }
    site.results.push_back({"height", "of the post; below 0 it goes down", true, true});
    site.results.push_back({"turn", "an angle about the post's axis", false, true});
    return site;
}

PostPlan plan_of(const Inputs& in) {
    const std::string& word = in.word("footprint");
    return {word == "box" ? Footprint::box : (word == "polygon" ? Footprint::polygon : Footprint::circle),
            word == "box" ? 4 : in.count("sides")};
}

Estimate estimate(const Inputs& in) {
    const auto points = static_cast<double>(in.lattice("points").point_count());
    const double sides = is_box(in) ? 4 : in.number("sides");
    return {points * sides * (2 * 4 * sizeof(double) + 7 * sizeof(std::uint32_t)) * 1.5,
            points * sides * 1e-7};
}

// The columns of the lines that are asked for, by name; an absent one is 0.
class PostNumbers {
public:
    static Result<PostNumbers> make(const Inputs& in, const Run& run) {
        PostNumbers numbers;
        const Result<FormulaSite> site = site_of(in);
        if (!site) return site.error();
        Result<CheckedFormula> formula = checked_formula(in, *site);
        if (!formula) return formula.error();
        std::vector<NodeId> outputs;
        for (const FormulaResult& result : site->results) {
            const Term* term = term_of(*formula, result.name);
            if (!term) continue;
            const auto node = node_of(*formula, *term, result.name == "turn" ? an_angle : a_length, in);
            if (!node) return node.error();
            numbers.column_[result.name] = outputs.size();
            outputs.push_back(*node);
        }
        auto evaluated = evaluate(formula->graph, outputs, site->domain, Keep::columns, run);
        if (!evaluated) return evaluated.error();
        numbers.evaluated_ = *std::move(evaluated);
        return numbers;
    }
    double at(const char* name, std::size_t index) const {
        const auto found = column_.find(name);
        return found == column_.end() ? 0 : evaluated_.columns[found->second][index];
    }

private:
    std::map<std::string, std::size_t> column_;
    Evaluated evaluated_;
};

bool stands(const Post& post, bool box) {
    const bool wide = box ? post.width > 0 && post.depth > 0 : post.radius > 0;
    return wide && post.height != 0 && std::isfinite(post.height) && std::isfinite(post.turn_rad) &&
           std::isfinite(post.radius) && std::isfinite(post.width) && std::isfinite(post.depth) &&
           is_finite(post.placement.origin);
}

struct PostsOfPoints {
    std::vector<Post> posts;
    std::vector<std::size_t> addresses;  // of the points they stand on
};
PostsOfPoints posts_of(const Inputs& in, const PostNumbers& numbers) {
    const PointLattice& points = in.lattice("points");
    const auto* placements = std::get_if<Placements>(&in.value("points"));
    const bool box = is_box(in);
    PostsOfPoints made;
    for (std::size_t index = 0; index < points.address_count(); ++index) {
        if (!points.present(index)) continue;
        Post post;
        post.placement = placements ? placements->placement(index) : Placement{points.point(index)};
        post.height = numbers.at("height", index);
        post.turn_rad = numbers.at("turn", index);
        post.radius = box ? 1 : numbers.at("radius", index);
        post.width = box ? numbers.at("width", index) : 1;
        post.depth = box ? numbers.at("depth", index) : 1;
        if (!stands(post, box)) continue;
        made.posts.push_back(post);
        made.addresses.push_back(index);
    }
    return made;
}

void remark_overlaps(const Overlaps& overlaps, const Inputs& in, const Run& run) {
    if (overlaps.pairs == 0) return run.remark("No two posts overlap.");
    run.remark(
        (overlaps.all_counted ? "" : "More than ") + grouped_text(static_cast<std::int64_t>(overlaps.pairs)) +
        (overlaps.pairs == 1 ? " pair of posts overlaps, by " : " pairs of posts overlap, the worst by ") +
        quantity_text({overlaps.worst_depth, a_length}, in.units(), 3) + ": posts " +
        std::to_string(overlaps.worst_first) + " and " + std::to_string(overlaps.worst_second) + ".");
}

Result<Value> make(const Inputs& in, const Run& run) {
    const Result<PostNumbers> numbers = PostNumbers::make(in, run);
    if (!numbers) return numbers.error();
    auto [posts, addresses] = posts_of(in, *numbers);
    const std::size_t left_out = in.lattice("points").point_count() - posts.size();
    if (posts.empty())
        return about_slot(Error{ErrorCode::empty_input, "", "gives no post a size and a height above nothing",
                                "Let its lines give lengths above 0."},
                          "formula");
    if (left_out > 0)
        run.remark_loss(std::to_string(left_out) + (left_out == 1 ? " post was" : " posts were") +
                        " left out: no width, no height, or numbers that are not finite.");
    const PostPlan plan = plan_of(in);
    const Result<Overlaps> overlaps = post_overlaps(posts, plan, run);
    if (!overlaps) return overlaps.error();
    remark_overlaps(*overlaps, in, run);
    Result<Mesh> mesh = posts_mesh(posts, plan, run);
    if (!mesh) return mesh.error();
    return Value(mesh->with_marks([points = in.lattice("points"), of = std::move(addresses)](
                                      std::size_t part) { return address_text(points, of[part]); }));
}

}  // namespace

StepKind stand_posts() {
    SlotSpec sides = count_slot("sides", "Sides", "16", 3);
    sides.most = 1000;
    return {
        .key = "mesh.posts",
        .verb = "Stand posts on points",
        .synonyms = "columns piles cylinders boxes prisms extrude circle box footprint bars",
        .sentence =
            "Stand posts on {points}, each a {footprint}[footprint=circle,polygon| of {sides} sides], by "
            "{formula}.",
        .slots = {reference_slot("points", "Points", {Kind::points, Kind::field, Kind::placements}),
                  choice_slot("footprint", "Footprint",
                              {{"circle", "circle", "drawn with this many sides"},
                               {"polygon", "regular polygon", ""},
                               {"box", "box", "of a width and a depth"}}),
                  sides, formula_slot("formula", formula_label, "radius = 100 mm\nheight = 2 m\nturn = 0°")},
        .results = {Kind::mesh},
        .result_name = "posts",
        .help =
            "Closed prisms with top and bottom. The formula gives radius (of a box width and depth), height "
            "and turn for "
            "each point, and reads its fields. How many posts run into each other, and how deep, is told "
            "below.",
        .estimate = estimate,
        .make = make,
        .contexts = {{"formula", context(site_of)}},
    };
}

}  // namespace plume
