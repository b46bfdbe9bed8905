#include "milled_board.hpp"

#include <cmath>
#include <random>

#include "bench_sheet.hpp"

namespace bench {

using namespace plume;

Mesh relief() {
    return sheet(241, 121, 10, [](std::uint32_t i, std::uint32_t j) {
        return -20 + 20 * std::sin(i * 0.2) * std::cos(j * 0.15);
    });
}

ToolPath short_cuts() {
    ToolPath path{{0, 0, 5}, {}};
    std::mt19937 random(3);
    std::uniform_real_distribution<double> depth(-40, 0);
    for (int line = 0; line < 1000; ++line)
        for (int step = 0; step < 200; ++step) {
            const double along = 12.0 * (step + 0.5);
            ToolMove move{ToolMove::Form::line,
                          {line % 2 == 0 ? along : milled_board.width - along, line * 1.2, depth(random)}};
            move.feed = 3000;
            path.moves.push_back(move);
        }
    return path;
}

}  // namespace bench
