#include <array>
#include <limits>
#include <map>
#include <unordered_map>

#include "core/base/file.hpp"
#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/readers/file_links.hpp"
#include "core/readers/mesh_draft.hpp"
#include "core/readers/mesh_formats.hpp"
#include "core/readers/stated_units.hpp"
#include "core/readers/text_scan.hpp"

namespace plume {
namespace {

constexpr std::uintmax_t largest_library = 20'000'000;

using Colour = std::array<double, 3>;

std::optional<Colour> colour_in(std::string_view line) {
    Colour colour{};
    for (double& part : colour) {
        const auto number = number_in<double>(take_word(line));
        if (!number) return {};
        part = *number;
    }
    return colour;
}

// The diffuse colours of a library of materials, by name.
std::map<std::string, Colour, std::less<>> colours_of_library(std::string_view text) {
    std::map<std::string, Colour, std::less<>> colours;
    std::string name;
    for (TextLines lines(text); lines.next();) {
        std::string_view line = lines.line();
        const std::string_view word = take_word(line);
        if (word == "newmtl") name = without_blanks(line);
        if (word != "Kd") continue;
        if (const auto colour = colour_in(line)) colours[name] = *colour;
    }
    return colours;
}

// Numbers of names in the order they come.
class Numbered {
public:
    std::uint32_t operator()(std::string_view name) {
        const auto [at, added] =
            numbers_.try_emplace(std::string(name), static_cast<std::uint32_t>(names.size()));
        if (added) names.emplace_back(printable(name));
        return at->second;
    }
    std::vector<std::string> names;

private:
    std::unordered_map<std::string, std::uint32_t> numbers_;
};

class ObjReader {
public:
    ObjReader(std::string_view text, const std::filesystem::path& path, const Run& run)
        : text_(text), path_(path), run_(run) {}

    Result<MeshFile> read() {
        for (TextLines lines(text_); lines.next();) {
            std::string_view line = lines.line();
            if (Status taken = take(take_word(line), line, lines.number()); !taken) return taken.error();
            if (lines.number() % 65536 != 0) continue;
            if (run_.cancelled()) return cancelled_error();
            run_.report(0.8 *
                        (1 - static_cast<double>(lines.rest().size()) / static_cast<double>(text_.size())));
        }
        take_colours();
        draft_.part_names = std::move(parts_.names);
        if (draft_.part_names.empty()) draft_.part_of.clear();
        Result<MeshFile> made = finished(std::move(draft_), run_);
        if (!made) return made;
        made->metres_per_unit = stated_unit(comments_);
        made->materials = std::move(materials_.names);
        made->companions = std::move(companions_);
        if (others_ > 0)
            made->losses.push_back(count_text(others_, "line, point or freeform element was",
                                              "lines, points and freeform elements were") +
                                   " left out: they are no faces.");
        made->losses.insert(made->losses.end(), losses_.begin(), losses_.end());
        return made;
    }

private:
    static Error damaged(std::size_t line, const std::string& what) {
        return {ErrorCode::file_damaged, "", what + " in line " + std::to_string(line),
                "Get it anew, or mend that line."};
    }

    Status take(std::string_view word, std::string_view line, std::size_t number) {
        if (word == "v") return add_vertex(line, number);
        if (word == "f") return add_face(line, number);
        if (word == "g" || word == "o") {
            part_ = parts_(without_blanks(line));
        } else if (word == "usemtl") {
            material_ = materials_(without_blanks(line));
        } else if (word == "mtllib") {
            libraries_.emplace_back(without_blanks(line));
        } else if (word.starts_with("#") && comments_.size() < most_comments) {
            comments_.emplace_back(line);
        } else if (word == "l" || word == "p" || word == "curv" || word == "curv2" || word == "surf") {
            ++others_;
        }
        return Done{};
    }

    Status add_vertex(std::string_view line, std::size_t number) {
        std::array<double, 7> numbers{};
        std::size_t count = 0;
        for (std::string_view word = take_word(line); !word.empty() && count < numbers.size();
             word = take_word(line)) {
            const auto value = number_in<double>(word);
            if (!value) return damaged(number, "has ‘" + printable(shortened(word)) + "’ for a coordinate");
            numbers[count++] = *value;
        }
        if (count < 3) return damaged(number, "has a vertex of " + count_text(count, "number", "numbers"));
        draft_.add_vertex(numbers[0], numbers[1], numbers[2]);
        // Behind its weight, where it has one.
        const std::size_t colour = count == 7 ? 4 : 3;
        if (count < 6) return Done{};
        vertex_colours_.resize(3 * (draft_.x.size() - 1), std::numeric_limits<double>::quiet_NaN());
        vertex_colours_.insert(vertex_colours_.end(), &numbers[colour], &numbers[colour] + 3);
        return Done{};
    }

