#pragma once
// How numbers become colours: which ramp, which way round, in how many steps.

#include <optional>
#include <string_view>

namespace plume {

// estuary: dark slate over teal and moss to sand; dusk: dark plum over rose to straw; tide: blue over pale to
// ochre, its middle the lightest; ink: dark to light grey.
enum class Ramp { estuary, dusk, tide, ink };
inline constexpr int ramp_count = 4;
std::string_view key_of(Ramp ramp);
std::optional<Ramp> ramp_from(std::string_view key);

// How a ramp is used: turned round, and in so many even steps (0: without steps).
struct RampStyle {
    Ramp ramp = Ramp::estuary;
    bool reversed = false;
    int steps = 0;
    bool operator==(const RampStyle&) const = default;
};
inline constexpr int most_ramp_steps = 64;

}  // namespace plume
