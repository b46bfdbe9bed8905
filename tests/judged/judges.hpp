#pragma once
// Readers that nobody here made, asked about a file.

#include <array>
#include <cstdio>
#include <filesystem>
#include <nlohmann/json.hpp>
#include <string>

#include "core/exchange/export_jobs.hpp"
#include "folders.hpp"

namespace plume::test {

// What a program prints. It has to end well.
inline std::string output_of(const std::string& command) {
    std::string output;
    FILE* const pipe = popen((command + " 2>/dev/null").c_str(), "r");
    std::array<char, 65536> piece{};
    while (const std::size_t count = std::fread(piece.data(), 1, piece.size(), pipe))
        output.append(piece.data(), count);
    EXPECT_EQ(pclose(pipe), 0) << command << '\n' << output;
    return output;
}

// What a judge of tests/judges finds in a file.
inline nlohmann::json judged(const std::string& judge, const std::filesystem::path& file) {
    const std::string program = judge.ends_with(".py") ? "/usr/bin/python3 " : "node ";
    auto found = nlohmann::json::parse(
        output_of(program + judges_folder + '/' + judge + " '" + file.string() + '\''), nullptr, false);
    EXPECT_FALSE(found.is_discarded()) << judge;
    return found;
}

// Facets as another program has read them.
struct ReadFacets {
    std::vector<Vec3> vertices;
    std::vector<std::vector<std::uint32_t>> faces;
    Box bounds() const;
    double area() const;
    double volume() const;
};
// By assimp's command line, through the plain text it writes.
ReadFacets read_by_assimp(const std::filesystem::path& file);

}  // namespace plume::test
