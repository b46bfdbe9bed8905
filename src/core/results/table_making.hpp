#pragma once
// How tables of results get their columns.

#include <string>
#include <utility>

#include "core/data/vec3.hpp"
#include "core/results/columns.hpp"

namespace plume::table_making {

inline constexpr std::pair<const char*, double Vec3::*> coordinates[] = {
    {"x", &Vec3::x}, {"y", &Vec3::y}, {"z", &Vec3::z}};

// Row and item of one number belong together.
void let_rows_be_items(Table& table);

void add(Table& table, std::string name, Dimension dimension, std::function<double(std::size_t)> number);
// Addresses and the like.
void add_whole(Table& table, std::string name, bool idle, std::function<double(std::size_t)> number);
void add_text(Table& table, std::string name, std::function<std::string(std::size_t)> text);
void add_list(Table& table, std::string name, Dimension dimension,
              std::function<std::vector<double>(std::size_t)> list);
// A number per row.
void add_field(Table& table, const Field& field);

// Numbers of families, members and the like are shown without decimals. O(rows).
void mark_if_whole(TableColumn& column, std::size_t row_count);

}  // namespace plume::table_making
