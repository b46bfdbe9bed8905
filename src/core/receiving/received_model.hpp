#pragma once
// The model of a stand-in for whoever receives building models: which parts stand in it, from which file, as
// that was when they were taken. Kept in the folder `received` below the one that the files come into, as
// `model.json` (documented in docs/handoff.md) beside copies of the files that parts are of.

#include <map>
#include <memory>
#include <set>
#include <string>

#include "core/base/units.hpp"
#include "core/receiving/taken_file.hpp"

namespace plume {

inline constexpr const char* received_folder_name = "received";

struct PlacedPart {
    std::string identity;
    std::string source;   // the file's name relative to the folder; empty: of somebody else
    Hash copy;            // the bytes of the file it was taken from
    bool locked = false;  // neither replaced nor removed
    bool operator==(const PlacedPart&) const = default;
};

struct ReceivedModel {
    std::vector<PlacedPart> parts;
    // Parts that were deleted in the model though their files have them, by source; they are not placed
    // again.
    std::map<std::string, std::set<std::string>> deleted;
    // Wrong on purpose: the unit lengths are taken to be in, whatever files say.
    std::optional<LengthUnit> reads_as;
    bool operator==(const ReceivedModel&) const = default;
};

// The model with what its parts are.
class Received {
public:
    // A part as it stands here: its lengths are those of the unit that is read.
    struct Part {
        const PlacedPart* placed = nullptr;
        const TakenPart* taken = nullptr;
        double scale = 1;  // of lengths, as they are read here

        std::optional<double> area_m2() const;
        std::optional<double> volume_m3() const;
        std::optional<double> length_m() const;
    };

    const std::filesystem::path& folder() const { return folder_; }
    const ReceivedModel& model() const { return model_; }
    std::vector<Part> parts() const;
    // All files that parts are of; one of them, or nullptr where it is not held.
    std::vector<std::shared_ptr<const TakenFile>> files() const;
    const std::shared_ptr<const TakenFile>* file(const Hash& copy) const;

    // Nothing there yet: an empty model. Errors: file_missing without the folder; file_damaged, file_newer,
    // those of files; cancelled.
    static Result<Received> open(const std::filesystem::path& folder, const Run& run);
    // Another model with the copies it needs, which are those of this one and of `more`, by their paths;
    // written so that either the old or the new one is there. Copies that no part is of go.
    struct Copy {
        std::filesystem::path path;
        std::shared_ptr<const TakenFile> file;
    };
    Result<Received> with(ReceivedModel model, const std::map<Hash, Copy>& more, const Run& run) const;

private:
    Received(std::filesystem::path folder, ReceivedModel model,
             std::map<Hash, std::shared_ptr<const TakenFile>> files)
        : folder_(std::move(folder)), model_(std::move(model)), files_(std::move(files)) {}

    std::filesystem::path folder_;
    ReceivedModel model_;
    std::map<Hash, std::shared_ptr<const TakenFile>> files_;
};

// Errors: file_damaged, file_newer; without a place.
Result<ReceivedModel> received_model_from_text(std::string_view text);
std::string received_model_to_text(const ReceivedModel& model);

}  // namespace plume
