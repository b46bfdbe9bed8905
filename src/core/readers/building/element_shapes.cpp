#include "core/readers/building/element_shapes.hpp"

#include <ifcpp/IFC4/include/IfcAdvancedBrep.h>
#include <ifcpp/IFC4/include/IfcArbitraryClosedProfileDef.h>
#include <ifcpp/IFC4/include/IfcArbitraryProfileDefWithVoids.h>
#include <ifcpp/IFC4/include/IfcAxis2Placement3D.h>
#include <ifcpp/IFC4/include/IfcBoolean.h>
#include <ifcpp/IFC4/include/IfcCartesianPointList2D.h>
#include <ifcpp/IFC4/include/IfcCartesianPointList3D.h>
#include <ifcpp/IFC4/include/IfcClosedShell.h>
#include <ifcpp/IFC4/include/IfcExtrudedAreaSolid.h>
#include <ifcpp/IFC4/include/IfcFace.h>
#include <ifcpp/IFC4/include/IfcFaceBound.h>
#include <ifcpp/IFC4/include/IfcFacetedBrep.h>
#include <ifcpp/IFC4/include/IfcIndexedPolyCurve.h>
#include <ifcpp/IFC4/include/IfcIndexedPolygonalFace.h>
#include <ifcpp/IFC4/include/IfcLabel.h>
#include <ifcpp/IFC4/include/IfcLocalPlacement.h>
#include <ifcpp/IFC4/include/IfcPolyLoop.h>
#include <ifcpp/IFC4/include/IfcPolygonalFaceSet.h>
#include <ifcpp/IFC4/include/IfcPolyline.h>
#include <ifcpp/IFC4/include/IfcPositiveInteger.h>
#include <ifcpp/IFC4/include/IfcPositiveLengthMeasure.h>
#include <ifcpp/IFC4/include/IfcProduct.h>
#include <ifcpp/IFC4/include/IfcProductRepresentation.h>
#include <ifcpp/IFC4/include/IfcRectangleProfileDef.h>
#include <ifcpp/IFC4/include/IfcRepresentation.h>
#include <ifcpp/IFC4/include/IfcShellBasedSurfaceModel.h>
#include <ifcpp/IFC4/include/IfcTriangulatedFaceSet.h>

#include <algorithm>

