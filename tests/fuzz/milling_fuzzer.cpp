// Any bytes as a file for a machine: read or refused with a sentence; what is read is finite, and can be
// rehearsed, as milling and as flat cutting.

#include <cmath>

#include "core/milling/flat_rehearsal.hpp"
#include "core/milling/gcode.hpp"
#include "core/milling/rehearsal.hpp"
#include "fuzz/demand.hpp"

using namespace plume;

namespace {

std::vector<FlatSheet> sheets() {
    const FlatLine part{{{0, 0}, {80, 0}, {80, 40}, {0, 40}}, true},
        opening{{{20, 10}, {40, 10}, {30, 30}}, true};
    return *flat_sheets({{}, {part, opening, {{{50, 10}, {70, 30}}, false}}, {{{{5, 5}, {9, 9}}, false}}}, 10,
                        Run());
}

void rehearse_flat(const ToolPath& path, const std::vector<FlatSheet>& sheets, bool beam) {
    FlatRehearsalJob job;
    job.sheets = sheets;
    job.beam = beam;
    job.kerf = beam ? 0.2 : 6;
    job.thickness = 18;
    const auto made = flat_rehearsed(path, job, Run());
    demand(bool(made));
    demand(made->uncut >= 0 && made->bitten >= 0 && !made->summary().empty());
}

}  // namespace

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
    static const std::vector<FlatSheet> flat = sheets();
    for (const bool beam : {true, false})
        rehearse_flat(file->path, flat, beam);
    return 0;
}
