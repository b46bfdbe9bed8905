#pragma once
// What is measured on surfaces at their places: the slots, and the numbers.

#include <optional>

#include "core/geometry/surfaces/bending.hpp"
#include "core/study/step_kind.hpp"

namespace plume {

// Behind "Measure {what} of ...": what slopes and facings are against.
inline constexpr const char* measured_against_words =
    "[what=slope,facing| against {towards}][what=slope,facing&towards=up,place| of {placement}]";
std::vector<Word> surface_measures();
// The slots `towards` and `placement`, behind those given.
std::vector<SlotSpec> with_measured_against(std::vector<SlotSpec> slots);

class SurfaceMeasure {
public:
    // By the slots of a step.
    explicit SurfaceMeasure(const Inputs& in);

    // It is a direction, not a number.
    bool is_direction() const { return what_ == What::along_most || what_ == What::along_least; }
    Vec3 direction(const Bending& bending) const;
    Dimension dimension() const;
    // Not a number where the surface stands still.
    double number(const Bending& bending, Vec3 place) const;

private:
    enum class What { bending, along_most, along_least, slope, facing };
    What what_ = What::bending;
    BendingNumber bending_ = BendingNumber::mean;
    Vec3 direction_;
    std::optional<Vec3> place_;
};

// Makes of measured places a result on the points: numbers in hand, or directions.
class MeasuredPlaces {
public:
    MeasuredPlaces(SurfaceMeasure measure, std::size_t count);

    // Each of its own index; may be called by many threads.
    void set(std::size_t index, const Bending& bending, Vec3 place, double weight);
    void set_unknown(std::size_t index);
    // Remarks the mean that is weighed by area.
    Value on(const PointLattice& points, const Inputs& in, const Run& run) &&;
    Doubles take_numbers() && { return std::move(columns_[0]); }

private:
    SurfaceMeasure measure_;
    std::array<Doubles, 3> columns_;
    Doubles weights_;
};

// With a number more, which takes the place of one of its name.
std::vector<Field> with_number(std::vector<Field> fields, Field number);

// "Weighed by area its mean is 0.2 1/m, its standard deviation 0.1 1/m." Nothing where no number is finite.
void remark_weighed_mean(std::span<const double> numbers, std::span<const double> weights,
                         Dimension dimension, const Units& units, const Run& run);

}  // namespace plume
