#include "core/sheets/moving_tree.hpp"

#include <bit>
#include <numeric>

#include "core/base/parallel.hpp"
#include "core/data/box.hpp"

namespace plume {
namespace {

constexpr std::size_t block = 256;

std::size_t leaves_of(std::size_t things, std::size_t leaf_size) {
    return (things + leaf_size - 1) / leaf_size;
}

// Halves along the longest side of what is in hand, so that each half is a whole number of leaves.
void sort_by_halves(const std::vector<Vec3>& places, std::uint32_t* begin, std::uint32_t* end,
                    std::size_t room) {
    if (room <= 1 || end - begin <= 1) return;
    Box box;
    for (const std::uint32_t* at = begin; at != end; ++at)
        box.include(places[*at]);
    const Vec3 size = box.size();
    double Vec3::*const axis = size.x >= size.y && size.x >= size.z ? &Vec3::x
                               : size.y >= size.z                   ? &Vec3::y
                                                                    : &Vec3::z;
    std::uint32_t* middle =
        begin + std::min<std::ptrdiff_t>(static_cast<std::ptrdiff_t>(room / 2), end - begin);
    std::nth_element(begin, middle, end, [&](std::uint32_t a, std::uint32_t b) {
        return places[a].*axis != places[b].*axis ? places[a].*axis < places[b].*axis : a < b;
    });
    sort_by_halves(places, begin, middle, room / 2);
    sort_by_halves(places, middle, end, room / 2);
}

}  // namespace

std::vector<std::uint32_t> MovingTree::order_of(const std::vector<Vec3>& places) {
    std::vector<std::uint32_t> order(places.size());
    std::iota(order.begin(), order.end(), 0U);
    const std::size_t leaves = std::bit_ceil(leaves_of(places.size(), leaf_size));
    sort_by_halves(places, order.data(), order.data() + order.size(), leaves * leaf_size);
    return order;
}

MovingTree::MovingTree(std::size_t things)
    : things_(things),
      leaves_(leaves_of(things, leaf_size)),
      first_leaf_(std::bit_ceil(leaves_)),
      nodes_(2 * first_leaf_) {}

void MovingTree::fit(const std::vector<MovingBox>& boxes) {
    parallel_blocks(leaves_, block, Run(), [&](std::size_t begin, std::size_t end) {
        for (std::size_t leaf = begin; leaf < end; ++leaf) {
            MovingBox box;
            for (std::uint32_t thing = begin_of(leaf); thing < end_of(leaf); ++thing)
                box.include(boxes[thing]);
            nodes_[first_leaf_ + leaf] = box;
        }
    });
    for (std::size_t node = first_leaf_ - 1; node > 0; --node) {
        nodes_[node] = nodes_[2 * node];
        nodes_[node].include(nodes_[2 * node + 1]);
    }
}

}  // namespace plume
