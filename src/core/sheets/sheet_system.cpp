#include "core/sheets/sheet_system.hpp"

#include <algorithm>
#include <cmath>
#include <utility>

#include "core/base/parallel.hpp"

namespace plume {
namespace {

// Where things press each other what presses changes from one step to the next, until it does not.
constexpr int newton_steps = 1, newton_steps_pressed = 4, most_gradients = 10;
constexpr double enough = 1e-6;  // of what is left of the residual, squared
constexpr std::size_t block = 256;
// Softer than the sheet, so that what presses settles; far harder than weight asks for.
constexpr double push_of_pull = 0.01;
// Slower than this a contact sticks, m/s.
constexpr double sticks_below = 0.01;

}  // namespace

SheetSystem::SheetSystem(const Sheet& sheet, const Contacts& contacts)
    : sheet_(sheet), contacts_(contacts), stiffness_(sheet) {
    if (!sheet.paths.empty()) paths_.emplace(stiffness_);
    if (!paths_ || paths_->any_knots()) areas_.emplace(sheet);
    double pull = 0;
    for (const double one : sheet.pull)
        pull += one;
    const std::size_t count = sheet.vertex_count;
    stiffness_.push = pull / static_cast<double>(count) * push_of_pull;
    inverse_.resize(count);
    force_.resize(count);
    for (std::vector<Lanes>* of : {&ways_, &residual_, &preconditioned_, &direction_, &image_})
        of->resize(count);
    sums_.resize((count + block - 1) / block);
}

void SheetSystem::forget() {
    if (areas_) areas_->forget_contacts();
}

// Of what the body says of each vertex, block by block.
template <class Body>
double SheetSystem::sum(Body body) {
    parallel_blocks(sheet_.vertex_count, block, Run(), [&](std::size_t begin, std::size_t end) {
        double sum = 0;
        for (std::size_t vertex = begin; vertex < end; ++vertex)
            sum += body(static_cast<std::uint32_t>(vertex));
        sums_[begin / block] = sum;
    });
    double sum = 0;
    for (const double one : sums_)
        sum += one;
    return sum;
}

bool SheetSystem::solve(const Step& step, std::vector<Vec3>& at, const Run& run) {
    step_ = step;
    for (std::size_t vertex = 0; vertex < at.size(); ++vertex)
        stiffness_.stays[vertex] = std::isinf((*step.hold)[vertex]) ? 1 : 0;
    for (int newton = 0; newton < (step.bounded ? newton_steps_pressed : newton_steps); ++newton) {
        const bool alike = find_pushing(at);
        if (newton >= newton_steps && alike) break;
        linearise(at);
        find_ways();
        for (std::size_t vertex = 0; vertex < at.size(); ++vertex) {
            if (stiffness_.stays[vertex] != 0) continue;
            const Vec3 to = at[vertex] + ways_[vertex].vec3();
            at[vertex] = step_.bounded ? contacts_.within_room(static_cast<std::uint32_t>(vertex), to) : to;
        }
        if (run.cancelled()) return false;
    }
    return true;
}

// Those that are nearer than they may be. Whether they are those of before.
bool SheetSystem::find_pushing(const std::vector<Vec3>& at) {
    std::vector<Contact> pushing = contacts_.pressed(at);
    const bool alike =
        std::ranges::equal(pushing, stiffness_.pushing(), {}, &Contact::corners, &Contact::corners);
    stiffness_.set_pushing(std::move(pushing));
    return alike;
}

void SheetSystem::linearise(const std::vector<Vec3>& at) {
    parallel_blocks(at.size(), block, Run(), [&](std::size_t begin, std::size_t end) {
        for (std::size_t vertex = begin; vertex < end; ++vertex) {
            const Pull pull = pull_at(at, static_cast<std::uint32_t>(vertex));
            force_[vertex] = pull.force;
            stiffness_.own[vertex] = pull.own;
            stiffness_.without_links[vertex] = BlockLanes(pull.without_links);
            inverse_[vertex] = BlockLanes(pull.own.inverse());
        }
    });
    if (paths_) paths_->factor();
    if (areas_) areas_->factor(stiffness_);
}

void SheetSystem::precondition() {
    if (paths_) paths_->find_ways(residual_);
    if (areas_) areas_->find_ways(residual_);
}

Lanes SheetSystem::preconditioned_at(std::uint32_t vertex) const {
    const Lanes own = paths_ ? Lanes(paths_->way_of(vertex)) : inverse_[vertex] * residual_[vertex];
    return areas_ ? own + Lanes(areas_->way_of(vertex)) : own;
}

SheetSystem::Pull SheetSystem::pull_at(const std::vector<Vec3>& at, std::uint32_t vertex) {
    const double inert = sheet_.mass[vertex] / (step_.seconds * step_.seconds);
    Pull pull;
    pull.force = ((*step_.aim)[vertex] - at[vertex]) * inert;
    pull.own.add(inert);
    const double hold = (*step_.hold)[vertex];
    if (hold > 0 && !std::isinf(hold)) {
        pull.force = pull.force + ((*step_.held_at)[vertex] - at[vertex]) * hold;
        pull.own.add(hold);
    }
    add_contacts(at, vertex, pull);
    if (const SheetForces& forces = *step_.forces; forces.ground) {
        const Vec3 before = (*step_.before)[vertex];
        // What is far below it comes up by an edge a step.
        const double ground = std::min(*forces.ground, before.z + sheet_.mean_edge);
        add_push(forces.thickness - (at[vertex].z - ground), {0, 0, 1}, 1, at[vertex] - before, pull);
    }
    pull.without_links = pull.own;
    add_springs(at, vertex, pull);
    add_hinges(at, vertex, pull);
    return pull;
}

void SheetSystem::add_springs(const std::vector<Vec3>& at, std::uint32_t vertex, Pull& pull) {
    for (std::uint32_t k = sheet_.springs_at.first[vertex]; k < sheet_.springs_at.first[vertex + 1]; ++k) {
        const SheetSpring& spring = sheet_.springs[sheet_.springs_at.of[k]];
        const Vec3 way = at[sheet_.ring.of[k]] - at[vertex];
        const double now = std::max(length(way), 1e-300);
        // Across a spring that is pushed together it would be as if it pushed away: left out.
        const double across = spring.stiffness * std::max(0.0, 1 - spring.rest / now);
        const Vec3 axis = way * (std::sqrt(spring.stiffness - across) / now);
        SheetStiffness::Link& link = stiffness_.links[k];
        link = {axis, across};
        pull.force = pull.force + way * (spring.stiffness * (1 - spring.rest / now));
        pull.own.add(1, link.axis());
        pull.own.add(link.across());
    }
}

void SheetSystem::add_hinges(const std::vector<Vec3>& at, std::uint32_t vertex, Pull& pull) const {
    const auto& bends = stiffness_.bends();
    Vec3 bent = at[vertex] * bends.own[vertex];
    for (std::uint32_t k = bends.first[vertex]; k < bends.first[vertex + 1]; ++k)
        bent = bent + at[bends.other[k]] * bends.weight[k];
    pull.force = pull.force - bent;
    pull.own.add(bends.own[vertex]);
}

// A spring below the thickness, on the side from which it came, however deep it would go; and what rubs.
void SheetSystem::add_push(double deep, Vec3 normal, double weight, Vec3 slid, Pull& pull) const {
    if (!(deep > 0)) return;
    const double push = stiffness_.push;
    const Vec3 along = slid - normal * dot(slid, normal);
    const double drag =
        step_.forces->friction * push * deep / std::max(length(along), sticks_below * step_.seconds);
    pull.force = pull.force + normal * (push * deep * weight) - along * (drag * weight);
    pull.own.add((push - drag) * weight * weight, normal);
    pull.own.add(drag * weight * weight);
}

void SheetSystem::add_contacts(const std::vector<Vec3>& at, std::uint32_t vertex, Pull& pull) const {
    const Incidence& pushing_at = stiffness_.pushing_at();
    for (std::uint32_t k = pushing_at.first[vertex]; k < pushing_at.first[vertex + 1]; ++k) {
        const Contact& contact = stiffness_.pushing()[pushing_at.of[k]];
        Vec3 slid;
        double own = 0;
        for (std::size_t corner = 0; corner < 4; ++corner) {
            const std::uint32_t one = contact.corners[corner];
            if (one < sheet_.vertex_count)
                slid = slid + (at[one] - (*step_.start)[one]) * contact.weights[corner];
            if (one == vertex) own = contact.weights[corner];
        }
        add_push(contacts_.deep(contact, at), contact.normal, own, slid, pull);
    }
}

// Conjugate gradients.
void SheetSystem::find_ways() {
    const auto conditioned = [&](std::uint32_t vertex) {
        preconditioned_[vertex] = stiffness_.stays[vertex] != 0 ? Lanes() : preconditioned_at(vertex);
        return static_cast<double>(dot(residual_[vertex], preconditioned_[vertex]));
    };
    sum([&](std::uint32_t vertex) {
        ways_[vertex] = {};
        residual_[vertex] = stiffness_.stays[vertex] != 0 ? Lanes() : Lanes(force_[vertex]);
        direction_[vertex] = {};
        return 0.0;
    });
    precondition();
    double left = sum(conditioned), keeps = 0;
    const double at_most = enough * left;
    for (int times = 0; times < most_gradients && left > at_most; ++times) {
        sum([&](std::uint32_t vertex) {
            direction_[vertex] = preconditioned_[vertex] + direction_[vertex] * static_cast<float>(keeps);
            return 0.0;
        });
        stiffness_.press(direction_);
        const double bent = sum([&](std::uint32_t vertex) {
            image_[vertex] = stiffness_.times(direction_, vertex);
            return static_cast<double>(dot(direction_[vertex], image_[vertex]));
        });
        if (!(bent > 0)) return;
        const auto far = static_cast<float>(left / bent);
        sum([&](std::uint32_t vertex) {
            ways_[vertex] = ways_[vertex] + direction_[vertex] * far;
            residual_[vertex] = residual_[vertex] - image_[vertex] * far;
            return 0.0;
        });
        precondition();
        const double now = sum(conditioned);
        keeps = now / left;
        left = now;
    }
}

}  // namespace plume
