// A sheet that falls.

#include <array>

#include "core/steps/catalogue.hpp"
#include "core/steps/sheets/falling_kind.hpp"

namespace plume {
namespace {

struct Cloth {
    const char *key, *words, *help;
    SheetMaterial material;
};
constexpr std::array<Cloth, 5> cloths{
    Cloth{"silk", "silk", "60 g/m², 1500 N/m, hardly resists bending", {0.06, 1500, 200, 2e-6}},
    Cloth{"linen", "linen", "200 g/m², 3000 N/m", {0.2, 3000, 500, 2e-5}},
    Cloth{"felt", "felt", "400 g/m², 2000 N/m, in soft folds", {0.4, 2000, 1000, 5e-4}},
    Cloth{"rubber", "rubber", "1 kg/m², 400 N/m: it stretches", {1.0, 400, 250, 1e-4}},
    Cloth{"card", "card", "300 g/m², 20 000 N/m, bends little", {0.3, 20'000, 10'000, 5e-2}}};

Result<Sheet> sheet_of(const Inputs& in, const Value& thing, const RestLengths& rest, double /*metres*/) {
    return make_sheet(std::get<Mesh>(thing), rest, material_in(in, "cloth", cloths).material);
}

}  // namespace

StepKind drape_sheet() {
    StepKind kind =
        falling_kind({"Sheet", {Kind::mesh}, material_slot("cloth", "Cloth", cloths), true, sheet_of});
    kind.key = "sheet.drape";
    kind.verb = "Let a sheet fall";
    kind.synonyms = "drape hang cloth fabric gravity wind inflate curtain sail awning simulate physics";
    kind.result_name = "fallen";
    kind.help =
        "A sheet that falls from moment to moment, held where ‘held’ says so and where it is held at that "
        "moment, by handles with keys too. It bears itself and what it touches and never goes through: "
        "every vertex goes only as far as nothing meets. Edges of faces resist being stretched, diagonals "
        "of faces with four corners and more being sheared, and all of it being bent. Vertices carry "
        "‘strain’, 0.02 where an edge is 2 % longer than at rest, and their speed in m/s. Play it; keep a "
        "moment of it for what follows.";
    return kind;
}

}  // namespace plume
