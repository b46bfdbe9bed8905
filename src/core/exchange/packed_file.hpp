#pragma once
// Packages of files (ZIP, PKWARE APPNOTE 6.3.3) whose texts are made and compressed (zlib; RFC 1951) on all
// threads, piece by piece: pieces are deflated by themselves and stand in one stream.

#include <functional>
#include <string>
#include <vector>

#include "core/base/file.hpp"
#include "core/base/run.hpp"

namespace plume {

// Appends a piece of a text to what is given; called once, on any thread.
using TextPiece = std::function<void(std::string& text)>;

class PackedFile {
public:
    explicit PackedFile(const ByteSink& sink) : sink_(sink) {}

    // Errors: out_of_range, beyond the 4 GB a package without extensions can have; cancelled.
    Status add(const std::string& name, const std::vector<TextPiece>& pieces, const Run& run);
    // The directory at its end.
    Status finish();

private:
    struct Entry {
        std::string name;
        std::uint32_t checksum = 0, packed = 0, length = 0, at = 0;
    };
    void put(const std::string& bytes);

    const ByteSink& sink_;
    std::vector<Entry> entries_;
    std::uint64_t written_ = 0;
};

}  // namespace plume
