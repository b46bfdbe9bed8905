#include "core/exchange/ifc_boundary.hpp"

#include "core/exchange/distinct_knots.hpp"
#include "core/exchange/exact_parts.hpp"

namespace plume {
namespace {

class BoundaryWriter {
public:
    BoundaryWriter(IfcLines& lines, const ExactBoundary& boundary, double scale)
        : lines_(lines), boundary_(boundary), scale_(scale) {}

    IfcRef write() {
        std::vector<IfcRef> faces;
        for (const Vec3 vertex : boundary_.vertices)
            vertices_.push_back(lines_.add("IFCVERTEXPOINT", '(' + point(vertex).text() + ')'));
        for (const BoundaryEdge& edge : boundary_.edges)
            edges_.push_back(lines_.add("IFCEDGECURVE", '(' + vertices_[edge.from].text() + ',' +
                                                            vertices_[edge.to].text() + ',' +
                                                            curve(edge.curve).text() + ",.T.)"));
        for (const BoundaryFace& face : boundary_.faces)
            faces.push_back(advanced_face(face));
        if (boundary_.closed)
            return lines_.add("IFCADVANCEDBREP",
                              '(' + lines_.add("IFCCLOSEDSHELL", '(' + ifc_list(faces) + ')').text() + ')');
        return lines_.add("IFCSHELLBASEDSURFACEMODEL",
                          "((" + lines_.add("IFCOPENSHELL", '(' + ifc_list(faces) + ')').text() + "))");
    }

private:
    IfcRef point(Vec3 place) { return lines_.point(place * scale_); }

    IfcRef curve(const SplineCurve::Parts& curve) {
        std::vector<IfcRef> poles;
        for (std::size_t at = 0; at < curve.x.size(); ++at)
            poles.push_back(point({curve.x[at], curve.y[at], curve.z[at]}));
        const bool rational = curve.weights.size() > 0;
        if (curve.basis.degree == 1 && !rational)
            return lines_.add("IFCPOLYLINE", '(' + ifc_list(poles) + ')');
        const DistinctKnots knots(curve.basis);
        const std::string text = '(' + std::to_string(curve.basis.degree) + ',' + ifc_list(poles) +
                                 ",.UNSPECIFIED.,.U.,.F.," + ifc_list(knots.times) + ',' +
                                 ifc_list(knots.at) + ",.UNSPECIFIED.";
        if (!rational) return lines_.add("IFCBSPLINECURVEWITHKNOTS", text + ')');
        const auto weights = curve.weights.span();
        return lines_.add("IFCRATIONALBSPLINECURVEWITHKNOTS",
                          text + ',' + ifc_list(std::vector<double>(weights.begin(), weights.end())) + ')');
    }

    IfcRef plane(const SplinePatch::Parts& patch) {
        const Vec3 origin = pole(patch, 0), u = pole(patch, 1) - origin, v = pole(patch, 2) - origin;
        const IfcRef at = lines_.placement(point(origin), unit_or_zero(cross(u, v)), unit_or_zero(u));
        return lines_.add("IFCPLANE", '(' + at.text() + ')');
    }
    static Vec3 pole(const SplinePatch::Parts& patch, std::size_t at) {
        return {patch.x[at], patch.y[at], patch.z[at]};
    }
    // Rows of rows: along v within along u.
    template <class Text>
    static std::string table(const SplinePatch::Parts& patch, Text text_of) {
        const std::size_t columns = patch.u.pole_count();
        std::string text = "(";
        for (std::size_t column = 0; column < columns; ++column) {
            text += column > 0 ? ",(" : "(";
            for (std::size_t row = 0; row < patch.v.pole_count(); ++row)
                text += (row > 0 ? "," : "") + text_of(column + columns * row);
            text += ')';
        }
        return text + ')';
    }
    IfcRef surface(const SplinePatch::Parts& patch) {
        if (is_flat(patch)) return plane(patch);
        const DistinctKnots u(patch.u), v(patch.v);
        const std::string text = '(' + std::to_string(patch.u.degree) + ',' + std::to_string(patch.v.degree) +
                                 ',' +
                                 table(patch, [&](std::size_t at) { return point(pole(patch, at)).text(); }) +
                                 ",.UNSPECIFIED.,.U.,.U.,.U.," + ifc_list(u.times) + ',' + ifc_list(v.times) +
                                 ',' + ifc_list(u.at) + ',' + ifc_list(v.at) + ",.UNSPECIFIED.";
        if (patch.weights.size() == 0) return lines_.add("IFCBSPLINESURFACEWITHKNOTS", text + ')');
        return lines_.add(
            "IFCRATIONALBSPLINESURFACEWITHKNOTS",
            text + ',' + table(patch, [&](std::size_t at) { return ifc_number(patch.weights[at]); }) + ')');
    }

    IfcRef advanced_face(const BoundaryFace& face) {
        std::vector<IfcRef> bounds;
        for (const std::vector<BoundaryUse>& loop : face.loops) {
            std::vector<IfcRef> uses;
            uses.reserve(loop.size());
            for (const BoundaryUse& use : loop)
                uses.push_back(lines_.add("IFCORIENTEDEDGE", "(*,*," + edges_[use.edge].text() + ',' +
                                                                 (use.forwards ? ".T.)" : ".F.)")));
            const IfcRef edge_loop = lines_.add("IFCEDGELOOP", '(' + ifc_list(uses) + ')');
            bounds.push_back(lines_.add(bounds.empty() ? "IFCFACEOUTERBOUND" : "IFCFACEBOUND",
                                        '(' + edge_loop.text() + ",.T.)"));
        }
        return lines_.add("IFCADVANCEDFACE", '(' + ifc_list(bounds) + ',' + surface(face.patch).text() +
                                                 (face.along_patch ? ",.T.)" : ",.F.)"));
    }

    IfcLines& lines_;
    const ExactBoundary& boundary_;
    double scale_;
    std::vector<IfcRef> vertices_, edges_;
};

}  // namespace

IfcRef add_boundary(IfcLines& lines, const ExactBoundary& boundary, double scale) {
    return BoundaryWriter(lines, boundary, scale).write();
}

}  // namespace plume