namespace plume {
namespace {

constexpr int deepest_placement = 64;

Vec3 direction_of(const std::shared_ptr<IfcDirection>& direction, Vec3 instead) {
    const Vec3 told = direction ? unit_or_zero(vec3_of(direction->m_DirectionRatios)) : Vec3{};
    return length(told) > 0 ? told : instead;
}

// ISO 10303-42, build_axes: the second direction is made square to the first.
ElementFrame frame_of(const std::shared_ptr<IfcAxis2Placement3D>& placement) {
    ElementFrame frame;
    if (!placement) return frame;
    frame.origin = vec3_of(as<IfcCartesianPoint>(placement->m_Location));
    frame.z = direction_of(placement->m_Axis, {0, 0, 1});
    const Vec3 told = direction_of(placement->m_RefDirection, {1, 0, 0});
    const Vec3 square = unit_or_zero(told - frame.z * dot(told, frame.z));
    const Vec3 other = std::abs(frame.z.x) < 0.9 ? Vec3{1, 0, 0} : Vec3{0, 0, 1};
    frame.x = length(square) > 0 ? square : unit_or_zero(other - frame.z * dot(other, frame.z));
    frame.y = cross(frame.z, frame.x);
    return frame;
}

ElementFrame within(const ElementFrame& outer, const ElementFrame& inner) {
    return {outer.place(inner.origin), outer.direction(inner.x), outer.direction(inner.y),
            outer.direction(inner.z)};
}

ElementFrame frame_of(std::shared_ptr<IfcObjectPlacement> placement) {
    ElementFrame frame;
    for (int depth = 0; placement && depth < deepest_placement; ++depth) {
        const auto local = as<IfcLocalPlacement>(placement);
        if (!local) break;
        frame = within(frame_of(as<IfcAxis2Placement3D>(local->m_RelativePlacement)), frame);
        placement = local->m_PlacementRelTo;
    }
    return frame;
}

std::vector<Vec3> ring_of(const std::shared_ptr<IfcCurve>& curve) {
    std::vector<Vec3> ring;
    if (const auto indexed = as<IfcIndexedPolyCurve>(curve); indexed && indexed->m_Segments.empty()) {
        if (const auto flat = as<IfcCartesianPointList2D>(indexed->m_Points))
            for (const auto& place : flat->m_CoordList)
                ring.push_back(vec3_of(place));
    } else if (const auto line = as<IfcPolyline>(curve)) {
        for (const auto& point : line->m_Points)
            ring.push_back(vec3_of(point));
    }
    if (ring.size() > 1 && ring.front() == ring.back()) ring.pop_back();
    return ring;
}

std::optional<FlatOutline> outline_in(const std::shared_ptr<IfcProfileDef>& profile) {
    if (const auto square = as<IfcRectangleProfileDef>(profile)) {
        if (!square->m_XDim || !square->m_YDim || square->m_Position) return {};
        const double x = square->m_XDim->m_value / 2, y = square->m_YDim->m_value / 2;
        return FlatOutline{{{-x, -y, 0}, {x, -y, 0}, {x, y, 0}, {-x, y, 0}}, {}};
    }
    const auto closed = as<IfcArbitraryClosedProfileDef>(profile);
    if (!closed) return {};
    FlatOutline outline{ring_of(closed->m_OuterCurve), {}};
    if (const auto hollow = as<IfcArbitraryProfileDefWithVoids>(profile))
        for (const auto& inner : hollow->m_InnerCurves)
            outline.holes.push_back(ring_of(inner));
    const auto too_few = [](const std::vector<Vec3>& ring) { return ring.size() < 3; };
    if (too_few(outline.outer) || std::ranges::any_of(outline.holes, too_few)) return {};
    return outline;
}

// "Body", else "Axis", else the first there is.
std::shared_ptr<IfcRepresentation> shown_of(const IfcProduct& product) {
    if (!product.m_Representation) return {};
    const auto& all = product.m_Representation->m_Representations;
    for (const char* wanted : {"Body", "Axis"})
        for (const auto& one : all)
            if (one && text_of(one->m_RepresentationIdentifier) == wanted) return one;
    return all.empty() ? nullptr : all.front();
}

std::vector<std::uint32_t> corners_of(const std::vector<std::shared_ptr<IfcPositiveInteger>>& numbers) {
    std::vector<std::uint32_t> corners;
    for (const auto& number : numbers)
        corners.push_back(number ? static_cast<std::uint32_t>(number->m_value - 1) : 0xffffffffU);
    return corners;
}

}  // namespace

void ElementShapes::take(const IfcProduct& product, BuildingElement& element, std::vector<int>& items) {
    const auto shown = shown_of(product);
    if (!shown) return;
    const ElementFrame frame = frame_of(product.m_ObjectPlacement);
    parts_ = {};
    x_.clear();
    y_.clear();
    z_.clear();
    for (const auto& item : shown->m_Items) {
        if (!item) continue;
        items.push_back(item->m_entity_id);
        take_item(item, frame, element);
    }
    if (parts_.first.size() < 2) return;
    parts_.x = Column(std::move(x_));
    parts_.y = Column(std::move(y_));
    parts_.z = Column(std::move(z_));
    if (Result<Mesh> mesh = Mesh::make(std::move(parts_)))
        element.facets = *std::move(mesh);
    else
        element.not_taken = "its facets, " + mesh.error().message;
    x_ = y_ = z_ = {};
}

void ElementShapes::take_item(const std::shared_ptr<IfcRepresentationItem>& item, const ElementFrame& frame,
                              BuildingElement& element) {
    if (take_facets(item, frame)) return;
    if (const auto solid = as<IfcExtrudedAreaSolid>(item); solid && take_prism(*solid, frame)) return;
    if (const auto line = as<IfcPolyline>(item); line && element.axis.empty()) {
        for (const auto& point : line->m_Points)
            element.axis.push_back(frame.place(vec3_of(point)) * metres_);
        return;
    }
    if (as<IfcAdvancedBrep>(item) || as<IfcShellBasedSurfaceModel>(item)) {
        if (element.curved.empty()) element.curved = "element " + std::to_string(curved_.size());
        element.frame = {frame.origin * metres_, frame.x, frame.y, frame.z};
        curved_[element.curved].insert(item->m_entity_id);
        return;
    }
    element.not_taken += (element.not_taken.empty() ? "" : ", ") + std::string(item->className());
}

bool ElementShapes::take_facets(const std::shared_ptr<IfcRepresentationItem>& item,
                                const ElementFrame& frame) {
    if (const auto body = as<IfcFacetedBrep>(item)) {
        if (!body->m_Outer) return false;
        std::map<int, std::uint32_t> known;  // faces share the points of their corners
        for (const auto& face : body->m_Outer->m_CfsFaces) {
            const auto bound = face && face->m_Bounds.size() == 1 ? face->m_Bounds.front() : nullptr;
            const auto loop = bound ? as<IfcPolyLoop>(bound->m_Bound) : nullptr;
            if (!loop) return false;
            std::vector<std::uint32_t> corners;
            for (const auto& point : loop->m_Polygon) {
                if (!point) return false;
                const auto [at, is_new] = known.try_emplace(point->m_entity_id, 0);
                if (is_new) at->second = add_place(frame.place(vec3_of(point)));
                corners.push_back(at->second);
            }
            if (bound->m_Orientation && !bound->m_Orientation->m_value) std::ranges::reverse(corners);
            add_face(corners);
        }
        return true;
    }
    const auto set = as<IfcTessellatedFaceSet>(item);
    if (!set || !set->m_Coordinates) return false;
    const auto first = static_cast<std::uint32_t>(x_.size());
    for (const auto& place : set->m_Coordinates->m_CoordList)
        add_place(frame.place(vec3_of(place)));
    const auto add = [&](std::vector<std::uint32_t> corners) {
        for (std::uint32_t& corner : corners)
            corner += first;
        add_face(corners);
    };
    if (const auto triangles = as<IfcTriangulatedFaceSet>(item))
        for (const auto& triangle : triangles->m_CoordIndex)
            add(corners_of(triangle));
    else if (const auto polygons = as<IfcPolygonalFaceSet>(item))
        for (const auto& polygon : polygons->m_Faces)
            if (polygon) add(corners_of(polygon->m_CoordIndex));
    return true;
}

bool ElementShapes::take_prism(const IfcExtrudedAreaSolid& solid, const ElementFrame& frame) {
    if (!solid.m_SweptArea || !solid.m_Depth || !solid.m_ExtrudedDirection) return false;
    const Result<FilledOutline>& outline = outline_of(solid.m_SweptArea);
    if (!outline) return false;
    const Vec3 along = direction_of(solid.m_ExtrudedDirection, {0, 0, 1}) * solid.m_Depth->m_value;
    const Result<Mesh> mesh = prism_mesh(*outline, along);
    if (!mesh) return false;
    add_mesh(*mesh, within(frame, frame_of(solid.m_Position)));
    return true;
}

const Result<FilledOutline>& ElementShapes::outline_of(const std::shared_ptr<IfcProfileDef>& profile) {
    const auto known = outlines_.find(profile->m_entity_id);
    if (known != outlines_.end()) return known->second;
    std::optional<FlatOutline> outline = outline_in(profile);
    Result<FilledOutline> made = outline ? filled(*std::move(outline), run_)
                                         : Error{ErrorCode::wrong_form, "", "is no outline of lines", ""};
    return outlines_.emplace(profile->m_entity_id, std::move(made)).first->second;
}

void ElementShapes::add_mesh(const Mesh& mesh, const ElementFrame& frame) {
    const auto first = static_cast<std::uint32_t>(x_.size());
    for (std::size_t vertex = 0; vertex < mesh.vertex_count(); ++vertex)
        add_place(frame.place(mesh.vertex(vertex)));
    for (std::size_t face = 0; face < mesh.face_count(); ++face) {
        std::vector<std::uint32_t> corners;
        for (const std::uint32_t corner : mesh.face(face))
            corners.push_back(first + corner);
        add_face(corners);
    }
}

std::uint32_t ElementShapes::add_place(Vec3 place) {
    x_.push_back(place.x * metres_);
    y_.push_back(place.y * metres_);
    z_.push_back(place.z * metres_);
    return static_cast<std::uint32_t>(x_.size() - 1);
}

void ElementShapes::add_face(const std::vector<std::uint32_t>& corners) {
    parts_.corners.insert(parts_.corners.end(), corners.begin(), corners.end());
    parts_.first.push_back(static_cast<std::uint32_t>(parts_.corners.size()));
}

}  // namespace plume
