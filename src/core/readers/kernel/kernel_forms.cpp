#include "core/readers/kernel/kernel_forms.hpp"

#include <BRepBuilderAPI_NurbsConvert.hxx>
#include <BRepMesh_IncrementalMesh.hxx>
#include <BRepTools.hxx>
#include <BRepTools_WireExplorer.hxx>
#include <BRep_Tool.hxx>
#include <Geom2dConvert.hxx>
#include <Geom2dConvert_ApproxCurve.hxx>
#include <Geom2d_TrimmedCurve.hxx>
#include <GeomConvert_ApproxCurve.hxx>
#include <Geom_BSplineSurface.hxx>
#include <Poly_Triangulation.hxx>
#include <Standard_Failure.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <TopoDS_Wire.hxx>
#include <cmath>

#include "core/base/text.hpp"
#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/solids/bodies.hpp"
#include "core/geometry/solids/body_mesh.hpp"
#include "core/geometry/surfaces/patch_edit.hpp"
#include "core/readers/kernel/kernel_splines.hpp"
#include "core/readers/welded_places.hpp"

namespace plume {
namespace {

template <class Spline>
Spline kept(Result<Spline> made) {
    if (!made) throw Standard_Failure(made.error().message.c_str());
    return *std::move(made);
}

// Of the size of what is looked at.
constexpr double hardly_apart = 1e-7;

// Curves composed with surfaces have degrees that ours have not: followed to a billionth of their size.
template <class Approximation, class Spline>
opencascade::handle<Spline> with_our_degree(const opencascade::handle<Spline>& spline) {
    constexpr int most = 9, lower = 8, pieces = 1000;
    if (spline->Degree() <= most) return spline;
    double reach = 0;
    for (int at = 2; at <= spline->NbPoles(); ++at)
        reach += spline->Pole(at).Distance(spline->Pole(at - 1));
    const Approximation approximation(spline, 1e-9 * reach, GeomAbs_C1, pieces, lower);
    if (!approximation.HasResult()) throw Standard_Failure("a curve of too high a degree");
    return approximation.Curve();
}

// The pieces of a loop over the parameters of a face, each where the one before ends.
std::vector<SplineCurve> loop_of(const TopoDS_Wire& wire, const TopoDS_Face& face) {
    std::vector<SplineCurve> pieces;
    for (BRepTools_WireExplorer each(wire, face); each.More(); each.Next()) {
        double from = 0, to = 0;
        const Handle(Geom2d_Curve) curve = BRep_Tool::CurveOnSurface(each.Current(), face, from, to);
        if (curve.IsNull()) throw Standard_Failure("an edge that is not on its face");
        const SplineCurve piece =
            kept(SplineCurve::make(flat_curve_of(with_our_degree<Geom2dConvert_ApproxCurve>(
                Geom2dConvert::CurveToBSplineCurve(new Geom2d_TrimmedCurve(curve, from, to))))));
        pieces.push_back(each.Current().Orientation() == TopAbs_REVERSED ? reversed(piece) : piece);
    }
    if (pieces.empty()) throw Standard_Failure("a loop without edges");
    return pieces;
}

Box box_of(const std::vector<SplineCurve>& pieces) {
    Box box;
    for (const SplineCurve& piece : pieces)
        box.include(poles_box(piece));
    return box;
}

// How far the poles of a patch reach across in a direction, where that is least.
double least_reach(const SplinePatch& patch, int direction) {
    const std::size_t columns = patch.u().pole_count(), rows = patch.v().pole_count();
    const auto pole = [&](std::size_t u, std::size_t v) {
        const std::size_t at = u + columns * v;
        return Vec3{patch.x()[at], patch.y()[at], patch.z()[at]};
    };
    const std::size_t lines = direction == 0 ? rows : columns, steps = direction == 0 ? columns : rows;
    double least = Box::infinite;
    for (std::size_t line = 0; line < lines; ++line) {
        double reach = 0;
        for (std::size_t step = 1; step < steps; ++step)
            reach += direction == 0 ? length(pole(step, line) - pole(step - 1, line))
                                    : length(pole(line, step) - pole(line, step - 1));
        if (reach > 0) least = std::min(least, reach);
    }
    return least;
}

// Shares of the parameters that are no further in space than edges may be from their faces.
Vec3 hardly_apart_on(const SplinePatch& patch, double tolerance) {
    const auto share = [&](int direction) {
        return std::max(hardly_apart, 4 * tolerance / least_reach(patch, direction));
    };
    return {share(0), share(1), 0};
}

// Whether a loop runs along the sides of its box and nowhere else.
bool is_rectangle(const std::vector<SplineCurve>& pieces, const Box& box, Vec3 within) {
    const double near_u = within.x * box.size().x, near_v = within.y * box.size().y;
    return std::ranges::all_of(pieces, [&](const SplineCurve& piece) {
        const Box of_piece = poles_box(piece);
        const bool at_u = of_piece.size().x <= near_u && (std::abs(of_piece.low.x - box.low.x) <= near_u ||
                                                          std::abs(of_piece.high.x - box.high.x) <= near_u);
        const bool at_v = of_piece.size().y <= near_v && (std::abs(of_piece.low.y - box.low.y) <= near_v ||
                                                          std::abs(of_piece.high.y - box.high.y) <= near_v);
        return at_u || at_v;
    });
}

SplinePatch cut_to(const SplinePatch& patch, int direction, double from, double to, double within) {
    const SplineBasis& basis = basis_along(patch, direction);
    const double slack = within * (basis.end() - basis.start());
    if (from <= basis.start() + slack && to >= basis.end() - slack) return patch;
    return part_of(patch, direction, std::max(from, basis.start()), std::min(to, basis.end()));
}

SplinePatch with_trims(const SplinePatch& patch, std::vector<SplineCurve> trims) {
    SplinePatch::Parts parts = patch.parts();
    parts.trims = std::move(trims);
    return kept(SplinePatch::make(std::move(parts)));
}

double widest_tolerance(const TopoDS_Shape& shape) {
    double widest = 0;
    for (TopExp_Explorer each(shape, TopAbs_EDGE); each.More(); each.Next())
        widest = std::max(widest, BRep_Tool::Tolerance(TopoDS::Edge(each.Current())));
    return widest;
}

// A face whose one loop is a rectangle of parameters is a patch by itself.
SplinePatch face_of(const TopoDS_Face& whole) {
    const TopoDS_Face face = TopoDS::Face(whole.Oriented(TopAbs_FORWARD));
    const Handle(Geom_BSplineSurface) surface =
        Handle(Geom_BSplineSurface)::DownCast(BRep_Tool::Surface(face)->Copy());
    if (surface.IsNull()) throw Standard_Failure("a surface that is no spline");
    SplinePatch patch = kept(SplinePatch::make(patch_of(surface)));
    const TopoDS_Wire outer = BRepTools::OuterWire(face);
    std::vector<SplineCurve> trims;
    if (!outer.IsNull()) {
        const std::vector<SplineCurve> pieces = loop_of(outer, face);
        const Box box = box_of(pieces);
        bool only = true;
        for (TopExp_Explorer each(face, TopAbs_WIRE); each.More(); each.Next()) {
            if (each.Current().IsSame(outer)) continue;
            only = false;
            trims.push_back(closed_up(end_to_end(loop_of(TopoDS::Wire(each.Current()), face))));
        }
        const Vec3 within = hardly_apart_on(patch, widest_tolerance(face));
        if (only && is_rectangle(pieces, box, within))
            patch =
                cut_to(cut_to(patch, 0, box.low.x, box.high.x, within.x), 1, box.low.y, box.high.y, within.y);
        else
            trims.insert(trims.begin(), closed_up(end_to_end(pieces)));
    }
    if (!trims.empty()) patch = with_trims(patch, std::move(trims));
    return whole.Orientation() == TopAbs_REVERSED ? plume::reversed(patch, 0) : patch;
}

SplineCurve curve_of(const TopoDS_Edge& edge) {
    const SplineCurve made = kept(
        SplineCurve::make(plume::curve_of(with_our_degree<GeomConvert_ApproxCurve>(spline_along(edge)))));
    return edge.Orientation() == TopAbs_REVERSED ? reversed(made) : made;
}

// Where its ends meet it is closed.
SplineCurve closed_where_it_is(const SplineCurve& curve) {
    const std::size_t count = curve.basis().pole_count();
    const double apart = length(curve.pole(count - 1) - curve.pole(0));
    return count > 3 && apart <= hardly_apart * poles_box(curve).diagonal() ? closed_up(curve) : curve;
}

SplineCurve curve_of(const TopoDS_Wire& wire) {
    std::vector<SplineCurve> pieces;
    for (BRepTools_WireExplorer each(wire); each.More(); each.Next())
        pieces.push_back(curve_of(each.Current()));
    if (pieces.empty()) throw Standard_Failure("a line without edges");
    return closed_where_it_is(pieces.size() == 1 ? pieces.front() : end_to_end(pieces));
}

// The kernel's triangles, a part a face; places along edges are the same from both sides but for rounding.
std::optional<Mesh> mesh_of(const TopoDS_Shape& shape, double size) {
    const BRepMesh_IncrementalMesh meshes_it(shape, 1e-4 * size, false, 0.2, false);
    const double grain = 1e-9 * size;
    WeldedPlaces<double> welded(1024);
    std::vector<Vec3> places;
    Mesh::Parts parts;
    for (TopExp_Explorer each(shape, TopAbs_FACE); each.More(); each.Next()) {
        TopLoc_Location location;
        const TopoDS_Face& face = TopoDS::Face(each.Current());
        const Handle(Poly_Triangulation) triangles = BRep_Tool::Triangulation(face, location);
        if (triangles.IsNull()) return {};
        const std::size_t begin = parts.first.size() - 1;
        const auto vertex = [&](int node) {
            const gp_Pnt at = triangles->Node(node).Transformed(location.Transformation());
            const std::uint32_t index =
                welded.index_of({std::round(at.X() / grain) + 0.0, std::round(at.Y() / grain) + 0.0,
                                 std::round(at.Z() / grain) + 0.0});
            if (index == places.size()) places.push_back({at.X(), at.Y(), at.Z()});
            return index;
        };
        for (int at = 1; at <= triangles->NbTriangles(); ++at) {
            int a = 0, b = 0, c = 0;
            triangles->Triangle(at).Get(a, b, c);
            if (face.Orientation() == TopAbs_REVERSED) std::swap(b, c);
            const std::array<std::uint32_t, 3> corners{vertex(a), vertex(b), vertex(c)};
            if (corners[0] == corners[1] || corners[1] == corners[2] || corners[2] == corners[0]) continue;
            parts.corners.insert(parts.corners.end(), corners.begin(), corners.end());
            parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size()));
        }
        if (parts.first.size() - 1 > begin) parts.part_starts.push_back(static_cast<std::uint32_t>(begin));
    }
    Doubles x, y, z;
    for (const Vec3 place : places) {
        x.push_back(place.x);
        y.push_back(place.y);
        z.push_back(place.z);
    }
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    Result<Mesh> made = Mesh::make(std::move(parts));
    if (!made || !meshed_body(*made)) return {};
    return *std::move(made);
}

