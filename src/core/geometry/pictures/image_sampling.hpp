#pragma once
// One number of a picture at any place of it.
//
// Places: u runs to the right from 0 to 1, v upwards from 0 (the lower edge) to 1; the middle of the pixel in
// column c and row r from the top stands at u = (c + 1/2) / width, v = 1 - (r + 1/2) / height. Cubic is the
// interpolating convolution of Keys (Cubic convolution interpolation for digital image processing, IEEE
// Trans. ASSP 29(6), 1981, doi 10.1109/TASSP.1981.1163711): exact at the middles of pixels. O(1) a sample.

#include "core/base/run.hpp"
#include "core/data/column.hpp"
#include "core/data/raster.hpp"

namespace plume {

enum class Channel { brightness, red, green, blue, alpha };
enum class Filter { nearest, linear, cubic };
// What lies beyond the edges: the edge itself, the picture again, or its mirror image.
enum class Beyond { edge, tile, mirror };

struct ImagePlan {
    Channel channel = Channel::brightness;
    double left = 0, right = 1, bottom = 0, top = 1;  // the part used, in shares of the picture
    double blur = 0;                                  // standard deviation, in pixels
    double contrast = 1;                              // about the middle grey of 0.5
    bool invert = false;
};

// The part of the picture that is used, made ready. Brightness is the luma of ITU-R BT.709. A picture of
// fewer channels gives its first for any colour and 1 for alpha. Errors: out_of_range (a part with no pixel
// left); cancelled.
Result<Raster> prepared(const Raster& raster, const ImagePlan& plan, const Run& run);

// Of a raster of one channel.
class ImageSampler {
public:
    ImageSampler(const Raster& raster, Filter filter, Beyond beyond)
        : raster_(raster), filter_(filter), beyond_(beyond) {}
    double operator()(double u, double v) const;
    // Many at once; u and v have as many entries as out.
    void sample(const double* u, const double* v, std::size_t count, double* out) const;

private:
    template <class One>
    void sample_each(const double* u, const double* v, std::size_t count, double* out, One one) const;
    double cubic(double x, double y) const;
    double cubic_at_edge(double x, double y) const;
    double linear(double x, double y) const;
    std::size_t wrapped(std::ptrdiff_t number, std::size_t count) const;
    float pixel(std::ptrdiff_t x, std::ptrdiff_t y) const {
        return raster_.values[wrapped(x, raster_.width) + raster_.width * wrapped(y, raster_.height)];
    }

    const Raster& raster_;
    Filter filter_;
    Beyond beyond_;
};

}  // namespace plume
