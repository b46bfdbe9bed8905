#pragma once
// Lines of an IFC file (ISO 10303-21, clear text encoding): instances, each with a number of its own.

#include <string>
#include <string_view>
#include <vector>

#include "core/base/file.hpp"
#include "core/base/hash.hpp"
#include "core/data/vec3.hpp"

namespace plume {

// "#12", how one instance names another.
struct IfcRef {
    std::size_t number = 0;
    std::string text() const { return '#' + std::to_string(number); }
};

// A number as the encoding has it: "1.", "0.25", "1.E-05".
std::string ifc_number(double value);
// In quotes; what is not plain ASCII as \X2\…\X0\ (6.4.3).
std::string ifc_string(const std::string& utf8);
// 128 bits in 22 characters (buildingSMART, IFC GUID).
std::string ifc_guid(const Hash& identity);
std::string ifc_list(const std::vector<IfcRef>& references);
std::string ifc_list(const std::vector<double>& numbers);
std::string ifc_list(const std::vector<int>& counts);
std::string ifc_list(Vec3 place);

class IfcLines {
public:
    explicit IfcLines(const ByteSink& sink) : sink_(sink) {}
    // "IFCDIRECTION", "(0.,0.,1.)"
    IfcRef add(std::string_view entity, const std::string& attributes);
    IfcRef point(Vec3 place);
    IfcRef direction(Vec3 way);
    IfcRef placement(IfcRef origin, Vec3 up, Vec3 along);
    void flush();

private:
    const ByteSink& sink_;
    std::string pending_;
    std::size_t count_ = 0;
};

}  // namespace plume