// Exact, with the kernel's mesh besides where its edges do not meet when it is sampled, as everything that
// reads bodies asks; the mesh alone where its faces are no volume.
std::optional<ExactSolid> solid_of(const std::vector<SplinePatch>& patches, const TopoDS_Shape& shape) {
    Box box;
    for (const SplinePatch& patch : patches)
        box.include(poles_box(patch));
    ExactSolid solid{patches, widest_tolerance(shape), {}};
    constexpr std::size_t facets = 500;
    const auto body = exact_body(patches, Run(), solid.edges_within);
    if (body && closed_mesh(*body, facets, Run())) return solid;
    solid.mesh = mesh_of(shape, box.diagonal());
    const bool a_part_a_face = solid.mesh && solid.mesh->part_count() == patches.size();
    if (!body || !a_part_a_face) solid.patches.clear();
    if (!solid.mesh) return {};
    return solid;
}

class Collector {
public:
    Collector(ExactPart& part, std::vector<std::string>& losses) : part_(part), losses_(losses) {}
    ~Collector() {
        if (lost_ > 0)
            losses_.push_back(count_text(lost_, "form", "forms") + " of ‘" + shortened(part_.name) +
                              "’ could not be read: " + first_ + ".");
        if (open_ > 0)
            losses_.push_back(
                count_text(open_, "solid", "solids") + " of ‘" + shortened(part_.name) + "’ came as " +
                (open_ == 1 ? "surfaces: it is not closed." : "surfaces: they are not closed."));
        if (meshed_ > 0)
            losses_.push_back(count_text(meshed_, "solid", "solids") + " of ‘" + shortened(part_.name) +
                              "’ came as " +
                              (meshed_ == 1 ? "a mesh: its surfaces do not enclose it."
                                            : "meshes: their surfaces do not enclose them."));
    }
    Collector(const Collector&) = delete;
    Collector& operator=(const Collector&) = delete;

