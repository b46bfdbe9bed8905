#include "core/data/building_classes.hpp"

#include <algorithm>
#include <array>

#include "core/base/text.hpp"

namespace plume {
namespace {

constexpr std::array<BuildingClass, 10> classes{{{"roof", "roofs", "IFCROOF"},
                                                 {"slab", "slabs", "IFCSLAB"},
                                                 {"wall", "walls", "IFCWALL"},
                                                 {"column", "columns", "IFCCOLUMN"},
                                                 {"beam", "beams", "IFCBEAM"},
                                                 {"member", "members", "IFCMEMBER"},
                                                 {"plate", "plates", "IFCPLATE"},
                                                 {"covering", "coverings", "IFCCOVERING"},
                                                 {"railing", "railings", "IFCRAILING"},
                                                 {"proxy", "proxies", "IFCBUILDINGELEMENTPROXY"}}};

struct Word {
    std::string_view word, key;
};
constexpr std::array words{Word{"canopy", "roof"},   Word{"floor", "slab"},        Word{"deck", "slab"},
                           Word{"post", "column"},   Word{"purlin", "beam"},       Word{"rafter", "beam"},
                           Word{"strut", "member"},  Word{"bar", "member"},        Word{"steel", "member"},
                           Word{"timber", "member"}, Word{"panel", "plate"},       Word{"sheet", "plate"},
                           Word{"skin", "covering"}, Word{"cladding", "covering"}, Word{"rail", "railing"}};

// The same, or more than one of it.
bool means(std::string_view word, std::string_view one) {
    return word == one || (word.size() == one.size() + 1 && word.starts_with(one) && word.back() == 's') ||
           (word.size() == one.size() + 2 && word.starts_with(one) && word.ends_with("es"));
}

}  // namespace

std::span<const BuildingClass> building_classes() {
    return classes;
}

const BuildingClass* find_building_class(std::string_view key) {
    const auto found = std::ranges::find(classes, key, &BuildingClass::key);
    return found == classes.end() ? nullptr : &*found;
}

const BuildingClass& usual_building_class(std::string_view result, bool is_bars) {
    for (const std::string_view word : words_between(result, "_ -0123456789")) {
        for (const BuildingClass& one : classes)
            if (means(word, one.key)) return one;
        for (const Word& other : words)
            if (means(word, other.word)) return *find_building_class(other.key);
    }
    return *find_building_class(is_bars ? "member" : "proxy");
}

}  // namespace plume
