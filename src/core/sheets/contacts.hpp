#pragma once
// What of a sheet may meet itself or obstacles on its way, and whether it does.
//
// Looking lists all features whose ways come near each other, as they lie when they are looked at. As long as
// every vertex ends near the end of its way no others can meet; whether those that are listed do, is found by
// conservative advancement along straight ways (M. Li et al.: Codimensional incremental potential contact,
// 2021, for how; B. Mirtich: Impulse-based dynamic simulation, 1996).

#include "core/base/run.hpp"
#include "core/sheets/feature_grid.hpp"
#include "core/sheets/nearness.hpp"
#include "core/sheets/sheet.hpp"

namespace plume {

// Forms that stay where they are.
struct Obstacle {
    std::vector<Vec3> at;
    std::vector<std::array<std::uint32_t, 3>> triangles;
    std::vector<std::array<std::uint32_t, 2>> edges;
};
// Of meshes, one after the other; faces are cut into triangles.
void add_obstacle(Obstacle& obstacle, const Mesh& mesh, double metres);

// Two features as they were when they were looked at: weight times place of the corners, added up, along
// `normal` is how far they are apart. Corners from the sheet's vertex count on are the obstacle's.
struct Contact {
    std::array<std::uint32_t, 4> corners{};
    std::array<double, 4> weights{};
    Vec3 normal;
    double thickness = 0;
};

class Contacts {
public:
    // These outlive it.
    Contacts(const Sheet& sheet, const Obstacle& obstacle, double thickness);

    // At all whose ways come near each other. False when cancelled.
    bool look(const std::vector<Vec3>& at, const std::vector<Vec3>& ways, const Run& run);
    // Brings places that were wanted back along the straight ways from where they were looked at, so far that
    // nothing meets: each vertex only as far as what it meets asks. How many had to be brought back.
    std::size_t keep_apart(std::vector<Vec3>& to, const Run& run) const;

    // In a fixed order. Neighbours within the sheet push each other where it is nearly folded.
    const std::vector<Contact>& all() const { return contacts_; }
    // Brings where a vertex is wanted so near to the end of its way that nothing else can meet it.
    Vec3 within_room(std::uint32_t vertex, Vec3 to) const;
    // By how much the two are nearer than the thickness; below 0 farther apart.
    double deep(const Contact& contact, const std::vector<Vec3>& at) const;
    Vec3 place(const std::vector<Vec3>& at, std::uint32_t corner) const {
        return corner < sheet_.vertex_count ? at[corner] : obstacle_.at[corner - sheet_.vertex_count];
    }

private:
    // Features that may meet on their ways: two segments, or a vertex and a triangle.
    struct Pair {
        std::array<std::uint32_t, 4> corners{};
        bool segments = false;
        std::size_t behind_first() const { return segments ? 2 : 1; }
        // Of its corners.
        Nearest nearest(const std::array<Vec3, 4>& at) const;
        // The longest of the ways that corners of one go against those of the other.
        double fastest(const std::array<Vec3, 4>& by) const;
    };
    struct Found {
        std::vector<Pair> pairs;
        std::vector<Contact> contacts;
    };
    // Where vertices are and where they go.
    struct Ways {
        const std::vector<Vec3>& at;
        const std::vector<Vec3>& by;
    };
    void build_grids(const Ways& ways);
    void look_from_vertex(const Ways& ways, std::uint32_t vertex, Found& found) const;
    void look_from_edge(const Ways& ways, std::uint32_t edge, Found& found) const;
    void look_from_obstacle(const Ways& ways, std::uint32_t vertex, Found& found) const;
    void add(const Ways& ways, const Pair& pair, Found& found) const;
    bool is_still(std::uint32_t corner) const { return corner >= sheet_.vertex_count; }
    std::array<Vec3, 4> places_of(const std::vector<Vec3>& at, const Pair& pair) const;
    std::array<Vec3, 4> ways_of(const std::vector<Vec3>& by, const Pair& pair) const;
    double room() const;
    bool are_neighbours(std::uint32_t a, std::uint32_t b) const;
    bool touch_in_sheet(const Pair& pair) const;
    void take(const std::vector<Found>& found);
    double free_share(const Pair& pair, const std::vector<Vec3>& to) const;

    const Sheet& sheet_;
    const Obstacle& obstacle_;
    double thickness_, reach_;
    std::vector<Box> boxes_;
    std::vector<Box> edge_boxes_;
    FeatureGrid triangles_, edges_, still_triangles_, still_edges_;
    std::vector<Vec3> from_;
    std::vector<Pair> pairs_;
    std::vector<Contact> contacts_;
    std::vector<Vec3> ends_;
};

}  // namespace plume
