#include "judged/judges.hpp"

#include <fstream>
#include <sstream>

namespace plume::test {

Box ReadFacets::bounds() const {
    Box box;
    for (const Vec3 vertex : vertices)
        box.include(vertex);
    return box;
}

double ReadFacets::area() const {
    double sum = 0;
    for (const auto& face : faces) {
        Vec3 twice;
        for (std::size_t at = 1; at + 1 < face.size(); ++at)
            twice = twice +
                    cross(vertices[face[at]] - vertices[face[0]], vertices[face[at + 1]] - vertices[face[0]]);
        sum += length(twice) / 2;
    }
    return sum;
}

double ReadFacets::volume() const {
    double sum = 0;
    for (const auto& face : faces)
        for (std::size_t at = 1; at + 1 < face.size(); ++at)
            sum += dot(vertices[face[0]], cross(vertices[face[at]], vertices[face[at + 1]])) / 6;
    return sum;
}

ReadFacets read_by_assimp(const std::filesystem::path& file) {
    const std::filesystem::path text = file.string() + ".read.obj";
    output_of("assimp export '" + file.string() + "' '" + text.string() + '\'');
    ReadFacets read;
    std::ifstream stream(text);
    for (std::string line; std::getline(stream, line);) {
        std::istringstream words(line);
        std::string word;
        words >> word;
        if (word == "v") {
            Vec3 place;
            words >> place.x >> place.y >> place.z;
            read.vertices.push_back(place);
        }
        if (word != "f") continue;
        auto& face = read.faces.emplace_back();
        while (words >> word)
            face.push_back(static_cast<std::uint32_t>(std::stoul(word) - 1));
    }
    return read;
}

}  // namespace plume::test
