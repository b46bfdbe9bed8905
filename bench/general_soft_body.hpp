#pragma once
// A sheet as the soft body of a general physics library (Bullet), to be measured against: links between
// vertices that are put right one after the other, so many times a step, and clusters of them that collide.

#include <cstdint>
#include <memory>
#include <optional>
#include <vector>

#include "core/data/mesh.hpp"

namespace bench {

struct SoftBodyWishes {
    double weight = 0.15;  // kg/m^2, over `area`
    double area = 1;
    double thickness = 1e-3;
    std::vector<std::uint32_t> held;
    int times_a_step = 10;  // that links are put right
    int clusters = 0;       // 0: it goes through itself
    std::optional<double> ground = {};
};

class GeneralSoftBody {
public:
    GeneralSoftBody(const plume::Mesh& mesh, const SoftBodyWishes& wishes);
    ~GeneralSoftBody();

    void step(double seconds);
    // Of sides of faces, 0.02 for 2 %.
    double most_stretched() const;

private:
    struct World;
    std::unique_ptr<World> world_;
};

}  // namespace bench
