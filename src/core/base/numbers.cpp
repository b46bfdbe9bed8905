#include "core/base/numbers.hpp"

#include <algorithm>
#include <array>
#include <charconv>
#include <cmath>

namespace plume {
namespace {

template <class... Format>
std::string to_text(double value, Format... format) {
    std::array<char, 400> buffer{};  // the longest double written out in full has 309 digits before the point
    const auto end = std::to_chars(buffer.data(), buffer.data() + buffer.size(), value, format...);
    return {buffer.data(), end.ptr};
}

std::string without_trailing_zeros(std::string text) {
    if (text.find('.') == std::string::npos) return text;
    while (text.back() == '0')
        text.pop_back();
    if (text.back() == '.') text.pop_back();
    return text;
}

}  // namespace

std::string exact_text(double value) {
    if (std::isnan(value)) return "nan";  // whatever its sign
    return to_text(value);
}

std::string short_text(double value, int digits) {
    if (!std::isfinite(value)) return exact_text(value);
    if (value == 0) return "0";
    const double size = std::abs(value);
    if (size >= 1e7 || size < 1e-4) {
        std::string text = to_text(value, std::chars_format::scientific, digits - 1);
        const auto exponent = text.find('e');
        const int power = std::stoi(text.substr(exponent + 1));
        return without_trailing_zeros(text.substr(0, exponent)) + 'e' + std::to_string(power);
    }
    const int before = size >= 1 ? static_cast<int>(std::floor(std::log10(size))) + 1 : 0;
    const int lead = size >= 1 ? 0 : static_cast<int>(-std::floor(std::log10(size))) - 1;
    const int decimals = std::max(0, digits - before + lead);
    return without_trailing_zeros(fixed_text(value, decimals));
}

std::string fixed_text(double value, int decimals) {
    std::string text = to_text(value, std::chars_format::fixed, decimals);
    const bool zero = text.find_first_of("123456789") == std::string::npos;
    if (zero && !text.empty() && text.front() == '-' && std::isfinite(value)) text.erase(0, 1);
    return text;
}

std::string grouped_text(std::int64_t value) {
    std::string digits = std::to_string(value);
    const std::size_t first = digits.front() == '-' ? 1 : 0;
    for (std::size_t at = digits.size(); at > first + 3; at -= 3)
        digits.insert(at - 3, "\u202f");
    return digits;
}

std::string duration_text(double seconds) {
    if (seconds < 1) return short_text(seconds * 1000, 2) + " ms";
    if (seconds < 120) return short_text(seconds, 3) + " s";
    if (seconds < 7200) return short_text(seconds / 60, 3) + " min";
    return short_text(seconds / 3600, 3) + " h";
}

std::string bytes_text(double bytes) {
    static constexpr std::array<const char*, 6> names{"bytes", "kB", "MB", "GB", "TB", "PB"};
    std::size_t index = 0;
    while (bytes >= 1000 && index + 1 < names.size()) {
        bytes /= 1000;
        ++index;
    }
    return short_text(bytes, 3) + ' ' + names[index];
}

std::optional<double> read_number(std::string_view text) {
    if (!text.empty() && text.front() == '+') text.remove_prefix(1);
    double value = 0;
    const auto end = std::from_chars(text.data(), text.data() + text.size(), value);
    if (end.ec != std::errc{} || end.ptr != text.data() + text.size() || !std::isfinite(value)) return {};
    return value;
}

double round_step(double rough) {
    if (!(rough > 0) || !std::isfinite(rough)) return 1;
    const double power = std::pow(10.0, std::floor(std::log10(rough)));
    for (const double times : {1.0, 2.0, 5.0})
        if (rough <= times * power) return times * power;
    return 10 * power;
}

}  // namespace plume
