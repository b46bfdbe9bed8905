#include "core/exchange/kernel_shapes.hpp"

#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakePolygon.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepBuilderAPI_Sewing.hxx>
#include <BRepLib.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <Geom2dConvert_BSplineCurveToBezierCurve.hxx>
#include <Geom2d_BSplineCurve.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Geom_BSplineSurface.hxx>
#include <Geom_Plane.hxx>
#include <Precision.hxx>
#include <ShapeFix_Face.hxx>
#include <TColStd_Array1OfInteger.hxx>
#include <TColStd_Array1OfReal.hxx>
#include <TColStd_Array2OfReal.hxx>
#include <TColgp_Array1OfPnt.hxx>
#include <TColgp_Array1OfPnt2d.hxx>
#include <TColgp_Array2OfPnt.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <cmath>
#include <map>
#include <span>

#include "core/exchange/distinct_knots.hpp"
#include "core/geometry/measures/outline_area.hpp"

namespace plume {
namespace {

gp_Pnt point_at(Vec3 place, double scale) {
    return {place.x * scale, place.y * scale, place.z * scale};
}

// The kernel takes no end more than degree + 1 times.
struct Knots : DistinctKnots {
    explicit Knots(const SplineBasis& basis) : DistinctKnots(basis) {
        times.front() = std::min(times.front(), basis.degree + 1);
        times.back() = std::min(times.back(), basis.degree + 1);
    }
    TColStd_Array1OfReal places() const {
        TColStd_Array1OfReal all(1, static_cast<int>(at.size()));
        for (int index = 1; index <= all.Length(); ++index)
            all(index) = at[static_cast<std::size_t>(index - 1)];
        return all;
    }
    TColStd_Array1OfInteger multiplicities() const {
        TColStd_Array1OfInteger all(1, static_cast<int>(times.size()));
        for (int index = 1; index <= all.Length(); ++index)
            all(index) = times[static_cast<std::size_t>(index - 1)];
        return all;
    }
};

Handle(Geom_BSplineCurve) spline(const SplineCurve& curve, double scale) {
    const Knots knots(curve.basis());
    const int count = static_cast<int>(curve.x().size());
    TColgp_Array1OfPnt poles(1, count);
    TColStd_Array1OfReal weights(1, count);
    for (int pole = 1; pole <= count; ++pole) {
        poles(pole) = point_at(curve.pole(static_cast<std::size_t>(pole - 1)), scale);
        weights(pole) = curve.weight(static_cast<std::size_t>(pole - 1));
    }
    if (!curve.rational())
        return new Geom_BSplineCurve(poles, knots.places(), knots.multiplicities(), curve.basis().degree);
    return new Geom_BSplineCurve(poles, weights, knots.places(), knots.multiplicities(),
                                 curve.basis().degree);
}

Handle(Geom2d_BSplineCurve) flat_spline(const SplineCurve& trim) {
    const Knots knots(trim.basis());
    const int count = static_cast<int>(trim.x().size());
    TColgp_Array1OfPnt2d poles(1, count);
    TColStd_Array1OfReal weights(1, count);
    for (int pole = 1; pole <= count; ++pole) {
        const Vec3 at = trim.pole(static_cast<std::size_t>(pole - 1));
        poles(pole) = gp_Pnt2d(at.x, at.y);
        weights(pole) = trim.weight(static_cast<std::size_t>(pole - 1));
    }
    return new Geom2d_BSplineCurve(poles, weights, knots.places(), knots.multiplicities(),
                                   trim.basis().degree);
}

Handle(Geom_BSplineSurface) spline(const SplinePatch& patch, double scale) {
    const Knots u(patch.u()), v(patch.v());
    const int columns = static_cast<int>(patch.u().pole_count()),
              rows = static_cast<int>(patch.v().pole_count());
    TColgp_Array2OfPnt poles(1, columns, 1, rows);
    TColStd_Array2OfReal weights(1, columns, 1, rows);
    for (int row = 1; row <= rows; ++row)
        for (int column = 1; column <= columns; ++column) {
            const std::size_t at = static_cast<std::size_t>(column - 1) +
                                   patch.u().pole_count() * static_cast<std::size_t>(row - 1);
            poles(column, row) = point_at({patch.x()[at], patch.y()[at], patch.z()[at]}, scale);
            weights(column, row) = patch.rational() ? patch.weights()[at] : 1;
        }
    if (!patch.rational())
        return new Geom_BSplineSurface(poles, u.places(), v.places(), u.multiplicities(), v.multiplicities(),
                                       patch.u().degree, patch.v().degree);
    return new Geom_BSplineSurface(poles, weights, u.places(), v.places(), u.multiplicities(),
                                   v.multiplicities(), patch.u().degree, patch.v().degree);
}

// The corners of a trim end its edges: what is smooth by itself is one.
std::vector<double> corners_of(const SplineBasis& basis) {
    const Knots knots(basis);
    std::vector<double> corners;
    for (std::size_t at = 0; at < knots.at.size(); ++at)
        if (at == 0 || at + 1 == knots.at.size() || knots.times[at] >= basis.degree)
            corners.push_back(knots.at[at]);
    return corners;
}

TopoDS_Wire wire_of(const SplineCurve& trim, const Handle(Geom_Surface) & surface) {
    const Handle(Geom2d_BSplineCurve) whole = flat_spline(trim);
    const std::vector<double> corners = corners_of(trim.basis());
    TopTools_ListOfShape edges;
    for (std::size_t at = 0; at + 1 < corners.size(); ++at) {
        const Handle(Geom2d_BSplineCurve) piece = Handle(Geom2d_BSplineCurve)::DownCast(whole->Copy());
        piece->Segment(corners[at], corners[at + 1]);
        const TopoDS_Edge edge = BRepBuilderAPI_MakeEdge(piece, surface).Edge();
        BRepLib::BuildCurve3d(edge, Precision::Confusion());
        edges.Append(edge);
    }
    BRepBuilderAPI_MakeWire wire;
    wire.Add(edges);
    return wire.Wire();
}

TopoDS_Face face_of(const ExactFace& face, double scale) {
    const Handle(Geom_BSplineSurface) surface = spline(face.patch, scale);
    if (face.trims.empty()) return BRepBuilderAPI_MakeFace(surface, Precision::Confusion()).Face();
    BRepBuilderAPI_MakeFace made(surface, wire_of(face.trims.front(), surface), true);
    for (std::size_t trim = 1; trim < face.trims.size(); ++trim)
        made.Add(wire_of(face.trims[trim], surface));
    // Which side of each loop is there follows from how they lie in each other.
    ShapeFix_Face fix(made.Face());
    fix.FixOrientation();
    return fix.Face();
}

TopoDS_Shape solid_of(const TopoDS_Shell& shell) {
    BRep_Builder builder;
    TopoDS_Solid solid;
    builder.MakeSolid(solid);
    builder.Add(solid, shell);
    BRepLib::OrientClosedSolid(solid);
    return solid;
}

std::size_t count_of(const TopoDS_Shape& shape, TopAbs_ShapeEnum kind) {
    std::size_t count = 0;
    for (TopExp_Explorer each(shape, kind); each.More(); each.Next())
        ++count;
    return count;
}

// Planes over vertices and edges that neighbours share.
class Facets {
public:
    Facets(const Mesh& mesh, double scale) : mesh_(mesh), scale_(scale), vertices_(mesh.vertex_count()) {}

