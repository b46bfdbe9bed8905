#pragma once
// Places and sizes in a view, in pixels.

namespace plume {

struct ViewPoint {
    double x = 0, y = 0;  // pixels from the top left
};
struct ViewSize {
    double width = 1, height = 1;  // pixels
    double aspect() const { return width / height; }
};

}  // namespace plume
