#pragma once
// Sheets that are cut flat, in rows, and what is done on them, made ready to draw; in metres.

#include <memory>

#include "core/handoff/colour_meaning.hpp"
#include "core/milling/flat_rehearsal.hpp"
#include "core/picture/drawable.hpp"

namespace plume {

class SheetPicture {
public:
    SheetPicture(const ToolPath& path, std::vector<FlatSheet> sheets, const FlatRehearsalJob& job);

    // After so many moves of the path and a share of the next one: the sheets, what is to be done, what is
    // done, and the tool. O(moves).
    std::vector<std::shared_ptr<const Drawable>> drawn(const ToolPath& path, std::size_t done,
                                                       double share) const;
    static std::vector<ColourMeaning> colours();

private:
    struct Stroke {
        Vec3 from, to;
        std::size_t move = 0;
        FlatDeed deed = FlatDeed::travels;
    };
    Vec3 placed(Vec3 at, std::uint32_t sheet) const;
    void lay_out();
    void add_strokes(const ToolPath& path, const FlatRehearsalJob& job);
    std::shared_ptr<const Drawable> drawn_sheets() const;

    std::vector<FlatSheet> sheets_;
    std::vector<FlatPoint> corners_;  // of each sheet, its lower left one, mm; and of what is beyond them
    double kerf_ = 0, diagonal_ = 0;
    std::vector<Stroke> strokes_;  // in the order of moves
    std::vector<FlatDeed> deeds_;
    std::shared_ptr<const Drawable> drawn_sheets_;
};

}  // namespace plume
