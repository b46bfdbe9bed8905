#include "core/readers/building/values.hpp"

#include <ifcpp/IFC4/include/IfcAreaMeasure.h>
#include <ifcpp/IFC4/include/IfcBoolean.h>
#include <ifcpp/IFC4/include/IfcCountMeasure.h>
#include <ifcpp/IFC4/include/IfcIdentifier.h>
#include <ifcpp/IFC4/include/IfcInteger.h>
#include <ifcpp/IFC4/include/IfcLabel.h>
#include <ifcpp/IFC4/include/IfcPlaneAngleMeasure.h>
#include <ifcpp/IFC4/include/IfcRatioMeasure.h>
#include <ifcpp/IFC4/include/IfcText.h>
#include <ifcpp/IFC4/include/IfcVolumeMeasure.h>

namespace plume {
namespace {

template <class Measure>
bool take(const std::shared_ptr<IfcValue>& value, Dimension dimension, std::optional<Quantity>& into) {
    const auto found = as<Measure>(value);
    if (found) into = Quantity{static_cast<double>(found->m_value), dimension};
    return found != nullptr;
}

}  // namespace

std::optional<Quantity> number_in(const std::shared_ptr<IfcValue>& value) {
    std::optional<Quantity> number;
    if (take<IfcLengthMeasure>(value, a_length, number) || take<IfcAreaMeasure>(value, {2, 0}, number) ||
        take<IfcVolumeMeasure>(value, {3, 0}, number) ||
        take<IfcPlaneAngleMeasure>(value, an_angle, number) || take<IfcReal>(value, plain_number, number) ||
        take<IfcInteger>(value, plain_number, number) || take<IfcCountMeasure>(value, plain_number, number))
        return number;
    take<IfcRatioMeasure>(value, plain_number, number);
    return number;
}

std::string text_in(const std::shared_ptr<IfcValue>& value) {
    if (const auto label = as<IfcLabel>(value)) return text_of(label);
    if (const auto text = as<IfcText>(value)) return text_of(text);
    if (const auto identifier = as<IfcIdentifier>(value)) return text_of(identifier);
    if (const auto truth = as<IfcBoolean>(value)) return truth->m_value ? "yes" : "no";
    return value ? std::string("(") + value->className() + ")" : std::string();
}

}  // namespace plume
