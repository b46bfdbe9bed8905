#pragma once
// A moment of the study's time, in seconds.

#include "core/study/keys.hpp"
#include "core/study/step_kind.hpp"

namespace plume {

inline SlotSpec moment_slot(const char* key, const char* label, const char* preset) {
    SlotSpec slot = number_slot(key, label, preset);
    slot.least = 0;
    slot.most = longest_time_s;
    return slot;
}

}  // namespace plume
