#pragma once
// Numbers, texts and lists as bytes, as one process hands them to another on the same machine: numbers as
// they are in memory, lists with their counts before them.

#include <cstdint>
#include <cstring>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

#include "core/base/error.hpp"

namespace plume {

class BytesOut {
public:
    void put(double number) { raw(&number, sizeof number); }
    void put(std::uint64_t number) { raw(&number, sizeof number); }
    void put(bool flag) { put(std::uint64_t{flag ? 1U : 0U}); }
    void put(const std::string& text) {
        put(std::uint64_t{text.size()});
        raw(text.data(), text.size());
    }
    void put(const std::vector<double>& values) { put_numbers(values.data(), values.size()); }
    void put(const std::vector<std::uint32_t>& values) { put_numbers(values.data(), values.size()); }
    template <class Number>
    void put_numbers(const Number* values, std::size_t count) {
        put(std::uint64_t{count});
        raw(values, count * sizeof(Number));
    }
    void put(const Error& error) {
        put(static_cast<std::uint64_t>(error.code));
        put(error.message);
        put(error.mend);
    }
    std::string take() { return std::move(bytes_); }

private:
    void raw(const void* from, std::size_t size) { bytes_.append(static_cast<const char*>(from), size); }
    std::string bytes_;
};

// How many there are, then each as `out` puts one.
template <class Out, class T>
void put_all(Out& out, const std::vector<T>& list) {
    out.put(std::uint64_t{list.size()});
    for (const T& one : list)
        out.put(one);
}

// Throws where the bytes are not what was written.
struct BrokenBytes {};

class BytesIn {
public:
    explicit BytesIn(std::string_view bytes) : rest_(bytes) {}

    double number() { return raw<double>(); }
    std::uint64_t whole() { return raw<std::uint64_t>(); }
    bool flag() { return whole() != 0; }
    std::string text() {
        const std::size_t size = count(1);
        std::string made(rest_.substr(0, size));
        rest_.remove_prefix(size);
        return made;
    }
    template <class Numbers>
    Numbers numbers() {
        using Number = typename Numbers::value_type;
        Numbers values(count(sizeof(Number)));
        if (!values.empty()) std::memcpy(values.data(), rest_.data(), values.size() * sizeof(Number));
        rest_.remove_prefix(values.size() * sizeof(Number));
        return values;
    }
    Error error() {
        const std::uint64_t code = whole();
        std::string message = text();
        if (code >= static_cast<std::uint64_t>(ErrorCode::number_of_codes) || message.empty())
            throw BrokenBytes{};
        return {static_cast<ErrorCode>(code), "", std::move(message), text()};
    }
    template <class T, class Make>
    std::vector<T> list(Make make) {
        std::vector<T> made;
        for (std::size_t left = count(1); left > 0; --left)
            made.push_back(make());
        return made;
    }

private:
    template <class Number>
    Number raw() {
        Number value{};
        if (rest_.size() < sizeof value) throw BrokenBytes{};
        std::memcpy(&value, rest_.data(), sizeof value);
        rest_.remove_prefix(sizeof value);
        return value;
    }
    std::size_t count(std::size_t size_of_one) {
        const std::uint64_t count = whole();
        if (count > rest_.size() / size_of_one) throw BrokenBytes{};
        return static_cast<std::size_t>(count);
    }
    std::string_view rest_;
};

// What `fill` puts, behind the word that there is no error; or the error.
template <class Out, class T, class Fill>
std::string handed_bytes(const Result<T>& made, Fill fill) {
    Out out;
    out.put(made.ok());
    if (made)
        fill(out, *made);
    else
        out.put(made.error());
    return out.take();
}
// The other way round. Errors: the one handed over; file_damaged where the bytes are not whole.
template <class T, class In, class Take>
Result<T> from_handed_bytes(std::string_view bytes, Take take) {
    try {
        In in(bytes);
        if (!in.flag()) return in.error();
        return take(in);
    } catch (const BrokenBytes&) {
        return Error{ErrorCode::file_damaged, "", "could not be handed over whole", "Compute again."};
    }
}

}  // namespace plume
