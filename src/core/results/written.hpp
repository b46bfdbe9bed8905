#pragma once
// A value as what file formats hold: facets, lines or points.

#include <array>
#include <cstdint>
#include <optional>
#include <string>
#include <vector>

#include "core/base/run.hpp"
#include "core/data/value.hpp"

namespace plume {

// A line through places; a closed one goes back to its first.
struct WrittenLine {
    std::vector<Vec3> places;
    bool closed = false;
};

enum class WrittenForm { nothing, points, lines, bars, facets };
std::string_view plain_name(WrittenForm form);  // "points", "curves", "bars", "faces"
WrittenForm form_of(const Value& value);
// Whether the value is smooth and exact, so that facets and lines only stand for it.
bool is_exact(const Value& value);

// What is there depends on the form; bars run between the points.
struct Written {
    WrittenForm form = WrittenForm::nothing;
    std::optional<Mesh> facets = {};  // with the value's numbers
    bool smooth = false;              // facets between samples of one surface: shaded without edges
    std::vector<WrittenLine> lines = {};
    std::vector<Vec3> points = {};
    std::vector<std::array<std::uint32_t, 2>> bars = {};
    // One for each of the points, or of the places of all lines, one after the other; and one for each bar.
    std::vector<Field> numbers = {}, numbers_of_bars = {};
    PartMarksPointer marks_of_bars = {};
    std::string in_hand = {};     // the field that is shown unless another is chosen
    bool plain_at_first = false;  // no number is shown unless it is chosen
};

// A mesh as it is; surfaces as quads between samples that include the interpolated points, and as triangles
// where they are trimmed; curves through samples. They stay within a length of what is curved, 0: so that it
// looks smooth. Errors: those of sampling; cancelled.
Result<Written> written_of(const Value& value, double within, const Run& run);

}  // namespace plume
