#include <bit>
#include <cstring>
#include <istream>

#include "core/base/numbers.hpp"
#include "core/base/parallel.hpp"
#include "core/base/text.hpp"
#include "core/readers/mesh_draft.hpp"
#include "core/readers/mesh_formats.hpp"
#include "core/readers/text_scan.hpp"
#include "core/readers/welded_places.hpp"

namespace plume {
namespace {

static_assert(std::endian::native == std::endian::little, "binary STL is little-endian");

constexpr std::size_t head_bytes = 84, facet_bytes = 50;

template <class Real>
void take_places(const WeldedPlaces<Real>& welded, MeshDraft& draft) {
    const auto& places = welded.places();
    for (Doubles* column : {&draft.x, &draft.y, &draft.z})
        column->resize(places.size());
    parallel_blocks(places.size(), usual_block, Run(), [&](std::size_t begin, std::size_t end) {
        for (std::size_t at = begin; at < end; ++at) {
            draft.x[at] = places[at][0];
            draft.y[at] = places[at][1];
            draft.z[at] = places[at][2];
        }
    });
}

class BinaryReader {
public:
    BinaryReader(std::istream& stream, std::uint64_t facets, const Run& run)
        : stream_(stream), facets_(facets), run_(run), welded_(static_cast<std::size_t>(facets / 2)) {}

    Result<MeshFile> read() {
        constexpr std::uint64_t facets_a_piece = 40'000;
        draft_.corners.reserve(static_cast<std::size_t>(3 * facets_));
        draft_.first.reserve(static_cast<std::size_t>(facets_ + 1));
        std::string piece(facets_a_piece * facet_bytes, '\0');
        for (std::uint64_t done = 0; done < facets_;) {
            const std::uint64_t count = std::min(facets_a_piece, facets_ - done);
            stream_.read(piece.data(), static_cast<std::streamsize>(count * facet_bytes));
            if (!stream_)
                return Error{ErrorCode::file_damaged, "", "could not be read to its end", "Get it anew."};
            add(piece, static_cast<std::size_t>(count));
            done += count;
            if (run_.cancelled()) return cancelled_error();
            run_.report(0.8 * static_cast<double>(done) / static_cast<double>(facets_));
        }
        take_places(welded_, draft_);
        return finished(std::move(draft_), run_);
    }

private:
    using Place = WeldedPlaces<float>::Place;

    static Place place_at(const std::string& piece, std::size_t facet, std::size_t corner) {
        Place place;
        std::memcpy(place.data(), piece.data() + facet * facet_bytes + 12 + corner * 12, 12);
        for (float& part : place)
            part += 0.0F;  // of the two zeros there is one
        return place;
    }
    void add(const std::string& piece, std::size_t count) {
        constexpr std::size_t ahead = 8;
        for (std::size_t facet = 0; facet < count; ++facet) {
            if (facet + ahead < count)
                for (std::size_t corner = 0; corner < 3; ++corner)
                    welded_.prefetch(place_at(piece, facet + ahead, corner));
            for (std::size_t corner = 0; corner < 3; ++corner)
                draft_.corners.push_back(welded_.index_of(place_at(piece, facet, corner)));
            draft_.first.push_back(static_cast<std::uint32_t>(draft_.corners.size()));
        }
    }

    std::istream& stream_;
    std::uint64_t facets_;
    const Run& run_;
    WeldedPlaces<float> welded_;
    MeshDraft draft_;
};

class TextReader {
public:
    TextReader(std::string_view text, const Run& run) : text_(text), run_(run), welded_(text.size() / 500) {}

    Result<MeshFile> read() {
        TextLines lines(text_);
        bool ended = false;
        while (lines.next()) {
            std::string_view line = lines.line();
            const std::string_view word = take_word(line);
            if (word == "solid") {
                draft_.part_names.emplace_back(printable(without_blanks(line)));
                ended = false;
            } else if (word == "outer") {
                loop_.clear();
            } else if (word == "vertex") {
                if (Status added = add_corner(line, lines.number()); !added) return added.error();
            } else if (word == "endloop") {
                draft_.add_face(loop_, static_cast<std::uint32_t>(draft_.part_names.size() - 1));
            } else if (word == "endsolid") {
                ended = true;
            } else if (word != "facet" && word != "endfacet" && !word.empty()) {
                return Error{ErrorCode::file_damaged, "",
                             "says ‘" + printable(shortened(word)) + "’ in line " +
                                 std::to_string(lines.number()) + ", where a facet is expected",
                             "Get it anew, or mend that line."};
            }
            if (lines.number() % 65536 == 0) {
                if (run_.cancelled()) return cancelled_error();
                run_.report(
                    0.8 * (1 - static_cast<double>(lines.rest().size()) / static_cast<double>(text_.size())));
            }
        }
        take_places(welded_, draft_);
        Result<MeshFile> made = finished(std::move(draft_), run_);
        if (made && !ended)
            made->losses.emplace_back("The file ends before its ‘endsolid’; what is behind is missing.");
        return made;
    }

private:
    Status add_corner(std::string_view line, std::size_t number) {
        WeldedPlaces<double>::Place place;
        for (double& part : place) {
            const auto read = number_in<double>(take_word(line));
            if (!read)
                return Error{ErrorCode::file_damaged, "",
                             "has a vertex without three numbers in line " + std::to_string(number),
                             "Get it anew, or mend that line."};
            part = *read + 0.0;
        }
        loop_.push_back(welded_.index_of(place));
        return Done{};
    }

    std::string_view text_;
    const Run& run_;
    WeldedPlaces<double> welded_;
    MeshDraft draft_;
    std::vector<std::uint32_t> loop_;
};

}  // namespace

Result<MeshFile> read_stl(std::istream& stream, std::uint64_t size, const Run& run) {
    char head[head_bytes] = {};
    stream.read(head, static_cast<std::streamsize>(std::min<std::uint64_t>(size, head_bytes)));
    std::uint32_t facets = 0;
    std::memcpy(&facets, head + 80, 4);
    const std::uint64_t binary_size = head_bytes + facet_bytes * std::uint64_t{facets};
    const bool text = std::string_view(head, 5) == "solid" && size != binary_size;
    if (text) {
        stream.clear();
        stream.seekg(0);
        std::string whole(size, '\0');
        stream.read(whole.data(), static_cast<std::streamsize>(size));
        return TextReader(whole, run).read();
    }
    if (size < binary_size || size < head_bytes)
        return Error{ErrorCode::file_damaged, "",
                     size < head_bytes
                         ? "ends within its head"
                         : "says that it has " + count_text(facets, "triangle", "triangles") +
                               " and ends after " +
                               grouped_text(static_cast<std::int64_t>((size - head_bytes) / facet_bytes)),
                     "Get it anew."};
    return BinaryReader(stream, facets, run).read();
}

}  // namespace plume
