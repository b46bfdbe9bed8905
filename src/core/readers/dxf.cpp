#include <cmath>
#include <map>
#include <numbers>
#include <set>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/geometry/curves/curve_edit.hpp"
#include "core/readers/curve_draft.hpp"
#include "core/readers/curve_formats.hpp"
#include "core/readers/dxf_shapes.hpp"

namespace plume {
namespace {

// Of $INSUNITS (DXF Reference, HEADER section).
std::optional<double> metres_of_code(int code) {
    static const std::map<int, double> metres = {
        {1, 0.0254}, {2, 0.3048},  {3, 1609.344}, {4, 0.001},           {5, 0.01},  {6, 1},
        {7, 1000},   {8, 2.54e-8}, {9, 2.54e-5},  {10, 0.9144},         {12, 1e-9}, {13, 1e-6},
        {14, 0.1},   {15, 10},     {16, 100},     {21, 1200.0 / 3937.0}};
    const auto found = metres.find(code);
    return found == metres.end() ? std::nullopt : std::optional(found->second);
}

struct LayeredCurve {
    SplineCurve curve;
    std::string layer;
};
struct Insert {
    std::string block, layer;
    Affine map;
    std::size_t columns = 1, rows = 1;
    Vec3 column_step = {}, row_step = {};
    std::size_t line = 0;
};
struct Block {
    Vec3 base;
    std::vector<LayeredCurve> curves;
    std::vector<Insert> inserts;
    std::vector<std::string> others;  // what is no curve
    double count = -1;  // of curves and blocks in it once all are placed; below 0: not counted yet
    bool being_counted = false;
};

// Where it places its block; a grid of them where it says so.
Insert insert_of(const DxfEntity& entity) {
    const double turn = entity.number(50) * std::numbers::pi / 180;
    const Affine axes = dxf_axes(entity);
    const Vec3 scale{entity.number(41, 1), entity.number(42, 1), entity.number(43, 1)};
    const Vec3 x{std::cos(turn), std::sin(turn), 0}, y{-std::sin(turn), std::cos(turn), 0};
    const Affine in_plane{x * scale.x, y * scale.y, {0, 0, scale.z}, entity.place(10)};
    Insert insert{dxf_text(entity.text(2)), dxf_text(entity.text(8)), composed(axes, in_plane)};
    insert.columns = static_cast<std::size_t>(std::max(1, entity.whole(70, 1)));
    insert.rows = static_cast<std::size_t>(std::max(1, entity.whole(71, 1)));
    insert.column_step = axes.turned(x * entity.number(44));
    insert.row_step = axes.turned(y * entity.number(45));
    insert.line = entity.line();
    return insert;
}

bool is_finite(const Affine& map) {
    return plume::is_finite(map.x) && plume::is_finite(map.y) && plume::is_finite(map.z) &&
           plume::is_finite(map.shift);
}

class DxfReader {
public:
    DxfReader(std::vector<DxfTag> tags, const Run& run) : tags_(std::move(tags)), run_(run) {}

    Result<CurveFile> read() {
        split();
        for (std::size_t at = 0; at < entities_.size(); ++at) {
            if (at % 4096 == 0) {
                if (run_.cancelled()) return cancelled_error();
                run_.report(0.7 * static_cast<double>(at) / static_cast<double>(entities_.size()));
            }
            at = take(at);
        }
        const Result<double> count = count_of(model_);
        if (!count) return count.error();
        if (*count > static_cast<double>(CurveDraft::most_curves)) return too_many(*count);
        if (Status placed = place(model_, {}, "", false); !placed) return placed.error();
        if (!ended_) draft_.lose("The file ends before its end mark; what is behind is missing.");
        tell_faults();
        Result<CurveFile> made = std::move(draft_).finish();
        if (made) made->metres_per_unit = metres_;
        return made;
    }

private:
    // Into entities; the variables of the head among them belong to what begins its section.
    void split() {
        for (std::size_t begin = 0; begin < tags_.size();) {
            std::size_t end = begin + 1;
            while (end < tags_.size() && tags_[end].code != 0)
                ++end;
            if (tags_[begin].code == 0)
                entities_.emplace_back(tags_[begin].value,
                                       std::span(tags_).subspan(begin + 1, end - begin - 1));
            begin = end;
        }
    }

