#include "core/study/subjects.hpp"

#include <algorithm>
#include <array>
#include <cassert>

namespace plume {
namespace {

constexpr std::array listed{
    Subject{"points", "Lay points"},
    Subject{"curves", "Draw curves"},
    Subject{"surfaces", "Make surfaces"},
    Subject{"solids", "Make bodies"},
    Subject{"frames", "Make frames"},
    Subject{"meshes", "Work with meshes"},
    Subject{"moves", "Move, copy and lay"},
    Subject{"numbers", "Measure, and shape numbers"},
    Subject{"parts", "Choose, sort and join"},
    Subject{"growth", "Let grow by rules"},
    Subject{"forces", "Find forms in balance"},
    Subject{"sheets", "Let sheets grow and fall"},
    Subject{"time", "Keep moments"},
    Subject{"files", "Read files"},
    Subject{"scripts", "Write scripts"},
    Subject{"handoff", "Hand off"},
};

const Subject* find(std::string_view key) {
    const auto found = std::ranges::find(listed, key, &Subject::key);
    return found == listed.end() ? nullptr : &*found;
}

}  // namespace

std::span<const Subject> subjects() {
    return listed;
}

const Subject& subject_of(const StepKind& kind) {
    const bool reads_file =
        std::ranges::find(kind.slots, SlotType::file, &SlotSpec::type) != kind.slots.end();
    const Subject* subject = find(reads_file ? "files" : kind.subject);
    assert(subject);
    return *subject;
}

}  // namespace plume
