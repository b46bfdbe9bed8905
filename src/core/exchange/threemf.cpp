// 3MF (3MF Consortium, Core Specification 1.2; Materials and Properties Extension 1.1; Production Extension
// 1.1 for identities), its text written by ourselves: the library for it takes more than twice the time of
// its compressor, and reads what is written here in the tests.

#include <bit>
#include <charconv>
#include <map>
#include <unordered_map>

#include "core/exchange/formats.hpp"
#include "core/exchange/packed_file.hpp"
#include "core/exchange/part_ids.hpp"
#include "core/exchange/print_bodies.hpp"
#include "core/exchange/print_check.hpp"
#include "core/exchange/tally.hpp"
#include "core/exchange/xml_text.hpp"

namespace plume {
namespace {

constexpr const char* content_types =
    R"(<?xml version="1.0" encoding="UTF-8"?>
<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types">
<Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/>
<Default Extension="model" ContentType="application/vnd.ms-package.3dmanufacturing-3dmodel+xml"/>
</Types>
)";
constexpr const char* relationships =
    R"(<?xml version="1.0" encoding="UTF-8"?>
<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">
<Relationship Id="model" Target="/3D/3dmodel.model" Type="http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel"/>
</Relationships>
)";
constexpr const char* model_begins =
    R"(<?xml version="1.0" encoding="UTF-8"?>
<model unit="millimeter" xml:lang="en-US" xmlns="http://schemas.microsoft.com/3dmanufacturing/core/2015/02" xmlns:m="http://schemas.microsoft.com/3dmanufacturing/material/2015/02" xmlns:p="http://schemas.microsoft.com/3dmanufacturing/production/2015/06">
<metadata name="Application">Plume Lattice</metadata>
<resources>
)";

struct ColourHash {
    std::size_t operator()(const PrintColour& colour) const { return std::bit_cast<std::uint32_t>(colour); }
};

// "#C8A06EFF"
std::string colour_text(const PrintColour& colour) {
    constexpr std::string_view digits = "0123456789ABCDEF";
    std::string text = "#";
    for (const std::uint8_t part : colour) {
        text += digits[part >> 4U];
        text += digits[part & 15U];
    }
    return text;
}

// As short as it can be and still be that number.
template <class Number>
void append(std::string& text, std::string_view before, Number number) {
    std::array<char, 32> digits{};
    const auto end = std::to_chars(digits.data(), digits.data() + digits.size(), number).ptr;
    text += before;
    text.append(digits.data(), end);
}

// Each entry once, by its number.
template <class Entry, class Map>
class Numbered {
public:
    std::size_t number_of(const Entry& entry) {
        const auto [at, is_new] = numbers_.emplace(entry, entries_.size());
        if (is_new) entries_.push_back(entry);
        return at->second;
    }
    const std::vector<Entry>& entries() const { return entries_; }
    std::size_t known(const Entry& entry) const { return numbers_.at(entry); }

private:
    Map numbers_;
    std::vector<Entry> entries_;
};

class ModelText {
public:
    explicit ModelText(const std::vector<PrintBody>& bodies) : bodies_(bodies) {
        for (const PrintBody& body : bodies) {
            materials_.number_of({body.material, body.colour});
            for (const auto& corners : body.corner_colours)
                for (const PrintColour& colour : corners)
                    colours_.number_of(colour);
        }
    }

    // They refer to this.
    std::vector<TextPiece> pieces(const std::string& build_id) {
        say([this](std::string& text) { text += model_begins + resources(); }, many);
        for (std::size_t body = 0; body < bodies_.size(); ++body)
            say_body(body);
        say([this, build_id](std::string& text) { text += build(build_id); }, many);
        std::vector<TextPiece> pieces;
        pieces.reserve(groups_.size());
        for (const std::vector<TextPiece>& group : groups_)
            pieces.emplace_back([&group](std::string& text) {
                for (const TextPiece& words : group)
                    words(text);
            });
        return pieces;
    }

private:
    using Material = std::pair<std::string, PrintColour>;
    static constexpr std::size_t materials_id = 1, colours_id = 2, first_body_id = 3;
    // Rows of a piece: enough for the compressor to find what repeats.
    static constexpr std::size_t many = 16'384;

    // Small ones share a piece.
    void say(TextPiece words, std::size_t rows) {
        if (groups_.empty() || rows_ + rows > many) {
            groups_.emplace_back();
            rows_ = 0;
        }
        groups_.back().push_back(std::move(words));
        rows_ += rows;
    }

    std::string resources() const {
        std::string text = "<basematerials id=\"1\">\n";
        for (const auto& [name, colour] : materials_.entries())
            text += "<base name=\"" + xml_text(name) + "\" displaycolor=\"" + colour_text(colour) + "\"/>\n";
        text += "</basematerials>\n";
        if (colours_.entries().empty()) return text;
        text += "<m:colorgroup id=\"2\">\n";
        for (const PrintColour& colour : colours_.entries())
            text += "<m:color color=\"" + colour_text(colour) + "\"/>\n";
        return text + "</m:colorgroup>\n";
    }

