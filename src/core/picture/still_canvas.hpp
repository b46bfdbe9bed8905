#pragma once
// The pixels of a still picture in linear light, and what is drawn over them.

#include <vector>

#include "core/picture/still.hpp"
#include "core/picture/still_buffer.hpp"

namespace plume {

class StillCanvas {
public:
    // Sums times a share. Whatever lies this much deeper than what was traced is still seen: lines lie on the
    // faces they belong to.
    StillCanvas(StillBuffer sums, float share, double lift);

    int width() const { return pixels_.width; }
    int height() const { return pixels_.height; }
    // Over a pixel, whatever lies there.
    void blend(std::size_t at, Colour colour, float share);

    // Pixels from the top left, and how deep.
    struct Spot {
        double x, y, depth;
        bool visible;
    };
    // Shares its pixels with what was there; soft at its edges.
    void line(const Spot& a, const Spot& b, Colour ink, float share, double width = 1);
    // The same of all strokes at once, none of which lies deeper than what was traced: where they overlap no
    // thicker than one.
    void strokes(const std::vector<std::vector<Spot>>& strokes, Colour ink, float share, double width);
    // Whole: what lies in front of its middle hides it, what touches it does not.
    void disc(Spot middle, double radius, Colour colour);
    // Whether something traced lies in front of it by more than so much.
    bool hidden(const Spot& spot, double by) const;

    Image image() const;

private:
    std::size_t index(int x, int y) const {
        return static_cast<std::size_t>(x) +
               static_cast<std::size_t>(pixels_.width) * static_cast<std::size_t>(y);
    }
    template <class Cover>
    void cover_line(const Spot& a, const Spot& b, double width, const Cover& cover) const;
    void blend(int x, int y, double depth, Colour colour, float share);

    StillBuffer pixels_;  // what covers a share of its pixel only is multiplied by that share
    double lift_;
};

}  // namespace plume