    // "3", "3/1", "3//2", "3/1/2"; from the end where it is below 0.
    Status add_face(std::string_view line, std::size_t number) {
        face_.clear();
        for (std::string_view word = take_word(line); !word.empty() && word.front() != '#';
             word = take_word(line)) {
            const auto index = number_in<std::int64_t>(word.substr(0, word.find('/')));
            if (!index) return damaged(number, "has ‘" + printable(shortened(word)) + "’ for a corner");
            const std::int64_t vertex =
                *index > 0 ? *index - 1 : static_cast<std::int64_t>(draft_.x.size()) + *index;
            const bool names_one = *index != 0 && vertex >= 0 && vertex < std::int64_t{0xffffffff};
            face_.push_back(names_one ? static_cast<std::uint32_t>(vertex) : MeshDraft::no_vertex);
        }
        if (!part_) part_ = parts_("");
        draft_.add_face(face_, *part_);
        face_materials_.push_back(material_ ? *material_ + 1 : 0);
        return Done{};
    }

    void take_colours() {
        if (!vertex_colours_.empty()) {
            vertex_colours_.resize(3 * draft_.x.size(), std::numeric_limits<double>::quiet_NaN());
            add_colours(draft_.fields, draft_.x.size(), [&](std::size_t at) {
                return Colour{vertex_colours_[3 * at], vertex_colours_[3 * at + 1],
                              vertex_colours_[3 * at + 2]};
            });
        }
        if (materials_.names.empty()) return;
        Doubles numbers(face_materials_.begin(), face_materials_.end());
        draft_.face_fields.push_back({"material", Column(std::move(numbers)), plain_number});
        const auto colours = colours_of_materials();
        if (colours.empty() || !vertex_colours_.empty()) return;
        const double unknown = std::numeric_limits<double>::quiet_NaN();
        add_colours(draft_.face_fields, draft_.face_count(), [&](std::size_t at) {
            const auto material = face_materials_[at];
            if (material == 0) return Colour{unknown, unknown, unknown};
            const auto colour = colours.find(materials_.names[material - 1]);
            return colour == colours.end() ? Colour{unknown, unknown, unknown} : colour->second;
        });
    }
    template <class ColourAt>
    static void add_colours(std::vector<Field>& fields, std::size_t count, ColourAt colour_at) {
        std::array<Doubles, 3> parts{Doubles(count), Doubles(count), Doubles(count)};
        for (std::size_t at = 0; at < count; ++at) {
            const Colour colour = colour_at(at);
            for (std::size_t part = 0; part < 3; ++part)
                parts[part][at] = colour[part];
        }
        constexpr std::array names = {"red", "green", "blue"};
        for (std::size_t part = 0; part < 3; ++part)
            fields.push_back({names[part], Column(std::move(parts[part])), plain_number});
    }
    std::map<std::string, Colour, std::less<>> colours_of_materials() {
        std::map<std::string, Colour, std::less<>> colours;
        for (const std::string& library : libraries_) {
            const auto file = linked_file(path_, library);
            const auto text = file ? read_file(*file, largest_library) : Result<std::string>(Error{});
            if (!text) {
                losses_.push_back("Colours of materials are missing: ‘" + printable(shortened(library)) +
                                  "’ is not there, or not in the folder of the file.");
                continue;
            }
            companions_.push_back(*file);
            colours.merge(colours_of_library(*text));
        }
        return colours;
    }

    static constexpr std::size_t most_comments = 64;

    std::string_view text_;
    const std::filesystem::path& path_;
    const Run& run_;
    MeshDraft draft_;
    Numbered parts_, materials_;
    std::optional<std::uint32_t> part_, material_;
    std::vector<std::uint32_t> face_;
    std::vector<std::uint32_t> face_materials_;  // from 1 on; 0: none
    std::vector<double> vertex_colours_;         // three a vertex
    std::vector<std::string> comments_, libraries_, losses_;
    std::vector<std::filesystem::path> companions_;
    std::size_t others_ = 0;
};

}  // namespace

Result<MeshFile> read_obj(std::string_view text, const std::filesystem::path& path, const Run& run) {
    return ObjReader(text, path, run).read();
}

}  // namespace plume
