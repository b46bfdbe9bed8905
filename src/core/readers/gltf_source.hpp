#pragma once
// The parts of a glTF file: its JSON, the buffers it refers to, and arrays of numbers in them (accessors),
// each looked at before it is believed.

#include <cstdint>
#include <filesystem>
#include <nlohmann/json.hpp>
#include <optional>
#include <string>
#include <vector>

#include "core/base/error.hpp"

namespace plume {

class GltfSource {
public:
    using Json = nlohmann::ordered_json;

    // Of text or binary. Errors: file_damaged; file_newer for a version or needed extension that is not
    // known; file_missing for a buffer that is not there or not in the file's folder.
    static Result<GltfSource> open(std::string_view bytes, const std::filesystem::path& path);

    // Numbers of an accessor, `width` an entry.
    struct Numbers {
        std::vector<double> values;
        std::size_t width = 1;
        std::size_t count() const { return values.size() / width; }
    };
    // Errors: file_damaged, naming the accessor.
    Result<Numbers> numbers(std::size_t accessor) const;

    // Entry `index` of a list at the top, or nullptr.
    const Json* entry(const char* list, std::size_t index) const;
    const Json& root() const { return root_; }
    const std::vector<std::filesystem::path>& companions() const { return companions_; }

private:
    struct Layout;
    Status open_buffers(std::string_view binary, const std::filesystem::path& path);
    Result<std::string> buffer_bytes(const Json& buffer, std::string_view binary,
                                     const std::filesystem::path& path);
    Status check() const;
    // The bytes of a view from an offset on; nothing where it reaches beyond its buffer.
    struct Bytes {
        std::string_view bytes;
        std::size_t stride = 0;
    };
    std::optional<Bytes> view_bytes(const Json& holder) const;
    bool fill(const Json& holder, std::size_t component, std::size_t count, Numbers& into,
              bool normalized) const;
    bool put_sparse(const Json& sparse, std::size_t component, Numbers& into, bool normalized) const;

    Json root_;
    std::vector<std::string> buffers_;
    std::vector<std::filesystem::path> companions_;
};

// A whole number from 0 on that stands under a key; nothing where none does.
std::optional<std::size_t> index_in(const GltfSource::Json& object, const char* key);
std::string text_in(const GltfSource::Json& object, const char* key);

}  // namespace plume
