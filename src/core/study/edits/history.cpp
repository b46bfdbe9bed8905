#include "core/study/edits/history.hpp"

#include <utility>

namespace plume {

History::History(StudyPointer start) : saved_(start) {
    entries_.push_back({std::move(start), "", ""});
}

void History::commit(StudyPointer study, std::string label, std::string stroke) {
    const bool goes_on =
        stroke_open_ && !stroke.empty() && at_ > 0 && entries_[at_].stroke == stroke && !can_redo();
    if (goes_on) {
        entries_[at_].study = std::move(study);
        return;
    }
    entries_.resize(at_ + 1);
    entries_.push_back({std::move(study), std::move(label), std::move(stroke)});
    ++at_;
    stroke_open_ = true;
}

void History::go_to(std::size_t entry) {
    if (entry >= entries_.size()) return;
    at_ = entry;
    stroke_open_ = false;
}

}  // namespace plume
