#include "core/forces/force_density.hpp"

#include <Eigen/Sparse>
#include <algorithm>
#include <cmath>

namespace plume {
namespace {

using Matrix = Eigen::SparseMatrix<double>;

constexpr double most_residual = 1e-9;
constexpr int most_refinements = 4;

class Balancing {
public:
    Balancing(const Net& net, const std::vector<double>& densities, const Run& run)
        : net_(net), densities_(densities), run_(run), column_(net.places.size(), stays) {
        std::vector<double> pulling(net.places.size(), 0);
        for (std::size_t link = 0; link < net.links.size(); ++link)
            for (const std::uint32_t end : net.links[link])
                pulling[end] += std::abs(densities[link]);
        for (std::size_t place = 0; place < net.places.size(); ++place) {
            if (net.held[place] >= 1) continue;
            falls_ = falls_ || (pulling[place] == 0 && !net.loads.empty() && length(net.loads[place]) > 0);
            if (pulling[place] == 0) continue;
            column_[place] = free_++;
            springs_.push_back(spring_density(net.held[place], pulling[place]));
        }
    }

    Result<Balance> all() {
        Balance balance{net_.places, {}, 0};
        if (falls_ || std::ranges::all_of(densities_, [](double density) { return density == 0; }))
            return Error{ErrorCode::not_converged, "", "has no form in balance: somewhere nothing pulls",
                         "Choose densities other than 0."};
        if (free_ > 0) {
            const Matrix system = assembled();
            run_.report(0.1);
            const Eigen::SimplicialLDLT<Matrix> factor(system);
            run_.report(0.7);
            if (run_.cancelled()) return cancelled_error();
            if (factor.info() != Eigen::Success) return none();
            for (int round = 0; round < most_refinements; ++round) {
                correct(factor, balance.places);
                if (run_.cancelled()) return cancelled_error();
                balance.residual = residual(balance.places);
                // What rounding leaves.
                if (balance.residual < 1e-14) break;
            }
            if (!(balance.residual < most_residual)) return none();
        }
        for (std::size_t link = 0; link < net_.links.size(); ++link) {
            const auto [from, to] = net_.links[link];
            balance.forces.push_back(densities_[link] * length(balance.places[to] - balance.places[from]));
        }
        return balance;
    }

private:
    static constexpr int stays = -1;

    static Error none() {
        return {ErrorCode::not_converged, "", "has no form in balance: what pulls and what pushes cancel",
                "Choose densities above 0, or fewer below it."};
    }

    Matrix assembled() const {
        std::vector<Eigen::Triplet<double>> entries;
        entries.reserve(net_.links.size() * 3 + springs_.size());
        for (std::size_t link = 0; link < net_.links.size(); ++link) {
            const int from = column_[net_.links[link][0]], to = column_[net_.links[link][1]];
            const double density = densities_[link];
            if (from != stays) entries.emplace_back(from, from, density);
            if (to != stays) entries.emplace_back(to, to, density);
            if (from != stays && to != stays)
                entries.emplace_back(std::max(from, to), std::min(from, to), -density);
        }
        for (int column = 0; column < free_; ++column)
            entries.emplace_back(column, column, springs_[static_cast<std::size_t>(column)]);
        Matrix system(free_, free_);
        system.setFromTriplets(entries.begin(), entries.end());
        return system;
    }
    // By what is still out of balance: the first time from where it stood, then what rounding left.
    void correct(const Eigen::SimplicialLDLT<Matrix>& factor, std::vector<Vec3>& places) const {
        const std::vector<Vec3> left = unbalanced(net_, places, densities_);
        Eigen::MatrixXd right(free_, 3);
        for (std::size_t place = 0; place < places.size(); ++place)
            if (column_[place] != stays)
                right.row(column_[place]) << left[place].x, left[place].y, left[place].z;
        const Eigen::MatrixXd by = factor.solve(right);
        for (std::size_t place = 0; place < places.size(); ++place)
            if (const int row = column_[place]; row != stays)
                places[place] = places[place] + Vec3{by(row, 0), by(row, 1), by(row, 2)};
    }
    double residual(const std::vector<Vec3>& places) const {
        double most = 0, scale = 0;
        for (const Vec3 left : unbalanced(net_, places, densities_))
            most = std::max(most, length(left));
        for (const Vec3 load : net_.loads)
            scale = std::max(scale, length(load));
        for (std::size_t link = 0; link < net_.links.size(); ++link) {
            const auto [from, to] = net_.links[link];
            scale = std::max(scale, std::abs(densities_[link]) * length(places[to] - places[from]));
        }
        return scale > 0 ? most / scale : most;
    }

    const Net& net_;
    const std::vector<double>& densities_;
    const Run& run_;
    std::vector<int> column_;  // of each place
    int free_ = 0;
    bool falls_ = false;           // something is loaded where nothing pulls
    std::vector<double> springs_;  // of each column
};

}  // namespace

Result<Balance> balanced_by_densities(const Net& net, const std::vector<double>& densities_kn_per_m,
                                      const Run& run) {
    if (Status checked = check_net(net); !checked) return checked.error();
    if (!std::ranges::all_of(densities_kn_per_m, [](double density) { return std::isfinite(density); }))
        return Error{ErrorCode::not_finite, "", "has a force density that is not finite",
                     "Mend its formula."};
    return Balancing(net, densities_kn_per_m, run).all();
}

}  // namespace plume
