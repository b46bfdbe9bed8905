#include "core/growth/grown_faces.hpp"

#include <algorithm>
#include <numeric>

#include "core/data/gathered.hpp"
#include "core/growth/descent_text.hpp"

namespace plume {
namespace {

// Everything that telling what a face came of needs.
struct Origin {
    std::shared_ptr<const GrowthRules> rules;
    FaceStart start;
    Surroundings around;
    Units units;
    std::vector<std::uint32_t> pieces;  // as GrownFaces
    std::vector<std::uint32_t> rows;    // of each face of the mesh
    std::shared_ptr<const PartTree> tree;

    // Which face it all began with, and which piece after which.
    std::vector<std::uint32_t> way_to(std::size_t face) const {
        std::vector<std::uint32_t> way;
        for (std::uint32_t row = rows[face]; row != PartTree::none; row = tree->parents[row])
            way.push_back(pieces[row]);
        std::ranges::reverse(way);
        return way;
    }
    std::string mark(std::size_t face) const {
        std::string text = tree->name(rows[face]);
        char between = ' ';
        for (const std::uint32_t piece : way_to(face)) {
            text += between + std::to_string(piece);
            between = '.';
        }
        return text;
    }
    std::vector<std::string> why(std::size_t face) const {
        std::vector<std::uint32_t> way = way_to(face);
        const std::uint32_t root = way.front();
        way.erase(way.begin());
        const auto ancestors = retraced_face(*rules, start, root, way, around, Run());
        return ancestors ? descent_texts(*ancestors, *rules, units, Dimension{2, 0})
                         : std::vector<std::string>();
    }
};

// Of each row of the tree, the face that it all began with.
std::vector<std::uint32_t> roots_of(const PartTree& tree) {
    std::vector<std::uint32_t> roots(tree.parents.size());
    for (std::size_t row = 0; row < roots.size(); ++row)
        roots[row] =
            tree.parents[row] == PartTree::none ? static_cast<std::uint32_t>(row) : roots[tree.parents[row]];
    return roots;
}

// Numbers that faces of the mesh have, by their rows.
std::vector<Field> fields_of(const Mesh& began, const GrownFaces& grown, const PartTree& tree,
                             const GrowthRules& rules, const std::vector<std::uint32_t>& kept) {
    std::vector<std::uint32_t> roots = roots_of(tree), came_of(kept.size());
    Doubles depths(kept.size()), numbers(kept.size());
    for (std::size_t face = 0; face < kept.size(); ++face) {
        const std::uint32_t row = grown.faces.rows[kept[face]];
        came_of[face] = roots[row];
        const auto next = std::ranges::upper_bound(tree.generations, row);
        depths[face] = static_cast<double>(next - tree.generations.begin() - 1);
        numbers[face] = grown.faces.numbers[kept[face]];
    }
    std::vector<Field> fields{{"number", std::move(numbers), plain_number},
                              {"depth", std::move(depths), plain_number}};
    const auto add = [&](const std::string& name, const Doubles& values, Dimension dimension) {
        std::erase_if(fields, [&](const Field& field) { return field.name == name; });
        fields.push_back({name, gathered(Column(Doubles(values)), kept), dimension});
    };
    for (std::size_t value = 0; value < rules.values.size(); ++value)
        add(rules.values[value].name, grown.faces.values[value], rules.values[value].dimension);
    for (std::size_t field = 0; field < rules.fields.size(); ++field)
        add(rules.fields[field].name, grown.fields[field], rules.fields[field].dimension);
    for (Field& field : gathered(began.face_fields(), came_of))
        if (std::ranges::find(fields, field.name, &Field::name) == fields.end())
            fields.push_back(std::move(field));
    return fields;
}

FaceLoops gathered_loops(const FaceLoops& faces, const std::vector<std::uint32_t>& order) {
    FaceLoops made;
    for (const std::uint32_t face : order)
        made.add(faces.face(face));
    return made;
}

std::vector<std::uint32_t> rows_of(const FaceCrowd& faces, const std::vector<std::uint32_t>& kept) {
    std::vector<std::uint32_t> rows(kept.size());
    std::ranges::transform(kept, rows.begin(), [&](std::uint32_t face) { return faces.rows[face]; });
    return rows;
}

// Of faces in the order of their names; writes where those of each begin.
PartMarks marks_of_names(const PartTree& tree, const FaceCrowd& faces, const std::vector<std::uint32_t>& kept,
                         std::vector<std::uint32_t>& starts) {
    std::vector<std::string> names;
    for (std::size_t face = 0; face < kept.size(); ++face) {
        const std::string& name = tree.part_names[faces.names[kept[face]]];
        if (!names.empty() && names.back() == name) continue;
        names.push_back(name);
        starts.push_back(static_cast<std::uint32_t>(face));
    }
    return {names.size(), [names](std::size_t part) { return names[part]; }};
}

PartMarks marks_of_each(Origin made) {
    const std::size_t count = made.rows.size();
    const auto origin = std::make_shared<const Origin>(std::move(made));
    return {count, [origin](std::size_t part) { return origin->mark(part); },
            [origin](std::size_t part) { return origin->why(part); }};
}

}  // namespace

std::string name_in_mark(const std::string& mark) {
    return mark.substr(0, mark.find(' '));
}

Result<Mesh> grown_faces(GrownFaces grown, std::shared_ptr<const GrowthRules> rules, FaceStart start,
                         Surroundings around, const Units& units, FaceParts parts, const Run& run) {
    std::vector<std::uint32_t> order(grown.faces.count());
    std::iota(order.begin(), order.end(), 0U);
    if (parts == FaceParts::by_name) {
        std::ranges::stable_sort(order, {}, [&](std::uint32_t face) { return grown.faces.names[face]; });
        grown.faces.shape = gathered_loops(grown.faces.shape, order);
    }
    auto made = welded(grown.net, grown.faces.shape, start.mesh.fields(), run);
    if (!made) return made.error();
    std::vector<std::uint32_t> kept(made->kept.size());
    for (std::size_t face = 0; face < kept.size(); ++face)
        kept[face] = order[made->kept[face]];
    if (kept.empty()) return Error{ErrorCode::empty_input, "", "leave no face", "Let some become something."};
    Mesh::Parts& mesh = made->parts;
    mesh.face_fields = fields_of(start.mesh, grown, grown.tree, *rules, kept);
    const auto tree = std::make_shared<const PartTree>(std::move(grown.tree));
    PartMarks marks;
    if (parts == FaceParts::by_name) {
        marks = marks_of_names(*tree, grown.faces, kept, mesh.part_starts);
    } else {
        mesh.part_starts.resize(kept.size());
        std::iota(mesh.part_starts.begin(), mesh.part_starts.end(), 0U);
        marks = marks_of_each({std::move(rules), std::move(start), std::move(around), units,
                               std::move(grown.pieces), rows_of(grown.faces, kept), tree});
    }
    marks.grown = tree;
    mesh.part_marks = std::make_shared<const PartMarks>(std::move(marks));
    return Mesh::make(std::move(mesh));
}

}  // namespace plume
