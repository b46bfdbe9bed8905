#include "core/growth/face_growth.hpp"

#include <algorithm>
#include <cassert>
#include <cmath>
#include <map>
#include <numeric>

#include "core/base/noise.hpp"
#include "core/base/parallel.hpp"
#include "core/data/gathered.hpp"
#include "core/growth/choices.hpp"
#include "core/growth/lane_columns.hpp"

namespace plume {
namespace {

// A face that does something.
struct Doer {
    std::uint32_t face = 0;  // in its generation
    const GrownChoice* choice = nullptr;
    FacePlan plan;
};

// More than that is told as that.
constexpr double most_told = 1e18;

class FaceGrower {
public:
    FaceGrower(const GrowthRules& rules, const FaceLimits& limits, const Surroundings& around, const Run& run)
        : rules_(rules), limits_(limits), around_(around), run_(run), quiet_(run.part(0, 0)) {}

    Result<GrownFaces> all(const FaceStart& start) {
        if (Status begun = begin(start); !begun) return begun.error();
        while (now_.count() > 0) {
            run_.report(0.8 * static_cast<double>(grown_.depth) /
                        static_cast<double>(limits_.generations + 1));
            if (Status gone_on = go_on(); !gone_on) return gone_on.error();
        }
        return std::move(grown_);
    }

    Result<std::vector<Ancestor>> descent(const FaceStart& start, const std::vector<std::uint32_t>& pieces) {
        if (Status begun = begin(start); !begun) return begun.error();
        std::vector<Ancestor> ancestors{only_face()};
        for (const std::uint32_t piece : pieces) {
            const std::uint16_t parent = now_.names.front();
            const double for_choice = drawn_for_choice(now_.identities.front());
            const auto doers = next_doers();
            if (!doers) return doers.error();
            if (doers->size() != 1) break;
            if (Status made = make_pieces(*doers); !made) return made.error();
            const auto found =
                std::ranges::find(now_.rows, piece, [&](std::uint32_t row) { return grown_.pieces[row]; });
            if (found == now_.rows.end()) break;
            now_ = gathered(now_, {static_cast<std::uint32_t>(found - now_.rows.begin())});
            ancestors.push_back(only_face());
            add_draws(ancestors.back(), parent, for_choice);
        }
        return ancestors;
    }

private:
    const Graph& graph() const { return rules_.formula.graph; }

    // Telling ---------------------------------------------------------------------------------------------

    Ancestor only_face() const {
        Ancestor face{now_.names.front(), now_.lines.front(), grown_.depth};
        face.number = now_.numbers.front();
        face.siblings = now_.siblings.front();
        face.size = length(area_vector(grown_.net, now_.shape.face(0)));
        for (const Doubles& value : now_.values)
            face.values.push_back(value.front());
        return face;
    }
    void add_draws(Ancestor& face, std::uint16_t parent, double for_choice) const {
        for (const GrownChoice& choice : rules_.rules[parent])
            if (choice.conditions.chance) face.drawn_for_choice = for_choice;
        if (face.line == 0) return;
        const GrownLine& line = *grown_lines(rules_)[face.line - 1U];
        if (line.conditions.chance) face.drawn_for_line = drawn_for(line, now_.identities.front());
    }
    // Lines that are asked one after the other draw other numbers.
    static double drawn_for(const GrownLine& line, std::uint64_t identity) {
        return drawn_for_line(random_bits(identity ^ line.salt) >> 11U);
    }

    // Beginning -------------------------------------------------------------------------------------------

    Status begin(const FaceStart& start) {
        grown_.tree.part_names = rules_.parts;
        grown_.tree.line_texts = rules_.line_texts;
        grown_.tree.generations = {0};
        const std::size_t count = start.mesh.face_count();
        now_ = crowd_of(count, rules_.values.size());
        NetOfMesh begun = net_of(start.mesh);
        grown_.net = std::move(begun.net);
        now_.shape = std::move(begun.faces);
        std::iota(now_.rows.begin(), now_.rows.end(), 0U);
        std::iota(now_.numbers.begin(), now_.numbers.end(), start.first_number);
        now_.siblings.assign(count, static_cast<std::uint32_t>(start.siblings > 0 ? start.siblings : count));
        now_.identities = start.identities;
        std::ranges::copy(start.inherited, now_.values.begin());
        grown_.faces.values.resize(rules_.values.size());
        grown_.fields.resize(rules_.fields.size());
        add_to_tree(std::vector<std::uint32_t>(count, PartTree::none), now_.numbers);
        measure();
        std::vector<NodeId> nodes;
        for (std::size_t value = start.inherited.size(); value < rules_.values.size(); ++value)
            nodes.push_back(rules_.values[value].at_roots);
        if (nodes.empty()) return Done{};
        auto made = numbers_of(rules_.roots.graph, nodes, everyone());
        if (!made) return made.error();
        std::ranges::move(made->columns,
                          now_.values.begin() + static_cast<std::ptrdiff_t>(start.inherited.size()));
        return Done{};
    }

