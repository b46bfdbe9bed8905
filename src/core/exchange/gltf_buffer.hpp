#pragma once
// The binary half of a GLB file: accessors, one buffer view each.

#include <array>
#include <cstdint>
#include <memory>
#include <nlohmann/json.hpp>
#include <span>
#include <string>
#include <vector>

#include "core/base/file.hpp"
#include "core/data/column.hpp"
#include "core/data/vec3.hpp"
#include "core/picture/ramp.hpp"

namespace plume {

class GltfBuffer {
public:
    using Floats3 = std::array<float, 3>;
    static Floats3 narrowed(Vec3 v) {
        return {static_cast<float>(v.x), static_cast<float>(v.y), static_cast<float>(v.z)};
    }

    // What glTF reckons colours in: sRGB as light adds up (IEC 61966-2-1).
    static std::array<double, 3> linear_light(Rgb colour);

    // Written in full right after they are made.
    template <class T>
    using Array = std::vector<T, UninitializedAllocator<T>>;
    // Entries, and what keeps them until they are written.
    template <class T>
    struct Kept {
        Kept(std::shared_ptr<const void> of, std::span<const T> these)
            : owner(std::move(of)), entries(these) {}
        explicit Kept(Array<T> array) {
            const auto own = std::make_shared<const Array<T>>(std::move(array));
            owner = own;
            entries = *own;
        }
        std::shared_ptr<const void> owner;
        std::span<const T> entries;
    };

    // Each returns the number of its accessor. Nothing may be empty.
    std::size_t add_places(Array<Floats3> places);
    std::size_t add_normals(const std::vector<Vec3>& normals);  // zeros point up
    std::size_t add_colours(const std::vector<Rgb>& colours);
    std::size_t add_numbers(Array<float> numbers);
    std::size_t add_indices(Kept<std::uint32_t> indices);

    // Adds buffers, views and accessors to the description.
    void describe(nlohmann::ordered_json& json) const;
    // The whole file. False when it would be larger than its head can say.
    bool write(std::string json, const ByteSink& sink) const;

private:
    template <class Entry>
    std::size_t add(Kept<Entry> kept, const char* type, int component, bool indices);

    struct Piece {
        std::shared_ptr<const void> owner;
        std::string_view bytes;  // a multiple of four
    };
    std::vector<Piece> pieces_;  // of the views
    std::size_t length_ = 0;
    nlohmann::ordered_json views_ = nlohmann::ordered_json::array(),
                           accessors_ = nlohmann::ordered_json::array();
};

}  // namespace plume