    void say_body(std::size_t number) {
        const PrintBody& body = bodies_[number];
        say([this, number](std::string& text) { text += object_begins(number); }, 1);
        in_ranges(body.vertices.size(), [&](std::size_t begin, std::size_t end) {
            say([&body, begin, end](std::string& text) { append_vertices(body, begin, end, text); },
                end - begin);
        });
        say([](std::string& text) { text += "</vertices>\n<triangles>\n"; }, 1);
        in_ranges(body.triangles.size(), [&](std::size_t begin, std::size_t end) {
            say([this, &body, begin, end](std::string& text) { append_triangles(body, begin, end, text); },
                end - begin);
        });
        say([](std::string& text) { text += "</triangles>\n</mesh>\n</object>\n"; }, 1);
    }
    template <class Say>
    static void in_ranges(std::size_t count, Say say) {
        for (std::size_t begin = 0; begin < count; begin += many)
            say(begin, std::min(begin + many, count));
    }

    // What encloses nothing is a surface: the specification asks models to be closed.
    std::string object_begins(std::size_t number) const {
        const PrintBody& body = bodies_[number];
        std::string text = "<object";
        append(text, " id=\"", first_body_id + number);
        text += "\" name=\"" + xml_text(body.name) + "\" type=\"" + (body.closed ? "model" : "surface");
        append(text, "\" pid=\"", materials_id);
        append(text, "\" pindex=\"", materials_.known({body.material, body.colour}));
        return text + "\" p:UUID=\"" + body.id + "\">\n<mesh>\n<vertices>\n";
    }
    static void append_vertices(const PrintBody& body, std::size_t begin, std::size_t end,
                                std::string& text) {
        text.reserve(text.size() + 48 * (end - begin));
        for (std::size_t at = begin; at < end; ++at) {
            const auto& [x, y, z] = body.vertices[at];
            append(text, "<vertex x=\"", x);
            append(text, "\" y=\"", y);
            append(text, "\" z=\"", z);
            text += "\"/>\n";
        }
    }
    void append_triangles(const PrintBody& body, std::size_t begin, std::size_t end,
                          std::string& text) const {
        text.reserve(text.size() + 56 * (end - begin));
        for (std::size_t at = begin; at < end; ++at) {
            const auto& [a, b, c] = body.triangles[at];
            append(text, "<triangle v1=\"", a);
            append(text, "\" v2=\"", b);
            append(text, "\" v3=\"", c);
            if (!body.corner_colours.empty()) append_colours(body.corner_colours[at], text);
            text += "\"/>\n";
        }
    }
    // One for all corners is said once.
    void append_colours(const std::array<PrintColour, 3>& corners, std::string& text) const {
        append(text, "\" pid=\"", colours_id);
        append(text, "\" p1=\"", colours_.known(corners[0]));
        if (corners[1] == corners[0] && corners[2] == corners[0]) return;
        append(text, "\" p2=\"", colours_.known(corners[1]));
        append(text, "\" p3=\"", colours_.known(corners[2]));
    }

    std::string build(const std::string& id) const {
        std::string text = "</resources>\n<build p:UUID=\"" + id + "\">\n";
        for (std::size_t number = 0; number < bodies_.size(); ++number) {
            append(text, "<item objectid=\"", first_body_id + number);
            text += "\" p:UUID=\"" + bodies_[number].item_id + "\"/>\n";
        }
        return text + "</build>\n</model>\n";
    }

    const std::vector<PrintBody>& bodies_;
    Numbered<Material, std::map<Material, std::size_t>> materials_;
    Numbered<PrintColour, std::unordered_map<PrintColour, std::size_t, ColourHash>> colours_;
    std::vector<std::vector<TextPiece>> groups_;  // each a piece
    std::size_t rows_ = 0;                        // of the last one
};

ExportReport report_of(const std::vector<PrintBody>& bodies) {
    std::size_t triangles = 0, open = 0;
    for (const PrintBody& body : bodies) {
        triangles += body.triangles.size();
        open += body.closed ? 0 : 1;
    }
    Tally tally;
    if (open < bodies.size()) tally.add(bodies.size() - open, "body", "bodies");
    if (open > 0) tally.add(open, "open surface", "open surfaces");
    tally.add(triangles, "triangle", "triangles");
    return {tally.text()};
}

}  // namespace

Result<ExportReport> write_3mf(const ExportJob& job, const ByteSink& sink, const Run& run) {
    const auto scene = scene_of(job, largest_float, run);
    if (!scene) return scene.error();
    if (Status fit = check_for_print(*scene, job, run); !fit) return fit.error();
    const std::vector<PrintBody> bodies = print_bodies(*scene, job.scale(), run);
    PackedFile file(sink);
    for (const auto& [name, text] :
         {std::pair("[Content_Types].xml", content_types), std::pair("_rels/.rels", relationships)})
        if (Status added = file.add(name, {[words = text](std::string& all) { all += words; }}, run); !added)
            return added.error();
    ModelText model(bodies);
    const std::string build_id = uuid_text(identity_of(job.results.front().name, "", "build"));
    if (Status added = file.add("3D/3dmodel.model", model.pieces(build_id), run); !added)
        return added.error();
    if (Status finished = file.finish(); !finished) return finished.error();
    return report_of(bodies);
}

}  // namespace plume
