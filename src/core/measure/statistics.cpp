#include "core/measure/statistics.hpp"

#include <algorithm>
#include <cmath>
#include <limits>
#include <numeric>
#include <span>

#include "core/base/parallel.hpp"
#include "core/base/sum.hpp"

namespace plume {
namespace {

// What is said of a block of addresses. Numbers that are there and finite are packed side by side, if wished.
struct Block {
    std::size_t count = 0, not_finite = 0, first_not_finite = 0, finite = 0;
    double least = std::numeric_limits<double>::infinity(), most = -least;
    Sum sum;
};

Block look_at(const PointLattice& lattice, const Column& values, std::size_t begin, std::size_t end,
              double* packed) {
    Block block;
    for (std::size_t index = begin; index < end; ++index) {
        if (!lattice.present(index)) continue;
        ++block.count;
        const double value = values[index];
        if (!std::isfinite(value)) {
            if (block.not_finite++ == 0) block.first_not_finite = index;
            continue;
        }
        if (packed) packed[block.finite] = value;
        ++block.finite;
        block.least = std::min(block.least, value);
        block.most = std::max(block.most, value);
        block.sum.add(value);
    }
    return block;
}

// Finite numbers in equal bins from the least to the most, or all in one.
class Binned {
public:
    Binned(std::span<const double> values, double least, double most, std::size_t bins)
        : values_(values), least_(least), width_(most - least) {
        if (!(width_ > 0) || !std::isfinite(width_)) {
            counts_ = {values.size()};
            return;
        }
        scale_ = static_cast<double>(bins);
        std::vector<std::vector<std::size_t>> blocks(values.size() / usual_block + 1);
        parallel_blocks(values.size(), usual_block, Run(), [&](std::size_t begin, std::size_t end) {
            std::vector<std::size_t>& here = blocks[begin / usual_block];
            here.assign(bins, 0);
            for (const double value : values_.subspan(begin, end - begin))
                ++here[std::min(bin_of(value), bins - 1)];
        });
        counts_.assign(bins, 0);
        for (const auto& block : blocks)
            for (std::size_t bin = 0; bin < block.size(); ++bin)
                counts_[bin] += block[bin];
    }

    const std::vector<std::size_t>& counts() const { return counts_; }

    // The number that `below` of them come before when they are sorted: sought in its bin alone.
    double at_rank(std::size_t below) const {
        std::size_t bin = 0;
        while (below >= counts_[bin])
            below -= counts_[bin++];
        std::vector<double> here;
        here.reserve(counts_[bin]);
        for (const double value : values_)
            if (counts_.size() == 1 || std::min(bin_of(value), counts_.size() - 1) == bin)
                here.push_back(value);
        const auto sought = here.begin() + static_cast<std::ptrdiff_t>(below);
        std::nth_element(here.begin(), sought, here.end());
        return *sought;
    }

private:
    std::size_t bin_of(double value) const {
        return static_cast<std::size_t>((value - least_) / width_ * scale_);
    }
    std::span<const double> values_;
    double least_, width_, scale_ = 1;
    std::vector<std::size_t> counts_;
};

// Middle of the sorted numbers, mean of the two middle ones for an even count.
double median_of(std::span<const double> values, double least, double most) {
    constexpr std::size_t bins = 2048;
    const Binned binned(values, least, most, values.size() > bins ? bins : 1);
    const std::size_t middle = values.size() / 2;
    const double upper = binned.at_rank(middle);
    return values.size() % 2 == 1 ? upper : std::midpoint(binned.at_rank(middle - 1), upper);
}

std::vector<Block> blocks_of(const PointLattice& lattice, const Column& values, double* packed) {
    std::vector<Block> blocks(values.size() / usual_block + 1);
    parallel_blocks(values.size(), usual_block, Run(), [&](std::size_t begin, std::size_t end) {
        blocks[begin / usual_block] = look_at(lattice, values, begin, end, packed ? packed + begin : nullptr);
    });
    return blocks;
}

// The finite numbers of all blocks, side by side.
Doubles packed_numbers(const PointLattice& lattice, const Column& values) {
    Doubles numbers(values.size());
    std::size_t count = 0, at = 0;
    for (const Block& block : blocks_of(lattice, values, numbers.data())) {
        std::copy_n(numbers.data() + at, block.finite, numbers.data() + count);
        count += block.finite;
        at += usual_block;
    }
    numbers.resize(count);
    return numbers;
}

}  // namespace

// Blocks are looked at side by side and summed up one after the other: the same bytes on any number of
// threads.
Statistics statistics_of(const PointLattice& lattice, const Column& values, std::size_t bins) {
    Statistics figures;
    Sum sum;
    std::size_t finite = 0;
    double least = std::numeric_limits<double>::infinity(), most = -least;
    for (const Block& block : blocks_of(lattice, values, nullptr)) {
        figures.count += block.count;
        if (block.not_finite > 0 && figures.not_finite == 0)
            figures.first_not_finite = lattice.address(block.first_not_finite);
        figures.not_finite += block.not_finite;
        least = std::min(least, block.least);
        most = std::max(most, block.most);
        sum.add(block.sum);
        finite += block.finite;
    }
    if (finite == 0) return figures;
    const Doubles packed = finite < values.size() ? packed_numbers(lattice, values) : Doubles{};
    const std::span<const double> numbers = packed.empty() ? values.span() : std::span<const double>(packed);
    figures.least = least;
    figures.most = most;
    figures.sum = sum.value();
    figures.mean = figures.sum / static_cast<double>(finite);
    figures.histogram = Binned(numbers, least, most, bins).counts();
    figures.median = median_of(numbers, least, most);
    return figures;
}

}  // namespace plume
