#include <cmath>

#include "core/base/file.hpp"
#include "core/readers/height_grid.hpp"
#include "core/steps/files/file_support.hpp"

namespace plume {
namespace {

constexpr std::uintmax_t largest_grid = 8'000'000'000;

// PNG, JPEG and TIFF, by their first bytes.
bool is_picture(std::string_view bytes) {
    return bytes.starts_with("\x89PNG") || bytes.starts_with("\xff\xd8\xff") ||
           bytes.starts_with(std::string_view("II*\0", 4)) || bytes.starts_with(std::string_view("MM\0*", 4));
}

// Pictures state nothing: their cells and heights are in study lengths.
Result<HeightGrid> grid_of_picture(const Raster& picture, const Inputs& in) {
    HeightGrid grid;
    grid.columns = picture.width;
    grid.rows = picture.height;
    grid.width = grid.depth = in.number("cell");
    grid.metres_per_unit = metres_per(in.units().length);
    const double low = in.number("low"), high = in.number("high");
    const bool transparent = picture.channels == 2 || picture.channels == 4;
    grid.heights.reserve(picture.width * picture.height);
    bool any = false;
    for (std::size_t row = picture.height; row-- > 0;)
        for (std::size_t column = 0; column < picture.width; ++column) {
            const double share = static_cast<double>(picture.at(column, row, 0));
            const bool there = !transparent || picture.at(column, row, picture.channels - 1) > 0;
            any = any || (there && std::isfinite(share));
            grid.heights.push_back(there ? low + (high - low) * share : std::nan(""));
        }
    if (!any) return Error{ErrorCode::empty_input, "", "has no height at any place", "Choose another file."};
    return grid;
}

Result<std::shared_ptr<const HeightGrid>> file_of(const Inputs& in, const Run& run) {
    const ResolvedFile& file = in.file("file");
    if (in.word("stating") == "grid")
        return file.store->read(
            file.name, "heights", [&](const std::filesystem::path& path) -> Result<HeightGrid> {
                const Result<std::string> text = read_file(path, largest_grid);
                if (!text) return text.error();
                if (is_picture(*text))
                    return about_slot(Error{ErrorCode::wrong_form, "", "is a picture, and no grid of numbers",
                                            "Take the picture."},
                                      "stating");
                return read_height_grid(*text, run);
            });
    const auto picture = file.store->image(file.name, run);
    if (!picture) return picture.error();
    Result<HeightGrid> grid = grid_of_picture(**picture, in);
    if (!grid) return error_at(grid.error(), "‘" + file.name + "’");
    return std::make_shared<const HeightGrid>(*std::move(grid));
}

// One point in so many cells each way, from the south-western one on.
Result<PointLattice> lattice_of(const HeightGrid& grid, std::size_t step, const Run& run) {
    const std::size_t columns = (grid.columns + step - 1) / step, rows = (grid.rows + step - 1) / step;
    PointLattice::Parts parts;
    parts.counts = {columns, rows, 1};
    if (rows == 1) parts.arrangement = Arrangement::row;
    Doubles x(columns * rows), y(columns * rows), z(columns * rows);
    bool gaps = false;
    std::vector<std::uint8_t> present(columns * rows, 1);
    for (std::size_t row = 0; row < rows; ++row) {
        for (std::size_t column = 0; column < columns; ++column) {
            const std::size_t at = row * columns + column;
            const double height = grid.heights[row * step * grid.columns + column * step];
            x[at] = grid.west + grid.width * static_cast<double>(column * step);
            y[at] = grid.south + grid.depth * static_cast<double>(row * step);
            z[at] = std::isfinite(height) ? height : 0;
            present[at] = std::isfinite(height) ? 1 : 0;
            gaps = gaps || present[at] == 0;
        }
        if (run.cancelled()) return cancelled_error();
    }
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    if (gaps) parts.present = std::move(present);
    return PointLattice::make(std::move(parts));
}

FileSpace space_of(const HeightGrid& grid) {
    const auto bounds = [&grid] {
        Box box;
        box.include(Vec3{grid.west, grid.south, 0});
        box.include(Vec3{grid.west + grid.width * static_cast<double>(grid.columns - 1),
                         grid.south + grid.depth * static_cast<double>(grid.rows - 1), 0});
        for (const double height : grid.heights)
            box.include(Vec3{grid.west, grid.south, height});
        return box;
    };
    return {bounds, grid.metres_per_unit, false};
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto grid = file_of(in, run);
    if (!grid) return grid.error();
    remark_losses((*grid)->losses, run);
    Result<PointLattice> points = lattice_of(**grid, in.word("thin") == "each" ? in.count("step") : 1, run);
    if (!points) return points.error();
    if (points->point_count() == 0)
        return about_slot(
            Error{ErrorCode::empty_input, "", "leaves no cell that has a height", "Take a smaller one."},
            "step");
    return in_study_space(Value(*std::move(points)), space_of(**grid), in, run);
}

}  // namespace

StepKind read_heights() {
    std::vector<SlotSpec> slots = {
        choice_slot("stating", "Form",
                    {{"grid", "the grid of numbers", "text with the size of its cells in its head"},
                     {"picture", "the picture", "16 bits or floats, the brighter the higher"}}),
        file_slot("file", "Heights", {"Heights", {"asc", "grd", "txt", "tif", "tiff", "png"}}),
        choice_slot("thin", "Points",
                    {{"all", "a point in every cell", ""}, {"each", "a point in each", "of large grids"}}),
        count_slot("step", "Step", "4", 1),
        length_above_zero_slot("cell", "Cell", "1 m"),
        length_slot("low", "Black", "0 m"),
        length_slot("high", "White", "1 m")};
    std::ranges::move(file_space_slots(), std::back_inserter(slots));
    return {
        .key = "lattice.heights",
        .verb = "Read heights from a grid or picture",
        .synonyms = "terrain ground elevation relief DEM ASC TIFF import survey land file link",
        .sentence =
            "Read heights from {stating} {file}, {thin}[thin=each| {step} cells both ways][stating=picture|, "
            "cells of "
            "{cell}, black at {low} and white at {high}][stating=grid|, in {unit}], {placing}[placing=from| "
            "{east}, "
            "{north}, {level}].",
        .slots = std::move(slots),
        .results = {Kind::points},
        .result_name = "ground",
        .help =
            "A rectangular lattice of ground heights from a linked file: a grid of numbers, whose head says "
            "where it lies "
            "and how large its cells are, or a picture whose cells are told. x runs east, y north. Where "
            "there is no "
            "height, the lattice has a gap. Pictures of floats are heights themselves with black at 0 m and "
            "white at 1 m.",
        .estimate = [](const Inputs& in) { return file_estimate(in, 8, 6e-8); },
        .make = make,
        .contexts = {{"unit", offered_units(file_of, space_of)}},
    };
}

}  // namespace plume
