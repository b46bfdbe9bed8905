#include "core/forces/relaxation.hpp"

#include <Eigen/Sparse>
#include <algorithm>
#include <cmath>
#include <limits>

#include "core/base/parallel.hpp"

namespace plume {
namespace {

using Matrix = Eigen::SparseMatrix<double>;

constexpr std::size_t block = 1024;
constexpr double most_residual = 1e-9;  // of the largest load or force
constexpr std::size_t most_rounds = 200'000;
constexpr std::size_t most_for_newton = 20'000;  // places: beyond, its factors take longer than they save
constexpr double near_rest = 1e-2;               // where Newton's method is tried
constexpr double stiffer_by = 6;
constexpr double shares_of_length[] = {0, 0.5, 0.8, 0.95, 1};
constexpr double least_damping = 1e-12, most_damping = 1e3;  // of the largest stiffness
constexpr std::size_t most_quick_rounds = 10'000;            // by then all but very stiff cables are at rest
constexpr std::size_t rounds_at_once = 1000;
constexpr int most_newton_rounds = 60, most_halvings = 8;

Error no_rest(double residual) {
    return {ErrorCode::not_converged, "",
            "does not come to rest: out of balance by " + std::to_string(residual * 100) +
                " % of its largest force",
            "Hold more of it, or give it links that are longer or stiffer."};
}

class Relaxing {
public:
    Relaxing(const Net& net, const Elasticity& elasticity, const Run& run)
        : net_(net),
          elasticity_(elasticity),
          run_(run),
          links_(links_of_places(net)),
          places_(net.places),
          speeds_(net.places.size()),
          left_(net.places.size()),
          mass_(net.places.size(), 0),
          springs_(net.places.size(), 0),
          pulls_(net.links.size(), 0),
          densities_(net.links.size(), 0) {
        for (std::size_t place = 0; place < places_.size(); ++place)
            springs_[place] = spring_density(net.held[place], stiffness_at(place));
        for (const Vec3 load : net.loads)
            largest_load_ = std::max(largest_load_, length(load));
    }

