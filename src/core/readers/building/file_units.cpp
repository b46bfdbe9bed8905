#include "core/readers/building/file_units.hpp"

#include <ifcpp/IFC4/include/IfcConversionBasedUnit.h>
#include <ifcpp/IFC4/include/IfcMeasureWithUnit.h>
#include <ifcpp/IFC4/include/IfcSIPrefix.h>
#include <ifcpp/IFC4/include/IfcSIUnit.h>
#include <ifcpp/IFC4/include/IfcUnitAssignment.h>
#include <ifcpp/IFC4/include/IfcUnitEnum.h>

#include <cmath>

#include "core/readers/building/values.hpp"

namespace plume {
namespace {

// In the order of the library's prefixes, from exa to atto.
double factor_of(const IfcSIPrefix& prefix) {
    constexpr double factors[] = {1e18, 1e15, 1e12, 1e9,  1e6,  1e3,   1e2,   1e1,
                                  1e-1, 1e-2, 1e-3, 1e-6, 1e-9, 1e-12, 1e-15, 1e-18};
    return factors[prefix.m_enum];
}

// Nothing where it is neither of the SI nor made of such.
double factor_of(const std::shared_ptr<IfcUnit>& unit, int power) {
    constexpr double unknown = 1;
    if (const auto si = as<IfcSIUnit>(unit))
        return si->m_Prefix ? std::pow(factor_of(*si->m_Prefix), power) : 1;
    const auto made = as<IfcConversionBasedUnit>(unit);
    if (!made || !made->m_ConversionFactor) return unknown;
    const auto number = number_in(made->m_ConversionFactor->m_ValueComponent);
    const auto base = as<IfcSIUnit>(made->m_ConversionFactor->m_UnitComponent);
    if (!number || !base || !(number->value > 0)) return unknown;
    return number->value * factor_of(made->m_ConversionFactor->m_UnitComponent, power);
}

}  // namespace

double FileUnits::factor(Dimension dimension) const {
    if (dimension == a_length) return length;
    if (dimension == an_angle) return angle;
    if (dimension == Dimension{2, 0}) return area;
    return dimension == Dimension{3, 0} ? volume : 1;
}

FileUnits units_of(const BuildingModel& model) {
    FileUnits units;
    for (const auto& [number, entity] : model.getMapIfcEntities()) {
        const auto assignment = as<IfcUnitAssignment>(entity);
        if (!assignment) continue;
        for (const auto& unit : assignment->m_Units) {
            const auto named = as<IfcNamedUnit>(unit);
            if (!named || !named->m_UnitType) continue;
            switch (named->m_UnitType->m_enum) {
                case IfcUnitEnum::ENUM_LENGTHUNIT:
                    units.length = factor_of(unit, 1);
                    break;
                case IfcUnitEnum::ENUM_AREAUNIT:
                    units.area = factor_of(unit, 2);
                    break;
                case IfcUnitEnum::ENUM_VOLUMEUNIT:
                    units.volume = factor_of(unit, 3);
                    break;
                case IfcUnitEnum::ENUM_PLANEANGLEUNIT:
                    units.angle = factor_of(unit, 1);
                    break;
                default:
                    break;
            }
        }
    }
    return units;
}

}  // namespace plume
