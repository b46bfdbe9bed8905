#pragma once
// What the steps that make and change bodies share.

#include "core/data/solids.hpp"
#include "core/study/step_kind.hpp"

namespace plume {

// Polygons that an exact body is meshed with where bodies are joined and cut.
inline constexpr std::size_t body_polygons = 20'000;

SlotSpec bodies_slot(std::string key = "bodies", std::string label = "Bodies");
// In kg/m³, at least 0.
SlotSpec density_slot();
// Bodies; an error where there are none left.
Result<Value> some_bodies(SolidSet set, const char* slot, const std::string& none);
// Says so where round faces of exact bodies become polygons.
void remark_polygons(const SolidSet& set, const Run& run);
// Of work on the bodies' polygons.
Estimate bodies_estimate(const Inputs& in, const char* slot, double bytes_a_polygon,
                         double seconds_a_polygon);
// "Body 3" and what is wrong with it, where there are several.
Error at_body(Error error, std::size_t number, std::size_t count);

}  // namespace plume
