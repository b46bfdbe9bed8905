#include "core/geometry/moves/copies.hpp"
#include "core/steps/formula_support.hpp"
#include "core/steps/moves/axis_slots.hpp"
#include "core/steps/moves/copy_story.hpp"

namespace plume {
namespace {

// Lines a formula may give.
constexpr std::array<const char*, 4> factor_names{"scale", "along", "across", "up"};

Result<FormulaSite> site_of(const Inputs& in) {
    FormulaSite site = site_on_lattice(in.held<Placements>("to").origins());
    site.results = {{"scale", "how many times as large, all ways", false},
                    {"along", "how many times as long, besides", false},
                    {"across", "how many times as wide, besides", false},
                    {"up", "how many times as high, besides", false}};
    return site;
}

Estimate estimate(const Inputs& in) {
    const PointLattice& origins = in.held<Placements>("to").origins();
    const double formula =
        in.word("sized") == "formula"
            ? evaluation_bytes(factor_names.size(), static_cast<double>(origins.address_count()))
            : 0;
    return {copies_bytes(in.value("thing"), static_cast<double>(origins.point_count())) + formula, 0};
}

// How many times as large a copy is along each of its axes; mirrored across where the placement is.
class Sizes {
public:
    static Result<Sizes> make(const Inputs& in, const Run& run) {
        Sizes sizes(in.held<Placements>("to").origins());
        if (in.word("sized") == "size") {
            if (!sizes.origins_.field("size"))
                return about_slot(Error{ErrorCode::missing_input, "", "carry no field ‘size’",
                                        "Choose parts that grew, or size the copies by a formula."},
                                  "to");
            sizes.own_ = sizes.origins_.field("size");
            sizes.of_one_ = in.number("of_one");
        }
        if (in.word("sized") != "formula") return sizes;
        const Result<FormulaSite> site = site_of(in);
        Result<CheckedFormula> formula = checked_formula(in, *site);
        if (!formula) return formula.error();
        bool any = false;
        for (std::size_t at = 0; at < factor_names.size(); ++at) {
            auto made = computed(*formula, factor_names[at], plain_number, *site, in, run);
            if (!made) return made.error();
            sizes.factors_[at] = *std::move(made);
            any = any || sizes.factors_[at];
        }
        if (any) return sizes;
        return about_slot(
            Error{ErrorCode::missing_input, "", "gives none of ‘scale’, ‘along’, ‘across’ and ‘up’",
                  "Add a line such as scale = size / 1 m."},
            "formula");
    }

    Vec3 at(std::size_t placement) const {
        const auto factor = [&](std::size_t which) {
            return factors_[which] ? (*factors_[which])[placement] : 1.0;
        };
        const double all = factor(0) * (own_ ? own_->values[placement] / of_one_ : 1);
        const bool mirrored = mirrored_ && mirrored_->values[placement] != 0;
        return {all * factor(1), all * factor(2) * (mirrored ? -1 : 1), all * factor(3)};
    }

private:
    explicit Sizes(const PointLattice& origins) : origins_(origins), mirrored_(origins.field("mirrored")) {}

    const PointLattice& origins_;
    const Field* mirrored_;
    const Field* own_ = nullptr;
    double of_one_ = 1;
    std::array<std::optional<Doubles>, 4> factors_;
};

// Why a copy cannot be as large as that.
std::optional<std::string> unusable(Vec3 factors) {
    if (!is_finite(factors)) return "a size that is no number";
    if (factors.x == 0 || factors.y == 0 || factors.z == 0) return "a size of 0";
    return {};
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto& to = in.held<Placements>("to");
    const Placement from = in.word("from") == "placed"
                               ? in.held<Placements>("source").present_placements().front()
                               : Placement{};
    const auto sizes = Sizes::make(in, run);
    if (!sizes) return sizes.error();
    const Affine home = between_placements(from, Placement{});
    std::vector<Affine> maps;
    const PointLattice& origins = to.origins();
    for (std::size_t at = 0; at < origins.address_count(); ++at) {
        if (!origins.present(at)) continue;
        const Vec3 factors = sizes->at(at);
        if (const auto why = unusable(factors))
            return about_slot(
                Error{ErrorCode::out_of_range, "", "gives the copy at " + std::to_string(at) + ' ' + *why,
                      "Keep sizes away from 0, or leave that placement out."},
                in.word("sized") == "formula" ? "formula" : "to");
        maps.push_back(composed(between_placements(Placement{}, to.placement(at)),
                                composed(scaled_about({}, factors), home)));
    }
    return copied(in.value("thing"), maps,
                  origins.closed(0) && origins.counts()[1] == 1 && !origins.has_gaps(), run);
}

// The address of the n-th placement that is there.
std::size_t present_address(const PointLattice& origins, std::size_t number) {
    std::size_t at = 0;
    while (!origins.present(at) || number-- > 0)
        ++at;
    return at;
}

PartStory story(const Inputs& in, const Value& made, PartRef part) {
    const PointLattice& origins = in.held<Placements>("to").origins();
    const auto copy = copy_of(in.value("thing"), made, part);
    if (!copy || copy->copies != origins.point_count()) return {};
    const PartRef placement{PartSort::item, present_address(origins, copy->copy)};
    return {{copy_text(*copy)}, {{{"thing", copy->part}, {"to", placement}}}};
}

}  // namespace

StepKind copy_to_placements() {
    return {
        .key = "thing.place",
        .verb = "Copy to placements",
        .synonyms = "instance place placement plane distribute scale grown parts",
        .sentence =
            "Copy {thing} from {from}[from=placed| {source}] to {to}, {sized}[sized=size| "
            "{of_one}][sized=formula| "
            "{formula}].",
        .slots = {thing_slot(),
                  choice_slot("from", "From",
                              {{"origin", "the origin", "the XY plane of the study"},
                               {"placed", "the placement", "the first placement of it"}}),
                  reference_slot("source", "Source", {Kind::placements}),
                  reference_slot("to", "Placements", {Kind::placements}),
                  choice_slot("sized", "Sized",
                              {{"same", "as large as it is", ""},
                               {"size", "as large as each part, where it is drawn for a size of",
                                "of parts that grew"},
                               {"formula", "sized by", "lines scale, along, across, up for each placement"}}),
                  length_above_zero_slot("of_one", "Size as drawn", "1 m"),
                  formula_slot("formula", formula_label, "scale = 1 + 0.5 * random(1)")},
        .results = movable_kinds(),
        .result_name = "placed",
        .help =
            "A copy of anything on each placement, standing there as it stands in the placement it is taken "
            "from. Copies are as large as the thing, as the size of the part they stand on, or sized by a "
            "formula, also differently along, across and up. On mirrored parts they are mirrored.",
        .estimate = estimate,
        .make = make,
        .contexts = {{"formula", context(site_of)}},
        .story = story,
    };
}

}  // namespace plume