    void add_to_tree(const std::vector<std::uint32_t>& parents, const std::vector<std::uint32_t>& pieces) {
        PartTree& tree = grown_.tree;
        tree.parents.insert(tree.parents.end(), parents.begin(), parents.end());
        grown_.pieces.insert(grown_.pieces.end(), pieces.begin(), pieces.end());
        tree.names.insert(tree.names.end(), now_.names.begin(), now_.names.end());
        tree.lines.insert(tree.lines.end(), now_.lines.begin(), now_.lines.end());
        tree.generations.push_back(tree.parents.size());
    }

    std::vector<std::uint32_t> everyone() const {
        std::vector<std::uint32_t> all(now_.count());
        std::iota(all.begin(), all.end(), 0U);
        return all;
    }

    // Numbers of faces ------------------------------------------------------------------------------------

    void measure() {
        areas_.resize(now_.count());
        middles_.resize(now_.count());
        parallel_blocks(now_.count(), usual_block, quiet_, [&](std::size_t begin, std::size_t end) {
            for (std::size_t face = begin; face < end; ++face) {
                areas_[face] = area_vector(grown_.net, now_.shape.face(face));
                middles_[face] = middle_of(grown_.net, now_.shape.face(face));
            }
        });
    }

    // A face as wide, or as high, as its sides are in the mean.
    double extent(std::size_t face, bool along) const {
        const auto corners = now_.shape.face(face);
        const std::size_t count = corners.size();
        const auto side = [&](std::size_t at) {
            return length(grown_.net.places[corners[(at + 1) % count].vertex] -
                          grown_.net.places[corners[at].vertex]);
        };
        if (count == 4) return along ? 0.5 * (side(0) + side(2)) : 0.5 * (side(1) + side(3));
        return along ? side(0) : 2 * length(areas_[face]) / (count == 3 ? side(0) : 2 * side(0));
    }

    double number_at(std::uint32_t column, std::uint32_t face) const {
        using namespace part_input;
        switch (column) {
            case x:
                return middles_[face].x;
            case y:
                return middles_[face].y;
            case z:
                return middles_[face].z;
            case depth:
                return static_cast<double>(grown_.depth);
            case number:
                return now_.numbers[face];
            case siblings:
                return now_.siblings[face];
            case share:
                return now_.siblings[face] < 2 ? 0 : now_.numbers[face] / (now_.siblings[face] - 1.0);
            case leaning:
                return std::atan2(std::hypot(areas_[face].x, areas_[face].y), areas_[face].z);
            case to_attractor:
                return length(around_.attractors->nearest(middles_[face]) - middles_[face]);
            case line:
                return now_.lines[face];
            case part_input::area:
                return length(areas_[face]);
            case width:
            case height:
                return extent(face, column == width);
            case i:
                return now_.i[face];
            case j:
                return now_.j[face];
            case corners:
                return static_cast<double>(now_.shape.face(face).size());
            case identity:
                return static_cast<double>(now_.identities[face]);
            default:
                break;
        }
        const std::size_t own = column - first_own;
        if (own < now_.values.size()) return now_.values[own][face];
        return around_.numbers->fields()[own - now_.values.size()]
            .values[around_.numbers->nearest(middles_[face])];
    }

    Result<Evaluated> numbers_of(const Graph& of, std::span<const NodeId> nodes,
                                 std::span<const std::uint32_t> faces) const {
        return evaluate_lanes(
            of, nodes, faces.size(),
            [&](std::uint32_t column, std::size_t lane) { return number_at(column, faces[lane]); }, quiet_);
    }

    // What is done ----------------------------------------------------------------------------------------

