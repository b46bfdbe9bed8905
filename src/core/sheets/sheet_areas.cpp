#include "core/sheets/sheet_areas.hpp"

#include <Eigen/Sparse>
#include <algorithm>
#include <limits>

namespace plume {
namespace {

using Matrix = Eigen::SparseMatrix<double>;
constexpr std::size_t vertices_of_an_area = 48;
constexpr std::uint32_t none = std::numeric_limits<std::uint32_t>::max();

// A block of what two areas do to each other.
struct Coupling {
    std::array<double, 9> of{};  // row by row
    void add(double weight) {
        of[0] += weight;
        of[4] += weight;
        of[8] += weight;
    }
    void add(const StiffnessBlock& block) {
        const std::array<double, 9> rows{block.xx, block.xy, block.zx, block.xy, block.yy,
                                         block.yz, block.zx, block.yz, block.zz};
        for (std::size_t entry = 0; entry < 9; ++entry)
            of[entry] += rows[entry];
    }
    void add(double weight, Vec3 a) {
        const std::array<double, 3> along{a.x, a.y, a.z};
        for (std::size_t row = 0; row < 3; ++row)
            for (std::size_t column = 0; column < 3; ++column)
                of[3 * row + column] += weight * along[row] * along[column];
    }
};

}  // namespace

struct SheetAreas::System {
    // An area and an earlier one, or itself, with the coupling between them. Of each area there are few,
    // looked through quickly; springs and hinges know theirs.
    struct Pair {
        std::uint32_t with, coupling;
    };
    std::vector<std::vector<Pair>> pairs;
    std::uint32_t pair_count = 0;
    std::uint32_t lasting = 0;  // of them, not by contacts
    std::vector<std::uint32_t> of_links, of_bends;
    std::vector<Coupling> couplings;
    Matrix matrix;
    Eigen::SimplicialLLT<Matrix> factor;
    std::uint32_t analysed = 0;  // pairs
    bool sound = false;
    Eigen::VectorXd forces, ways;

