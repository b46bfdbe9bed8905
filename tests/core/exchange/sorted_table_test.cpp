// Tables in the order of a column.

#include "core/results/sorted_table.hpp"

#include <cmath>

#include "core/geometry/parts/scattered.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

TEST(SortedTable, NumbersByTextsAndBackToTheirItems) {
    const Value points = scattered({{3, 0, 0}, {1, 5, 0}, {2, 5, 0}, {1, 7, 0}},
                                   {{"load", Doubles{4, std::nan(""), 2, 9}, plain_number}});
    const Table table = columns_of(points);
    const auto column = [&](const char* name) {
        return static_cast<std::size_t>(std::ranges::find(table.columns, name, &TableColumn::name) -
                                        table.columns.begin());
    };
    const auto items = [](const Table& sorted) {
        std::vector<std::size_t> all;
        for (std::size_t row = 0; row < sorted.row_count; ++row) {
            all.push_back(*sorted.item_of_row(row));
            EXPECT_EQ(*sorted.row_of_item(all.back()), row);
        }
        return all;
    };
    using List = std::vector<std::size_t>;
    EXPECT_EQ(items(sorted_by(table, column("x"), false)), (List{1, 3, 2, 0}))
        << "alike ones keep their order";
    EXPECT_EQ(items(sorted_by(table, column("x"), true)), (List{0, 2, 1, 3}));
    EXPECT_EQ(items(sorted_by(table, column("load"), false)), (List{2, 0, 3, 1}))
        << "what is no number is last";
    EXPECT_EQ(items(sorted_by(table, column("load"), true)), (List{3, 0, 2, 1}));
    EXPECT_EQ(sorted_by(table, column("x"), false).columns[column("y")].number(1), 7);
    const ColumnFigures figures = figures_of(table, column("load"));
    EXPECT_EQ(figures.count, 3U);
    EXPECT_EQ(figures.sum, 15);
    EXPECT_EQ(figures.most, 9);
}

TEST(SortedTable, TextsAsTheyAreRead) {
    EXPECT_TRUE(read_before("9,2–9,3", "10,1–10,2"));
    EXPECT_TRUE(read_before("2,3", "2,10"));
    EXPECT_FALSE(read_before("2,10", "2,3"));
    EXPECT_TRUE(read_before("a7", "a07b"));
    EXPECT_FALSE(read_before("north", "north"));
    EXPECT_TRUE(read_before("", "0"));
}

}  // namespace
}  // namespace plume
