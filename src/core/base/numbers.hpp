#pragma once
// Numbers to text and back, independent of any locale.

#include <cstdint>
#include <optional>
#include <string>
#include <string_view>

namespace plume {

// Shortest text that reads back as the same double; "nan", "inf", "-inf" for those.
std::string exact_text(double value);

// For people: up to `digits` significant digits, trailing zeros dropped, thousands not grouped; very large
// and very small values in powers of ten. "3.2", "-0.001", "1.5e12".
std::string short_text(double value, int digits = 4);

// With `decimals` fixed digits after the point; "-0.00" is written "0.00".
std::string fixed_text(double value, int decimals);

// Whole numbers in groups of three with narrow spaces where no line breaks: "1 002 001".
std::string grouped_text(std::int64_t value);

// Seconds for people: "0.12 ms", "43 ms", "12.1 s", "8.35 min", "2.5 h".
std::string duration_text(double seconds);

// Bytes for people: "812 bytes", "12.4 MB" (powers of ten).
std::string bytes_text(double bytes);

// The whole of `text` as a finite decimal number ("12", "-.5", "1e3"); nothing otherwise.
std::optional<double> read_number(std::string_view text);

// The least of 1, 2 and 5 times a power of ten that is not below `rough`; 1 for what is not above 0 or not
// finite. For grids and axes.
double round_step(double rough);

}  // namespace plume