    std::uint32_t coupling_of(std::uint32_t a, std::uint32_t b) {
        std::vector<Pair>& here = pairs[std::max(a, b)];
        const auto known = std::ranges::find(here, std::min(a, b), &Pair::with);
        if (known != here.end()) return known->coupling;
        here.push_back({std::min(a, b), pair_count});
        return pair_count++;
    }
};

SheetAreas::SheetAreas(const Sheet& sheet) : sheet_(sheet), system_(std::make_unique<System>()) {
    divide();
    ways_.resize(count_);
}

SheetAreas::~SheetAreas() = default;

// Each begins at the first vertex that is in none yet, and takes what is next to it.
void SheetAreas::divide() {
    area_of_.assign(sheet_.vertex_count, none);
    std::vector<std::uint32_t> front;
    for (std::uint32_t first = 0; first < sheet_.vertex_count; ++first) {
        if (area_of_[first] != none) continue;
        front.assign(1, first);
        area_of_[first] = count_;
        for (std::size_t at = 0; at < front.size(); ++at) {
            const std::uint32_t vertex = front[at];
            for (std::uint32_t k = sheet_.ring.first[vertex]; k < sheet_.ring.first[vertex + 1]; ++k) {
                const std::uint32_t other = sheet_.ring.of[k];
                if (area_of_[other] != none || front.size() >= vertices_of_an_area) continue;
                area_of_[other] = count_;
                front.push_back(other);
            }
        }
        ++count_;
    }
}

void SheetAreas::number_pairs(const SheetStiffness& stiffness) {
    System& system = *system_;
    const auto& bends = stiffness.bends();
    system.pairs.resize(count_);
    for (std::uint32_t area = 0; area < count_; ++area)
        (void)system.coupling_of(area, area);
    system.of_links.reserve(sheet_.ring.of.size());
    system.of_bends.reserve(bends.other.size());
    for (std::uint32_t vertex = 0; vertex < sheet_.vertex_count; ++vertex) {
        for (std::uint32_t k = sheet_.ring.first[vertex]; k < sheet_.ring.first[vertex + 1]; ++k)
            system.of_links.push_back(system.coupling_of(area_of_[vertex], area_of_[sheet_.ring.of[k]]));
        for (std::uint32_t k = bends.first[vertex]; k < bends.first[vertex + 1]; ++k)
            system.of_bends.push_back(system.coupling_of(area_of_[vertex], area_of_[bends.other[k]]));
    }
    system.lasting = system.pair_count;
}

void SheetAreas::forget_contacts() {
    System& system = *system_;
    if (system.pair_count == system.lasting) return;
    for (auto& pairs : system.pairs)
        std::erase_if(pairs, [&](const System::Pair& pair) { return pair.coupling >= system.lasting; });
    system.pair_count = system.lasting;
    system.analysed = 0;
}

void SheetAreas::factor(const SheetStiffness& stiffness) {
    System& system = *system_;
    if (system.pairs.empty()) number_pairs(stiffness);
    system.couplings.assign(system.pair_count, {});
    add_vertices(stiffness);
    add_contacts(stiffness);
    assemble();
    if (system.analysed != system.pair_count) system.factor.analyzePattern(system.matrix);
    system.analysed = system.pair_count;
    system.factor.factorize(system.matrix);
    system.sound = system.factor.info() == Eigen::Success;
}

// Of each pair of areas what stands below the diagonal: what a vertex of the later one takes of the other's.
void SheetAreas::add_vertices(const SheetStiffness& stiffness) {
    System& system = *system_;
    const auto& bends = stiffness.bends();
    const auto takes = [&](std::uint32_t vertex, std::uint32_t other) {
        return stiffness.stays[other] == 0 && area_of_[vertex] >= area_of_[other];
    };
    for (std::uint32_t vertex = 0; vertex < sheet_.vertex_count; ++vertex) {
        if (stiffness.stays[vertex] != 0) continue;
        system.couplings[area_of_[vertex]].add(stiffness.own[vertex]);
        for (std::uint32_t k = sheet_.ring.first[vertex]; k < sheet_.ring.first[vertex + 1]; ++k) {
            if (!takes(vertex, sheet_.ring.of[k])) continue;
            Coupling& coupling = system.couplings[system.of_links[k]];
            coupling.add(-stiffness.links[k].across());
            coupling.add(-1, stiffness.links[k].axis());
        }
        for (std::uint32_t k = bends.first[vertex]; k < bends.first[vertex + 1]; ++k)
            if (takes(vertex, bends.other[k])) system.couplings[system.of_bends[k]].add(bends.weight[k]);
    }
}

// What each corner has itself stands in its own block.
void SheetAreas::add_contacts(const SheetStiffness& stiffness) {
    System& system = *system_;
    const auto moves = [&](std::uint32_t corner) {
        return corner < sheet_.vertex_count && stiffness.stays[corner] == 0;
    };
    for (const Contact& contact : stiffness.pushing())
        for (std::size_t one = 0; one < 4; ++one)
            for (std::size_t other = 0; other < 4; ++other) {
                const std::uint32_t a = contact.corners[one], b = contact.corners[other];
                if (one == other || !moves(a) || !moves(b) || area_of_[a] < area_of_[b]) continue;
                const std::uint32_t coupling = system.coupling_of(area_of_[a], area_of_[b]);
                if (coupling >= system.couplings.size()) system.couplings.resize(coupling + 1);
                system.couplings[coupling].add(stiffness.push * contact.weights[one] * contact.weights[other],
                                               contact.normal);
            }
}

void SheetAreas::assemble() {
    System& system = *system_;
    std::vector<Eigen::Triplet<double>> entries;
    entries.reserve(9 * std::size_t{system.pair_count});
    for (std::uint32_t area = 0; area < count_; ++area)
        for (const System::Pair& pair : system.pairs[area]) {
            Coupling coupling = system.couplings[pair.coupling];
            const bool diagonal = pair.with == area;
            // Where nothing of it moves.
            if (diagonal && coupling.of[0] == 0) coupling.add(1);
            for (std::uint32_t row = 0; row < 3; ++row)
                for (std::uint32_t column = 0; column < (diagonal ? row + 1 : 3); ++column)
                    entries.emplace_back(static_cast<int>(3 * area + row),
                                         static_cast<int>(3 * pair.with + column),
                                         coupling.of[3 * row + column]);
        }
    const Eigen::Index size = 3 * Eigen::Index{count_};
    system.matrix.resize(size, size);
    system.matrix.setFromTriplets(entries.begin(), entries.end());
}

void SheetAreas::find_ways(const std::vector<Lanes>& force) {
    System& system = *system_;
    if (!system.sound) {
        std::ranges::fill(ways_, Vec3{});
        return;
    }
    system.forces.setZero(3 * Eigen::Index{count_});
    for (std::uint32_t vertex = 0; vertex < sheet_.vertex_count; ++vertex) {
        const Eigen::Index row = 3 * Eigen::Index{area_of_[vertex]};
        const Vec3 here = force[vertex].vec3();
        system.forces[row] += here.x;
        system.forces[row + 1] += here.y;
        system.forces[row + 2] += here.z;
    }
    system.ways = system.factor.solve(system.forces);
    for (std::uint32_t area = 0; area < count_; ++area) {
        const Eigen::Index row = 3 * Eigen::Index{area};
        ways_[area] = {system.ways[row], system.ways[row + 1], system.ways[row + 2]};
    }
}

}  // namespace plume
