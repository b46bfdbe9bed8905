#include "core/steps/moves/tiles.hpp"

#include "core/geometry/moves/copies.hpp"

namespace plume {
namespace {

constexpr std::pair<const char*, int> turns[] = {{"none", 0}, {"quarter", 1}, {"half", 2}, {"three", 3}};

// Shares of a tile's sides: s and t go to along + by_s s + by_t t.
struct TileTurn {
    double s[3], t[3];  // constant, by s, by t
};

// Quarter turns anticlockwise about the middle, then mirrored.
TileTurn turn_of(int quarters, bool mirror_s, bool mirror_t) {
    constexpr TileTurn all[4] = {
        {{0, 1, 0}, {0, 0, 1}}, {{1, 0, -1}, {0, 1, 0}}, {{1, -1, 0}, {1, 0, -1}}, {{0, 0, 1}, {1, -1, 0}}};
    TileTurn turn = all[quarters];
    const auto mirror = [](double(&row)[3]) {
        row[0] = 1 - row[0];
        row[1] = -row[1];
        row[2] = -row[2];
    };
    if (mirror_s) mirror(turn.s);
    if (mirror_t) mirror(turn.t);
    return turn;
}

// In coordinates of the rectangle.
Affine within(const TileTurn& turn, const FlatRectangle& over, double column, double row) {
    const double w = over.width, d = over.depth;
    return {{turn.s[1], turn.t[1] * d / w, 0},
            {turn.s[2] * w / d, turn.t[2], 0},
            {0, 0, 1},
            {(turn.s[0] + column) * w, (turn.t[0] + row) * d, 0}};
}

}  // namespace

std::vector<SlotSpec> with_tiles(std::vector<SlotSpec> slots) {
    slots.push_back(choice_slot(
        "tiles", "Tiles",
        {{"once", "once", "over the whole surface"}, {"many", "in tiles", "many times, side by side"}}));
    slots.push_back(count_slot("columns", "Tiles along u", "12", 1));
    slots.push_back(count_slot("rows", "Tiles along v", "8", 1));
    slots.push_back(choice_slot("turned", "Turned",
                                {{"none", "as drawn", "x along u"},
                                 {"quarter", "a quarter turn round", "anticlockwise: x along v"},
                                 {"half", "half a turn round", "x against u"},
                                 {"three", "a quarter turn back", "clockwise: x against v"}}));
    slots.push_back(choice_slot("mirrored", "Mirrored",
                                {{"none", "all alike", ""},
                                 {"u", "every other one along u mirrored", "so that neighbours meet"},
                                 {"v", "every other one along v mirrored", "so that neighbours meet"},
                                 {"both", "every other one mirrored both ways", "so that neighbours meet"}}));
    return slots;
}

double tile_count(const Inputs& in) {
    return in.word("tiles") == "many" ? in.number("columns") * in.number("rows") : 1;
}

Result<Tiles> tiles_of(const Inputs& in, const FlatRectangle& rectangle, const Run& run) {
    const Value& thing = in.value("thing");
    if (in.word("tiles") == "once") return Tiles{std::make_shared<const Value>(thing), rectangle, 1};
    int quarters = 0;
    for (const auto& [word, count] : turns)
        if (in.word("turned") == word) quarters = count;
    const std::string& mirrored = in.word("mirrored");
    const bool along_u = mirrored == "u" || mirrored == "both",
               along_v = mirrored == "v" || mirrored == "both";
    const std::size_t columns = in.count("columns"), rows = in.count("rows");
    const Affine into = between_placements(rectangle.at, {}), back = between_placements({}, rectangle.at);
    std::vector<Affine> maps;
    for (std::size_t row = 0; row < rows; ++row)
        for (std::size_t column = 0; column < columns; ++column) {
            const TileTurn turn = turn_of(quarters, along_u && column % 2 == 1, along_v && row % 2 == 1);
            maps.push_back(composed(
                back, composed(within(turn, rectangle, static_cast<double>(column), static_cast<double>(row)),
                               into)));
        }
    auto all = copied(thing, maps, false, run);
    if (!all) return all.error();
    return Tiles{std::make_shared<const Value>(*std::move(all)),
                 {rectangle.at, rectangle.width * static_cast<double>(columns),
                  rectangle.depth * static_cast<double>(rows)},
                 columns * rows};
}

Result<Value> joints_welded(Value value, double size) {
    if (const auto* mesh = std::get_if<Mesh>(&value)) return Value(welded(*mesh, 1e-9 * size));
    return value;
}

}  // namespace plume
