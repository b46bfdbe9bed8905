#pragma once
// What of a sheet may meet itself or obstacles on its way, and whether it does.
//
// Looking lists all features whose ways come near each other, as they lie when they are looked at. As long as
// every vertex ends near the end of its way no others can meet; whether those that are listed do, is found by
// conservative advancement along straight ways (M. Li et al.: Codimensional incremental potential contact,
// 2021, for how; B. Mirtich: Impulse-based dynamic simulation, 1996).

#include "core/base/run.hpp"
#include "core/sheets/feature_boxes.hpp"
#include "core/sheets/nearness.hpp"
#include "core/sheets/sheet.hpp"

namespace plume {

// Forms that a sheet does not go into.
struct Obstacle {
    std::vector<Vec3> at;
    std::vector<std::array<std::uint32_t, 3>> triangles;
    std::vector<Vec3> from = {};  // where they were when the time began, if they move; as many as `at`
};
// Of meshes, one after the other; faces are cut into triangles.
void add_obstacle(Obstacle& obstacle, const Mesh& mesh, double metres);

// Two features as they were when they were looked at, two segments or a vertex and a triangle: weight times
// place of the corners, added up, along `normal` is how far they are apart. Corners from the sheet's vertex
// count on are the obstacle's.
struct Contact {
    std::array<std::uint32_t, 4> corners{};
    std::array<double, 4> weights{};
    Vec3 normal;
    double thickness = 0;
    double apart = 0;
    bool segments = false;
};

class Contacts {
public:
    // The sheet outlives it. What stands together as its vertices lie there is looked at together.
    Contacts(const Sheet& sheet, const std::vector<Vec3>& lying);

    // What may be met from now on, and how near nothing comes.
    void stand_among(Obstacle obstacle, double thickness);
    const Obstacle& among() const { return among_; }
    // Where forms are from now on.
    void place_still(std::vector<Vec3> places);
    // At all whose ways come near each other. False when cancelled.
    bool look(const std::vector<Vec3>& at, const std::vector<Vec3>& ways, const Run& run);
    // Brings places that were wanted back along the straight ways from where they were looked at, so far that
    // nothing meets: each vertex only as far as what it meets asks. Tells by how far at most.
    double keep_apart(std::vector<Vec3>& to, const Run& run) const;

    // Nothing is near anything until it is looked at again.
    void forget() { contacts_.clear(); }
    // Those that are nearer than their thickness, in a fixed order. Neighbours within the sheet push each
    // other where it is nearly folded.
    std::vector<Contact> pressed(const std::vector<Vec3>& at) const;
    bool any_pressed(const std::vector<Vec3>& at) const;
    // Brings where a vertex is wanted so near to the end of its way that nothing else can meet it.
    Vec3 within_room(std::uint32_t vertex, Vec3 to) const;
    // By how much the two are nearer than the thickness; below 0 farther apart.
    double deep(const Contact& contact, const std::vector<Vec3>& at) const;
    Vec3 place(const std::vector<Vec3>& at, std::uint32_t corner) const {
        return corner < sheet_.vertex_count ? at[corner] : still_at_[corner - sheet_.vertex_count];
    }

private:
    // Corners of two features that may meet.
    using Corners = std::array<std::uint32_t, 4>;
    using Found = std::vector<Contact>;
    // Where vertices are and where they go.
    struct Ways {
        const std::vector<Vec3>& at;
        const std::vector<Vec3>& by;
    };
    void fit(const Ways& ways);
    void look_within(const Ways& ways, std::size_t leaf, Found& found) const;
    void look_at_obstacle(const Ways& ways, std::size_t leaf, Found& found) const;
    bool may_meet(const MovingBox& one, const MovingBox& other) const {
        return one.may_meet(other, boxes_reach_);
    }
    void add_segments(const Ways& ways, const Corners& corners, Found& found) const;
    void add_vertex(const Ways& ways, const Corners& corners, Found& found) const;
    void add(const Corners& corners, bool segments, double fast, const Nearest& nearest, Found& found) const;
    bool is_still(std::uint32_t corner) const { return corner >= sheet_.vertex_count; }
    std::array<Vec3, 4> places_of(const std::vector<Vec3>& at, const Corners& corners) const;
    std::array<Vec3, 4> ways_of(const std::vector<Vec3>& by, const Corners& corners) const;
    double room() const;
    bool are_neighbours(std::uint32_t a, std::uint32_t b) const;
    bool touch_in_sheet(const Corners& corners, std::size_t behind_first) const;
    Incidence contacts_at_vertices() const;
    double free_share(const Contact& contact, const std::vector<Vec3>& to) const;

    const Sheet& sheet_;
    double thickness_ = 0, reach_ = 0;
    float boxes_reach_ = 0;  // what boxes are asked for
    Vec3 middle_;            // from which boxes are measured
    SheetFeatures own_,
        still_;       // in the order of their trees; corners of still ones count from the sheet's on
    Obstacle among_;  // of which those are
    std::vector<Vec3> still_at_;
    FeatureBoxes boxes_, still_boxes_;
    MovingTree tree_, still_tree_;
    std::vector<Vec3> from_, ends_;
    std::vector<Contact> contacts_;
};

}  // namespace plume
