#pragma once
// Shapes of elements as the library has them, in ours.

#include <map>
#include <set>

#include "core/readers/building/library.hpp"
#include "core/readers/building/prism_mesh.hpp"
#include "core/readers/building_file.hpp"

class IfcAxis2Placement;
class IfcExtrudedAreaSolid;
class IfcObjectPlacement;
class IfcProduct;
class IfcProfileDef;
class IfcRepresentationItem;

namespace plume {

// Origin and directions, in the file's unit.
struct ElementFrame {
    Vec3 origin, x{1, 0, 0}, y{0, 1, 0}, z{0, 0, 1};
    Vec3 place(Vec3 inside) const { return origin + direction(inside); }
    Vec3 direction(Vec3 inside) const { return x * inside.x + y * inside.y + z * inside.z; }
};

class ElementShapes {
public:
    ElementShapes(double metres_per_unit, const Run& run) : metres_(metres_per_unit), run_(run) {}

    // Fills in facets, axis, curved with its frame, and what is not taken. `items`: of the representation
    // that was used, by their numbers in the file.
    void take(const IfcProduct& product, BuildingElement& element, std::vector<int>& items);
    // Items that are curved, with the names their parts are to have.
    const std::map<std::string, std::set<int>>& curved() const { return curved_; }

private:
    void take_item(const std::shared_ptr<IfcRepresentationItem>& item, const ElementFrame& frame,
                   BuildingElement& element);
    bool take_facets(const std::shared_ptr<IfcRepresentationItem>& item, const ElementFrame& frame);
    bool take_prism(const IfcExtrudedAreaSolid& solid, const ElementFrame& frame);
    const Result<FilledOutline>& outline_of(const std::shared_ptr<IfcProfileDef>& profile);
    void add_mesh(const Mesh& mesh, const ElementFrame& frame);
    std::uint32_t add_place(Vec3 place);
    void add_face(const std::vector<std::uint32_t>& corners);

    double metres_;
    const Run& run_;
    Mesh::Parts parts_;  // of the element in hand
    Doubles x_, y_, z_;
    std::map<std::string, std::set<int>> curved_;
    std::map<int, Result<FilledOutline>> outlines_;  // bars of one section share it
};

}  // namespace plume
