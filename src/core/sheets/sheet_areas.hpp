#pragma once
// Areas of a sheet that move as one: what changes far away reaches the whole sheet at once (R. A. Nicolaides:
// Deflation of conjugate gradients, 1987). A small system, factored anew for each stiffness.

#include <memory>
#include <vector>

#include "core/sheets/sheet_stiffness.hpp"

namespace plume {

class SheetAreas {
public:
    // The sheet outlives it.
    explicit SheetAreas(const Sheet& sheet);
    ~SheetAreas();
    SheetAreas(const SheetAreas&) = delete;
    SheetAreas& operator=(const SheetAreas&) = delete;

    void factor(const SheetStiffness& stiffness);
    // Pairs of areas that only contacts joined are pairs no more, so that what is found does not depend on
    // them.
    void forget_contacts();
    // How far each area goes by what pushes its vertices.
    void find_ways(const std::vector<Lanes>& force);
    Vec3 way_of(std::uint32_t vertex) const { return ways_[area_of_[vertex]]; }

private:
    struct System;
    void divide();
    void number_pairs(const SheetStiffness& stiffness);
    void add_vertices(const SheetStiffness& stiffness);
    void add_contacts(const SheetStiffness& stiffness);
    void assemble();

    const Sheet& sheet_;
    std::vector<std::uint32_t> area_of_;  // of vertices
    std::uint32_t count_ = 0;
    std::vector<Vec3> ways_;
    std::unique_ptr<System> system_;
};

}  // namespace plume