    TopoDS_Shell shell() {
        BRep_Builder builder;
        TopoDS_Shell shell;
        builder.MakeShell(shell);
        for (std::size_t face = 0; face < mesh_.face_count(); ++face)
            for (const std::vector<std::uint32_t>& polygon : flat_polygons(corners_apart(face))) {
                const TopoDS_Face made = facet(polygon);
                if (made.IsNull()) continue;
                builder.Add(shell, made);
                ++count_;
            }
        closed_ = count_ > 0;
        for (const auto& [ends, edge] : edges_)
            closed_ = closed_ && edge.uses == 2;
        shell.Closed(closed_);
        return shell;
    }
    bool closed() const { return closed_; }
    std::size_t count() const { return count_; }

private:
    struct Edge {
        TopoDS_Edge edge;
        int uses = 0;
    };

    Vec3 area_of(std::span<const std::uint32_t> polygon) const {
        std::vector<Vec3> places;
        for (const std::uint32_t corner : polygon)
            places.push_back(mesh_.vertex(corner));
        return area_vector(places);
    }

    // The kernel has no edges between vertices at one place.
    std::vector<std::uint32_t> corners_apart(std::size_t face) const {
        std::vector<std::uint32_t> apart;
        const auto at_one_place = [&](std::uint32_t a, std::uint32_t b) {
            return length(mesh_.vertex(a) - mesh_.vertex(b)) * scale_ <= 2 * Precision::Confusion();
        };
        for (const std::uint32_t corner : mesh_.face(face))
            if (apart.empty() || !at_one_place(apart.back(), corner)) apart.push_back(corner);
        while (apart.size() > 1 && at_one_place(apart.front(), apart.back()))
            apart.pop_back();
        return apart;
    }

