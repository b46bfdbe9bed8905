#include "core/study/edits/scrub.hpp"

#include <algorithm>
#include <cmath>

#include "core/formula/expression.hpp"
#include "core/study/moving.hpp"

namespace plume {
namespace {

// How many study units (or radians) one unit of a literal is.
double internal_per_literal(const SlotSpec& slot, const Literal& literal, const Units& units) {
    const auto one = evaluate_as(slot.dimension(), literal_text({1, literal.unit}), Scope{units, {}, {}});
    return one ? *one : 1;
}

std::string moved_by(const SlotSpec& slot, const Literal& literal, double ticks, double increment,
                     const Units& units) {
    double number = literal.number + ticks * increment;
    number = slot.type == SlotType::count ? std::round(number) : std::round(number / increment) * increment;
    const double scale = internal_per_literal(slot, literal, units);
    // An end that is itself refused is approached no further than the smallest increment.
    if (slot.above_least && number * scale <= slot.least)
        number = std::min(literal.number, increment + slot.least / scale);
    return literal_text({std::clamp(number, slot.least / scale, slot.most / scale), literal.unit}, 9);
}

}  // namespace

double scrub_increment(double value, ScrubPace pace) {
    const double size = std::abs(value);
    const double usual = size < 1 ? 0.01 : std::pow(10.0, std::floor(std::log10(size))) / 100;
    if (pace == ScrubPace::usual) return usual;
    return pace == ScrubPace::fine ? usual / 10 : usual * 10;
}

std::optional<std::string> scrubbed_text(const SlotSpec& slot, const std::string& text, double ticks,
                                         ScrubPace pace, const Units& units) {
    const auto literal = read_literal(text);
    if (!literal) return {};
    if (slot.type != SlotType::count)
        return moved_by(slot, *literal, ticks, scrub_increment(literal->number, pace), units);
    // A count moves by about a hundredth of itself a tick, at least by one in ten ticks.
    const double usual = std::max(0.1, std::abs(literal->number) / 100);
    return moved_by(slot, *literal, ticks, pace == ScrubPace::fine ? usual / 10 : usual, units);
}

std::optional<std::string> stepped_text(const SlotSpec& slot, const std::string& text, int direction,
                                        ScrubPace pace, const Units& units) {
    const auto literal = read_literal(text);
    if (!literal) return {};
    const double whole = pace == ScrubPace::coarse ? 10 : 1;
    return moved_by(slot, *literal, direction,
                    slot.type == SlotType::count ? whole : scrub_increment(literal->number, pace), units);
}

namespace {

double within_range(const Control& control, double value) {
    return std::clamp(on_step(control, value), control.least, control.most);
}

}  // namespace

double scrubbed_value(const Control& control, double from, double ticks, ScrubPace pace) {
    double increment = control.step > 0 ? control.step : scrub_increment(from, ScrubPace::usual);
    if (pace == ScrubPace::coarse) increment *= 10;
    if (pace == ScrubPace::fine) increment /= 10;
    return within_range(control, from + ticks * increment);
}

double value_at_share(const Control& control, double share) {
    return within_range(control, control.least + share * (control.most - control.least));
}

double share_of_value(const Control& control, double value) {
    return std::clamp((value - control.least) / (control.most - control.least), 0.0, 1.0);
}

}  // namespace plume
