#include "core/evaluation/recipe.hpp"

#include "core/study/slots/slot_rules.hpp"

namespace plume {

std::map<ItemId, Hash> recipes_of(const Study& study) {
    std::map<ItemId, Hash> recipes;
    std::map<std::string, Hash> above;
    for (const Item& item : study.items) {
        const Step* step = step_of(item);
        if (!step) continue;
        Hasher hasher;
        hasher.add(step->kind).add(step->name).add(static_cast<std::uint64_t>(step->muted ? 1 : 0));
        add_to_hash(hasher, study.units);
        if (step->text_units) add_to_hash(hasher, *step->text_units);
        for (const auto& [key, value] : step->slots) {
            hasher.add(key);
            add_to_hash(hasher, value);
        }
        for (const std::string& name : names_in_expressions(*step))
            if (const Control* control = study.control(name)) add_to_hash(hasher, *control);
        for (const std::string& name : results_read(study, *step))
            if (const auto read = above.find(name); read != above.end()) hasher.add(name).add(read->second);
        const Hash recipe = hasher.finish();
        recipes.emplace(step->id, recipe);
        above.emplace(step->name, recipe);
    }
    return recipes;
}

}  // namespace plume
