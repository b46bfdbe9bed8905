#pragma once
// Excerpts: some items of a study as a study of their own, for the clipboard, and pasted into a study.

#include <set>
#include <string>
#include <vector>

#include "core/study/edits/edits.hpp"

namespace plume {

// These items in the order of the page, the controls their expressions use and `controls` besides, in the
// study's units.
StudyPointer excerpt_of(const Study& study, const ItemIds& items, const std::set<std::string>& controls = {});

// What becomes of a control of the excerpt that the study has by the same name and kind of unit: both go by
// the one that is there, or what is pasted gets one of its own.
enum class PastedControls { shared, own };

struct Pasted {
    StudyPointer study;
    std::vector<ItemId> items;          // in the order of the page
    std::vector<std::string> controls;  // that came along
};
// The excerpt's items at `position`. Results and controls whose names are taken get free ones, and whatever
// in the excerpt reads them follows; what it reads from outside it reads from this study by name. Units of
// the excerpt become the study's. Errors: empty_input (nothing in it).
Result<Pasted> pasted(const Study& study, const Catalogue& catalogue, const Study& excerpt,
                      std::size_t position, PastedControls controls);

}  // namespace plume
