#include "core/geometry/image_sampling.hpp"

#include <algorithm>
#include <array>
#include <cmath>

#include "core/base/parallel.hpp"

namespace plume {
namespace {

// 0.2126, 0.7152, 0.0722: ITU-R BT.709, item 3.2.
double channel_of(const Raster& raster, std::size_t x, std::size_t y, Channel channel) {
    const bool coloured = raster.channels >= 3;
    const auto at = [&](std::size_t number) { return static_cast<double>(raster.at(x, y, number)); };
    switch (channel) {
        case Channel::brightness:
            return coloured ? 0.2126 * at(0) + 0.7152 * at(1) + 0.0722 * at(2) : at(0);
        case Channel::red:
            return at(0);
        case Channel::green:
            return coloured ? at(1) : at(0);
        case Channel::blue:
            return coloured ? at(2) : at(0);
        case Channel::alpha:
            return raster.channels == 4 ? at(3) : (raster.channels == 2 ? at(1) : 1);
    }
    return 0;
}

std::vector<double> bell(double deviation) {
    const auto reach = static_cast<std::ptrdiff_t>(std::ceil(3 * deviation));
    std::vector<double> weights;
    double sum = 0;
    for (std::ptrdiff_t at = -reach; at <= reach; ++at) {
        weights.push_back(std::exp(-0.5 * std::pow(static_cast<double>(at) / deviation, 2)));
        sum += weights.back();
    }
    for (double& weight : weights)
        weight /= sum;
    return weights;
}

// Along rows or along columns; edges go on as they are.
bool blur_along(Raster& raster, bool rows, const std::vector<double>& weights, const Run& run) {
    const auto reach = static_cast<std::ptrdiff_t>(weights.size() / 2);
    const std::size_t lines = rows ? raster.height : raster.width,
                      length = rows ? raster.width : raster.height;
    const std::size_t step = rows ? 1 : raster.width, next_line = rows ? raster.width : 1;
    return parallel_blocks(lines, 16, run, [&](std::size_t begin, std::size_t end) {
        std::vector<float> line(length);
        for (std::size_t number = begin; number < end; ++number) {
            float* const start = raster.values.data() + number * next_line;
            for (std::size_t at = 0; at < length; ++at)
                line[at] = start[at * step];
            for (std::size_t at = 0; at < length; ++at) {
                double sum = 0;
                for (std::ptrdiff_t by = -reach; by <= reach; ++by) {
                    const auto from = std::clamp<std::ptrdiff_t>(static_cast<std::ptrdiff_t>(at) + by, 0,
                                                                 static_cast<std::ptrdiff_t>(length) - 1);
                    sum += weights[static_cast<std::size_t>(by + reach)] *
                           static_cast<double>(line[static_cast<std::size_t>(from)]);
                }
                start[at * step] = static_cast<float>(sum);
            }
        }
    });
}

}  // namespace

Result<Raster> prepared(const Raster& raster, const ImagePlan& plan, const Run& run) {
    const auto first = [](double share, std::size_t count) {
        return static_cast<std::size_t>(
            std::clamp(std::round(share * static_cast<double>(count)), 0.0, static_cast<double>(count)));
    };
    const std::size_t x0 = first(plan.left, raster.width), x1 = first(plan.right, raster.width);
    const std::size_t y0 = first(1 - plan.top, raster.height), y1 = first(1 - plan.bottom, raster.height);
    if (x0 >= x1 || y0 >= y1)
        return Error{ErrorCode::out_of_range, "", "The part of the picture that is used has no pixel in it",
                     "Let its left stand left of its right, and its bottom below its top."};
    Raster part;
    part.width = x1 - x0;
    part.height = y1 - y0;
    part.values.resize(part.width * part.height);
    bool finished = parallel_blocks(part.height, 64, run, [&](std::size_t begin, std::size_t end) {
        for (std::size_t y = begin; y < end; ++y)
            for (std::size_t x = 0; x < part.width; ++x)
                part.values[x + part.width * y] =
                    static_cast<float>(channel_of(raster, x + x0, y + y0, plan.channel));
    });
    if (finished && plan.blur > 0) {
        const std::vector<double> weights = bell(plan.blur);
        finished = blur_along(part, true, weights, run) && blur_along(part, false, weights, run);
    }
    if (!finished) return cancelled_error();
    const auto contrast = static_cast<float>(plan.contrast);
    if (contrast != 1 || plan.invert)
        for (float& value : part.values) {
            value = 0.5F + (value - 0.5F) * contrast;
            if (plan.invert) value = 1 - value;
        }
    return part;
}

std::size_t ImageSampler::wrapped(std::ptrdiff_t number, std::size_t count) const {
    const auto n = static_cast<std::ptrdiff_t>(count);
    if (number >= 0 && number < n) return static_cast<std::size_t>(number);
    if (beyond_ == Beyond::edge)
        return static_cast<std::size_t>(std::clamp<std::ptrdiff_t>(number, 0, n - 1));
    const std::ptrdiff_t period = beyond_ == Beyond::tile ? n : 2 * n;
    std::ptrdiff_t rest = number % period;
    if (rest < 0) rest += period;
    return static_cast<std::size_t>(rest < n ? rest : period - 1 - rest);
}

double ImageSampler::linear(double x, double y) const {
    const double x0 = std::floor(x), y0 = std::floor(y), s = x - x0, t = y - y0;
    const auto i = static_cast<std::ptrdiff_t>(x0), j = static_cast<std::ptrdiff_t>(y0);
    const auto at = [&](std::ptrdiff_t a, std::ptrdiff_t b) { return static_cast<double>(pixel(a, b)); };
    return std::lerp(std::lerp(at(i, j), at(i + 1, j), s), std::lerp(at(i, j + 1), at(i + 1, j + 1), s), t);
}

double ImageSampler::cubic(double x, double y) const {
    const double x0 = std::floor(x), y0 = std::floor(y);
    // Keys' kernel with a = -1/2 at the distances 1 + s, s, 1 - s, 2 - s.
    const auto weights = [](float s) {
        return std::array<float, 4>{((-0.5F * s + 1) * s - 0.5F) * s, (1.5F * s - 2.5F) * s * s + 1,
                                    ((-1.5F * s + 2) * s + 0.5F) * s, (0.5F * s - 0.5F) * s * s};
    };
    const auto across = weights(static_cast<float>(x - x0)), up = weights(static_cast<float>(y - y0));
    const std::ptrdiff_t i = static_cast<std::ptrdiff_t>(x0) - 1, j = static_cast<std::ptrdiff_t>(y0) - 1;
    float sum = 0;
    const bool inside = i >= 0 && j >= 0 && i + 3 < static_cast<std::ptrdiff_t>(raster_.width) &&
                        j + 3 < static_cast<std::ptrdiff_t>(raster_.height);
    if (inside) {
        const float* row = raster_.values.data() + i + static_cast<std::ptrdiff_t>(raster_.width) * j;
        for (std::size_t b = 0; b < 4; ++b, row += raster_.width)
            sum +=
                up[b] * (across[0] * row[0] + across[1] * row[1] + across[2] * row[2] + across[3] * row[3]);
    } else {
        for (std::size_t b = 0; b < 4; ++b)
            for (std::size_t a = 0; a < 4; ++a)
                sum += up[b] * across[a] *
                       pixel(i + static_cast<std::ptrdiff_t>(a), j + static_cast<std::ptrdiff_t>(b));
    }
    return static_cast<double>(sum);
}

double ImageSampler::operator()(double u, double v) const {
    double x = u * static_cast<double>(raster_.width) - 0.5,
           y = (1 - v) * static_cast<double>(raster_.height) - 0.5;
    // Far outside and not a number: kept where whole numbers can count pixels.
    constexpr double furthest = 1e12;
    if (!(std::abs(x) < furthest && std::abs(y) < furthest)) return std::nan("");
    switch (filter_) {
        case Filter::nearest:
            return static_cast<double>(pixel(static_cast<std::ptrdiff_t>(std::floor(x + 0.5)),
                                             static_cast<std::ptrdiff_t>(std::floor(y + 0.5))));
        case Filter::linear:
            return linear(x, y);
        case Filter::cubic:
            return cubic(x, y);
    }
    return 0;
}

void ImageSampler::sample(const double* u, const double* v, std::size_t count, double* out) const {
    for (std::size_t index = 0; index < count; ++index)
        out[index] = (*this)(u[index], v[index]);
}

}  // namespace plume
