#include <array>
#include <bit>
#include <cstring>

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

template <class Places>
void take_places(const Places& places, MeshDraft& draft) {
    for (Doubles* column : {&draft.x, &draft.y, &draft.z})
        column->resize(places.size());
    parallel_blocks(places.size(), usual_block, Run(), [&](std::size_t begin, std::size_t end) {
        for (std::size_t at = begin; at < end; ++at) {
            draft.x[at] = static_cast<double>(places[at][0]);
            draft.y[at] = static_cast<double>(places[at][1]);
            draft.z[at] = static_cast<double>(places[at][2]);
        }
    });
}

Result<MeshFile> read_binary(const ReadAt& read_at, std::uint64_t facets, const Run& run) {
    auto welded = welded_triangles({head_bytes, facets, facet_bytes, 12}, read_at, run);
    if (!welded) return welded.error();
    MeshDraft draft;
    take_places(welded->places, draft);
    welded->places = {};
    draft.corners = std::move(welded->corners);
    draft.first.resize(static_cast<std::size_t>(facets + 1));
    for (std::size_t facet = 0; facet <= facets; ++facet)
        draft.first[facet] = static_cast<std::uint32_t>(3 * facet);
    return finished(std::move(draft), run);
}

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
        take_places(welded_.places(), draft_);
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

Result<MeshFile> read_stl(const ReadAt& read_at, std::uint64_t size, const Run& run) {
    std::array<char, head_bytes> head{};
    if (!read_at(0, static_cast<std::size_t>(std::min<std::uint64_t>(size, head_bytes)), head.data()))
        return Error{ErrorCode::file_unreadable, "", "could not be read", "Check that you may read it."};
    std::uint32_t facets = 0;
    std::memcpy(&facets, head.data() + 80, 4);
    const std::uint64_t binary_size = head_bytes + facet_bytes * std::uint64_t{facets};
    if (std::string_view(head.data(), 5) == "solid" && size != binary_size) {
        std::string text(size, '\0');
        if (!read_at(0, text.size(), text.data()))
            return Error{ErrorCode::file_damaged, "", "could not be read to its end", "Get it anew."};
        return TextReader(text, run).read();
    }
    if (size < binary_size || size < head_bytes)
        return Error{ErrorCode::file_damaged, "",
                     size < head_bytes
                         ? "ends within its head"
                         : "says that it has " + count_text(facets, "triangle", "triangles") +
                               " and ends after " +
                               grouped_text(static_cast<std::int64_t>((size - head_bytes) / facet_bytes)),
                     "Get it anew."};
    return read_binary(read_at, facets, run);
}

}  // namespace plume
