#include "core/readers/gltf_source.hpp"

#include <algorithm>
#include <array>
#include <cstring>

#include "core/base/file.hpp"
#include "core/base/json_tree.hpp"
#include "core/base/text.hpp"
#include "core/readers/file_links.hpp"

namespace plume {
namespace {

using Json = GltfSource::Json;

constexpr std::uintmax_t largest_buffer = 16'000'000'000;
// Of accessors that say zeros without having them in a buffer.
constexpr std::size_t most_zeros = 10'000'000;

Error damaged(std::string what) {
    return {ErrorCode::file_damaged, "", std::move(what), "Get it anew."};
}

std::uint32_t word_at(std::string_view bytes, std::size_t at) {
    std::uint32_t word = 0;
    if (at + 4 <= bytes.size()) std::memcpy(&word, bytes.data() + at, 4);
    return word;
}

struct Chunks {
    std::string_view json, binary;
};

// Of a GLB: a head of twelve bytes, then chunks with their length and sort before them.
Result<Chunks> chunks_of(std::string_view bytes) {
    constexpr std::uint32_t json_chunk = 0x4e4f534a, binary_chunk = 0x004e4942;
    if (bytes.size() < 20) return damaged("ends within its head");
    if (word_at(bytes, 4) != 2)
        return Error{ErrorCode::file_newer, "",
                     "is of version " + std::to_string(word_at(bytes, 4)) + " of glTF",
                     "Save it as version 2."};
    Chunks chunks;
    for (std::size_t at = 12; at + 8 <= bytes.size();) {
        const std::size_t length = word_at(bytes, at);
        if (length > bytes.size() - at - 8) return damaged("ends within a chunk");
        const std::string_view content = bytes.substr(at + 8, length);
        if (word_at(bytes, at + 4) == json_chunk && chunks.json.empty()) chunks.json = content;
        if (word_at(bytes, at + 4) == binary_chunk && chunks.binary.empty()) chunks.binary = content;
        at += 8 + length;
    }
    return chunks;
}

// RFC 4648; nothing where another character stands.
std::optional<std::string> from_base64(std::string_view text) {
    static constexpr std::string_view letters =
        "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/";
    std::array<std::int8_t, 256> value_of{};
    value_of.fill(-1);
    for (std::size_t at = 0; at < letters.size(); ++at)
        value_of[static_cast<unsigned char>(letters[at])] = static_cast<std::int8_t>(at);
    std::string bytes;
    bytes.reserve(text.size() / 4 * 3);
    std::uint32_t bits = 0;
    int count = 0;
    for (const char c : text) {
        if (c == '=') break;
        const std::int8_t value = value_of[static_cast<unsigned char>(c)];
        if (value < 0) return {};
        bits = bits << 6U | static_cast<std::uint32_t>(value);
        if ((count += 6) >= 8) bytes += static_cast<char>(bits >> static_cast<unsigned>(count -= 8) & 0xffU);
    }
    return bytes;
}

// "%20" and the like.
std::string unescaped(std::string_view text) {
    std::string plain;
    for (std::size_t at = 0; at < text.size(); ++at) {
        const auto digit = [&](std::size_t index) {
            const char c = text[index];
            return c >= '0' && c <= '9'   ? c - '0'
                   : c >= 'a' && c <= 'f' ? c - 'a' + 10
                   : c >= 'A' && c <= 'F' ? c - 'A' + 10
                                          : -1;
        };
        if (text[at] == '%' && at + 2 < text.size() && digit(at + 1) >= 0 && digit(at + 2) >= 0) {
            plain += static_cast<char>(digit(at + 1) * 16 + digit(at + 2));
            at += 2;
        } else {
            plain += text[at];
        }
    }
    return plain;
}

// What a component is: its code in files, its bytes, and how large its largest whole number is.
struct Component {
    std::size_t code, bytes;
    double most;
};
constexpr std::array components = {Component{5120, 1, 127},          Component{5121, 1, 255},
                                   Component{5122, 2, 32767},        Component{5123, 2, 65535},
                                   Component{5125, 4, 4294967295.0}, Component{5126, 4, 0}};
constexpr std::size_t real_code = 5126;

template <class Number>
double read_at(const char* place) {
    Number value;
    std::memcpy(&value, place, sizeof value);
    return static_cast<double>(value);
}

double component_at(const char* place, std::size_t code) {
    switch (code) {
        case 5120:
            return read_at<std::int8_t>(place);
        case 5121:
            return read_at<std::uint8_t>(place);
        case 5122:
            return read_at<std::int16_t>(place);
        case 5123:
            return read_at<std::uint16_t>(place);
        case 5125:
            return read_at<std::uint32_t>(place);
        default:
            return read_at<float>(place);
    }
}

std::size_t width_of(const std::string& type) {
    return type == "SCALAR" ? 1 : type == "VEC2" ? 2 : type == "VEC3" ? 3 : type == "VEC4" ? 4 : 0;
}

// Extensions that change what has to be read. Materials and the like do not.
bool can_be_left(const std::string& extension) {
    return extension.starts_with("KHR_materials") || extension.starts_with("KHR_texture") ||
           extension == "KHR_mesh_quantization" || extension == "KHR_lights_punctual" ||
           extension == "EXT_texture_webp";
}

}  // namespace

std::optional<std::size_t> index_in(const Json& object, const char* key) {
    if (!object.is_object()) return {};
    const auto found = object.find(key);
    if (found == object.end() || !found->is_number_integer()) return {};
    if (found->is_number_unsigned()) return found->get<std::size_t>();
    const auto value = found->get<std::int64_t>();
    return value < 0 ? std::nullopt : std::optional(static_cast<std::size_t>(value));
}

std::string text_in(const Json& object, const char* key) {
    if (!object.is_object()) return {};
    const auto found = object.find(key);
    return found != object.end() && found->is_string() ? found->get<std::string>() : std::string();
}

const Json* GltfSource::entry(const char* list, std::size_t index) const {
    const auto found = root_.find(list);
    if (found == root_.end() || !found->is_array() || index >= found->size()) return nullptr;
    const Json& entry = (*found)[index];
    return entry.is_object() ? &entry : nullptr;
}

Result<GltfSource> GltfSource::open(std::string_view bytes, const std::filesystem::path& path) {
    Chunks chunks{bytes, {}};
    if (bytes.starts_with("glTF")) {
        const auto found = chunks_of(bytes);
        if (!found) return found.error();
        chunks = *found;
    }
    GltfSource source;
    auto root = read_json(chunks.json);
    if (!root) return root.error();
    source.root_ = *std::move(root);
    if (Status checked = source.check(); !checked) return checked.error();
    if (Status opened = source.open_buffers(chunks.binary, path); !opened) return opened.error();
    return source;
}

Status GltfSource::check() const {
    if (!root_.is_object() || !root_.contains("asset")) return damaged("is JSON, but no glTF");
    const std::string version = text_in(root_["asset"], "version");
    if (!version.starts_with("2"))
        return Error{ErrorCode::file_newer, "",
                     "is of version ‘" + printable(shortened(version)) + "’ of glTF",
                     "Save it as version 2."};
    const auto needed = root_.find("extensionsRequired");
    if (needed == root_.end() || !needed->is_array()) return Done{};
    for (const Json& extension : *needed)
        if (!extension.is_string() || !can_be_left(extension.get<std::string>()))
            return Error{ErrorCode::file_newer, "",
                         "needs the extension " +
                             printable(shortened(extension.is_string() ? extension.get<std::string>()
                                                                       : extension.dump())) +
                             ", which cannot be read",
                         "Save it without: uncompressed, each instance as a node."};
    return Done{};
}

Status GltfSource::open_buffers(std::string_view binary, const std::filesystem::path& path) {
    const auto buffers = root_.find("buffers");
    if (buffers == root_.end() || !buffers->is_array()) return Done{};
    for (const Json& buffer : *buffers) {
        Result<std::string> bytes =
            buffer_bytes(buffer, buffers_.empty() ? binary : std::string_view(), path);
        if (!bytes) return bytes.error();
        buffers_.push_back(*std::move(bytes));
    }
    return Done{};
}

Result<std::string> GltfSource::buffer_bytes(const Json& buffer, std::string_view binary,
                                             const std::filesystem::path& path) {
    const std::string address = text_in(buffer, "uri");
    if (address.empty()) return std::string(binary);
    if (address.starts_with("data:")) {
        const std::size_t comma = address.find(";base64,");
        auto bytes = comma == std::string::npos ? std::nullopt
                                                : from_base64(std::string_view(address).substr(comma + 8));
        if (!bytes) return damaged("has a buffer that is not in base 64");
        return *std::move(bytes);
    }
    const auto file = linked_file(path, unescaped(address));
    if (!file)
        return Error{
            ErrorCode::file_missing, "",
            "refers to ‘" + printable(shortened(address)) + "’, which is not there or not in its folder",
            "Put it beside the file, or save the file with all it needs as GLB."};
    companions_.push_back(*file);
    return read_file(*file, largest_buffer);
}

std::optional<GltfSource::Bytes> GltfSource::view_bytes(const Json& holder) const {
    const Json* view = entry("bufferViews", index_in(holder, "bufferView").value_or(SIZE_MAX));
    if (!view) return {};
    const std::size_t buffer = index_in(*view, "buffer").value_or(SIZE_MAX);
    if (buffer >= buffers_.size()) return {};
    std::string_view bytes = buffers_[buffer];
    const std::size_t from = index_in(*view, "byteOffset").value_or(0);
    const std::size_t length = index_in(*view, "byteLength").value_or(0);
    if (from > bytes.size() || length > bytes.size() - from) return {};
    bytes = bytes.substr(from, length);
    const std::size_t offset = index_in(holder, "byteOffset").value_or(0);
    if (offset > bytes.size()) return {};
    return Bytes{bytes.substr(offset), index_in(*view, "byteStride").value_or(0)};
}

bool GltfSource::fill(const Json& holder, std::size_t component, std::size_t count, Numbers& into,
                      bool normalized) const {
    const auto known = std::ranges::find(components, component, &Component::code);
    const auto view = view_bytes(holder);
    if (known == components.end() || !view) return false;
    const std::size_t size = known->bytes * into.width, stride = view->stride == 0 ? size : view->stride;
    if (count == 0) return true;
    if (stride < size || view->bytes.size() < size || (view->bytes.size() - size) / stride < count - 1)
        return false;
    into.values.resize(count * into.width);
    const double factor = normalized && component != real_code ? 1 / known->most : 1;
    for (std::size_t at = 0; at < into.values.size(); ++at) {
        const char* place = view->bytes.data() + at / into.width * stride + at % into.width * known->bytes;
        into.values[at] = component_at(place, component) * factor;
    }
    return true;
}

bool GltfSource::put_sparse(const Json& sparse, std::size_t component, Numbers& into, bool normalized) const {
    const std::size_t count = index_in(sparse, "count").value_or(0);
    if (!sparse.contains("indices") || !sparse.contains("values")) return false;
    Numbers indices, values;
    values.width = into.width;
    const std::size_t index_component = index_in(sparse["indices"], "componentType").value_or(0);
    if (!fill(sparse["indices"], index_component, count, indices, false) ||
        !fill(sparse["values"], component, count, values, normalized))
        return false;
    for (std::size_t at = 0; at < count; ++at) {
        const double index = indices.values[at];
        if (!(index >= 0 && index < static_cast<double>(into.count()))) return false;
        std::copy_n(
            values.values.begin() + static_cast<std::ptrdiff_t>(at * into.width), into.width,
            into.values.begin() + static_cast<std::ptrdiff_t>(static_cast<std::size_t>(index) * into.width));
    }
    return true;
}

Result<GltfSource::Numbers> GltfSource::numbers(std::size_t accessor) const {
    const Error wrong =
        damaged("has an array (accessor " + std::to_string(accessor) + ") that reaches beyond its buffer");
    const Json* said = entry("accessors", accessor);
    if (!said) return wrong;
    Numbers made;
    made.width = width_of(text_in(*said, "type"));
    const std::size_t count = index_in(*said, "count").value_or(0);
    const std::size_t component = index_in(*said, "componentType").value_or(0);
    const auto normal = said->find("normalized");
    const bool normalized = normal != said->end() && normal->is_boolean() && normal->get<bool>();
    if (made.width == 0) return wrong;
    if (said->contains("bufferView")) {
        if (!fill(*said, component, count, made, normalized)) return wrong;
    } else if (count <= most_zeros) {
        made.values.resize(count * made.width);
    } else {
        return wrong;
    }
    if (said->contains("sparse") && !put_sparse((*said)["sparse"], component, made, normalized)) return wrong;
    return made;
}

}  // namespace plume
