#include "core/receiving/model_groups.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/listed.hpp"
#include "core/base/numbers.hpp"
#include "core/base/small_letters.hpp"
#include "core/base/text.hpp"
#include "core/data/building_classes.hpp"

namespace plume {
namespace {

// What all elements of this product call so.
constexpr std::string_view quantities = "BaseQuantities";

std::string name_by(const BuildingElement& element, GroupBy by) {
    if (by == GroupBy::storey) return storey_name(element);
    return by == GroupBy::building_class ? class_name(element) : material_name(element);
}

void add(ModelGroup& group, const Received::Part& part) {
    ++group.parts;
    group.area_m2 += part.area_m2().value_or(0);
    group.volume_m3 += part.volume_m3().value_or(0);
    group.length_m += part.length_m().value_or(0);
}

void sort(ModelGroup& group, const std::vector<Received::Part>& parts) {
    std::ranges::sort(group.groups, comes_before, &ModelGroup::name);
    std::ranges::sort(group.members, [&](std::size_t a, std::size_t b) {
        return comes_before(parts[a].taken->element.name, parts[b].taken->element.name);
    });
    for (ModelGroup& inner : group.groups)
        sort(inner, parts);
}

std::string wrong_unit_text(const std::string& source, LengthUnit read, double factor) {
    const bool small = factor < 1;
    return "‘" + source + "’ has other lengths than the " + std::string(plain_name(read)) +
           " they are read as: all of it is " + short_text(small ? 1 / factor : factor) + " times too " +
           (small ? "small." : "large.");
}

// Stated and measured volumes of a source that differ by more than a hundredth.
struct Disagreement {
    std::size_t parts = 0;
    double stated = 0, measured = 0;
};

}  // namespace

std::string_view plain_name(GroupBy by) {
    if (by == GroupBy::storey) return "storey";
    return by == GroupBy::building_class ? "class" : "material";
}

std::string class_name(const BuildingElement& element) {
    const std::string entity = in_small_letters(element.entity);
    for (const BuildingClass& one : building_classes())
        if (in_small_letters(one.entity) == entity) return std::string(one.many);
    return element.entity.starts_with("Ifc") ? element.entity.substr(3) : element.entity;
}
std::string storey_name(const BuildingElement& element) {
    return element.storey.empty() ? "on no storey" : element.storey;
}
std::string material_name(const BuildingElement& element) {
    return element.material.empty() ? "no material" : element.material;
}

bool comes_before(std::string_view name, std::string_view other) {
    const auto is_digit = [](char c) { return c >= '0' && c <= '9'; };
    while (!name.empty() && !other.empty()) {
        if (is_digit(name.front()) && is_digit(other.front())) {
            const auto digits = [&](std::string_view text) {
                return static_cast<std::size_t>(std::ranges::find_if_not(text, is_digit) - text.begin());
            };
            const std::size_t here = digits(name), there = digits(other);
            const std::string_view number = name.substr(0, here), against = other.substr(0, there);
            if (here != there) return here < there;
            if (number != against) return number < against;
            name.remove_prefix(here);
            other.remove_prefix(there);
            continue;
        }
        if (name.front() != other.front()) return name.front() < other.front();
        name.remove_prefix(1);
        other.remove_prefix(1);
    }
    return name.size() < other.size();
}

std::string description_of(const BuildingElement& element) {
    return class_name(element) + ", " + material_name(element) + ", " + storey_name(element);
}
std::string value_text(const BuildingProperty& property) {
    constexpr int digits = 6;
    return property.number ? quantity_text(*property.number, Units(), digits) : property.text;
}
std::string figure_text(std::optional<double> figure, Dimension dimension) {
    return figure && *figure > 0 ? quantity_text({*figure, dimension}, Units()) : "–";
}
std::string origin_text(const PlacedPart& part) {
    return part.source.empty() ? "of somebody else" : "from " + part.source;
}

ModelGroup grouped(const std::vector<Received::Part>& parts, const std::vector<GroupBy>& by) {
    ModelGroup all;
    for (std::size_t at = 0; at < parts.size(); ++at) {
        ModelGroup* group = &all;
        add(*group, parts[at]);
        for (const GroupBy level : by) {
            const std::string name = name_by(parts[at].taken->element, level);
            const auto known = std::ranges::find(group->groups, name, &ModelGroup::name);
            if (known == group->groups.end()) {
                group->groups.emplace_back().name = name;
                group = &group->groups.back();
            } else {
                group = &*known;
            }
            add(*group, parts[at]);
        }
        group->members.push_back(at);
    }
    sort(all, parts);
    return all;
}

Box box_of(const std::vector<Received::Part>& parts) {
    Box box;
    for (const Received::Part& part : parts) {
        if (part.taken->element.facets) {
            const Box bounds = part.taken->element.facets->bounds();
            for (const Vec3 corner : {bounds.low, bounds.high})
                box.include(corner * part.scale);
        }
        for (const Vec3 place : part.taken->element.axis)
            box.include(place * part.scale);
    }
    return box;
}

std::vector<std::string> doubts_about(const Received& here) {
    std::vector<std::string> doubts;
    std::map<std::string, double> wrong_scale;
    std::map<std::string, Disagreement> volumes;
    std::map<std::string, std::size_t> not_taken;
    for (const Received::Part& part : here.parts()) {
        const BuildingElement& element = part.taken->element;
        const std::string source = part.placed->source.empty() ? "of others" : part.placed->source;
        if (std::abs(part.scale - 1) > 1e-9) wrong_scale[source] = part.scale;
        if (!element.not_taken.empty()) ++not_taken[element.not_taken];
        const BuildingProperty* stated = element.property(quantities, "NetVolume");
        const std::optional<double> measured = part.volume_m3();
        if (!stated || !stated->number || !measured) continue;
        if (std::abs(*measured - stated->number->value) <= 0.01 * std::abs(stated->number->value)) continue;
        Disagreement& all = volumes[source];
        ++all.parts;
        all.stated += stated->number->value;
        all.measured += *measured;
    }
    doubts.reserve(wrong_scale.size() + volumes.size() + not_taken.size());
    for (const auto& [source, scale] : wrong_scale)
        doubts.push_back(wrong_unit_text(source, *here.model().reads_as, scale));
    for (const auto& [source, all] : volumes)
        doubts.push_back("‘" + source + "’ states " + short_text(all.stated) + " m³ for " +
                         count_text(all.parts, "part", "parts") + " whose " +
                         (all.parts == 1 ? "shape has " : "shapes have ") + short_text(all.measured) +
                         " m³.");
    for (const auto& [entities, count] : not_taken)
        doubts.push_back(count_text(count, "part has", "parts have") +
                         " a shape that is not shown here: " + shortened(entities, 100) + ".");
    return doubts;
}

}  // namespace plume
