#include "core/reference/trade_words.hpp"

#include <algorithm>
#include <set>

#include "core/base/small_letters.hpp"
#include "core/base/text.hpp"

namespace plume {

std::span<const TradeWord> trade_words() {
    static const std::vector<TradeWord> words{
        {"address", "addresses",
         "Where a point stands in its lattice, column i, row j and layer k counted from 0; it stays the same "
         "wherever the point moves.",
         "points.keep_addresses"},
        {"attractor", "attractors",
         "A place, line or curve that other points answer to by how far they are from it, with a weight that "
         "says how strongly.",
         "attractors.points"},
        {"bay", "bays", "The field between two neighbouring points: 24 bays in a row have 25 points.",
         "lattice.along_curve"},
        {"body", "bodies", "A closed solid with a volume, as a post, a slab or a thickened roof.",
         "body.thicken"},
        {"contour", "contours levels",
         "The line along which a form has one height; contours at even steps show how steep it is.",
         "curve.levels"},
        {"crease", "creases",
         "An edge at which a form breaks instead of running on smoothly, and is meant to.", "mesh.subdivide"},
        {"curvature", "",
         "How tightly a curve or a surface bends at a place: one over the radius of the circle that fits "
         "there.",
         "surface.measure"},
        {"diagrid", "",
         "A frame of members that cross on the slant, so that its triangles stiffen a tower or a shell "
         "without other bracing.",
         "frame.diagrid"},
        {"drape", "falls hangs",
         "The form a cloth takes when it falls over something or hangs from the points that hold it.",
         "sheet.drape"},
        {"dual", "",
         "The mesh with a face around every vertex of another one, and a vertex in each of its faces.",
         "mesh.dual"},
        {"fairness", "fair comb",
         "How evenly a curve's curvature changes: a bump that the eye would see on the roof shows first in "
         "the teeth of its comb.",
         "curve.comb"},
        {"family", "families", "Members, faces or nodes that are so alike that they can be made alike.",
         "frame.families"},
        {"field", "fields", "A number on every point of a lattice, as its distance from something.",
         "field.noise"},
        {"flatness", "flat warped",
         "How far the corners of a panel are from lying in one plane, which decides whether it can be cut "
         "from sheet.",
         "thing.flatness"},
        {"force density", "densities",
         "The force in a member over its length; from it the form in which a net is in balance follows at "
         "once.",
         "forces.densities"},
        {"frame", "frames", "Members between nodes, as the bars of a tower or the edges of a dome.",
         "frame.lattice"},
        {"gap", "gaps",
         "An address without a point: points that are taken away leave one, so that all others keep their "
         "neighbours.",
         "points.keep_where"},
        {"generation", "generations",
         "One round of a rule: all parts that are there turn into what the rule says.", "growth.parts"},
        {"iso-line", "iso-lines",
         "A line over a form along which a number stays the same, as all that is 4 m from a perch.",
         "curve.isolines"},
        {"kerf", "", "The width of what a beam burns away, by half of which a cut keeps off its outline.",
         "handoff.cutting"},
        {"lattice", "lattices",
         "Points in an order of columns, rows and layers, so that each has an address and knows its "
         "neighbours.",
         "lattice.rectangular"},
        {"loft", "span", "A smooth surface through several curves, one after the other.", "surface.loft"},
        {"mark", "marks",
         "The name a part keeps as long as it is there: the address of its point, or those of both ends of "
         "a member.",
         "frame.keep_marks"},
        {"member", "members", "One straight bar of a frame, between two nodes.", "mesh.bars"},
        {"mesh", "meshes", "A form of flat faces that share their corners, as triangles or quads.",
         "mesh.remesh"},
        {"node", "nodes", "A place where members of a frame meet.", "mesh.nodes"},
        {"normal", "normals",
         "The direction square to a surface at a place, away from its front; what is thickened or pushed "
         "outwards goes along it.",
         "surface.offset"},
        {"offset", "offsets", "A copy at an even distance all along, to one side.", "curve.offset"},
        {"outline", "outlines", "A closed curve in a plane, as of a site or a panel.", "outline.shape"},
        {"panel", "panels", "One face of a form made into a plate, with joints around it and a thickness.",
         "mesh.panels"},
        {"parameter", "parameters u v",
         "The number that says how far along a curve a place is, or the two, u and v, that do on a surface.",
         "surface.part"},
        {"placement", "placements",
         "A place with directions: where something stands, which way it runs and which way is up.",
         "placement.on_curve"},
        {"pole", "poles", "A point that draws a curve or a surface towards itself without lying on it.",
         "curve.drawn"},
        {"range", "ranges", "The least and the most of some numbers.", "field.range"},
        {"reach", "",
         "The distance within which an attractor is answered to; beyond it the answer stays or fades.",
         "field.distance"},
        {"response", "answering answers",
         "How a number follows another one: evenly, softly at both ends, in waves, or by a curve of one's "
         "own.",
         "directions.attractors"},
        {"rule", "rules", "What a part turns into, applied again and again to all that came of it.",
         "growth.faces"},
        {"section", "sections", "The lines in which planes cut a form.", "curve.section"},
        {"seed", "",
         "A whole number that names a throw of chance: the same seed gives the same numbers, always.",
         "field.random"},
        {"skin", "", "A smooth surface over the points of a lattice, exactly through all of them.", "skin"},
        {"strain", "", "By how much an edge is longer than it would lie without force.", "sheet.strain"},
        {"sweep", "", "The surface or body that a profile leaves behind when it is carried along a curve.",
         "surface.sweep"},
        {"tolerance", "", "By how much two things may differ and still count as one.", "curve.connect"},
    };
    return words;
}

const TradeWord* trade_word(std::string_view word) {
    const auto found = std::ranges::find(trade_words(), word, &TradeWord::word);
    return found == trade_words().end() ? nullptr : &*found;
}

std::vector<const TradeWord*> trade_words_in(std::string_view text) {
    std::set<std::string, std::less<>> met;
    const std::string small = in_small_letters(text);
    constexpr std::string_view between = " \t\n.,;:()…‘’“”/|[]{}=";
    for (const std::string_view word : words_between(small, between))
        met.insert(std::string(word));
    std::vector<const TradeWord*> words;
    for (const TradeWord& word : trade_words()) {
        bool there = met.contains(word.word) ||
                     (word.word.find(' ') != std::string::npos && small.find(word.word) != std::string::npos);
        for (const std::string_view form : words_between(word.forms, " "))
            there = there || met.contains(form);
        if (there) words.push_back(&word);
    }
    return words;
}

}  // namespace plume