    Result<Balance> all() {
        look();
        const bool few = places_.size() <= most_for_newton;
        bool stiffened = !few || elasticity_.pushes;
        double tried_below = few ? near_rest : 0;  // Newton's method
        std::size_t round = 0;
        double enough = wanted();
        while (residual_ > enough && round < most_rounds) {
            if (run_.cancelled()) return cancelled_error();
            if (residual_ < tried_below) {
                if (newton(enough)) break;
                tried_below = residual_ / 10;
            }
            if (!stiffened && round >= most_quick_rounds) {
                stiffen_to_rest();
                stiffened = true;
            }
            for (std::size_t once = 0;
                 once < rounds_at_once && residual_ > enough && residual_ >= tried_below; ++once, ++round) {
                if (run_.cancelled()) return cancelled_error();
                move();
                run_.report(told());
                if (!std::isfinite(residual_)) return no_rest(1);
            }
            enough = wanted();
        }
        if (run_.cancelled()) return cancelled_error();
        if (!(residual_ <= wanted())) return no_rest(residual_);
        Balance balance{std::move(places_), {}, residual_};
        for (std::size_t link = 0; link < net_.links.size(); ++link)
            balance.forces.push_back(force(link, balance.places));
        return balance;
    }

private:
    bool is_free(std::size_t place) const {
        return net_.held[place] < 1 && links_.first[place] != links_.first[place + 1];
    }
    double stiffness_at(std::size_t place) const {
        double sum = 0;
        for (std::uint32_t at = links_.first[place]; at < links_.first[place + 1]; ++at) {
            const std::uint32_t link = links_.of[at];
            sum += stretching(link);
        }
        return sum;
    }
    // What a link pulls more for each metre.
    double stretching(std::size_t link) const {
        return share_of_stiffness_ * elasticity_.stiffness_kn[link] / natural(link);
    }
    double rest(std::size_t link) const { return share_of_length_ * elasticity_.rest_m[link]; }
    double spring(std::size_t place) const { return share_of_stiffness_ * springs_[place]; }
    // Of a link without length of its own any length is long: it is as stiff as one of its present length.
    double natural(std::size_t link) const {
        if (elasticity_.rest_m[link] > 0) return elasticity_.rest_m[link];
        const auto [from, to] = net_.links[link];
        return std::max(length(net_.places[to] - net_.places[from]), 1e-9);
    }
    double force(std::size_t link, const std::vector<Vec3>& places) const {
        const auto [from, to] = net_.links[link];
        const double longer = length(places[to] - places[from]) - rest(link);
        return longer < 0 && !elasticity_.pushes ? 0 : stretching(link) * longer;
    }
    // What is out of balance everywhere, each place from its own links in their order.
    void look() {
        parallel_blocks(pulls_.size(), block, Run(), [&](std::size_t begin, std::size_t end) {
            for (std::size_t link = begin; link < end; ++link) {
                const auto [from, to] = net_.links[link];
                const double size = length(places_[to] - places_[from]);
                pulls_[link] = force(link, places_);
                densities_[link] = size > 0 ? pulls_[link] / size : 0;
            }
        });
        parallel_blocks(places_.size(), block, Run(), [&](std::size_t begin, std::size_t end) {
            for (std::size_t place = begin; place < end; ++place)
                left_[place] = is_free(place) ? left_at(place) : Vec3{};
        });
        double most = 0;
        for (const Vec3 left : left_)
            most = std::max(most, dot(left, left));
        residual_ = std::sqrt(most) / scale();
    }
    Vec3 left_at(std::size_t place) {
        Vec3 left = net_.loads.empty() ? Vec3{} : net_.loads[place];
        double stiffness = spring(place);
        for (std::uint32_t at = links_.first[place]; at < links_.first[place + 1]; ++at) {
            const std::uint32_t link = links_.of[at];
            const auto [from, to] = net_.links[link];
            left = left + (places_[from == place ? to : from] - places_[place]) * densities_[link];
            stiffness += stretching(link) + std::abs(densities_[link]);
        }
        // Stable for steps of time 1: half the sum of all stiffness, and twice that for safety.
        mass_[place] = stiffness;
        return left + (net_.places[place] - places_[place]) * spring(place);
    }
    // The largest force anywhere, so that what is left is a share of it.
    double scale() const {
        double most = largest_load_;
        for (const double pull : pulls_)
            most = std::max(most, std::abs(pull));
        return most > 0 ? most : 1;
    }
    void move() {
        parallel_blocks(places_.size(), block, Run(), [&](std::size_t begin, std::size_t end) {
            for (std::size_t place = begin; place < end; ++place) {
                if (!is_free(place)) continue;
                speeds_[place] = speeds_[place] + left_[place] * (1 / mass_[place]);
                places_[place] = places_[place] + speeds_[place];
            }
        });
        double energy = 0;
        for (std::size_t place = 0; place < places_.size(); ++place)
            energy += mass_[place] * dot(speeds_[place], speeds_[place]);
        // Past the peak: half a step back, and from there at rest.
        if (energy < energy_) {
            for (std::size_t place = 0; place < places_.size(); ++place) {
                if (!is_free(place)) continue;
                places_[place] = places_[place] - speeds_[place] + left_[place] * (0.5 / mass_[place]);
                speeds_[place] = {};
            }
            energy = 0;
        }
        energy_ = energy;
        look();
    }
    // No less than what rounding of places makes of stiff links.
    double wanted() {
        double stiffest = 0, size = 0;
        for (std::size_t link = 0; link < net_.links.size(); ++link)
            stiffest = std::max(stiffest, stretching(link));
        for (const Vec3 place : places_)
            size = std::max({size, std::abs(place.x), std::abs(place.y), std::abs(place.z)});
        return std::max(most_residual,
                        32 * std::numeric_limits<double>::epsilon() * stiffest * size / scale());
    }
    double told() const { return std::clamp(std::log10(residual_) / std::log10(most_residual), 0.0, 0.99); }

