#pragma once
// The library that reads IFC, as far as it is used, and what its values are in ours.

#include <ifcpp/IFC4/include/IfcCartesianPoint.h>
#include <ifcpp/IFC4/include/IfcDirection.h>
#include <ifcpp/IFC4/include/IfcLengthMeasure.h>
#include <ifcpp/IFC4/include/IfcReal.h>
#include <ifcpp/model/BuildingModel.h>
#include <ifcpp/model/BuildingObject.h>

#include <string>

#include "core/data/vec3.hpp"

namespace plume {

template <class To, class From>
std::shared_ptr<To> as(const std::shared_ptr<From>& from) {
    return std::dynamic_pointer_cast<To>(from);
}

std::string utf8_of(const std::wstring& wide);
// Of what may not be there.
template <class Text>
std::string text_of(const std::shared_ptr<Text>& text) {
    return text ? utf8_of(text->m_value) : std::string();
}

template <class Numbers>
Vec3 vec3_of(const Numbers& numbers) {
    Vec3 made;
    double* const into[] = {&made.x, &made.y, &made.z};
    for (std::size_t at = 0; at < numbers.size() && at < 3; ++at)
        if (numbers[at]) *into[at] = numbers[at]->m_value;
    return made;
}
inline Vec3 vec3_of(const std::shared_ptr<IfcCartesianPoint>& point) {
    return point ? vec3_of(point->m_Coordinates) : Vec3{};
}

}  // namespace plume
