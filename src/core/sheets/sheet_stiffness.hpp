#pragma once
// What a sheet resists as it lies, linearised: of each vertex its own block, and what it takes from others by
// springs, bending and contacts.

#include <cstdint>
#include <vector>

#include "core/base/incidence.hpp"
#include "core/sheets/contacts.hpp"
#include "core/sheets/sheet.hpp"
#include "core/sheets/stiffness_block.hpp"

namespace plume {

class SheetStiffness {
public:
    // The sheet outlives it.
    explicit SheetStiffness(const Sheet& sheet);

    // To the other end of a spring: across it, and along it more than that, as an axis times the root of it.
    // In single precision: what a vertex has itself is added up of the same numbers, so that the whole stays
    // definite.
    struct Link {
        Lanes axis_and_across;
        Link() = default;
        Link(Vec3 axis, double across) : axis_and_across(axis, across) {}
        Vec3 axis() const { return axis_and_across.vec3(); }
        double across() const { return static_cast<double>(axis_and_across.fourth()); }
        // What it does to a vertex that goes that much farther than the other end.
        Lanes operator*(Lanes farther) const {
            return farther * axis_and_across.fourth() + axis_and_across * dot(axis_and_across, farther);
        }
    };
    // Where bending reaches: half of stiffness times the squared sums, multiplied out.
    struct Bends {
        std::vector<std::uint32_t> first, other;
        std::vector<double> weight;
        std::vector<double> own;
    };

    std::vector<StiffnessBlock> own;        // of vertices
    std::vector<BlockLanes> without_links;  // of it, what is neither of springs nor of bending
    std::vector<Link> links;                // in the order of sheet.springs_at
    std::vector<char> stays;                // vertices that do not move: their rows and columns are left out
    double push = 0;                        // by which contacts resist along their normals, N/m
    const Bends& bends() const { return bends_; }
    const Sheet& sheet() const { return sheet_; }

    // Contacts that resist, and where each vertex finds its own.
    void set_pushing(std::vector<Contact> contacts);
    const std::vector<Contact>& pushing() const { return pushing_; }
    const Incidence& pushing_at() const { return pushing_at_; }

    // What ways of all vertices meet with at one; in the two steps that a product has. By how much farther a
    // vertex goes than its neighbours: what goes along with them meets with nothing, however stiff they are,
    // which single precision would not tell otherwise.
    void press(const std::vector<Lanes>& way);
    Lanes times(const std::vector<Lanes>& way, std::uint32_t vertex) const;

private:
    // A contact as products need it: what is of a form counts with weight 0.
    struct Press {
        std::array<std::uint32_t, 4> corners{};
        std::array<float, 4> weights{};
        Lanes push;  // along its normal
    };
    void multiply_bends();

    const Sheet& sheet_;
    Bends bends_;
    std::vector<Contact> pushing_;
    Incidence pushing_at_;  // of vertices
    std::vector<Press> presses_;
    std::vector<Lanes> axes_;      // in the order of those: a contact's normal times the weight of the vertex
    std::vector<float> pressed_;   // of contacts
    std::vector<float> bends_by_;  // bends_.weight
};

}  // namespace plume