    // Of cables the energy has one lowest place. A stiff net reaches it only along a narrow valley, and one
    // with slack cables hardly at all: so it begins with cables that are soft and taut whatever happens,
    // which become as long and then as stiff as they are, from rest to rest.
    void stiffen_to_rest() {
        double load = 0, stiffest = 0;
        for (const Vec3 one : net_.loads)
            load += length(one);
        for (const double stiffness : elasticity_.stiffness_kn)
            stiffest = std::max(stiffest, stiffness);
        const std::vector<Vec3> before = places_;
        share_of_stiffness_ = load > 0 ? std::clamp(2 * load / stiffest, 1e-12, 1.0) : 1;
        bool rests = true;
        for (const double share : shares_of_length) {
            share_of_length_ = share;
            look();
            rests = rests && newton(share == 1 && share_of_stiffness_ == 1 ? wanted() : near_rest);
        }
        while (rests && share_of_stiffness_ < 1) {
            share_of_stiffness_ = std::min(1.0, share_of_stiffness_ * stiffer_by);
            look();
            rests = newton(share_of_stiffness_ == 1 ? wanted() : near_rest);
        }
        share_of_stiffness_ = share_of_length_ = 1;
        if (!rests) places_ = before;
        look();
    }
    // Newton's method from here; whether it comes to rest. Where it does not, all is as it was.
    bool newton(double enough) {
        const std::vector<Vec3> before = places_;
        number_columns();
        double damping = least_damping;
        for (int round = 0; round < most_newton_rounds && residual_ > enough; ++round) {
            if (run_.cancelled()) return false;
            const Eigen::SimplicialLDLT<Matrix> factor(tangent(damping));
            const bool nearer = factor.info() == Eigen::Success && goes_nearer(factor);
            damping = nearer ? std::max(least_damping, damping / 10) : damping * 100;
            if (damping > most_damping) break;
        }
        speeds_.assign(places_.size(), {});
        energy_ = 0;
        if (residual_ <= enough) return true;
        places_ = before;
        look();
        return false;
    }
    // What moving there stores and what loads give back.
    double potential() const {
        double sum = 0;
        for (std::size_t link = 0; link < net_.links.size(); ++link) {
            const double pull = force(link, places_);
            if (const double stiffness = stretching(link); stiffness > 0) sum += pull * pull / stiffness / 2;
        }
        for (std::size_t place = 0; place < places_.size(); ++place) {
            const Vec3 moved = places_[place] - net_.places[place];
            if (!net_.loads.empty() && is_free(place)) sum -= dot(net_.loads[place], moved);
            sum += spring(place) * dot(moved, moved) / 2;
        }
        return sum;
    }
    void number_columns() {
        if (!column_.empty()) return;
        for (std::size_t place = 0; place < places_.size(); ++place)
            column_.push_back(is_free(place) ? 3 * free_++ : -1);
    }
    Eigen::Index unknowns() const { return Eigen::Index{3} * free_; }
    // Of every taut link, along it and across.
    Matrix tangent(double damping) const {
        std::vector<Eigen::Triplet<double>> entries;
        entries.reserve(net_.links.size() * 21);
        const auto add = [&](int row, int column, const double(&block_of)[3][3], double sign) {
            for (int a = 0; a < 3; ++a)
                for (int b = 0; b < 3; ++b)
                    if (row + a >= column + b)
                        entries.emplace_back(row + a, column + b, sign * block_of[a][b]);
        };
        double largest = 0;
        for (std::size_t link = 0; link < net_.links.size(); ++link) {
            const auto [from, to] = net_.links[link];
            const Vec3 along = places_[to] - places_[from];
            const double size = length(along), pull = force(link, places_);
            largest = std::max(largest, stretching(link));
            if (!(size > 0) || (!elasticity_.pushes && size < rest(link))) continue;
            const double n[3] = {along.x / size, along.y / size, along.z / size};
            const double along_it = stretching(link), across = pull / size;
            largest = std::max(largest, across);
            double both[3][3];
            for (int a = 0; a < 3; ++a)
                for (int b = 0; b < 3; ++b)
                    both[a][b] = (along_it - across) * n[a] * n[b] + (a == b ? across : 0);
            const int row = column_[from], column = column_[to];
            if (row >= 0) add(row, row, both, 1);
            if (column >= 0) add(column, column, both, 1);
            if (row >= 0 && column >= 0) add(std::max(row, column), std::min(row, column), both, -1);
        }
        for (std::size_t place = 0; place < places_.size(); ++place)
            for (int axis = 0; column_[place] >= 0 && axis < 3; ++axis)
                entries.emplace_back(column_[place] + axis, column_[place] + axis,
                                     spring(place) + damping * largest);
        Matrix stiffness(unknowns(), unknowns());
        stiffness.setFromTriplets(entries.begin(), entries.end());
        return stiffness;
    }
    // As far along the step as there is less energy, or less is left.
    bool goes_nearer(const Eigen::SimplicialLDLT<Matrix>& factor) {
        Eigen::VectorXd right(unknowns());
        for (std::size_t place = 0; place < places_.size(); ++place)
            if (const int row = column_[place]; row >= 0)
                right.segment<3>(row) << left_[place].x, left_[place].y, left_[place].z;
        const Eigen::VectorXd step = factor.solve(right);
        if (!step.allFinite()) return false;
        const std::vector<Vec3> before = places_;
        const double residual = residual_, energy = potential();
        double share = 1;
        for (int halving = 0; halving < most_halvings; ++halving, share /= 2) {
            for (std::size_t place = 0; place < places_.size(); ++place)
                if (const int row = column_[place]; row >= 0)
                    places_[place] = before[place] + Vec3{step[row], step[row + 1], step[row + 2]} * share;
            look();
            if (residual_ < residual || potential() < energy) return true;
        }
        places_ = before;
        look();
        return false;
    }

