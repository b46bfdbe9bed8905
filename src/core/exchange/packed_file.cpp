#include "core/exchange/packed_file.hpp"

#include <zlib.h>

#include <limits>
#include <new>

#include "core/base/parallel.hpp"

namespace plume {
namespace {

// The fastest of zlib's that still finds most of what texts of numbers have: see bench/exchange_bench.cpp.
constexpr int level = 4;
constexpr int raw = -15;  // a stream without a head of its own
constexpr std::uint64_t largest = std::numeric_limits<std::uint32_t>::max();

template <class Number>
void put_number(std::string& bytes, Number number) {
    for (std::size_t at = 0; at < sizeof number; ++at)
        bytes += static_cast<char>(static_cast<std::uint64_t>(number) >> (8 * at) & 0xFFU);
}

struct Packed {
    std::string bytes;
    std::uint64_t length = 0;
    uLong checksum = 0;
};

// Ends at a whole byte; the last piece ends the stream.
Packed packed(const std::string& text, bool last) {
    const auto* const from = reinterpret_cast<const Bytef*>(text.data());
    Packed piece{{}, text.size(), crc32(0, from, static_cast<uInt>(text.size()))};
    z_stream stream{};
    if (deflateInit2(&stream, level, Z_DEFLATED, raw, 9, Z_DEFAULT_STRATEGY) != Z_OK) throw std::bad_alloc();
    // What it takes at most, and the marks between pieces.
    piece.bytes.resize(deflateBound(&stream, static_cast<uLong>(text.size())) + 16);
    stream.next_in = const_cast<Bytef*>(from);  // it is not written to
    stream.avail_in = static_cast<uInt>(text.size());
    stream.next_out = reinterpret_cast<Bytef*>(piece.bytes.data());
    stream.avail_out = static_cast<uInt>(piece.bytes.size());
    deflate(&stream, last ? Z_FINISH : Z_FULL_FLUSH);
    piece.bytes.resize(stream.total_out);
    deflateEnd(&stream);
    return piece;
}

Error too_large() {
    return {ErrorCode::out_of_range, "", "is larger than the 4 GB that a package can have",
            "Export it in parts."};
}

// What local heads and the directory have alike.
void describe(std::string& bytes, std::uint32_t checksum, std::uint32_t packed, std::uint32_t length,
              std::size_t name) {
    constexpr std::uint16_t deflated = 8, midnight = 0, first_of_1980 = 0x21;  // no clock: files are alike
    for (const std::uint16_t number :
         {std::uint16_t{20}, std::uint16_t{0x800}, deflated, midnight, first_of_1980})
        put_number(bytes, number);
    for (const std::uint32_t number : {checksum, packed, length})
        put_number(bytes, number);
    put_number(bytes, static_cast<std::uint16_t>(name));
    put_number(bytes, std::uint16_t{0});  // nothing more
}

}  // namespace

void PackedFile::put(const std::string& bytes) {
    sink_(bytes);
    written_ += bytes.size();
}

Status PackedFile::add(const std::string& name, const std::vector<TextPiece>& pieces, const Run& run) {
    std::vector<Packed> all(pieces.size());
    const bool done = parallel_blocks(pieces.size(), 1, run, [&](std::size_t begin, std::size_t end) {
        for (std::size_t at = begin; at < end; ++at) {
            std::string text;
            pieces[at](text);
            all[at] = packed(text, at + 1 == pieces.size());
        }
    });
    if (!done) return cancelled_error();
    std::uint64_t length = 0, size = 0;
    uLong checksum = crc32(0, nullptr, 0);
    for (const Packed& piece : all) {
        checksum = crc32_combine(checksum, piece.checksum, static_cast<z_off_t>(piece.length));
        length += piece.length;
        size += piece.bytes.size();
    }
    constexpr std::uint64_t heads = 1024;
    if (length > largest || written_ + size + heads > largest) return too_large();
    Entry entry{name, static_cast<std::uint32_t>(checksum), static_cast<std::uint32_t>(size),
                static_cast<std::uint32_t>(length), static_cast<std::uint32_t>(written_)};
    std::string head("PK\3\4");
    describe(head, entry.checksum, entry.packed, entry.length, name.size());
    put(head + name);
    for (const Packed& piece : all)
        put(piece.bytes);
    entries_.push_back(std::move(entry));
    return Done{};
}

Status PackedFile::finish() {
    std::string directory;
    for (const Entry& entry : entries_) {
        directory += "PK\1\2";
        put_number(directory, std::uint16_t{20});
        describe(directory, entry.checksum, entry.packed, entry.length, entry.name.size());
        for (int nothing = 0; nothing < 3; ++nothing)  // comment, disk, kind of text
            put_number(directory, std::uint16_t{0});
        put_number(directory, std::uint32_t{0});
        put_number(directory, entry.at);
        directory += entry.name;
    }
    const auto at = static_cast<std::uint32_t>(written_);
    const auto size = static_cast<std::uint32_t>(directory.size());
    directory += std::string("PK\5\6") + std::string(4, '\0');
    for (int twice = 0; twice < 2; ++twice)
        put_number(directory, static_cast<std::uint16_t>(entries_.size()));
    put_number(directory, size);
    put_number(directory, at);
    put_number(directory, std::uint16_t{0});
    put(directory);
    return written_ > largest ? Status(too_large()) : Status(Done{});
}

}  // namespace plume
