#include "core/sheets/sheet_stiffness.hpp"

#include <algorithm>

#include "core/base/parallel.hpp"

namespace plume {
namespace {

constexpr std::size_t block = 1024;

}  // namespace

SheetStiffness::SheetStiffness(const Sheet& sheet)
    : own(sheet.vertex_count),
      without_links(sheet.vertex_count),
      links(sheet.springs_at.of.size()),
      stays(sheet.vertex_count, 0),
      sheet_(sheet) {
    multiply_bends();
}

// A vertex and another share hinges; their weights' products are added up, once for all ways it may lie.
void SheetStiffness::multiply_bends() {
    bends_.first.push_back(0);
    std::vector<std::pair<std::uint32_t, double>> row;
    for (std::uint32_t vertex = 0; vertex < sheet_.vertex_count; ++vertex) {
        row.clear();
        double own_weight = 0;
        for (std::uint32_t k = sheet_.hinges_at.first[vertex]; k < sheet_.hinges_at.first[vertex + 1]; ++k) {
            const SheetHinge& hinge = sheet_.hinges[sheet_.hinges_at.of[k]];
            const auto at =
                static_cast<std::size_t>(std::ranges::find(hinge.corners, vertex) - hinge.corners.begin());
            for (std::size_t corner = 0; corner < 4; ++corner) {
                const double weight = hinge.stiffness * hinge.weights[at] * hinge.weights[corner];
                if (corner == at)
                    own_weight += weight;
                else if (weight != 0)
                    row.emplace_back(hinge.corners[corner], weight);
            }
        }
        std::ranges::stable_sort(row, {}, &std::pair<std::uint32_t, double>::first);
        for (std::size_t at = 0; at < row.size();) {
            const std::uint32_t other = row[at].first;
            double sum = 0;
            for (; at < row.size() && row[at].first == other; ++at)
                sum += row[at].second;
            bends_.other.push_back(other);
            bends_.weight.push_back(sum);
        }
        bends_.own.push_back(own_weight);
        bends_.first.push_back(static_cast<std::uint32_t>(bends_.other.size()));
    }
    bends_by_.assign(bends_.weight.begin(), bends_.weight.end());
}

void SheetStiffness::set_pushing(std::vector<Contact> contacts) {
    pushing_ = std::move(contacts);
    pushing_at_ = incidence(sheet_.vertex_count, [&](auto use) {
        for (std::uint32_t index = 0; index < pushing_.size(); ++index)
            for (std::size_t corner = 0; corner < 4; ++corner)
                if (const std::uint32_t vertex = pushing_[index].corners[corner];
                    vertex < sheet_.vertex_count && pushing_[index].weights[corner] != 0)
                    use(vertex, index);
    });
    axes_.clear();
    for (std::uint32_t vertex = 0; vertex < sheet_.vertex_count; ++vertex)
        for (const std::uint32_t index : pushing_at_.at(vertex)) {
            const Contact& contact = pushing_[index];
            const auto corner = std::ranges::find(contact.corners, vertex) - contact.corners.begin();
            axes_.emplace_back(contact.normal * contact.weights[static_cast<std::size_t>(corner)]);
        }
    presses_.clear();
    for (const Contact& contact : pushing_) {
        Press& press = presses_.emplace_back();
        press.push = Lanes(contact.normal * push);
        for (std::size_t corner = 0; corner < 4; ++corner)
            if (contact.corners[corner] < sheet_.vertex_count) {
                press.corners[corner] = contact.corners[corner];
                press.weights[corner] = static_cast<float>(contact.weights[corner]);
            }
    }
}

void SheetStiffness::press(const std::vector<Lanes>& way) {
    pressed_.resize(pushing_.size());
    parallel_blocks(pushing_.size(), block, Run(), [&](std::size_t begin, std::size_t end) {
        for (std::size_t index = begin; index < end; ++index) {
            const Press& press = presses_[index];
            Lanes sum;
            for (std::size_t corner = 0; corner < 4; ++corner)
                sum = sum + way[press.corners[corner]] * press.weights[corner];
            pressed_[index] = dot(sum, press.push);
        }
    });
}

Lanes SheetStiffness::times(const std::vector<Lanes>& way, std::uint32_t vertex) const {
    if (stays[vertex] != 0) return {};
    const Lanes here = way[vertex];
    Lanes sum = without_links[vertex] * here;
    for (std::uint32_t k = sheet_.springs_at.first[vertex]; k < sheet_.springs_at.first[vertex + 1]; ++k)
        sum = sum + links[k] * (here - way[sheet_.ring.of[k]]);
    for (std::uint32_t k = bends_.first[vertex]; k < bends_.first[vertex + 1]; ++k)
        sum = sum + (way[bends_.other[k]] - here) * bends_by_[k];
    // Its own part of what presses stands in its block.
    const auto pushes = static_cast<float>(push);
    for (std::uint32_t k = pushing_at_.first[vertex]; k < pushing_at_.first[vertex + 1]; ++k)
        sum = sum + axes_[k] * (pressed_[pushing_at_.of[k]] - pushes * dot(axes_[k], here));
    sum.of[3] = 0;
    return sum;
}

}  // namespace plume
