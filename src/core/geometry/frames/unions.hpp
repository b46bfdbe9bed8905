#pragma once
// What hangs together (Tarjan, Efficiency of a good but not linear set union algorithm, J. ACM 22, 1975, doi
// 10.1145/321879.321884, by halving paths alone).

#include <cstdint>
#include <numeric>
#include <vector>

namespace plume {

class Unions {
public:
    explicit Unions(std::size_t count) : stands_for_(count) {
        std::iota(stands_for_.begin(), stands_for_.end(), 0U);
    }
    // The one that stands for all that hang together with it.
    std::uint32_t of(std::uint32_t item) {
        while (stands_for_[item] != item)
            item = stands_for_[item] = stands_for_[stands_for_[item]];
        return item;
    }
    // Whether the two did not hang together before.
    bool join(std::uint32_t a, std::uint32_t b) {
        a = of(a);
        b = of(b);
        if (a == b) return false;
        stands_for_[a] = b;
        return true;
    }

private:
    std::vector<std::uint32_t> stands_for_;
};

}  // namespace plume
