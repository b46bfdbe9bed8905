#pragma once
// One sheet against what was done to it: what is not cut, what is cut into, what is cut when it is loose.

#include "core/milling/flat_rehearsal.hpp"
#include "core/milling/kept_region.hpp"

namespace plume {

// A straight piece of what a move does to a sheet.
struct Trace {
    FlatEdge piece;
    std::size_t move = 0;
    FlatDeed deed = FlatDeed::travels;
};
// So far apart along everything that is looked at, mm: as finely as matters, but not more often than takes
// time.
double looks_apart(double whole_length, double kerf);

class SheetLook {
public:
    SheetLook(const FlatSheet& sheet, std::size_t number, const FlatRehearsalJob& job, const ToolPath& path,
              const std::vector<Trace>& traces);

    // Adds what it finds; `apart`: looks along outlines, and along traces. Error: cancelled.
    Status look(FlatRehearsal& made, double outlines_apart, double traces_apart, const Run& run);

private:
    struct Covered;
    struct Bitten;
    struct Along;
    Covered covered(const Along& line, const NearPieces& by, const std::vector<Trace>& traces, double reach,
                    const NearPieces* best, double apart) const;
    Result<std::vector<Covered>> all_covered(const std::vector<Along>& lines, const NearPieces& by,
                                             const std::vector<Trace>& traces, double reach,
                                             const NearPieces* best, double apart, const Run& run) const;
    Status look_for_uncut(FlatRehearsal& made, double apart, const Run& run);
    Status look_for_unmarked(FlatRehearsal& made, double apart, const Run& run) const;
    Bitten bitten(const Trace& trace, double apart) const;
    Status look_for_bites(FlatRehearsal& made, double apart, const Run& run) const;
    Status look_for_loose_cuts(FlatRehearsal& made, double apart, const Run& run) const;
    bool is_loose(const Trace& trace) const;
    bool is_well_within(FlatPoint place, std::uint32_t ring) const;
    std::uint32_t line_of(const Trace& trace) const { return path_.moves[trace.move].line; }

    const FlatSheet& sheet_;
    std::size_t number_;
    const FlatRehearsalJob& job_;
    const ToolPath& path_;
    const std::vector<Trace>& traces_;
    std::vector<Trace> through_, marks_;
    NearPieces cut_pieces_, mark_pieces_, open_;
    KeptRegion kept_;
    std::vector<std::size_t> ring_done_;  // the move that cuts the last of each
};

}  // namespace plume
