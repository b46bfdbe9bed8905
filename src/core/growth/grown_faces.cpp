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
    std::vector<std::uint32_t> pieces;  // as FaceTree
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

std::shared_ptr<const PartTree> tree_of(FaceTree& faces, std::size_t next, const GrowthRules& rules) {
    auto tree = std::make_shared<PartTree>();
    tree->parents = std::move(faces.parents);
    tree->names = std::move(faces.names);
    tree->lines = std::move(faces.lines);
    tree->generations = std::move(faces.generations);
    tree->next = next;
    tree->part_names = rules.parts;
    tree->line_texts = rules.line_texts;
    return tree;
}

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

// The faces in an order in which those of one name follow each other.
std::vector<std::uint32_t> ordered_by_name(const std::vector<std::uint16_t>& names) {
    std::vector<std::uint32_t> order(names.size());
    std::iota(order.begin(), order.end(), 0U);
    std::ranges::stable_sort(order, {}, [&names](std::uint32_t face) { return names[face]; });
    return order;
}

FaceLoops gathered_loops(const FaceLoops& faces, const std::vector<std::uint32_t>& order) {
    FaceLoops made;
    for (const std::uint32_t face : order)
        made.add(faces.face(face));
    return made;
}

}  // namespace

std::string name_in_mark(const std::string& mark) {
    return mark.substr(0, mark.find(' '));
}

Result<Mesh> grown_faces(GrownFaces grown, const Mesh& began, std::shared_ptr<const GrowthRules> rules,
                         FaceStart start, Surroundings around, const Units& units, FaceParts parts,
                         const Run& run) {
    std::vector<std::uint32_t> order;
    if (parts == FaceParts::by_name) {
        order = ordered_by_name(grown.faces.names);
        grown.faces.shape = gathered_loops(grown.faces.shape, order);
    } else {
        order.resize(grown.faces.count());
        std::iota(order.begin(), order.end(), 0U);
    }
    auto made = welded(grown.net, grown.faces.shape, began.fields(), run);
    if (!made) return made.error();
    std::vector<std::uint32_t> kept(made->kept.size());
    for (std::size_t face = 0; face < kept.size(); ++face)
        kept[face] = order[made->kept[face]];
    if (kept.empty()) return Error{ErrorCode::empty_input, "", "leave no face", "Let some become something."};
    const auto tree = tree_of(grown.tree, grown.next, *rules);
    Mesh::Parts& mesh = made->parts;
    mesh.face_fields = fields_of(began, grown, *tree, *rules, kept);
    PartMarks marks;
    marks.grown = tree;
    if (parts == FaceParts::by_name) {
        std::vector<std::string> names;
        for (std::size_t face = 0; face < kept.size(); ++face) {
            const std::string& name = rules->parts[grown.faces.names[kept[face]]];
            if (!names.empty() && names.back() == name) continue;
            names.push_back(name);
            mesh.part_starts.push_back(static_cast<std::uint32_t>(face));
        }
        marks.count = names.size();
        marks.mark = [names = std::move(names)](std::size_t part) { return names[part]; };
    } else {
        mesh.part_starts.resize(kept.size());
        std::iota(mesh.part_starts.begin(), mesh.part_starts.end(), 0U);
        std::vector<std::uint32_t> rows(kept.size());
        std::ranges::transform(kept, rows.begin(),
                               [&](std::uint32_t face) { return grown.faces.rows[face]; });
        const auto origin = std::make_shared<const Origin>(
            Origin{std::move(rules), std::move(start), std::move(around), units, std::move(grown.tree.pieces),
                   std::move(rows), tree});
        marks.count = kept.size();
        marks.mark = [origin](std::size_t part) { return origin->mark(part); };
        marks.why = [origin](std::size_t part) { return origin->why(part); };
    }
    mesh.part_marks = std::make_shared<const PartMarks>(std::move(marks));
    return Mesh::make(std::move(mesh));
}

}  // namespace plume