    // Takes an entity, and those that belong to it; returns the last one.
    std::size_t take(std::size_t at) {
        const DxfEntity& entity = entities_[at];
        const std::string_view type = entity.type();
        if (type == "SECTION") {
            section_ = entity.text(2);
            if (section_ == "HEADER") take_head(entity);
        } else if (type == "ENDSEC") {
            section_ = {};
        } else if (type == "EOF") {
            ended_ = true;
        } else if (section_ == "BLOCKS" && type == "BLOCK") {
            block_ = &blocks_[dxf_text(entity.text(2))];
            *block_ = {};
            block_->base = entity.place(10);
        } else if (section_ == "BLOCKS" && type == "ENDBLK") {
            block_ = nullptr;
        } else if (section_ == "ENTITIES" || (section_ == "BLOCKS" && block_)) {
            return take_shape(at);
        }
        return at;
    }

    void take_head(const DxfEntity& head) {
        const auto tags = head.tags();
        for (std::size_t at = 0; at + 1 < tags.size(); ++at)
            if (tags[at].code == 9 && tags[at].value == "$INSUNITS")
                metres_ = metres_of_code(DxfEntity("", tags.subspan(at + 1, 1)).whole(70));
    }

    std::size_t take_shape(std::size_t at) {
        const DxfEntity& entity = entities_[at];
        const std::string_view type = entity.type();
        Block& into = section_ == "BLOCKS" ? *block_ : model_;
        const std::size_t last = last_of(at);
        if (entity.whole(67) == 1) {
            into.others.emplace_back("on sheets of paper");
        } else if (entity.whole(60) == 1) {
            into.others.emplace_back("made invisible");
        } else if (type == "INSERT") {
            into.inserts.push_back(insert_of(entity));
        } else if (type == "POLYLINE") {
            take_polyline(at, last, into);
        } else if (type != "VERTEX" && type != "SEQEND" && type != "ATTRIB" && type != "VIEWPORT") {
            add(dxf_curve(entity), entity, into);
        }
        return last;
    }
    // Corners and attributes follow what they belong to, up to an end of their own.
    std::size_t last_of(std::size_t at) const {
        const bool leads = entities_[at].type() == "POLYLINE" || entities_[at].type() == "INSERT";
        std::size_t last = at;
        while (leads && last + 1 < entities_.size() &&
               (entities_[last + 1].type() == "VERTEX" || entities_[last + 1].type() == "ATTRIB"))
            ++last;
        return last;
    }

    void take_polyline(std::size_t at, std::size_t last, Block& into) {
        const DxfEntity& entity = entities_[at];
        const int flags = entity.whole(70);
        if ((flags & (16 | 64)) != 0) {
            into.others.emplace_back("POLYLINE of faces");
            return;
        }
        const bool in_space = (flags & 8) != 0;
        const double height = in_space ? 0 : entity.number(30);
        std::vector<DxfCorner> corners;
        for (std::size_t vertex = at + 1; vertex <= last; ++vertex) {
            // What held a curve that was fitted is not on it.
            if ((entities_[vertex].whole(70) & 16) != 0) continue;
            Vec3 place = entities_[vertex].place(10);
            if (!in_space) place.z = height;
            corners.push_back({place, in_space ? 0 : entities_[vertex].number(42)});
        }
        Result<SplineCurve> curve = dxf_polyline(corners, (flags & 1) != 0);
        const Affine axes = in_space ? Affine{} : dxf_axes(entity);
        if (curve) curve = with_poles(*curve, [&](Vec3 pole) { return axes.at(pole); });
        add(curve, entity, into);
    }

    void add(const Result<SplineCurve>& curve, const DxfEntity& entity, Block& into) {
        if (curve) {
            std::string layer = dxf_text(entity.text(8));
            into.curves.push_back({*curve, layer.empty() ? "0" : std::move(layer)});
        } else if (curve.error().code == ErrorCode::unknown_name) {
            into.others.push_back(printable(entity.type()));
        } else if (faults_++ == 0) {
            first_fault_ = printable(entity.type()) + " in line " + std::to_string(entity.line()) + " " +
                           curve.error().message;
        }
    }
    void tell_faults() {
        if (faults_ > 0)
            draft_.lose(count_text(faults_, "curve was", "curves were") + " left out that cannot be: the " +
                        first_fault_ + ".");
        if (!missing_.empty()) {
            std::string told;
            for (const std::string& name : missing_)
                told += (told.empty() ? "‘" : ", ‘") + shortened(name) + "’";
            draft_.lose("Blocks that are placed but not in the file: " + told + ".");
        }
    }

