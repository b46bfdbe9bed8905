#pragma once
// What the steps that read forms from files share: which unit a file counts in, which way it stands, where it
// lies, and what there is in it to choose from.

#include <filesystem>
#include <functional>
#include <memory>
#include <optional>

#include "core/data/box.hpp"
#include "core/study/step_kind.hpp"

namespace plume {

// How a file's coordinates are meant.
struct FileSpace {
    std::function<Box()> bounds;            // in units of the file; looked for where it is asked about
    std::optional<double> metres_per_unit;  // nothing where it states none
    bool y_up = false;
};

// "in {unit}, {placing}[placing=from| {east}, {north}, {level}]" with its slots: the unit, and the place of
// the file that is the study's origin. Sites lie far from the origin of their grid, where coordinates have
// few digits left for what is near.
extern const char* const file_space_sentence;
std::vector<SlotSpec> file_space_slots();
// "{up}" for formats that do not agree on which way is up.
SlotSpec file_up_slot();

// The value where the slots put it, in the study's unit; says where it lies far off. Errors: missing_input at
// the slot `unit` where the file states none, with what it would measure.
Result<Value> in_study_space(const Value& value, const FileSpace& space, const Inputs& in, const Run& run);

// What a reader makes of the file of the slot `file`, once for as long as the file is the same; `as` names
// the reader.
template <class File>
Result<std::shared_ptr<const File>> linked(const Inputs& in, const Run& run, const char* as,
                                           Result<File> (*read)(const std::filesystem::path&, const Run&)) {
    const ResolvedFile& file = in.file("file");
    return file.store->read(file.name, as,
                            [&](const std::filesystem::path& path) { return read(path, run); });
}

// What the file would measure in each unit.
Offers unit_offers(const FileSpace& space, const Inputs& in);

// The same as a context of the slot `unit`, of what a file is and how it is meant.
template <class FileOf, class SpaceOf>
ContextMaker offered_units(FileOf file_of, SpaceOf space_of) {
    return context([=](const Inputs& in, const Run& run) -> Result<Offers> {
        const auto file = file_of(in, run);
        if (!file) return file.error();
        return unit_offers(space_of(**file), in);
    });
}

// What has a name in a file, told by how many things it is and how large.
struct FilePart {
    std::string name;
    std::string counted;  // "12 curves"
    Box bounds;           // in units of the file
};
// Those of one name together stand once; sizes in the unit that is chosen, where it is known.
Offers part_offers(const std::vector<FilePart>& parts, const FileSpace& space, const Inputs& in);
// Of each part whether it is picked by the slot; all where none is. Errors: unknown_name at the slot, with
// those that there are.
Result<std::vector<std::uint8_t>> picked_parts(const std::vector<std::string>& names, const Inputs& in,
                                               std::string_view slot);

// Which names numbers stand for, as "Of its layers 1 is ‘reserve’, 3 is ‘creek’."; nothing of none.
struct NumberedName {
    std::size_t number = 0;
    std::string name;
};
void remark_numbers(const std::string& what, const std::vector<NumberedName>& names, const Run& run);

// Under names that formulas can read; says which had to change.
std::vector<Field> readable_fields(const std::vector<Field>& fields, const Run& run);

// Of what takes so many bytes and seconds a byte of the file.
Estimate file_estimate(const Inputs& in, double bytes_a_byte, double seconds_a_byte);
void remark_losses(const std::vector<std::string>& losses, const Run& run);

}  // namespace plume
