#pragma once
// Reads members of JSON objects and remembers what is wrong with them. Private to the exchange layer.

#include <nlohmann/json.hpp>
#include <optional>
#include <set>

#include "core/base/error.hpp"
#include "core/formula/expression.hpp"
#include "core/study/study.hpp"

namespace plume {

using Json = nlohmann::ordered_json;

Error damaged_file(std::string where, std::string message);
std::string text_of(const Json& json);
// Parts that were kept because nobody knew them, put back where nothing of their key stands.
void merge_unknown(Json& json, const UnknownParts& unknown);

// Reads members of one JSON object, remembers the first thing that is wrong and which keys were asked for.
class JsonReader {
public:
    JsonReader(const Json& json, std::string where) : json_(json), where_(std::move(where)) {
        if (!json.is_object()) fail("has to be an object in braces");
    }

    bool has(const char* key) {
        known_.insert(key);
        return json_.is_object() && json_.contains(key);
    }
    std::string text(const char* key, std::string otherwise = {}) {
        const Json* member = find(key);
        if (!member) return otherwise;
        if (member->is_string()) return member->get<std::string>();
        fail(std::string("needs text for ‘") + key + "’");
        return otherwise;
    }
    std::string needed_text(const char* key) {
        if (!has(key)) fail(std::string("has no ‘") + key + "’");
        return text(key);
    }
    double number(const char* key, double otherwise) {
        const Json* member = find(key);
        if (!member) return otherwise;
        if (member->is_number()) return member->get<double>();
        fail(std::string("needs a number for ‘") + key + "’");
        return otherwise;
    }
    bool flag(const char* key, bool otherwise) {
        const Json* member = find(key);
        if (!member) return otherwise;
        if (member->is_boolean()) return member->get<bool>();
        fail(std::string("needs true or false for ‘") + key + "’");
        return otherwise;
    }
    const Json* list(const char* key) {
        const Json* member = find(key);
        if (member && !member->is_array()) fail(std::string("needs a list for ‘") + key + "’");
        return member && member->is_array() ? member : nullptr;
    }
    const Json* object(const char* key) {
        const Json* member = find(key);
        if (member && !member->is_object()) fail(std::string("needs an object for ‘") + key + "’");
        return member && member->is_object() ? member : nullptr;
    }
    // A number or its text, as an expression.
    std::string expression(const char* key, std::string otherwise) {
        const Json* found = find(key);
        if (!found) return otherwise;
        if (found->is_number()) return found->dump();
        return without_equals(text(key));
    }
    const Json* member(const char* key) { return find(key); }
    void fail(std::string message) {
        if (!error_) error_ = damaged_file(where_, std::move(message));
    }
    void fail(const Error& error) {
        if (!error_) error_ = error_at(error, where_);
    }
    const std::optional<Error>& error() const { return error_; }

    // Everything never asked for.
    UnknownParts unknown() const {
        UnknownParts rest;
        if (json_.is_object())
            for (const auto& [key, value] : json_.items())
                if (!known_.contains(key)) rest[key] = text_of(value);
        return rest;
    }
    // The same where a key that stands twice leaves open what is meant.
    UnknownParts unknown_once() {
        UnknownParts rest = unknown();
        for (const auto& [key, json] : rest)
            if (key.ends_with(again_suffix))
                fail("has ‘" + key.substr(0, key.size() - again_suffix.size()) + "’ twice");
        return rest;
    }

private:
    const Json* find(const char* key) { return has(key) ? &json_.at(key) : nullptr; }

    const Json& json_;
    std::string where_;
    std::set<std::string, std::less<>> known_;
    std::optional<Error> error_;
};

}  // namespace plume
