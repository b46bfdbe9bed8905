#pragma once
// libnest2d as it is used here: shapes of the clipping library, a search of NLopt along rims, threads of TBB.
// Heavy: for packing.cpp, and for what measures it against the library's own way.

#define LIBNEST2D_GEOMETRIES_clipper
#define LIBNEST2D_OPTIMIZER_nlopt
#ifdef PLUME_PLAIN_THREADS
#define LIBNEST2D_THREADING_std
#else
#define LIBNEST2D_THREADING_tbb
#endif
#define BOOST_ALLOW_DEPRECATED_HEADERS
#include <libnest2d/common.hpp>

namespace libnest2d {
// Without it C++20 finds two ways to compare angles, one of them over degrees.
inline bool operator!=(const Radians& a, const Radians& b) {
    return a.operator double() != b.operator double();
}
}  // namespace libnest2d

#include <libnest2d/libnest2d.hpp>
