#include "core/sheets/sheet_system.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/parallel.hpp"

namespace plume {
namespace {

constexpr int newton_steps = 2, most_gradients = 25;
constexpr double enough = 1e-6;  // of what is left of the residual, squared
constexpr std::size_t block = 256;
// Slower than this a contact sticks, m/s.
constexpr double sticks_below = 0.01;

}  // namespace

void SheetSystem::Pull::add(Vec3 push, double along, Vec3 axis) {
    force = force + push;
    xx += along * axis.x * axis.x;
    yy += along * axis.y * axis.y;
    zz += along * axis.z * axis.z;
    xy += along * axis.x * axis.y;
    yz += along * axis.y * axis.z;
    zx += along * axis.z * axis.x;
}

void SheetSystem::Pull::add_all(double every) {
    xx += every;
    yy += every;
    zz += every;
}

Vec3 SheetSystem::Pull::times(Vec3 w) const {
    return {xx * w.x + xy * w.y + zx * w.z, xy * w.x + yy * w.y + yz * w.z, zx * w.x + yz * w.y + zz * w.z};
}

Vec3 SheetSystem::Pull::solved(Vec3 p) const {
    const double m0 = yy * zz - yz * yz, m1 = yz * zx - xy * zz, m2 = xy * yz - yy * zx;
    const double determinant = xx * m0 + xy * m1 + zx * m2;
    if (!(determinant > 0)) return {};
    const double n1 = xx * zz - zx * zx, n2 = xy * zx - xx * yz, n3 = xx * yy - xy * xy;
    return Vec3{m0 * p.x + m1 * p.y + m2 * p.z, m1 * p.x + n1 * p.y + n2 * p.z,
                m2 * p.x + n2 * p.y + n3 * p.z} *
           (1 / determinant);
}

SheetSystem::SheetSystem(const Sheet& sheet, const SheetForces& forces, const Contacts& contacts)
    : sheet_(sheet), forces_(forces), contacts_(contacts) {
    double pull = 0;
    for (const double one : sheet.pull)
        pull += one;
    push_ = pull / static_cast<double>(sheet.vertex_count);
    const std::size_t count = sheet.vertex_count;
    pulls_.resize(count);
    links_.resize(sheet.springs_at.of.size());
    for (std::vector<Vec3>* of : {&ways_, &residual_, &preconditioned_, &direction_, &image_})
        of->resize(count);
    sums_.resize((count + block - 1) / block);
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

bool SheetSystem::stays(std::size_t vertex) const {
    return std::isinf((*step_.hold)[vertex]);
}

bool SheetSystem::solve(const Step& step, std::vector<Vec3>& at, const Run& run) {
    step_ = step;
    for (int newton = 0; newton < newton_steps; ++newton) {
        linearise(at);
        find_ways();
        for (std::size_t vertex = 0; vertex < at.size(); ++vertex) {
            if (stays(vertex)) continue;
            const Vec3 to = at[vertex] + ways_[vertex];
            at[vertex] = step_.bounded ? contacts_.within_room(static_cast<std::uint32_t>(vertex), to) : to;
        }
        if (run.cancelled()) return false;
    }
    return true;
}

// Those that are nearer than they may be, and where each vertex finds its own.
void SheetSystem::find_pushing(const std::vector<Vec3>& at) {
    pushing_.clear();
    for (const Contact& contact : contacts_.all())
        if (contacts_.deep(contact, at) > 0) pushing_.push_back(contact);
    pushing_at_ = incidence(sheet_.vertex_count, [&](auto use) {
        for (std::uint32_t index = 0; index < pushing_.size(); ++index)
            for (std::size_t corner = 0; corner < 4; ++corner)
                if (const std::uint32_t vertex = pushing_[index].corners[corner];
                    vertex < sheet_.vertex_count && pushing_[index].weights[corner] != 0)
                    use(vertex, index);
    });
}

void SheetSystem::linearise(const std::vector<Vec3>& at) {
    find_pushing(at);
    parallel_blocks(at.size(), block, Run(), [&](std::size_t begin, std::size_t end) {
        for (std::size_t vertex = begin; vertex < end; ++vertex)
            pulls_[vertex] = pull_at(at, static_cast<std::uint32_t>(vertex));
    });
}

SheetSystem::Pull SheetSystem::pull_at(const std::vector<Vec3>& at, std::uint32_t vertex) {
    const double inert = sheet_.mass[vertex] / (step_.seconds * step_.seconds);
    Pull pull;
    pull.force = ((*step_.aim)[vertex] - at[vertex]) * inert;
    pull.add_all(inert);
    const double hold = (*step_.hold)[vertex];
    if (hold > 0 && !std::isinf(hold)) {
        pull.force = pull.force + ((*step_.held_at)[vertex] - at[vertex]) * hold;
        pull.add_all(hold);
    }
    add_springs(at, vertex, pull);
    add_hinges(at, vertex, pull);
    add_contacts(at, vertex, pull);
    if (forces_.ground)
        add_push(forces_.thickness - (at[vertex].z - *forces_.ground), {0, 0, 1}, 1,
                 at[vertex] - (*step_.start)[vertex], pull);
    return pull;
}

void SheetSystem::add_springs(const std::vector<Vec3>& at, std::uint32_t vertex, Pull& pull) {
    for (std::uint32_t k = sheet_.springs_at.first[vertex]; k < sheet_.springs_at.first[vertex + 1]; ++k) {
        const SheetSpring& spring = sheet_.springs[sheet_.springs_at.of[k]];
        const Vec3 way = at[sheet_.ring.of[k]] - at[vertex];
        const double now = std::max(length(way), 1e-300);
        const Vec3 axis = way * (1 / now);
        // Across a spring that is pushed together it would be as if it pushed away: left out.
        const double across = spring.stiffness * std::max(0.0, 1 - spring.rest / now);
        links_[k] = {sheet_.ring.of[k], across, spring.stiffness - across, axis};
        pull.add(axis * (spring.stiffness * (now - spring.rest)), spring.stiffness - across, axis);
        pull.add_all(across);
    }
}

void SheetSystem::add_hinges(const std::vector<Vec3>& at, std::uint32_t vertex, Pull& pull) const {
    for (std::uint32_t k = sheet_.hinges_at.first[vertex]; k < sheet_.hinges_at.first[vertex + 1]; ++k) {
        const SheetHinge& hinge = sheet_.hinges[sheet_.hinges_at.of[k]];
        Vec3 bent;
        double own = 0;
        for (std::size_t corner = 0; corner < 4; ++corner) {
            bent = bent + at[hinge.corners[corner]] * hinge.weights[corner];
            if (hinge.corners[corner] == vertex) own = hinge.weights[corner];
        }
        pull.force = pull.force - bent * (hinge.stiffness * own);
        pull.add_all(hinge.stiffness * own * own);
    }
}

// A spring below the thickness, on the side from which it came, however deep it would go; and what rubs.
void SheetSystem::add_push(double deep, Vec3 normal, double weight, Vec3 slid, Pull& pull) const {
    if (!(deep > 0)) return;
    pull.add(normal * (push_ * deep * weight), push_ * weight * weight, normal);
    const Vec3 along = slid - normal * dot(slid, normal);
    const double drag =
        forces_.friction * push_ * deep / std::max(length(along), sticks_below * step_.seconds);
    pull.force = pull.force - along * (drag * weight);
    pull.add_all(drag * weight * weight);
    pull.add({}, -drag * weight * weight, normal);
}

void SheetSystem::add_contacts(const std::vector<Vec3>& at, std::uint32_t vertex, Pull& pull) const {
    for (std::uint32_t k = pushing_at_.first[vertex]; k < pushing_at_.first[vertex + 1]; ++k) {
        const Contact& contact = pushing_[pushing_at_.of[k]];
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

Vec3 SheetSystem::stiffness_times(const std::vector<Vec3>& way, std::uint32_t vertex) const {
    if (stays(vertex)) return {};
    Vec3 sum = pulls_[vertex].times(way[vertex]);
    for (std::uint32_t k = sheet_.springs_at.first[vertex]; k < sheet_.springs_at.first[vertex + 1]; ++k) {
        const Link& link = links_[k];
        const Vec3 other = way[link.other];
        sum = sum - other * link.across - link.axis * (link.along * dot(link.axis, other));
    }
    for (std::uint32_t k = sheet_.hinges_at.first[vertex]; k < sheet_.hinges_at.first[vertex + 1]; ++k) {
        const SheetHinge& hinge = sheet_.hinges[sheet_.hinges_at.of[k]];
        Vec3 bent;
        double own = 0;
        for (std::size_t corner = 0; corner < 4; ++corner)
            if (hinge.corners[corner] == vertex)
                own = hinge.weights[corner];
            else
                bent = bent + way[hinge.corners[corner]] * hinge.weights[corner];
        sum = sum + bent * (hinge.stiffness * own);
    }
    for (std::uint32_t k = pushing_at_.first[vertex]; k < pushing_at_.first[vertex + 1]; ++k) {
        const Contact& contact = pushing_[pushing_at_.of[k]];
        double own = 0, along = 0;
        for (std::size_t corner = 0; corner < 4; ++corner) {
            const std::uint32_t one = contact.corners[corner];
            if (one == vertex)
                own = contact.weights[corner];
            else if (one < sheet_.vertex_count)
                along += contact.weights[corner] * dot(contact.normal, way[one]);
        }
        sum = sum + contact.normal * (push_ * own * along);
    }
    return sum;
}

// Conjugate gradients.
void SheetSystem::find_ways() {
    double left = sum([&](std::uint32_t vertex) {
        ways_[vertex] = {};
        residual_[vertex] = stays(vertex) ? Vec3{} : pulls_[vertex].force;
        preconditioned_[vertex] = pulls_[vertex].solved(residual_[vertex]);
        direction_[vertex] = preconditioned_[vertex];
        return dot(residual_[vertex], preconditioned_[vertex]);
    });
    const double at_most = enough * left;
    for (int times = 0; times < most_gradients && left > at_most; ++times) {
        const double bent = sum([&](std::uint32_t vertex) {
            image_[vertex] = stiffness_times(direction_, vertex);
            return dot(direction_[vertex], image_[vertex]);
        });
        if (!(bent > 0)) return;
        const double far = left / bent;
        const double now = sum([&](std::uint32_t vertex) {
            ways_[vertex] = ways_[vertex] + direction_[vertex] * far;
            residual_[vertex] = residual_[vertex] - image_[vertex] * far;
            preconditioned_[vertex] = pulls_[vertex].solved(residual_[vertex]);
            return dot(residual_[vertex], preconditioned_[vertex]);
        });
        const double keeps = now / left;
        left = now;
        sum([&](std::uint32_t vertex) {
            direction_[vertex] = preconditioned_[vertex] + direction_[vertex] * keeps;
            return 0.0;
        });
    }
}

}  // namespace plume
