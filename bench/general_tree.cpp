#include "general_tree.hpp"

#include <CGAL/AABB_traits.h>
#include <CGAL/AABB_tree.h>
#include <CGAL/AABB_triangle_primitive.h>
#include <CGAL/Simple_cartesian.h>

#include <cmath>

namespace plume::bench {

double distances_by_general_tree(const Mesh& mesh, const std::vector<Vec3>& places) {
    using Kernel = CGAL::Simple_cartesian<double>;
    using Triangles = std::vector<Kernel::Triangle_3>;
    using Primitive = CGAL::AABB_triangle_primitive<Kernel, Triangles::const_iterator>;
    using Tree = CGAL::AABB_tree<CGAL::AABB_traits<Kernel, Primitive>>;
    const auto point = [](Vec3 place) { return Kernel::Point_3(place.x, place.y, place.z); };
    Triangles triangles;
    for (std::size_t face = 0; face < mesh.face_count(); ++face) {
        const auto corners = mesh.face(face);
        triangles.emplace_back(point(mesh.vertex(corners[0])), point(mesh.vertex(corners[1])),
                               point(mesh.vertex(corners[2])));
    }
    Tree tree(triangles.cbegin(), triangles.cend());
    tree.accelerate_distance_queries();
    double sum = 0;
    for (const Vec3 place : places)
        sum += std::sqrt(tree.squared_distance(point(place)));
    return sum;
}

}  // namespace plume::bench
