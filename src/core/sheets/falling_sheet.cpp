#include "core/sheets/falling_sheet.hpp"

#include <algorithm>
#include <cmath>
#include <limits>

#include "core/geometry/moves/no_farther.hpp"

namespace plume {
namespace {

constexpr double longest_step_s = 1.0 / 60, shortest_step_s = longest_step_s / 8;
// Of the mean edge: where more of a vertex's way than this is cut off by what it meets, its neighbours, which
// go on, would pull at it as if it had been thrown.
constexpr double most_cut_off = 0.25;
// What is held less firmly than this gives way.
constexpr double firm = 1 - 1e-9;
constexpr double air_weight = 1.2;  // kg/m^3
constexpr double drag_of_cylinder = 1.2;
// Of how far it was above the ground, what is left at least.
constexpr double share_above_ground = 0.2;

}  // namespace

FallingSheet::FallingSheet(const Sheet& sheet, const std::vector<Vec3>& lying)
    : sheet_(sheet), contacts_(sheet, lying), system_(sheet, contacts_) {}

void FallingSheet::put_among(Obstacle obstacle, SheetForces forces) {
    way_.reset();
    if (!obstacle.from.empty()) way_ = affine_between(obstacle.from, obstacle.at);
    contacts_.stand_among(std::move(obstacle), forces.thickness);
    forces_ = std::move(forces);
    system_.forget();
}

Result<SheetReport> FallingSheet::advance(SheetState& state, const SheetHolds& holds, double seconds,
                                          const Run& run) {
    hold_.assign(sheet_.vertex_count, 0);
    for (std::size_t vertex = 0; vertex < sheet_.vertex_count; ++vertex) {
        const double firmness = holds.firmness[vertex];
        hold_[vertex] = firmness >= firm ? std::numeric_limits<double>::infinity()
                                         : firmness / (1 - firmness) * sheet_.pull[vertex];
    }
    held_at_.resize(sheet_.vertex_count);
    const int steps = std::max(1, static_cast<int>(std::ceil(seconds / longest_step_s - 1e-9)));
    for (int index = 1; index <= steps; ++index) {
        const double before = static_cast<double>(index - 1) / steps;
        const double passed = static_cast<double>(index) / steps;
        if (!go(state, holds, seconds, before, passed, run)) return cancelled_error();
        run.report(passed);
    }
    return report(state, holds);
}

// From one share of the time to another, in halves where one step would be too rough.
bool FallingSheet::go(SheetState& state, const SheetHolds& holds, double seconds, double before,
                      double passed, const Run& run) {
    move_forms(before, passed);
    // What holds moves no faster than by an edge a step: what jumps is followed.
    for (std::size_t vertex = 0; vertex < sheet_.vertex_count; ++vertex)
        held_at_[vertex] = no_farther(state.at[vertex],
                                      holds.from[vertex] + (holds.to[vertex] - holds.from[vertex]) * passed,
                                      sheet_.mean_edge);
    SheetState next = state;
    const double step_s = seconds * (passed - before);
    const auto cut_off = step(next, step_s, run);
    if (!cut_off) return false;
    if (*cut_off <= most_cut_off * sheet_.mean_edge || step_s < 1.5 * shortest_step_s) {
        state = std::move(next);
        return true;
    }
    const double middle = (before + passed) / 2;
    return go(state, holds, seconds, before, middle, run) && go(state, holds, seconds, middle, passed, run);
}

void FallingSheet::move_forms(double before, double passed) {
    const Obstacle& among = contacts_.among();
    if (among.from.empty()) return;
    std::vector<Vec3> places = among.from;
    for (std::size_t at = 0; at < places.size(); ++at)
        places[at] = places[at] + (among.at[at] - places[at]) * passed;
    contacts_.place_still(std::move(places));
    if (way_) along_ = composed(part_of(*way_, passed), inverse_of(part_of(*way_, before)));
}

// How much of a way was cut off at most; none: cancelled.
std::optional<double> FallingSheet::step(SheetState& state, double seconds, const Run& run) {
    start_ = state.at;
    if (way_)
        for (Vec3& at : start_)
            at = along_.at(at);
    aim_for(state, seconds);
    const Run quiet = run.part(0, 0);
    std::vector<Vec3> ways(sheet_.vertex_count);
    SheetSystem::Step system{seconds, &forces_, &state.at, &start_, &aim_, &held_at_, &hold_};
    // First where it would go if nothing met, then by what it meets on that way.
    std::vector<Vec3> to = aim_;
    for (std::size_t vertex = 0; vertex < to.size(); ++vertex)
        if (std::isinf(hold_[vertex])) to[vertex] = held_at_[vertex];
    contacts_.forget();
    if (!system_.solve(system, to, quiet)) return {};
    keep_above_ground(state.at, to);
    for (std::size_t vertex = 0; vertex < to.size(); ++vertex)
        ways[vertex] = to[vertex] - start_[vertex];
    if (!contacts_.look(start_, ways, quiet)) return {};
    system.bounded = true;
    if (!system_.solve(system, to, quiet)) return {};
    keep_above_ground(state.at, to);
    const double cut_off = contacts_.keep_apart(to, quiet);
    if (run.cancelled()) return {};
    const double keeps = std::pow(1 - forces_.calm, seconds);
    for (std::size_t vertex = 0; vertex < sheet_.vertex_count; ++vertex) {
        const double rose = state.speed[vertex].z;
        state.speed[vertex] = (to[vertex] - state.at[vertex]) * (keeps / seconds);
        // A ground that jumps, or that it begins below, does not throw it up.
        if (forces_.ground && state.at[vertex].z < *forces_.ground)
            state.speed[vertex].z = std::min(state.speed[vertex].z, std::max(0.0, rose));
    }
    state.at.swap(to);
    return cut_off;
}

// Across them, as on a long cylinder.
void FallingSheet::add_wind_on_threads(const SheetState& state, std::vector<Vec3>& force) const {
    for (const auto& [a, b] : sheet_.threads) {
        const Vec3 way = state.at[b] - state.at[a], along = unit_or_zero(way);
        const Vec3 against = forces_.wind - (state.speed[a] + state.speed[b]) * 0.5;
        const Vec3 across = against - along * dot(against, along);
        const Vec3 on_it =
            across * (drag_of_cylinder * air_weight / 2 * sheet_.thread_width * length(way) * length(across));
        for (const std::uint32_t end : {a, b})
            force[end] = force[end] + on_it * 0.5;
    }
}

// Where each vertex would be without springs.
void FallingSheet::aim_for(const SheetState& state, double seconds) {
    std::vector<Vec3> force = forces_.loads;
    force.resize(sheet_.vertex_count);
    const bool windy = dot(forces_.wind, forces_.wind) > 0;
    for (std::size_t index = 0; (windy || forces_.inflation != 0) && index < sheet_.triangles.size();
         ++index) {
        const auto& c = sheet_.triangles[index];
        const Vec3 twice = cross(state.at[c[1]] - state.at[c[0]], state.at[c[2]] - state.at[c[0]]);
        const Vec3 normal = unit_or_zero(twice);
        Vec3 on_it = twice * (forces_.inflation / 2);
        if (windy) {
            const Vec3 speed = (state.speed[c[0]] + state.speed[c[1]] + state.speed[c[2]]) * (1.0 / 3);
            const double against = dot(forces_.wind - speed, normal);
            on_it = on_it + normal * (air_weight / 4 * length(twice) * against * std::abs(against));
        }
        for (const std::uint32_t corner : c)
            force[corner] = force[corner] + on_it * (1.0 / 3);
    }
    if (windy) add_wind_on_threads(state, force);
    aim_.resize(sheet_.vertex_count);
    for (std::size_t vertex = 0; vertex < sheet_.vertex_count; ++vertex)
        aim_[vertex] = state.at[vertex] + state.speed[vertex] * seconds +
                       (forces_.gravity + force[vertex] * (1 / sheet_.mass[vertex])) * (seconds * seconds);
}

void FallingSheet::keep_above_ground(const std::vector<Vec3>& from, std::vector<Vec3>& to) const {
    if (!forces_.ground) return;
    for (std::size_t vertex = 0; vertex < to.size(); ++vertex)
        if (const double above = from[vertex].z - *forces_.ground; above > 0 && !std::isinf(hold_[vertex]))
            to[vertex].z = std::max(to[vertex].z, *forces_.ground + share_above_ground * above);
}

SheetReport FallingSheet::report(const SheetState& state, const SheetHolds& holds) const {
    SheetReport report;
    for (std::size_t vertex = 0; vertex < sheet_.vertex_count; ++vertex) {
        report.fastest = std::max(report.fastest, length(state.speed[vertex]));
        if (std::isinf(hold_[vertex]))
            report.most_held_off =
                std::max(report.most_held_off, length(state.at[vertex] - holds.to[vertex]));
    }
    for (const SheetSpring& spring : sheet_.springs)
        if (!spring.diagonal)
            report.most_stretched = std::max(
                report.most_stretched, length(state.at[spring.b] - state.at[spring.a]) / spring.rest - 1);
    report.touching = contacts_.pressed(state.at).size();
    return report;
}

double FallingSheet::energy(const SheetState& state) const {
    double sum = 0;
    for (const SheetSpring& spring : sheet_.springs) {
        const double longer = length(state.at[spring.b] - state.at[spring.a]) - spring.rest;
        sum += spring.stiffness * longer * longer / 2;
    }
    for (const SheetHinge& hinge : sheet_.hinges) {
        Vec3 bent;
        for (std::size_t corner = 0; corner < 4; ++corner)
            bent = bent + state.at[hinge.corners[corner]] * hinge.weights[corner];
        sum += hinge.stiffness * dot(bent, bent) / 2;
    }
    for (std::size_t vertex = 0; vertex < sheet_.vertex_count; ++vertex)
        sum += sheet_.mass[vertex] *
               (dot(state.speed[vertex], state.speed[vertex]) / 2 - dot(forces_.gravity, state.at[vertex]));
    return sum;
}

}  // namespace plume
