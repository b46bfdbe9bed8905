#pragma once
// A long rehearsal played in a view of its own.

namespace bench {

// 200 000 moves rehearsed on 2000 by 1000 cells, as the page plays them: frames a second in the middle. Zero
// where they cannot be rehearsed.
double played_frames_a_second();

}  // namespace bench
