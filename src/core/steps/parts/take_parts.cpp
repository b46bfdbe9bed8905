#include "core/geometry/parts/address_list.hpp"
#include "core/geometry/parts/mesh_parts.hpp"
#include "core/study/step_kind.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& run) {
    const auto& mesh = std::get<Mesh>(in.value("mesh"));
    Result<NamedAddresses> named = named_numbers(in.word("parts"), mesh.part_count());
    if (!named) return about_slot(named.error(), "parts");
    const std::string many = std::to_string(mesh.part_count());
    if (named->missing > 0)
        run.remark_loss("‘" + named->first_missing + "’ is none of the " + many +
                        " parts; it counts again when it is.");
    if (in.word("side") == "without") turn_over(named->mask);
    const auto left = std::ranges::count(named->mask, 1);
    if (left == 0)
        return about_slot(Error{ErrorCode::empty_input, "", "leave none of the " + many,
                                "Name others, or pick them in the model; they count from 0."},
                          "parts");
    return Value(with_parts(mesh, named->mask));
}

}  // namespace

StepKind take_parts() {
    return {
        .key = "mesh.parts",
        .verb = "Keep parts of a mesh",
        .synonyms = "posts tubes copies pick select hide single remove group by hand",
        .sentence = "Keep the parts of {mesh} {side} {parts}.",
        .slots = {reference_slot("mesh", "Mesh", {Kind::mesh}),
                  choice_slot("side", "Side", {{"at", "at", ""}, {"without", "other than", ""}}),
                  addresses_slot("parts", "Parts", "0")},
        .results = {Kind::mesh},
        .result_name = "taken",
        .help =
            "Single posts, tubes or copies out of many, by number from 0: 0 3 5..8, -1 is the last. Picked "
            "in "
            "the model they are numbers, too. What is kept can be shown, exported and moved by itself.",
        .estimate =
            [](const Inputs& in) {
                const auto bytes = static_cast<double>(bytes_of(in.value("mesh")));
                return Estimate{bytes, bytes * 2e-9};
            },
        .make = make,
    };
}

}  // namespace plume
