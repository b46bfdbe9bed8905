#include "core/growth/iterated_maps.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/parallel.hpp"
#include "core/growth/grown_parts.hpp"

namespace plume {
namespace {

// The second in the axes of the first, its place as many times as far.
Placement composed(const Placement& first, const Placement& second, double scale) {
    return {first.to_world(second.origin * scale), first.turned(second.along), first.turned(second.across),
            first.turned(second.up)};
}

class Iterator {
public:
    Iterator(const MapSystem& system, const std::vector<Placement>& roots, double size, const Run& run)
        : system_(system), run_(run), placements_(roots), tree_(std::make_shared<PartTree>()) {
        sizes_.assign(roots.size(), size);
        scales_.assign(roots.size(), 1);
        numbers_.assign(roots.size(), 0);
        depths_.assign(roots.size(), 0);
        tree_->parents.assign(roots.size(), PartTree::none);
        tree_->generations = {0, roots.size()};
    }

    bool add_generation() {
        const std::size_t maps = system_.maps.size(), from = *(tree_->generations.end() - 2),
                          first = placements_.size(), count = (first - from) * maps;
        placements_.resize(first + count);
        sizes_.resize(first + count);
        scales_.resize(first + count);
        numbers_.resize(first + count);
        depths_.resize(first + count, static_cast<double>(tree_->generation_count()));
        tree_->parents.resize(first + count);
        tree_->generations.push_back(first + count);
        return parallel_blocks(count, usual_block, run_, [&](std::size_t begin, std::size_t end) {
            for (std::size_t at = begin; at < end; ++at) {
                const std::size_t parent = from + at / maps, map = at % maps, part = first + at;
                placements_[part] = composed(placements_[parent], system_.maps[map], scales_[parent]);
                scales_[part] = scales_[parent] * system_.scales[map];
                sizes_[part] = sizes_[parent] * system_.scales[map];
                numbers_[part] = static_cast<double>(map);
                tree_->parents[part] = static_cast<std::uint32_t>(parent);
            }
        });
    }

    Result<Placements> finished(const Units& units) {
        name_parts();
        const Column sizes(std::move(sizes_)), numbers(std::move(numbers_));
        tree_->descent = [weak = std::weak_ptr<const PartTree>(tree_), sizes, numbers,
                          units](std::size_t part) {
            std::vector<std::string> lines;
            const auto tree = weak.lock();
            for (std::size_t at = part; tree && at != PartTree::none; at = tree->parents[at])
                lines.push_back((tree->parents[at] == PartTree::none ? "where it began"
                                                                     : "map " + short_text(numbers[at] + 1)) +
                                ", " + quantity_text({sizes[at], a_length}, units));
            std::ranges::reverse(lines);
            return lines;
        };
        return placed_parts(std::move(placements_),
                            {{"depth", std::move(depths_), plain_number},
                             {"number", numbers, plain_number},
                             {"size", sizes, a_length}},
                            {}, tree_);
    }

private:
    void name_parts() {
        tree_->part_names = {"part"};
        tree_->names.assign(placements_.size(), 0);
        tree_->line_texts = {"where it began"};
        for (std::size_t map = 1; map <= std::min<std::size_t>(system_.maps.size(), 60'000); ++map)
            tree_->line_texts.push_back("map " + std::to_string(map));
        tree_->lines.resize(placements_.size());
        for (std::size_t part = 0; part < placements_.size(); ++part)
            tree_->lines[part] = tree_->parents[part] == PartTree::none
                                     ? std::uint16_t{0}
                                     : static_cast<std::uint16_t>(std::min(numbers_[part] + 1, 60'000.0));
    }

    const MapSystem& system_;
    const Run& run_;
    std::vector<Placement> placements_;
    Doubles sizes_, scales_, numbers_, depths_;
    std::shared_ptr<PartTree> tree_;
};

}  // namespace

Result<Placements> iterated_maps(const MapSystem& system, const std::vector<Placement>& roots, double size,
                                 std::size_t generations, const Units& units, const Run& run) {
    Iterator iterator(system, roots, size, run);
    for (std::size_t depth = 0; depth < generations; ++depth)
        if (!iterator.add_generation()) return cancelled_error();
    return iterator.finished(units);
}

}  // namespace plume
