#pragma once
// What was written, counted by kind: "2 108 curves, 3 points".

#include <string>
#include <vector>

#include "core/base/text.hpp"

namespace plume {

class Tally {
public:
    void add(std::size_t count, const char* one, const char* many) {
        for (Entry& entry : entries_)
            if (entry.one == one) {
                entry.count += count;
                return;
            }
        entries_.push_back({one, many, count});
    }
    std::string text() const {
        std::string text;
        for (const Entry& entry : entries_)
            text += (text.empty() ? "" : ", ") + count_text(entry.count, entry.one, entry.many);
        return text;
    }

private:
    struct Entry {
        std::string one, many;
        std::size_t count;
    };
    std::vector<Entry> entries_;
};

}  // namespace plume
