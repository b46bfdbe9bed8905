// Any bytes as a milling file: read or refused with a sentence; what is read is finite, and can be rehearsed.

#include <cmath>

#include "core/milling/gcode.hpp"
#include "core/milling/rehearsal.hpp"
#include "fuzz/demand.hpp"

using namespace plume;

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const auto file = gcode_from({reinterpret_cast<const char*>(data), size}, Run());
    if (!file) {
        demand(!sentence(file.error()).empty());
        return 0;
    }
    demand(!file->path.moves.empty());
    for (const ToolMove& move : file->path.moves)
        demand(is_finite(move.to) && is_finite(move.centre) && std::isfinite(move.feed));
    RehearsalJob job{nullptr, {100, 60, 20}, {Cutter::ball(3)}};
    job.about_cells = 600;
    demand(bool(rehearsed(file->path, job, Run())));
    return 0;
}
