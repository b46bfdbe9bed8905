#pragma once
// Edits of several keys at once: of one thing or of several, a stretch that was recorded or single ones.

#include "core/study/edits/edit_keys.hpp"

namespace plume {

// Keys of one thing, at these moments in ascending order, in seconds.
struct ChosenKeys {
    Keyed of;
    std::vector<double> seconds;
    bool operator==(const ChosenKeys&) const = default;
};
// Each thing once.
using KeyChoice = std::vector<ChosenKeys>;

bool is_chosen(const KeyChoice& choice, const Keyed& of, double seconds);
// Nothing is chosen twice.
void choose(KeyChoice& choice, const Keyed& of, double seconds);
std::size_t key_count(const KeyChoice& choice);
// Of what is chosen the earliest; 0 where nothing is.
double first_moment(const KeyChoice& choice);
// The same keys after all of them have moved.
KeyChoice moved_by(KeyChoice choice, double seconds);

// Errors of these: unknown_name (no such thing, no key there). What loses its last key stays as that was.
Edited remove_keys(const Study& study, const KeyChoice& choice);
Edited ease_keys(const Study& study, const KeyChoice& choice, Easing easing);
// All by so many seconds, back where it is below 0. Errors: name_clash (a key that is not moved is there
// already), out_of_range (before 0, or after a day).
Edited move_keys(const Study& study, const KeyChoice& choice, double by);
Edited copy_keys(const Study& study, const KeyChoice& choice, double by);

}  // namespace plume