    std::vector<std::vector<std::uint32_t>> flat_polygons(const std::vector<std::uint32_t>& corners) const {
        if (corners.size() < 3) return {};
        const Vec3 area = area_of(corners);
        const double size = std::sqrt(length(area));
        const Vec3 normal = unit_or_zero(area);
        bool flat = true;
        for (const std::uint32_t corner : corners)
            flat =
                flat && std::abs(dot(mesh_.vertex(corner) - mesh_.vertex(corners[0]), normal)) <= 1e-9 * size;
        if (flat) return {corners};
        std::vector<std::vector<std::uint32_t>> triangles;
        for (std::size_t at = 1; at + 1 < corners.size(); ++at)
            triangles.push_back({corners[0], corners[at], corners[at + 1]});
        return triangles;
    }

    const TopoDS_Vertex& vertex(std::uint32_t index) {
        if (vertices_[index].IsNull())
            vertices_[index] = BRepBuilderAPI_MakeVertex(point_at(mesh_.vertex(index), scale_)).Vertex();
        return vertices_[index];
    }
    TopoDS_Shape edge(std::uint32_t from, std::uint32_t to) {
        Edge& known = edges_[std::minmax(from, to)];
        if (known.edge.IsNull()) {
            const auto [low, high] = std::minmax(from, to);
            known.edge = BRepBuilderAPI_MakeEdge(vertex(low), vertex(high)).Edge();
        }
        ++known.uses;
        return from < to ? known.edge : known.edge.Reversed();
    }
    TopoDS_Face facet(const std::vector<std::uint32_t>& polygon) {
        const Vec3 normal = unit_or_zero(area_of(polygon));
        if (normal == Vec3{}) return {};
        BRep_Builder builder;
        TopoDS_Wire wire;
        builder.MakeWire(wire);
        for (std::size_t at = 0; at < polygon.size(); ++at)
            builder.Add(wire, edge(polygon[at], polygon[(at + 1) % polygon.size()]));
        wire.Closed(true);
        const Handle(Geom_Plane) plane =
            new Geom_Plane(point_at(mesh_.vertex(polygon[0]), scale_), gp_Dir(normal.x, normal.y, normal.z));
        return BRepBuilderAPI_MakeFace(plane, wire, false).Face();
    }

    const Mesh& mesh_;
    double scale_;
    std::vector<TopoDS_Vertex> vertices_;
    std::map<std::pair<std::uint32_t, std::uint32_t>, Edge> edges_;
    std::size_t count_ = 0;
    bool closed_ = false;
};

}  // namespace

KernelShape KernelShapes::of(Vec3 point) const {
    return {BRepBuilderAPI_MakeVertex(point_at(point, scale_)).Vertex(), KernelKind::point};
}

KernelShape KernelShapes::of(const SplineCurve& curve) const {
    if (curve.basis().degree > 1)
        return {BRepBuilderAPI_MakeEdge(spline(curve, scale_)).Edge(), KernelKind::curve};
    const std::size_t count = curve.x().size();
    if (count == 2)
        return {
            BRepBuilderAPI_MakeEdge(point_at(curve.pole(0), scale_), point_at(curve.pole(1), scale_)).Edge(),
            KernelKind::curve};
    BRepBuilderAPI_MakePolygon polygon;
    const bool closes = length(curve.pole(0) - curve.pole(count - 1)) == 0;
    for (std::size_t pole = 0; pole + (closes ? 1 : 0) < count; ++pole)
        polygon.Add(point_at(curve.pole(pole), scale_));
    if (closes) polygon.Close();
    return {polygon.Wire(), KernelKind::curve};
}

KernelShape KernelShapes::of(const ExactFace& face) const {
    return {face_of(face, scale_), KernelKind::face};
}

KernelShape KernelShapes::of(const ExactBody& body) const {
    Box box;
    BRepBuilderAPI_Sewing sewing;
    for (const ExactFace& face : body.faces) {
        for (std::size_t pole = 0; pole < face.patch.x().size(); ++pole)
            box.include(Vec3{face.patch.x()[pole], face.patch.y()[pole], face.patch.z()[pole]});
        sewing.Add(face_of(face, scale_));
    }
    sewing.SetTolerance(std::max(1e-6 * box.diagonal(), 2 * body.edges_within) * scale_);
    sewing.Perform();
    const TopoDS_Shape sewed = sewing.SewedShape();
    const bool one = count_of(sewed, TopAbs_SHELL) == 1 && sewing.NbFreeEdges() == 0;
    if (one)
        return {solid_of(TopoDS::Shell(TopExp_Explorer(sewed, TopAbs_SHELL).Current())), KernelKind::body};
    return {sewed, KernelKind::face, 0, true};
}

KernelShape KernelShapes::of(const Mesh& mesh) const {
    Facets facets(mesh, scale_);
    const TopoDS_Shell shell = facets.shell();
    return {facets.closed() ? solid_of(shell) : TopoDS_Shape(shell),
            facets.closed() ? KernelKind::body : KernelKind::facets, facets.count()};
}

}  // namespace plume