    bool stays(std::size_t face) const {
        if (rules_.rules[now_.names[face]].empty()) return true;
        if (limits_.least_area > 0 && length(areas_[face]) < limits_.least_area) return true;
        if (around_.contains && !around_.contains(middles_[face])) return true;
        return limits_.reach > 0 && around_.attractors &&
               length(around_.attractors->nearest(middles_[face]) - middles_[face]) <= limits_.reach;
    }

    // Calls use(choice, faces) for every choice of a rule and those that take it.
    Status for_each_choice(const ChoiceUse& use) {
        std::vector<std::uint8_t> able(now_.count());
        parallel_blocks(now_.count(), usual_block, quiet_, [&](std::size_t begin, std::size_t end) {
            for (std::size_t face = begin; face < end; ++face)
                able[face] = stays(face) ? 0 : 1;
        });
        std::vector<std::vector<std::uint32_t>> by_name(rules_.rules.size());
        for (std::size_t face = 0; face < able.size(); ++face)
            if (able[face]) by_name[now_.names[face]].push_back(static_cast<std::uint32_t>(face));
        const Status used = plume::for_each_choice(
            rules_, std::move(by_name), now_.identities,
            [this](std::span<const NodeId> nodes, std::span<const std::uint32_t> faces) {
                return numbers_of(graph(), nodes, faces);
            },
            use);
        if (!used) return used.error();
        return run_.cancelled() ? Status(cancelled_error()) : Status(Done{});
    }

    // Calls use(lane, plan) for faces that take a choice with an act; from many threads.
    template <class Use>
    Status for_each_plan(const GrownAct& act, const std::vector<std::uint32_t>& faces, const Use& use) {
        std::vector<NodeId> nodes;
        for (const auto& node : {act.along, act.across, act.number, act.tapered})
            if (node) nodes.push_back(*node);
        const auto numbers = numbers_of(graph(), nodes, faces);
        if (!numbers) return numbers.error();
        parallel_blocks(faces.size(), usual_block, quiet_, [&](std::size_t begin, std::size_t end) {
            for (std::size_t lane = begin; lane < end; ++lane)
                use(lane, plan_for(grown_.net, now_.shape.face(faces[lane]), areas_[faces[lane]],
                                   doing_of(act, numbers->columns, lane)));
        });
        return Done{};
    }

    // Faces that do something, in their order; of all others `fate_` says what becomes of them.
    Result<std::vector<Doer>> next_doers() {
        fate_.assign(now_.count(), Fate::stays);
        std::vector<Doer> doers;
        Status planned =
            for_each_choice([&](const GrownChoice& choice, const std::vector<std::uint32_t>& faces) {
                return plan(choice, faces, doers);
            });
        if (!planned) return planned.error();
        if (!std::ranges::is_sorted(doers, {}, &Doer::face)) std::ranges::sort(doers, {}, &Doer::face);
        return doers;
    }

    Status plan(const GrownChoice& choice, const std::vector<std::uint32_t>& faces,
                std::vector<Doer>& doers) {
        if (!choice.act) {
            for (const std::uint32_t face : faces)
                fate_[face] = Fate::left_out;
            return Done{};
        }
        const std::size_t first = doers.size();
        doers.resize(first + faces.size());
        Status planned = for_each_plan(*choice.act, faces, [&](std::size_t lane, const FacePlan& made) {
            doers[first + lane] = {faces[lane], &choice, made};
        });
        if (!planned) return planned;
        tell_refused(first, doers);
        const auto kept = doers.begin() + static_cast<std::ptrdiff_t>(first);
        doers.erase(
            std::remove_if(kept, doers.end(), [](const Doer& doer) { return doer.plan.refused.has_value(); }),
            doers.end());
        for (std::size_t at = first; at < doers.size(); ++at)
            fate_[doers[at].face] = Fate::does;
        return Done{};
    }

    // How many pieces the next generation would have.
    Status count_next() {
        double pieces = 0;
        std::vector<double> each;
        Status counted =
            for_each_choice([&](const GrownChoice& choice, const std::vector<std::uint32_t>& faces) {
                if (!choice.act) return Status(Done{});
                each.assign(faces.size(), 0);
                Status planned =
                    for_each_plan(*choice.act, faces, [&](std::size_t lane, const FacePlan& plan) {
                        if (!plan.refused) each[lane] = static_cast<double>(plan.counts.pieces);
                    });
                pieces += std::accumulate(each.begin(), each.end(), 0.0);
                grown_.doing += each.size() - static_cast<std::size_t>(std::ranges::count(each, 0.0));
                return planned;
            });
        grown_.tree.next = static_cast<std::size_t>(std::min(pieces, most_told));
        return counted;
    }

