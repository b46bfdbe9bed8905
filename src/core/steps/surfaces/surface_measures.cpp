#include "core/steps/surfaces/surface_measures.hpp"

#include <algorithm>
#include <cmath>
#include <limits>

#include "core/base/rounding.hpp"
#include "core/base/sum.hpp"
#include "core/steps/moves/axis_slots.hpp"

namespace plume {

std::vector<Word> surface_measures() {
    return {{"mean", "the mean curvature", "half the sum of the largest and the smallest"},
            {"gaussian", "the Gaussian curvature", "their product: below 0 where it is a saddle"},
            {"most", "the largest curvature", "1 / radius, above 0 where it bends towards its normal"},
            {"least", "the smallest curvature", "1 / radius, below 0 where it bends away from its normal"},
            {"radius", "the smallest radius", "of what is flat there is none"},
            {"along_most", "the direction of the largest curvature", "on points, as arrows"},
            {"along_least", "the direction of the smallest curvature", "on points, as arrows"},
            {"slope", "the slope", "the angle between the surface and what is square to a direction"},
            {"facing", "the facing", "the angle between its normal and a direction, as to the sun"}};
}

std::vector<SlotSpec> with_measured_against(std::vector<SlotSpec> slots) {
    slots.push_back(choice_slot("towards", "Direction",
                                {{"z", "Z", "upright"},
                                 {"x", "X", ""},
                                 {"y", "Y", ""},
                                 {"up", "the up axis", "of a placement: any direction"},
                                 {"place", "the way to the origin", "of a placement: any place"}}));
    slots.push_back(placement_slot());
    return slots;
}

SurfaceMeasure::SurfaceMeasure(const Inputs& in) {
    const std::string& what = in.word("what");
    constexpr std::pair<const char*, BendingNumber> numbers[] = {{"mean", BendingNumber::mean},
                                                                 {"gaussian", BendingNumber::gaussian},
                                                                 {"most", BendingNumber::most},
                                                                 {"least", BendingNumber::least},
                                                                 {"radius", BendingNumber::radius}};
    for (const auto& [word, number] : numbers)
        if (what == word) bending_ = number;
    if (what == "along_most") what_ = What::along_most;
    if (what == "along_least") what_ = What::along_least;
    if (what != "slope" && what != "facing") return;
    what_ = what == "slope" ? What::slope : What::facing;
    const std::string& towards = in.word("towards");
    direction_ = towards == "x" ? Vec3{1, 0, 0} : towards == "y" ? Vec3{0, 1, 0} : Vec3{0, 0, 1};
    if (towards != "up" && towards != "place") return;
    const Placement placement = in.held<Placements>("placement").present_placements().front();
    direction_ = placement.up;
    if (towards == "place") place_ = placement.origin;
}

Vec3 SurfaceMeasure::direction(const Bending& bending) const {
    return what_ == What::along_most ? bending.along_most() : bending.along_least();
}

Dimension SurfaceMeasure::dimension() const {
    return what_ == What::bending ? dimension_of(bending_) : an_angle;
}

double SurfaceMeasure::number(const Bending& bending, Vec3 place) const {
    if (bending.normal == Vec3{}) return std::numeric_limits<double>::quiet_NaN();
    if (what_ == What::bending) return number_of(bending, bending_);
    const Vec3 direction = place_ ? *place_ - place : direction_;
    const double away = std::atan2(length(cross(bending.normal, direction)), dot(bending.normal, direction));
    return what_ == What::facing ? away : std::min(away, std::numbers::pi - away);
}

MeasuredPlaces::MeasuredPlaces(SurfaceMeasure measure, std::size_t count)
    : measure_(std::move(measure)), weights_(count) {
    columns_[0].resize(count);
    if (!measure_.is_direction()) return;
    columns_[1].resize(count);
    columns_[2].resize(count);
}

void MeasuredPlaces::set(std::size_t index, const Bending& bending, Vec3 place, double weight) {
    weights_[index] = weight;
    if (!measure_.is_direction()) {
        columns_[0][index] = measure_.number(bending, place);
        return;
    }
    const Vec3 direction = measure_.direction(bending);
    columns_[0][index] = direction.x;
    columns_[1][index] = direction.y;
    columns_[2][index] = direction.z;
}

void MeasuredPlaces::set_unknown(std::size_t index) {
    weights_[index] = 0;
    for (Doubles& column : columns_)
        if (!column.empty()) column[index] = std::numeric_limits<double>::quiet_NaN();
}

Value MeasuredPlaces::on(const PointLattice& points, const Inputs& in, const Run& run) && {
    const std::string& name = in.result_name();
    if (measure_.is_direction())
        return with_directions(points, name, std::move(columns_[0]), std::move(columns_[1]),
                               std::move(columns_[2]), plain_number);
    remark_weighed_mean(columns_[0], weights_, measure_.dimension(), in.units(), run);
    return FieldOnPoints{points.with_field({name, std::move(columns_[0]), measure_.dimension()}), name};
}

std::vector<Field> with_number(std::vector<Field> fields, Field number) {
    std::erase_if(fields, [&](const Field& field) { return field.name == number.name; });
    fields.push_back(std::move(number));
    return fields;
}

void remark_weighed_mean(std::span<const double> numbers, std::span<const double> weights,
                         Dimension dimension, const Units& units, const Run& run) {
    Sum area, first;
    const auto counts = [&](std::size_t at) { return std::isfinite(numbers[at]) && weights[at] > 0; };
    for (std::size_t at = 0; at < numbers.size(); ++at)
        if (counts(at)) {
            area.add(weights[at]);
            first.add(weights[at] * numbers[at]);
        }
    if (!(area.value() > 0)) return;
    const double mean = first.value() / area.value();
    Sum second;
    for (std::size_t at = 0; at < numbers.size(); ++at)
        if (counts(at)) second.add(weights[at] * (numbers[at] - mean) * (numbers[at] - mean));
    const double deviation = std::sqrt(second.value() / area.value());
    const auto text = [&](double number) { return quantity_text({number, dimension}, units, 3); };
    run.remark("Weighed by area its mean is " + text(without_rounding(mean, deviation)) +
               ", its standard deviation " + text(without_rounding(deviation, std::abs(mean))) + ".");
}

}  // namespace plume
