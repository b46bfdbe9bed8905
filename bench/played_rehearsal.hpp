#pragma once
// A long rehearsal played in a view of its own.

namespace bench {

// 200 000 moves over 2000 by 1000 cells, from their beginning to their end: frames a second. Zero where they
// cannot be rehearsed.
double played_frames_a_second();

}  // namespace bench