    static FaceDoing doing_of(const GrownAct& act, const std::vector<Doubles>& columns, std::size_t lane) {
        FaceDoing doing{.type = act.type, .cut_along = act.cut_along, .absolute = act.absolute};
        std::size_t column = 0;
        if (act.along) doing.along = columns[column++][lane];
        if (act.across) doing.across = columns[column++][lane];
        if (act.number) doing.number = columns[column++][lane];
        if (act.tapered) doing.tapered = columns[column++][lane];
        return doing;
    }

    void tell_refused(std::size_t first, const std::vector<Doer>& doers) {
        for (std::size_t at = first; at < doers.size(); ++at) {
            const FacePlan& plan = doers[at].plan;
            if (plan.otherwise) ++grown_.split_otherwise;
            if (!plan.refused) continue;
            const bool none_before =
                std::ranges::all_of(grown_.refused, [](auto count) { return count == 0; });
            if (none_before)
                grown_.first_refused = "in generation " + std::to_string(grown_.depth) + ", of ‘" +
                                       rules_.parts[now_.names[doers[at].face]] + "’";
            ++grown_.refused[static_cast<std::size_t>(*plan.refused)];
        }
    }

    // Going on --------------------------------------------------------------------------------------------

    // Makes the next generation, or ends with this one.
    Status go_on() {
        if (grown_.depth >= limits_.generations) {
            fate_.assign(now_.count(), Fate::stays);
            if (Status counted = count_next(); !counted) return counted;
            if (grown_.tree.next == 0) grown_.end = GrowthEnd::finished;
            return finish();
        }
        const auto doers = next_doers();
        if (!doers) return doers.error();
        double pieces = 0;
        for (const Doer& doer : *doers)
            pieces += static_cast<double>(doer.plan.counts.pieces);
        const double now = static_cast<double>(grown_.faces.count() + now_.count() - doers->size());
        if (now + pieces > static_cast<double>(limits_.most)) {
            grown_.tree.next = static_cast<std::size_t>(std::min(pieces, most_told));
            grown_.doing = doers->size();
            grown_.end = GrowthEnd::most;
            std::ranges::fill(fate_, Fate::stays);
            return finish();
        }
        if (Status finished = finish(); !finished) return finished;
        if (!doers->empty()) return make_pieces(*doers);
        grown_.end = GrowthEnd::finished;
        now_ = {};
        return Done{};
    }

    // Faces that stay are done with.
    Status finish() {
        std::vector<std::uint32_t> done;
        for (std::size_t face = 0; face < fate_.size(); ++face)
            if (fate_[face] == Fate::stays) done.push_back(static_cast<std::uint32_t>(face));
        if (!rules_.fields.empty()) {
            std::vector<NodeId> nodes;
            for (const PartField& field : rules_.fields)
                nodes.push_back(field.node);
            const auto made = numbers_of(graph(), nodes, done);
            if (!made) return made.error();
            for (std::size_t at = 0; at < nodes.size(); ++at)
                grown_.fields[at].insert(grown_.fields[at].end(), made->columns[at].begin(),
                                         made->columns[at].end());
        }
        const bool all = done.size() == now_.count();
        if (all && grown_.faces.count() == 0)
            grown_.faces = std::move(now_);
        else
            append(grown_.faces, now_, done);
        if (all) now_ = {};
        return Done{};
    }