    const Net& net_;
    const Elasticity& elasticity_;
    const Run& run_;
    Incidence links_;
    std::vector<Vec3> places_, speeds_, left_;
    std::vector<double> mass_, springs_;
    std::vector<double> pulls_, densities_;                // of each link: its force, and that for each metre
    double share_of_stiffness_ = 1, share_of_length_ = 1;  // below 1 on the way there
    double largest_load_ = 0, residual_ = 0, energy_ = 0;
    int free_ = 0;
    std::vector<int> column_;  // first of three, of each place; -1 of one that stays
};

Status check_elasticity(const Elasticity& elasticity) {
    const auto good = [](double number) { return std::isfinite(number) && number >= 0; };
    if (!std::ranges::all_of(elasticity.rest_m, good) || !std::ranges::all_of(elasticity.stiffness_kn, good))
        return Error{ErrorCode::out_of_range, "",
                     "has a length or a stiffness below 0, or one that is no number",
                     "Choose numbers from 0 on."};
    if (std::ranges::none_of(elasticity.stiffness_kn, [](double stiffness) { return stiffness > 0; }))
        return Error{ErrorCode::out_of_range, "", "has no stiffness, and would fall", "Choose one above 0."};
    return Done{};
}

}  // namespace

Result<Balance> relaxed_net(const Net& net, const Elasticity& elasticity, const Run& run) {
    if (Status checked = check_net(net); !checked) return checked.error();
    if (Status checked = check_elasticity(elasticity); !checked) return checked.error();
    return Relaxing(net, elasticity, run).all();
}

std::size_t slack_links(const Net& net, const Balance& balance, const Elasticity& elasticity) {
    std::size_t slack = 0;
    for (std::size_t link = 0; link < net.links.size(); ++link) {
        const auto [from, to] = net.links[link];
        if (length(balance.places[to] - balance.places[from]) < elasticity.rest_m[link] && !elasticity.pushes)
            ++slack;
    }
    return slack;
}

}  // namespace plume
