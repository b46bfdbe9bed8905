#include "core/base/json_tree.hpp"

#include <algorithm>
#include <string>

namespace plume {
namespace {

using Json = nlohmann::ordered_json;

constexpr std::size_t deepest_nesting = 64;

// Builds the tree from the reader's events.
class TreeBuilder : public nlohmann::json_sax<Json> {
public:
    explicit TreeBuilder(std::string_view again_suffix) : again_suffix_(again_suffix) {}

    bool null() override { return put(nullptr); }
    bool boolean(bool value) override { return put(value); }
    bool number_integer(number_integer_t value) override { return put(value); }
    bool number_unsigned(number_unsigned_t value) override { return put(value); }
    bool number_float(number_float_t value, const string_t& /*text*/) override { return put(value); }
    bool string(string_t& value) override { return put(std::move(value)); }
    bool binary(binary_t& value) override { return put(std::move(value)); }
    bool start_object(std::size_t /*size*/) override { return open(Json::object()); }
    bool start_array(std::size_t /*size*/) override { return open(Json::array()); }
    bool end_object() override { return close(); }
    bool end_array() override { return close(); }
    bool key(string_t& value) override {
        key_ = std::move(value);
        while (open_.back()->contains(key_))
            key_ += again_suffix_;
        return true;
    }
    bool parse_error(std::size_t position, const std::string& /*token*/,
                     const nlohmann::detail::exception& /*problem*/) override {
        error_at_ = position;
        return false;
    }

    bool too_deep() const { return too_deep_; }
    std::size_t error_at() const { return error_at_; }
    Json take() { return std::move(root_); }

private:
    template <class T>
    bool put(T&& value) {
        place(Json(std::forward<T>(value)));
        return true;
    }
    bool open(Json container) {
        too_deep_ = open_.size() >= deepest_nesting;
        if (too_deep_) return false;
        open_.push_back(place(std::move(container)));
        return true;
    }
    bool close() {
        open_.pop_back();
        return true;
    }
    Json* place(Json value) {
        if (open_.empty()) {
            root_ = std::move(value);
            return &root_;
        }
        Json& outer = *open_.back();
        if (outer.is_array()) {
            outer.push_back(std::move(value));
            return &outer.back();
        }
        // Only the innermost container grows, so that places in the outer ones stay where they are.
        return &(outer[key_] = std::move(value));
    }

    std::string_view again_suffix_;
    Json root_;
    std::vector<Json*> open_;
    std::string key_;
    bool too_deep_ = false;
    std::size_t error_at_ = 0;
};

Error damaged_at(std::string_view text, std::size_t byte) {
    const auto before = text.substr(0, std::min(byte, text.size()));
    const auto line = 1 + std::ranges::count(before, '\n');
    const bool early = byte >= text.size();
    return {ErrorCode::file_damaged, "",
            early ? "It ends too early, in line " + std::to_string(line)
                  : "It is not readable as JSON in line " + std::to_string(line),
            "Mend that line, or go back to an older copy."};
}

}  // namespace

Result<nlohmann::ordered_json> read_json(std::string_view text, std::string_view again_suffix) {
    TreeBuilder tree(again_suffix);
    if (Json::sax_parse(text, &tree)) return tree.take();
    if (tree.too_deep())
        return Error{ErrorCode::too_deep, "", "It is nested too deeply", "Choose another file."};
    return damaged_at(text, tree.error_at());
}

}  // namespace plume
