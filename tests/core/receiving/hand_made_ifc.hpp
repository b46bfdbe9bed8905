#pragma once
// IFC files as somebody else writes them, for tests: small, by hand, and not by our own writer.

#include <string>
#include <vector>

namespace plume::test {

// A part whose shape is given by instances of its own; "@" in them stands for the number they begin at.
struct HandMadePart {
    std::string identity;  // 22 characters
    std::string name;
    std::string entity = "IFCWALL";
    std::vector<std::string> shape = {};  // the first of them is the item
    std::string representation = "Body";
    std::string storey = "Ground";  // or "Loft"
    std::string material = {};
};

// `prefix`: of the metre, "$" or ".MILLI.". Parts are placed at (10, 20, 0) of the unit, turned by 90
// degrees.
std::string hand_made_ifc(const std::vector<HandMadePart>& parts, const std::string& prefix = "$");

// A box of these sides, a corner at the origin, as triangles; as an outline pulled up; as a faceted body.
std::vector<std::string> box_of_triangles(double x, double y, double z);
std::vector<std::string> pulled_rectangle(double x, double y, double z);
std::vector<std::string> faceted_box(double x, double y, double z);

// "part" and a number, as 22 characters.
std::string identity_number(int number);

}  // namespace plume::test