    Status make_pieces(const std::vector<Doer>& doers) {
        FaceCounts all;
        std::vector<FaceCounts> before;
        before.reserve(doers.size() + 1);
        for (const Doer& doer : doers) {
            before.push_back(all);
            all.vertices += doer.plan.counts.vertices;
            all.edges += doer.plan.counts.edges;
            all.pieces += doer.plan.counts.pieces;
            all.corners += doer.plan.counts.corners;
        }
        before.push_back(all);
        const std::size_t vertex = grown_.net.places.size(), edge = grown_.net.edges.size();
        grown_.net.add(all.vertices, all.edges);
        FaceCrowd next = crowd_of(all.pieces, rules_.values.size());
        next.shape.corners.resize(all.corners);
        next.shape.first.resize(all.pieces + 1);
        std::vector<std::uint32_t> parents(all.pieces), pieces(all.pieces);
        const bool made = parallel_blocks(doers.size(), 512, quiet_, [&](std::size_t begin, std::size_t end) {
            std::vector<FacePiece> of_face;
            for (std::size_t at = begin; at < end; ++at) {
                const Doer& doer = doers[at];
                const FaceCounts &from = before[at], &count = doer.plan.counts;
                of_face.resize(count.pieces);
                carry_out(grown_.net, now_.shape.face(doer.face), doer.plan,
                          {vertex + from.vertices, edge + from.edges,
                           std::span(next.shape.corners).subspan(from.corners, count.corners), of_face});
                for (std::size_t piece = 0; piece < of_face.size(); ++piece) {
                    const std::size_t to = from.pieces + piece;
                    take_piece(next, to, of_face[piece], doer.face);
                    next.shape.first[to + 1] =
                        static_cast<std::uint32_t>(from.corners + of_face[piece].corner_end);
                    next.identities[to] = random_bits(random_bits(now_.identities[doer.face]) + piece) >> 11U;
                    parents[to] = now_.rows[doer.face];
                    pieces[to] = static_cast<std::uint32_t>(piece);
                }
            }
        });
        if (!made) return cancelled_error();
        std::swap(now_, next);
        ++grown_.depth;
        measure();
        if (Status named = name_pieces(doers, before); !named) return named;
        return leave_out(std::move(parents), std::move(pieces));
    }

    void take_piece(FaceCrowd& next, std::size_t to, const FacePiece& piece, std::uint32_t parent) const {
        next.numbers[to] = piece.number;
        next.siblings[to] = piece.siblings;
        next.i[to] = piece.i;
        next.j[to] = piece.j;
        next.places[to] = piece.place;
        for (std::size_t value = 0; value < next.values.size(); ++value)
            next.values[value][to] = now_.values[value][parent];
    }

    // Names ------------------------------------------------------------------------------------------------

    // Pieces of each choice are asked line by line; what no line takes is the rest.
    Status name_pieces(const std::vector<Doer>& doers, const std::vector<FaceCounts>& before) {
        std::map<const GrownChoice*, std::vector<std::uint32_t>> by_choice;
        for (std::size_t at = 0; at < doers.size(); ++at) {
            std::vector<std::uint32_t>& pieces = by_choice[doers[at].choice];
            for (std::size_t piece = before[at].pieces; piece < before[at + 1].pieces; ++piece)
                pieces.push_back(static_cast<std::uint32_t>(piece));
        }
        std::ranges::fill(now_.names, rules_.rest);
        for (auto& [choice, pieces] : by_choice)
            for (const GrownLine& line : choice->lines)
                if (Status named = name_by(line, pieces); !named) return named;
        return Done{};
    }

    // Gives the line those of the pieces that it takes, and leaves the others in the list.
    Status name_by(const GrownLine& line, std::vector<std::uint32_t>& pieces) {
        std::vector<std::uint32_t> taken, left;
        for (const std::uint32_t piece : pieces)
            (line.on == PiecePlace::anywhere || line.on == now_.places[piece] ? taken : left)
                .push_back(piece);
        if (line.conditions.any() && !taken.empty()) {
            std::vector<NodeId> nodes;
            for (const auto& node : {line.conditions.where, line.conditions.chance})
                if (node) nodes.push_back(*node);
            const auto numbers = numbers_of(graph(), nodes, taken);
            if (!numbers) return numbers.error();
            std::size_t kept = 0;
            for (std::size_t lane = 0; lane < taken.size(); ++lane) {
                const bool here = !line.conditions.where || holds(numbers->columns.front()[lane]);
                const bool drawn = !line.conditions.chance || drawn_for(line, now_.identities[taken[lane]]) <
                                                                  numbers->columns.back()[lane];
                if (here && drawn)
                    taken[kept++] = taken[lane];
                else
                    left.push_back(taken[lane]);
            }
            taken.resize(kept);
            std::ranges::sort(left);
        }
        for (const std::uint32_t piece : taken) {
            now_.names[piece] = line.part;
            now_.lines[piece] = line.number;
        }
        pieces = std::move(left);
        return hand_down(line, taken);
    }

