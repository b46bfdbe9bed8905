#pragma once
// One small step of a sheet as a system of equations: its inertia, springs, hinges, what holds it and what it
// touches, backward Euler. Solved by Newton's method, each of whose steps is by conjugate gradients with the
// blocks of single vertices (D. Baraff, A. Witkin: Large steps in cloth simulation, 1998) and areas that move
// as one as preconditioner.
// Conjugate gradients reckon in single precision, of what each of Newton's steps finds in double precision.
// Sums are made in one order: the same on any number of threads.

#include <optional>

#include "core/base/run.hpp"
#include "core/sheets/sheet_areas.hpp"
#include "core/sheets/sheet_forces.hpp"
#include "core/sheets/thread_paths.hpp"

namespace plume {

class SheetSystem {
public:
    // These outlive it.
    SheetSystem(const Sheet& sheet, const Contacts& contacts);

    // Nothing of earlier steps is left.
    void forget();

    // The step that is to be solved: what acts, where vertices were, where they would be if they went along
    // with forms, where inertia leads, where they are held, and by which stiffness (infinite: there), which
    // outlive it too.
    struct Step {
        double seconds = 0;
        const SheetForces* forces = nullptr;
        const std::vector<Vec3>* before = nullptr;
        const std::vector<Vec3>* start = nullptr;
        const std::vector<Vec3>* aim = nullptr;
        const std::vector<Vec3>* held_at = nullptr;
        const std::vector<double>* hold = nullptr;
        bool bounded = false;  // by the room that contacts leave
    };
    // Newton's steps from these places on. False when cancelled.
    bool solve(const Step& step, std::vector<Vec3>& at, const Run& run);

private:
    // Force on a vertex, its own stiffness, and what of that is neither of springs nor of bending.
    struct Pull {
        Vec3 force;
        StiffnessBlock own, without_links;
    };
    void linearise(const std::vector<Vec3>& at);
    bool find_pushing(const std::vector<Vec3>& at);
    Pull pull_at(const std::vector<Vec3>& at, std::uint32_t vertex);
    void add_springs(const std::vector<Vec3>& at, std::uint32_t vertex, Pull& pull);
    void add_hinges(const std::vector<Vec3>& at, std::uint32_t vertex, Pull& pull) const;
    void add_contacts(const std::vector<Vec3>& at, std::uint32_t vertex, Pull& pull) const;
    void add_push(double deep, Vec3 normal, double weight, Vec3 slid, Pull& pull) const;
    void find_ways();
    void precondition();
    Lanes preconditioned_at(std::uint32_t vertex) const;
    template <class Body>
    double sum(Body body);

    const Sheet& sheet_;
    const Contacts& contacts_;
    Step step_;
    SheetStiffness stiffness_;
    std::optional<ThreadPaths> paths_;  // of threads
    std::optional<SheetAreas> areas_;   // threads without knots need none
    std::vector<BlockLanes> inverse_;   // of vertices' own
    std::vector<Vec3> force_;
    std::vector<Lanes> ways_, residual_, preconditioned_, direction_, image_;
    std::vector<double> sums_;
};

}  // namespace plume