    void collect(const TopoDS_Shape& shape) {
        for (TopExp_Explorer each(shape, TopAbs_SOLID); each.More(); each.Next())
            add_solid(each.Current());
        for (TopExp_Explorer each(shape, TopAbs_FACE, TopAbs_SOLID); each.More(); each.Next())
            tried([&] { part_.faces.push_back(face_of(TopoDS::Face(each.Current()))); });
        for (TopExp_Explorer each(shape, TopAbs_WIRE, TopAbs_FACE); each.More(); each.Next())
            tried([&] { part_.curves.push_back(curve_of(TopoDS::Wire(each.Current()))); });
        for (TopExp_Explorer each(shape, TopAbs_EDGE, TopAbs_WIRE); each.More(); each.Next())
            tried(
                [&] { part_.curves.push_back(closed_where_it_is(curve_of(TopoDS::Edge(each.Current())))); });
    }

private:
    template <class Work>
    void tried(Work work) {
        try {
            work();
        } catch (const Standard_Failure& failure) {
            if (lost_++ == 0) first_ = failure.GetMessageString();
        }
    }
    void add_solid(const TopoDS_Shape& shape) {
        std::vector<SplinePatch> patches;
        const std::size_t lost = lost_;
        for (TopExp_Explorer each(shape, TopAbs_FACE); each.More(); each.Next())
            tried([&] { patches.push_back(face_of(TopoDS::Face(each.Current()))); });
        std::optional<ExactSolid> solid;
        if (lost == lost_) tried([&] { solid = solid_of(patches, shape); });
        if (!solid) {
            ++open_;
            part_.faces.insert(part_.faces.end(), patches.begin(), patches.end());
            return;
        }
        meshed_ += solid->patches.empty() ? 1 : 0;
        part_.solids.push_back(*std::move(solid));
    }

    ExactPart& part_;
    std::vector<std::string>& losses_;
    std::size_t lost_ = 0, open_ = 0, meshed_ = 0;
    std::string first_;
};

}  // namespace

ExactPart forms_of(const TopoDS_Shape& shape, const std::string& name, std::vector<std::string>& losses) {
    ExactPart part;
    part.name = name;
    // Planes, cylinders and the like become the rational splines they are; splines stay as they stand.
    BRepBuilderAPI_NurbsConvert convert(shape);
    Collector(part, losses).collect(convert.Shape());
    return part;
}

}  // namespace plume