    Status hand_down(const GrownLine& line, const std::vector<std::uint32_t>& taken) {
        if (line.clauses.empty() || taken.empty()) return Done{};
        std::vector<NodeId> nodes;
        for (const GrownClause& clause : line.clauses)
            nodes.push_back(clause.node);
        const auto numbers = numbers_of(graph(), nodes, taken);
        if (!numbers) return numbers.error();
        for (std::size_t at = 0; at < nodes.size(); ++at)
            for (std::size_t lane = 0; lane < taken.size(); ++lane)
                now_.values[line.clauses[at].handed][taken[lane]] = numbers->columns[at][lane];
        return Done{};
    }

    // Pieces that become a hole are gone; all others are in the tree.
    Status leave_out(std::vector<std::uint32_t> parents, std::vector<std::uint32_t> pieces) {
        std::vector<std::uint32_t> kept;
        for (std::size_t face = 0; face < now_.count(); ++face)
            if (now_.names[face] != GrownLine::left_out) kept.push_back(static_cast<std::uint32_t>(face));
        if (kept.size() < now_.count()) {
            now_ = gathered(now_, kept);
            for (std::size_t face = 0; face < kept.size(); ++face) {
                parents[face] = parents[kept[face]];
                pieces[face] = pieces[kept[face]];
            }
            parents.resize(kept.size());
            pieces.resize(kept.size());
            measure();
        }
        std::iota(now_.rows.begin(), now_.rows.end(), static_cast<std::uint32_t>(grown_.tree.parents.size()));
        add_to_tree(parents, pieces);
        return run_.cancelled() ? Status(cancelled_error()) : Status(Done{});
    }

    enum class Fate : std::uint8_t { stays, does, left_out };

    const GrowthRules& rules_;
    const FaceLimits& limits_;
    const Surroundings& around_;
    const Run& run_;
    const Run quiet_;
    GrownFaces grown_;
    FaceCrowd now_;                      // the generation in hand
    std::vector<Vec3> areas_, middles_;  // of its faces
    std::vector<Fate> fate_;
};

// One face by itself, as it was among the others.
FaceStart only(const FaceStart& start, std::size_t face) {
    const auto corners = start.mesh.face(face);
    const std::vector<std::uint32_t> kept(corners.begin(), corners.end());
    Mesh::Parts parts;
    parts.x = gathered(start.mesh.x(), kept);
    parts.y = gathered(start.mesh.y(), kept);
    parts.z = gathered(start.mesh.z(), kept);
    parts.corners.resize(kept.size());
    std::iota(parts.corners.begin(), parts.corners.end(), 0U);
    parts.first.push_back(static_cast<std::uint32_t>(kept.size()));
    auto mesh = Mesh::make(std::move(parts));
    assert(mesh);
    FaceStart alone{*std::move(mesh), {start.identities[face]}, {}};
    for (const Doubles& inherited : start.inherited)
        alone.inherited.push_back({inherited[face]});
    alone.first_number = static_cast<std::uint32_t>(face);
    alone.siblings = start.mesh.face_count();
    return alone;
}

}  // namespace

FaceStart start_on(const Mesh& mesh, double seed) {
    FaceStart start{mesh, {}, {}};
    const std::uint64_t thrown = random_bits(static_cast<std::uint64_t>(seed));
    for (std::uint64_t face = 0; face < mesh.face_count(); ++face)
        start.identities.push_back(random_bits(thrown ^ face) >> 11U);
    return start;
}

Result<GrownFaces> grow_faces(const GrowthRules& rules, const FaceStart& start, const FaceLimits& limits,
                              const Surroundings& around, const Run& run) {
    return FaceGrower(rules, limits, around, run).all(start);
}

Result<std::vector<Ancestor>> retraced_face(const GrowthRules& rules, const FaceStart& start,
                                            std::size_t root, const std::vector<std::uint32_t>& pieces,
                                            const Surroundings& around, const Run& run) {
    const FaceStart alone = only(start, root);
    const FaceLimits none;
    Surroundings anywhere = around;
    anywhere.contains = {};
    return FaceGrower(rules, none, anywhere, run).descent(alone, pieces);
}

}  // namespace plume
