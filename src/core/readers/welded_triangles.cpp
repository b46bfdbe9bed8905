#include "core/readers/welded_triangles.hpp"

#include <algorithm>
#include <atomic>
#include <bit>
#include <cstring>
#include <limits>
#include <numeric>

#include "core/base/parallel.hpp"

namespace plume {
namespace {

constexpr std::size_t piece_size = 131'072;  // triangles looked through at a time
constexpr std::size_t lately_size = 32'768;  // places remembered while they are
constexpr std::size_t deals = 64;
constexpr std::uint32_t none = std::numeric_limits<std::uint32_t>::max();

// By its bits, of which those of -0 are those of 0.
struct Place {
    std::uint32_t x, y, z;
    bool operator==(const Place&) const = default;
};

std::uint32_t bits_at(const char* from) {
    std::uint32_t bits = 0;
    std::memcpy(&bits, from, sizeof bits);
    return bits == 0x80000000U ? 0 : bits;
}

std::uint64_t hash_of(Place place) {
    std::uint64_t mixed = (std::uint64_t{place.x} << 32U | place.y) * 0x9e3779b97f4a7c15U;
    mixed ^= place.z * 0xbf58476d1ce4e5b9U;
    mixed ^= mixed >> 29U;
    return mixed * 0x94d049bb133111ebU;
}
std::size_t deal_of(std::uint64_t hash) {
    return hash >> 58U;
}

// Places of a piece that were not seen lately.
struct Candidates {
    std::vector<Place> places;
    std::array<std::uint32_t, deals> dealt{};  // how many go to each
};

struct Lately {
    Place place{};
    std::uint32_t index = none;
};

void look_through(const char* record, std::size_t stride, std::size_t count, std::vector<Lately>& lately,
                  Candidates& candidates, std::uint32_t* corners) {
    std::ranges::fill(lately, Lately{});
    for (std::size_t triangle = 0; triangle < count; ++triangle, record += stride)
        for (std::size_t corner = 0; corner < 3; ++corner) {
            const char* at = record + 12 * corner;
            const Place place{bits_at(at), bits_at(at + 4), bits_at(at + 8)};
            const std::uint64_t hash = hash_of(place);
            Lately& known = lately[hash >> 20U & (lately_size - 1)];
            if (known.index == none || !(known.place == place)) {
                known = {place, static_cast<std::uint32_t>(candidates.places.size())};
                candidates.places.push_back(place);
                ++candidates.dealt[deal_of(hash)];
            }
            *corners++ = known.index;
        }
}

struct Record {
    Place place;
    std::uint32_t candidate;
};

// Of each candidate the first one at its place.
void compare(std::span<const Record> dealt, std::vector<std::uint32_t>& first_alike) {
    const std::size_t size = std::bit_ceil(dealt.size() * 2 + 1), mask = size - 1;
    std::vector<std::uint32_t> slots(size, none);
    for (std::uint32_t at = 0; at < dealt.size(); ++at) {
        std::size_t slot = hash_of(dealt[at].place) >> 20U & mask;
        while (slots[slot] != none && !(dealt[slots[slot]].place == dealt[at].place))
            slot = (slot + 1) & mask;
        if (slots[slot] == none) slots[slot] = at;
        first_alike[dealt[at].candidate] = dealt[slots[slot]].candidate;
    }
}

class Welding {
public:
    Welding(const TriangleRecords& records, const ReadAt& read_at, const Run& run)
        : records_(records),
          read_at_(read_at),
          run_(run),
          pieces_((records.count + piece_size - 1) / piece_size) {}

    Result<WeldedTriangles> weld() {
        if (records_.count >= none / 3)
            return Error{ErrorCode::file_too_large, "", "has more corners of triangles than a mesh can count",
                         "Split it into several files."};
        made_.corners.resize(static_cast<std::size_t>(3 * records_.count));
        if (Status read = read_pieces(); !read) return read.error();
        deal();
        number();
        renumber();
        if (run_.cancelled()) return cancelled_error();
        return std::move(made_);
    }

private:
    std::size_t count_in(std::size_t piece) const {
        return std::min<std::uint64_t>(piece_size, records_.count - piece * piece_size);
    }

