#pragma once
// A form in space for a sheet whose edges are to have lengths that no plane and no ball has room for.
//
// It begins where it lies, without crossing itself, and grows: its edges become as long as they are to be
// little by little, it gives way by folding (E. Sharon et al.: Buckling cascades in free sheets, 2002, for
// what comes of that), and as in falling nothing goes through anything.

#include "core/base/run.hpp"
#include "core/sheets/sheet.hpp"

namespace plume {

struct BroughtForm {
    std::vector<Vec3> at;
    double longest = 0,
           shortest = 0;  // of edges that are no diagonals, against what they are to be: 1.02, 0.97
    double spread() const { return std::max(longest - 1, 1 - shortest); }
};

// Of a sheet at rest as it is to be. `held`: vertices that stay. Until its edges differ from their lengths by
// no more than the share `spread`, or this no longer gets less. The same on any number of threads. Error:
// cancelled.
Result<BroughtForm> bring_to_lengths(const Sheet& sheet, const std::vector<Vec3>& from,
                                     const std::vector<char>& held, double spread, const Run& run);

}  // namespace plume
