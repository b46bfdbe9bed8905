// A linked file, as it was when the study first read it.

#include "core/study/slots/slot_rules.hpp"

namespace plume {
namespace {

Result<Resolved> resolve(const SlotSpec& slot, const SlotValue& value, const Standpoint& from) {
    const std::string& path = std::get<FileName>(value).path;
    const Result<Hash> stamp = from.files->stamp(path);
    if (!stamp) return about_slot(stamp.error(), slot);
    return Resolved(ResolvedFile{path, *stamp, from.files});
}

void add_file_to_hash(Hasher& hasher, const Resolved& value) {
    const auto& file = std::get<ResolvedFile>(value);
    hasher.add(file.name).add(file.stamp);
}

}  // namespace

const SlotRules file_rules{.key = "file",
                           .needs = "a file",
                           .preset = [](const SlotSpec& /*slot*/) -> SlotValue { return FileName{}; },
                           .holds = holds_form<FileName>,
                           .meant = meant_as_text<FileName>,
                           .resolve = resolve,
                           .add_to_hash = add_file_to_hash,
                           .text =
                               [](const SlotSpec& /*slot*/, const SlotValue& value) {
                                   const std::string& path = std::get<FileName>(value).path;
                                   return path.empty() ? std::string("…") : path;
                               }};

SlotSpec file_slot(std::string key, std::string label, FileKind files) {
    SlotSpec spec = slot_with_preset(SlotType::file, std::move(key), std::move(label), {});
    spec.files = std::move(files);
    return spec;
}

}  // namespace plume
