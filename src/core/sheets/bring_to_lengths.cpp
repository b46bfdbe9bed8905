#include "core/sheets/bring_to_lengths.hpp"

#include <algorithm>
#include <cmath>

#include "core/sheets/falling_sheet.hpp"

namespace plume {
namespace {

constexpr double step_s = 1.0 / 60;
// What an edge changes by in a step of growing.
constexpr double growth_a_step = 0.02;
constexpr std::size_t steps_of_settling = 30, most_settlings = 12;
// A settling that takes less than this share of the spread is the last.
constexpr double least_gain = 0.1;
constexpr double softer_each_settling = 0.4;
// Until then it may still be bending that holds it.
constexpr std::size_t softest = 7;
// Against the stiffness of edges: what inertia keeps in place, so that each step is a small one.
constexpr double inertia_share = 0.02;
// Against the mean edge.
constexpr double thickness_share = 0.25;

// How many steps it takes to grow from these lengths.
std::size_t steps_to_lengths(const Sheet& sheet, const std::vector<Vec3>& from) {
    double most = 1;
    for (const SheetSpring& spring : sheet.springs) {
        const double now = std::max(length(from[spring.b] - from[spring.a]), 1e-6 * spring.rest);
        most = std::max({most, spring.rest / now, now / spring.rest});
    }
    return static_cast<std::size_t>(std::ceil(std::log(most) / growth_a_step)) + 1;
}

class Bringing {
public:
    Bringing(const Sheet& sheet, const std::vector<Vec3>& from, const std::vector<char>& held, const Run& run)
        : sheet_(sheet), target_(sheet.springs), run_(run) {
        state_ = {from, std::vector<Vec3>(from.size())};
        holds_.firmness.assign(from.size(), 0);
        for (std::size_t vertex = 0; vertex < held.size(); ++vertex)
            holds_.firmness[vertex] = held[vertex] != 0 ? 1 : 0;
        holds_.from = holds_.to = from;
        forces_.gravity = {};
        forces_.friction = 0;
        forces_.calm = 1;
        forces_.thickness = std::min(thickness_share * sheet.mean_edge, 0.5 * sheet.shortest_edge);
        for (double& mass : sheet_.mass)
            mass = inertia_share * stiffest() * step_s * step_s;
    }

    Result<BroughtForm> all(double spread) {
        const std::size_t growing = steps_to_lengths(sheet_, state_.at);
        if (!grow(growing)) return cancelled_error();
        BroughtForm form = measured();
        for (std::size_t settling = 0; settling < most_settlings && form.spread() > spread; ++settling) {
            const double before = form.spread();
            for (SheetHinge& hinge : sheet_.hinges)
                hinge.stiffness *= softer_each_settling;
            run_.report(0.6 + 0.4 * static_cast<double>(settling) / most_settlings);
            if (!take(steps_of_settling, [](std::size_t) {})) return cancelled_error();
            form = measured();
            if (form.spread() > (1 - least_gain) * before && settling >= softest) break;
        }
        return form;
    }

private:
    double stiffest() const {
        return std::ranges::max(sheet_.springs, {}, &SheetSpring::stiffness).stiffness;
    }

    bool grow(std::size_t steps) {
        std::vector<double> first;
        first.reserve(target_.size());
        for (const SheetSpring& spring : target_)
            first.push_back(length(state_.at[spring.b] - state_.at[spring.a]));
        return take(steps, [&](std::size_t step) {
            const double passed = static_cast<double>(step + 1) / static_cast<double>(steps);
            for (std::size_t index = 0; index < target_.size(); ++index)
                sheet_.springs[index].rest =
                    first[index] * std::pow(target_[index].rest / first[index], passed);
            run_.report(0.6 * passed);
        });
    }

    template <class Before>
    bool take(std::size_t steps, Before before) {
        FallingSheet falling(sheet_, state_.at);
        falling.put_among({}, forces_);
        for (std::size_t step = 0; step < steps; ++step) {
            before(step);
            if (!falling.advance(state_, holds_, step_s, run_.part(0, 0))) return false;
        }
        return true;
    }

    BroughtForm measured() const {
        BroughtForm form{state_.at, 1, 1};
        for (const SheetSpring& spring : target_) {
            if (spring.diagonal) continue;
            const double now = length(form.at[spring.b] - form.at[spring.a]) / spring.rest;
            form.longest = std::max(form.longest, now);
            form.shortest = std::min(form.shortest, now);
        }
        return form;
    }

    Sheet sheet_;
    std::vector<SheetSpring> target_;
    const Run& run_;
    SheetForces forces_;
    SheetState state_;
    SheetHolds holds_;
};

}  // namespace

Result<BroughtForm> bring_to_lengths(const Sheet& sheet, const std::vector<Vec3>& from,
                                     const std::vector<char>& held, double spread, const Run& run) {
    return Bringing(sheet, from, held, run).all(spread);
}

}  // namespace plume
