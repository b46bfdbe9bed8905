#pragma once
// Undo by keeping the old value. Unlimited: studies share what did not change, so an edit costs what it
// changed.

#include <string>
#include <vector>

#include "core/study/study.hpp"

namespace plume {

class History {
public:
    explicit History(StudyPointer start);

    const StudyPointer& current() const { return entries_[at_].study; }
    // So many edits ago; nullptr before the first.
    StudyPointer earlier(std::size_t edits) const {
        return edits <= at_ ? entries_[at_ - edits].study : nullptr;
    }
    // Edits of the same non-empty `stroke`, one after the other, become one: a drag is one edit.
    void commit(StudyPointer study, std::string label, std::string stroke = {});
    // The next edit starts anew even if its stroke is the same.
    void end_stroke() { stroke_open_ = false; }

    bool can_undo() const { return at_ > 0; }
    bool can_redo() const { return at_ + 1 < entries_.size(); }
    std::string undo_label() const { return can_undo() ? entries_[at_].label : ""; }
    std::string redo_label() const { return can_redo() ? entries_[at_ + 1].label : ""; }
    void undo() { go_to(can_undo() ? at_ - 1 : at_); }
    void redo() { go_to(can_redo() ? at_ + 1 : at_); }

    // All states, the one it began with first, each with what it was called that led to it.
    struct Entry {
        StudyPointer study;
        std::string label;
        std::string stroke;
    };
    const std::vector<Entry>& entries() const { return entries_; }
    std::size_t at() const { return at_; }
    // The next edit starts anew from there; nothing for a number beyond the last.
    void go_to(std::size_t entry);

    // The state that is on disk.
    void mark_saved() { saved_ = current(); }
    bool saved() const { return current() == saved_; }

private:
    std::vector<Entry> entries_;
    std::size_t at_ = 0;
    bool stroke_open_ = false;
    StudyPointer saved_;
};

}  // namespace plume
