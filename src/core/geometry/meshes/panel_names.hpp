#pragma once
// What numbers of panels are called, on their faces and corners.

namespace plume::panel_names {

inline constexpr const char* panel = "panel";  // which one it is: its mark
// On corners, of the edge that begins there: the panel beyond, or none of them at a rim.
inline constexpr const char* beyond = "beyond";
inline constexpr double none = -1;

// Of panels laid on sheets: which one, and the angle from its width to where upwards was; on corners the
// place on the sheet, along its width and its length, and how large the sheet is.
inline constexpr const char* sheet = "sheet";
inline constexpr const char* up = "up";
inline constexpr const char* on_x = "on_x";
inline constexpr const char* on_y = "on_y";
inline constexpr const char* sheet_width = "sheet_width";
inline constexpr const char* sheet_length = "sheet_length";

}  // namespace plume::panel_names
