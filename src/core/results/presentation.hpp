#pragma once
// What is shown of a step's result, by window and command line alike: how it is drawn, the figures of the
// numbers in hand, how far it reaches, what of it is not finite, the picture it reads.

#include <deque>
#include <map>
#include <memory>
#include <string>
#include <vector>

#include "core/evaluation/evaluation.hpp"
#include "core/measure/statistics.hpp"
#include "core/picture/drawable.hpp"
#include "core/picture/thumbnail.hpp"
#include "core/study/step_kind.hpp"

namespace plume {

// The picture a step reads, made small, and the part of it that is sampled.
struct Thumbnail {
    Image image;
    PictureArea area;
};

struct Presentation {
    std::shared_ptr<const Drawable> drawable;   // of results that are drawn
    std::shared_ptr<const Statistics> figures;  // of the field in hand
    Box bounds;
    std::vector<std::string> not_finite;         // sentences about it that are remarks of a step above
    std::shared_ptr<const Thumbnail> thumbnail;  // of the picture it reads
};

// Makes presentations and keeps them by the key of the result, so that nothing is made twice while it is
// wanted. For one thread at a time.
class Presenter {
public:
    explicit Presenter(const Catalogue& catalogue, std::size_t most_resting_bytes = 256'000'000)
        : catalogue_(catalogue), most_resting_bytes_(most_resting_bytes) {}

    // How an outcome with a value is drawn, alone: what is seen need not wait for figures. Errors: those of
    // drawing; cancelled.
    Result<std::shared_ptr<const Drawable>> draw(const Outcome& outcome, const DrawOptions& options,
                                                 const Run& run);
    // Whether its figures are not known yet and take some hundredths of a second.
    bool takes_long(const Outcome& outcome) const;
    // Of an outcome with a value; drawn when `draw` is given. Errors: those of drawing; cancelled.
    Result<Presentation> present(const Step& step, const Outcome& outcome, const DrawOptions* draw,
                                 const Run& run);
    // What was not asked for since the last call is not wanted any more; of the same study at another moment
    // it may be wanted again, and is kept as long as there is room.
    enum class Others { are_not_wanted, may_come_again };
    void forget_others(Others others = Others::are_not_wanted);

private:
    struct Kept {
        std::optional<Presentation> rest;  // all but the drawable
        std::shared_ptr<const Drawable> drawable;
        std::string colour_by;  // of the drawable
    };
    Kept& kept(const Hash& key);
    void rest(std::map<Hash, Kept>& others);

    const Catalogue& catalogue_;
    std::map<Hash, Kept> asked_, before_, resting_;
    std::deque<Hash> rested_;  // those that rest, and some that were asked for since; the longest first
    std::size_t most_resting_bytes_, resting_bytes_ = 0;
};

}  // namespace plume
