#include "core/exchange/kernel_boundary.hpp"

#include <BRepTools.hxx>
#include <BRepTools_WireExplorer.hxx>
#include <BRep_Tool.hxx>
#include <Geom_BSplineSurface.hxx>
#include <Standard_Failure.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <TopoDS_Vertex.hxx>
#include <TopoDS_Wire.hxx>
#include <algorithm>

#include "core/readers/kernel/kernel_splines.hpp"

namespace plume {
namespace {

std::uint32_t number_of(const TopTools_IndexedMapOfShape& shapes, const TopoDS_Shape& shape) {
    return static_cast<std::uint32_t>(shapes.FindIndex(shape) - 1);
}

class BoundaryReader {
public:
    explicit BoundaryReader(const TopoDS_Shape& shape) : shape_(shape) {
        TopExp::MapShapes(shape, TopAbs_VERTEX, vertices_);
        TopTools_IndexedMapOfShape edges;
        TopExp::MapShapes(shape, TopAbs_EDGE, edges);
        for (int at = 1; at <= edges.Extent(); ++at)
            if (!BRep_Tool::Degenerated(TopoDS::Edge(edges(at)))) edges_.Add(edges(at));
    }

    ExactBoundary read(bool closed) const {
        ExactBoundary boundary;
        boundary.closed = closed;
        for (int at = 1; at <= vertices_.Extent(); ++at) {
            const gp_Pnt place = BRep_Tool::Pnt(TopoDS::Vertex(vertices_(at)));
            boundary.vertices.push_back({place.X(), place.Y(), place.Z()});
        }
        for (int at = 1; at <= edges_.Extent(); ++at)
            boundary.edges.push_back(edge_of(TopoDS::Edge(edges_(at).Oriented(TopAbs_FORWARD))));
        for (TopExp_Explorer each(shape_, TopAbs_FACE); each.More(); each.Next())
            boundary.faces.push_back(face_of(TopoDS::Face(each.Current())));
        return boundary;
    }

private:
    BoundaryEdge edge_of(const TopoDS_Edge& edge) const {
        return {number_of(vertices_, TopExp::FirstVertex(edge)),
                number_of(vertices_, TopExp::LastVertex(edge)), curve_of(spline_along(edge))};
    }

    BoundaryFace face_of(const TopoDS_Face& placed) const {
        const TopoDS_Face face = TopoDS::Face(placed.Oriented(TopAbs_FORWARD));
        const Handle(Geom_BSplineSurface) surface =
            Handle(Geom_BSplineSurface)::DownCast(BRep_Tool::Surface(face)->Copy());
        if (surface.IsNull()) throw Standard_Failure("a surface that is no spline");
        BoundaryFace made{patch_of(surface), placed.Orientation() != TopAbs_REVERSED, {}};
        const TopoDS_Wire outer = BRepTools::OuterWire(face);
        for (TopExp_Explorer each(face, TopAbs_WIRE); each.More(); each.Next()) {
            const bool outermost = each.Current().IsSame(outer);
            made.loops.insert(outermost ? made.loops.begin() : made.loops.end(),
                              loop_of(TopoDS::Wire(each.Current()), face, made.along_patch));
        }
        return made;
    }

    std::vector<BoundaryUse> loop_of(const TopoDS_Wire& wire, const TopoDS_Face& face,
                                     bool along_patch) const {
        std::vector<BoundaryUse> uses;
        for (BRepTools_WireExplorer each(wire, face); each.More(); each.Next())
            if (edges_.Contains(each.Current()))
                uses.push_back(
                    {number_of(edges_, each.Current()), each.Current().Orientation() != TopAbs_REVERSED});
        if (uses.empty()) throw Standard_Failure("a loop without edges");
        if (along_patch) return uses;
        std::ranges::reverse(uses);
        for (BoundaryUse& use : uses)
            use.forwards = !use.forwards;
        return uses;
    }

    const TopoDS_Shape& shape_;
    TopTools_IndexedMapOfShape vertices_, edges_;
};

}  // namespace

ExactBoundary boundary_of(const TopoDS_Shape& shape, bool closed) {
    return BoundaryReader(shape).read(closed);
}

}  // namespace plume
