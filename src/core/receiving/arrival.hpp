#pragma once
// What arrives in a folder, against what stands in the model that takes it: parts that are new, changed, as
// before or gone are told by their identities, and the model is updated in place.

#include "core/receiving/received_model.hpp"

namespace plume {

// What becomes of a part. locked: the file has another one or none, and the one here stays; deleted: it was
// deleted here and is not placed again; taken_already: another file or somebody else brought one of this
// identity, which stays.
enum class Arriving { fresh, changed, as_before, gone, locked, deleted, taken_already };
std::string_view plain_name(Arriving state);  // "new", "changed", …

struct ArrivingPart {
    std::string identity;
    Arriving state = Arriving::fresh;
    const TakenPart *was = nullptr, *is = nullptr;  // one of them at least
};

struct ArrivedFile {
    std::string name;  // relative to the folder
    Hash hash;
    std::shared_ptr<const TakenFile> file;  // nullptr where `error` says why; parts of it stay as they are
    std::optional<Error> error;
    std::vector<ArrivingPart> parts;  // in the order of identities

    std::size_t count(Arriving state) const;
    // "3 new, 1 changed, 2 gone, 14 as before"
    std::string counts_text() const;
    bool changes_anything() const;
};

struct Arrival {
    std::vector<ArrivedFile> files;    // in the order of their names
    std::vector<std::string> missing;  // files that parts here are of and that are no longer there
    std::vector<std::shared_ptr<const TakenFile>> before;  // what parts were of stays while it is told

    bool changes_anything() const;
};

// All IFC files in the model's folder and below. Files whose bytes are known are not read again. Errors:
// file_missing, file_unreadable of the folder; cancelled. What is wrong with a file stays with it.
Result<Arrival> look_at_arrival(const Received& here, const Run& run);

// The model with everything that can be taken, and saved. The arrival has to be of this model.
Result<Received> take_in(const Received& here, const Arrival& arrival, const Run& run);

// Parts of a file that the file as it now is does not have: there are none but locked ones.
std::size_t ghosts_of(const Received& here, const ArrivedFile& file);
// "3 parts in it, 3 of it here": what would tell of a ghost, and how many of these are left by a lock. Of a
// file that could be read.
std::string presence_text(const Received& here, const ArrivedFile& file);

// By its name or its identity. Errors: unknown_name; name_clash where several parts bear the name.
Result<Received::Part> part_named(const Received& here, const std::string& name);

// Changes by hand, as they happen in such a model; those of parts have the errors of part_named().
Result<Received> with_lock(const Received& here, const std::string& name, bool locked, const Run& run);
Result<Received> without_part(const Received& here, const std::string& name, const Run& run);
// What was deleted is placed again with the next update.
Result<Received> with_deleted_again(const Received& here, const Run& run);
Result<Received> reading_as(const Received& here, std::optional<LengthUnit> unit, const Run& run);
// The parts of a file become parts of somebody else's, which no update touches. Those of an identity that is
// here stay as they are. Errors: those of take_file().
Result<Received> with_others(const Received& here, const std::filesystem::path& path, const Run& run);

}  // namespace plume
