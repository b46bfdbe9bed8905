#pragma once
// How deep a cutter may go at a place: the lowest height of its tip at which it touches a form from above and
// cuts nothing of it.
//
// Exact for faceted forms: a cutter touches a face at one place known in closed form, a side where the rise
// of the side equals that of the cutter (closed for flats and balls, by halving for rounded ones); corners
// are ends of sides. Sides between faces that are hollow together cannot be touched before the faces, and are
// not looked at. Triangles are found by a grid over the plan, in which each lies in all cells the cutter
// reaches it from, highest first.

#include <array>
#include <cstdint>
#include <vector>

#include "core/data/mesh.hpp"
#include "core/milling/cutter.hpp"

namespace plume {

struct TipHeight {
    double z = 0;         // of the tip; minus infinity where the cutter does not reach the form
    bool on_rim = false;  // it touches nothing but sides that only one face has
};

class TipHeights {
public:
    // Of a mesh in millimetres, z towards the cutter. O(faces log faces) and what cells hold.
    TipHeights(const Mesh& mesh, const Cutter& cutter);

    const Cutter& cutter() const { return cutter_; }
    // From any number of threads.
    TipHeight at(double x, double y) const;

private:
    struct Triangle {
        std::array<Vec3, 3> at;
        Vec3 normal;  // unit, up; zero for one that stands upright
        // From the axis to where it is touched, and the tip's height there: z + x along_x + y along_y.
        double out_x = 0, out_y = 0, z = 0, along_x = 0, along_y = 0;
        double highest = 0;
        // Sides that may be touched, those of them that are rims, and corners on rims, by bits.
        std::uint8_t sides = 0, rims = 0, rim_corners = 0;
    };
    void add_triangles(const Mesh& mesh);
    void mark_sides();
    void mark_rim_corners();
    void fill_grid();
    void prepare(Triangle& triangle) const;
    static void touch_face(const Triangle& triangle, double x, double y, TipHeight& tip);
    void touch_side(const Triangle& triangle, std::size_t side, double x, double y, TipHeight& tip) const;

    Cutter cutter_;
    std::vector<Triangle> triangles_;
    std::vector<std::array<std::uint32_t, 3>> corners_;  // vertices of the mesh, while sides are marked
    double low_x_ = 0, low_y_ = 0, cell_ = 1;
    std::size_t columns_ = 0, rows_ = 0;
    std::vector<std::size_t> first_;
    std::vector<std::uint32_t> entries_;
};

}  // namespace plume