    Status read_pieces() {
        std::atomic<bool> failed{false};
        parallel_blocks(pieces_.size(), 1, run_, [&](std::size_t begin, std::size_t end) {
            std::vector<char, UninitializedAllocator<char>> bytes(piece_size * records_.record);
            std::vector<Lately> lately(lately_size);
            for (std::size_t piece = begin; piece < end && !failed; ++piece) {
                const std::size_t first = piece * piece_size, count = count_in(piece);
                pieces_[piece].places.reserve(count);
                if (!read_at_(records_.begin + first * records_.record, count * records_.record,
                              bytes.data()))
                    failed = true;
                else
                    look_through(bytes.data() + records_.offset, records_.record, count, lately,
                                 pieces_[piece], made_.corners.data() + 3 * first);
            }
        });
        if (run_.cancelled()) return cancelled_error();
        if (failed) return Error{ErrorCode::file_damaged, "", "could not be read to its end", "Get it anew."};
        return Done{};
    }

    // Candidates are numbered through, piece by piece; what can be at one place comes to one deal, in their
    // order.
    void deal() {
        std::array<std::size_t, deals> sums{};
        for (const Candidates& piece : pieces_) {
            first_of_.push_back(candidates_);
            candidates_ += piece.places.size();
            for (std::size_t at = 0; at < deals; ++at)
                sums[at] += piece.dealt[at];
        }
        std::exclusive_scan(sums.begin(), sums.end(), begins_.begin(), std::size_t{0});
        begins_[deals] = candidates_;
        std::vector<std::array<std::size_t, deals>> places(pieces_.size());
        std::array<std::size_t, deals> next{};
        std::copy_n(begins_.begin(), deals, next.begin());
        for (std::size_t piece = 0; piece < pieces_.size(); ++piece) {
            places[piece] = next;
            for (std::size_t at = 0; at < deals; ++at)
                next[at] += pieces_[piece].dealt[at];
        }
        records_of_deals_.resize(candidates_);
        parallel_blocks(pieces_.size(), 1, run_, [&](std::size_t begin, std::size_t end) {
            for (std::size_t piece = begin; piece < end; ++piece) {
                auto candidate = static_cast<std::uint32_t>(first_of_[piece]);
                for (const Place place : pieces_[piece].places)
                    records_of_deals_[places[piece][deal_of(hash_of(place))]++] = {place, candidate++};
            }
        });
    }

    void number() {
        first_alike_.resize(candidates_);
        parallel_blocks(deals, 1, run_, [&](std::size_t begin, std::size_t end) {
            for (std::size_t at = begin; at < end; ++at)
                compare(std::span(records_of_deals_).subspan(begins_[at], begins_[at + 1] - begins_[at]),
                        first_alike_);
        });
        if (run_.cancelled()) return;
        made_.places.reserve(candidates_);
        records_of_deals_ = {};
        std::size_t candidate = 0;
        for (const Candidates& piece : pieces_)
            for (const Place place : piece.places) {
                std::uint32_t& alike = first_alike_[candidate];
                if (alike == candidate) {
                    alike = static_cast<std::uint32_t>(made_.places.size());
                    made_.places.push_back({std::bit_cast<float>(place.x), std::bit_cast<float>(place.y),
                                            std::bit_cast<float>(place.z)});
                } else {
                    alike = first_alike_[alike];
                }
                ++candidate;
            }
    }

    void renumber() {
        parallel_blocks(pieces_.size(), 1, run_, [&](std::size_t begin, std::size_t end) {
            for (std::size_t piece = begin; piece < end; ++piece) {
                std::uint32_t* corner = made_.corners.data() + 3 * piece * piece_size;
                for (std::size_t left = 3 * count_in(piece); left > 0; --left, ++corner)
                    *corner = first_alike_[first_of_[piece] + *corner];
            }
        });
    }

    const TriangleRecords& records_;
    const ReadAt& read_at_;
    const Run& run_;
    std::vector<Candidates> pieces_;
    std::vector<std::size_t> first_of_;  // number of a piece's first candidate
    std::size_t candidates_ = 0;
    std::array<std::size_t, deals + 1> begins_{};
    std::vector<Record, UninitializedAllocator<Record>> records_of_deals_;
    std::vector<std::uint32_t> first_alike_;
    WeldedTriangles made_;
};

}  // namespace

Result<WeldedTriangles> welded_triangles(const TriangleRecords& records, const ReadAt& read_at,
                                         const Run& run) {
    return Welding(records, read_at, run).weld();
}

}  // namespace plume
