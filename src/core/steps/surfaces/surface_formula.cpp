#include "core/steps/surfaces/surface_formula.hpp"

#include <cmath>

#include "core/geometry/surfaces/patch_evaluator.hpp"

namespace plume {
namespace {

// A grid to show a formula over.
OffsetGrid shown_grid(const SplinePatch& patch) {
    constexpr std::size_t lines = 33;
    OffsetGrid grid{patch, {}, {}, {}};
    for (std::size_t at = 0; at < lines; ++at) {
        const double share = static_cast<double>(at) / (lines - 1);
        grid.u.push_back(std::lerp(patch.u().start(), patch.u().end(), share));
        grid.v.push_back(std::lerp(patch.v().start(), patch.v().end(), share));
    }
    const PatchEvaluator evaluator(patch);
    for (const double v : grid.v)
        for (const double u : grid.u)
            grid.places.push_back(evaluator.at(u, v).position);
    return grid;
}

}  // namespace

FormulaSite site_at_places(const std::vector<Vec3>& places,
                           const std::vector<std::pair<Field, std::string>>& numbers,
                           const std::string& gives) {
    FormulaSite site;
    site.domain.directions[0] = {places.size(), 0, 1, false};
    add_places(site, places, "the place");
    for (const auto& [field, help] : numbers)
        add_numbers(site, field.name, field.values, field.dimension, help);
    site.results.push_back({"", "the last line is " + gives, true, true});
    return site;
}

FormulaSite site_on_grid(const OffsetGrid& grid, const std::string& gives) {
    const SplinePatch& patch = grid.patch;
    const std::size_t count = grid.places.size();
    Doubles u(count), v(count);
    const auto share = [](const SplineBasis& basis, double parameter) {
        return (parameter - basis.start()) / (basis.end() - basis.start());
    };
    for (std::size_t at = 0; at < count; ++at) {
        u[at] = share(patch.u(), grid.u[at % grid.u.size()]);
        v[at] = share(patch.v(), grid.v[at / grid.u.size()]);
    }
    std::vector<std::pair<Field, std::string>> numbers{
        {{"u", std::move(u), plain_number}, "share of the way along the surface, 0 to 1"},
        {{"v", std::move(v), plain_number}, "share of the way across it, 0 to 1"}};
    const PatchEvaluator evaluator(patch);
    for (std::size_t field = 0; field < patch.fields().size(); ++field) {
        Doubles values(count);
        for (std::size_t at = 0; at < count; ++at)
            values[at] = evaluator.field_at(field, grid.u[at % grid.u.size()], grid.v[at / grid.u.size()]);
        numbers.push_back({{patch.fields()[field].name, std::move(values), patch.fields()[field].dimension},
                           "number on the surface"});
    }
    return site_at_places(grid.places, numbers, gives);
}

Result<FormulaSite> site_on_first_patch(const Inputs& in, const std::string& gives) {
    const SurfaceSet& set = in.held<SurfaceSet>("surface");
    if (set.patches.empty())
        return about_slot(Error{ErrorCode::empty_input, "", "holds no surface", "Choose another."},
                          "surface");
    return site_on_grid(shown_grid(set.patches.front()), gives);
}

}  // namespace plume