    // Curves and blocks that come of it once all is placed: blocks within blocks are more than any memory in
    // a few lines.
    Result<double> count_of(const Block& block) {
        double count = static_cast<double>(block.curves.size() + block.others.size());
        for (const Insert& insert : block.inserts) {
            const auto found = blocks_.find(insert.block);
            if (found == blocks_.end()) {
                if (missing_.size() < 8) missing_.insert(insert.block);
                continue;
            }
            const Result<double> of_block = count_once(found->second, insert);
            if (!of_block) return of_block.error();
            count += static_cast<double>(insert.rows) * static_cast<double>(insert.columns) * (1 + *of_block);
        }
        return count;
    }
    Result<double> count_once(Block& block, const Insert& insert) {
        if (block.count >= 0) return block.count;
        if (block.being_counted)
            return Error{ErrorCode::file_damaged, "",
                         "has a block within itself: ‘" + shortened(insert.block) + "’ in line " +
                             std::to_string(insert.line),
                         "Take the block out of itself."};
        block.being_counted = true;
        Result<double> count = count_of(block);
        block.being_counted = false;
        if (count) block.count = *count;
        return count;
    }
    static Error too_many(double count) {
        return {ErrorCode::file_too_large, "",
                "places " + short_text(count, 3) + " curves and blocks, of which " +
                    grouped_text(CurveDraft::most_curves) + " can be held",
                "Save only the layers that are needed, or take blocks out that stand within blocks."};
    }

    // What stands in a block on layer 0 goes to the layer on which the block is placed.
    Status place(const Block& block, const Affine& map, const std::string& layer, bool in_block) {
        if (run_.cancelled()) return cancelled_error();
        for (const std::string& other : block.others)
            draft_.leave_out(other);
        for (const LayeredCurve& one : block.curves) {
            const bool inherits = in_block && one.layer == "0";
            Result<SplineCurve> moved = in_block
                                            ? with_poles(one.curve, [&](Vec3 pole) { return map.at(pole); })
                                            : Result<SplineCurve>(one.curve);
            if (moved)
                draft_.add(*std::move(moved), inherits ? layer : one.layer);
            else if (faults_++ == 0)
                first_fault_ = "block that is placed " + moved.error().message;
        }
        for (const Insert& insert : block.inserts)
            if (Status placed = place(insert, map, layer, in_block); !placed) return placed;
        return Done{};
    }
    Status place(const Insert& insert, const Affine& map, const std::string& layer, bool in_block) {
        const auto found = blocks_.find(insert.block);
        if (found == blocks_.end()) return Done{};
        if (!is_finite(insert.map)) {
            if (faults_++ == 0)
                first_fault_ = "INSERT in line " + std::to_string(insert.line) + " has numbers that are none";
            return Done{};
        }
        const Block& block = found->second;
        const bool inherits = in_block && insert.layer == "0";
        const std::string& on = inherits || insert.layer.empty() ? layer : insert.layer;
        for (std::size_t row = 0; row < insert.rows; ++row)
            for (std::size_t column = 0; column < insert.columns; ++column) {
                Affine there = insert.map;
                there.shift = there.shift + insert.column_step * static_cast<double>(column) +
                              insert.row_step * static_cast<double>(row);
                there = composed(composed(map, there), moved_by(Vec3{} - block.base));
                if (Status placed = place(block, there, on, true); !placed) return placed;
            }
        return Done{};
    }

    std::vector<DxfTag> tags_;
    const Run& run_;
    std::vector<DxfEntity> entities_;
    std::string_view section_;
    std::map<std::string, Block, std::less<>> blocks_;
    Block model_;
    Block* block_ = nullptr;
    std::optional<double> metres_;
    CurveDraft draft_;
    std::size_t faults_ = 0;
    std::string first_fault_;
    std::set<std::string> missing_;
    bool ended_ = false;
};

}  // namespace

Result<CurveFile> read_dxf(std::string_view text, const Run& run) {
    auto tags = read_dxf_tags(text);
    if (!tags) return tags.error();
    return DxfReader(*std::move(tags), run).read();
}

}  // namespace plume
