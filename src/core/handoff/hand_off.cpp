#include "core/handoff/hand_off.hpp"

#include <algorithm>
#include <array>
#include <chrono>
#include <ctime>
#include <set>

#include "core/base/guarded.hpp"
#include "core/base/text.hpp"
#include "core/handoff/pictured_delivery.hpp"
#include "core/study/sentence.hpp"
#include "core/study/target_name.hpp"

namespace plume {
namespace {

namespace fs = std::filesystem;

std::string in_quotes(const std::string& text) {
    return "‘" + text + "’";
}

PartCounts counted(const std::vector<PartChange>& parts) {
    PartCounts counts;
    for (const PartChange& part : parts) {
        std::size_t& count = part.state == PartState::fresh     ? counts.fresh
                             : part.state == PartState::changed ? counts.changed
                             : part.state == PartState::gone    ? counts.gone
                                                                : counts.as_before;
        ++count;
    }
    return counts;
}

// What was is matched by its mark: in the order of what is, then what is gone.
std::vector<PartChange> compared(const std::vector<HandedPart>& before, std::vector<HandedPart> now) {
    std::map<std::string_view, const HandedPart*> was;
    for (const HandedPart& part : before)
        was.emplace(part.mark, &part);
    std::vector<PartChange> changes;
    std::set<std::string_view> met;
    for (HandedPart& part : now) {
        const auto found = was.find(part.mark);
        PartChange change;
        if (found != was.end()) {
            change.was = *found->second;
            change.state =
                change.was->fingerprint == part.fingerprint ? PartState::as_before : PartState::changed;
            met.insert(found->first);
        }
        change.is = std::move(part);
        changes.push_back(std::move(change));
    }
    for (const HandedPart& part : before)
        if (!met.contains(part.mark)) changes.push_back({PartState::gone, part, {}});
    return changes;
}

// One plan in the making.
class Planning {
public:
    Planning(const Evaluation& evaluation, const HandOffPlace& place, const Run& run, KeptParts& kept)
        : evaluation_(evaluation), study_(*evaluation.study), place_(place), run_(run), kept_(kept) {}

    Result<HandOffPlan> plan() {
        Result<fs::path> folder = hand_off_folder(study_, place_);
        if (!folder) return folder.error();
        plan_.folder = *std::move(folder);
        take_manifest();
        for (std::size_t at = study_.page_begin(Page::hand_off); at < study_.page_end(Page::hand_off); ++at) {
            const Step* step = step_of(study_.items[at]);
            if (!step || step->muted) continue;
            if (Status added = add(*step); !added) return added.error();
        }
        kept_.swap(needed_);
        refuse_shared_files();
        find_left_over();
        return std::move(plan_);
    }

private:
    void take_manifest() {
        auto manifest = load_manifest(plan_.folder);
        if (!manifest) {
            plan_.error = manifest.error();
        } else if (*manifest) {
            manifest_ = **std::move(manifest);
            if (manifest_.study != study_.title)
                plan_.asks =
                    Error{ErrorCode::file_changed, in_quotes((plan_.folder / manifest_name).string()),
                          "was written by the study ‘" + shortened(manifest_.study, 80) + "’",
                          "Choose another folder, or let this study take it over."};
        }
    }

    Status add(const Step& step) {
        HandOffEntry entry;
        entry.step = step.id;
        entry.name = step.name;
        const Status looked = look(step, entry);
        if (!looked && looked.error().code == ErrorCode::cancelled) return looked.error();
        if (!looked) entry.error = looked.error();
        plan_.entries.push_back(std::move(entry));
        return Done{};
    }

    const ManifestEntry* known(const std::string& file) const {
        const auto found = manifest_.entries.find(file);
        return found == manifest_.entries.end() ? nullptr : &found->second;
    }

    Status look(const Step& step, HandOffEntry& entry) {
        const Outcome* outcome = evaluation_.outcome(step.id);
        if (!outcome || !outcome->value)
            return outcome && outcome->error
                       ? *outcome->error
                       : Error{ErrorCode::input_failed, in_quotes(step.name), "has nothing to hand off yet",
                               "Compute the study first."};
        entry.delivery = std::get<Delivery>(*outcome->value);
        entry.key = is_film(*entry.delivery) ? film_key(outcome->key, *entry.delivery, study_, step.id)
                                             : outcome->key;
        const Result<std::string> name = target_name(entry.delivery->file, {study_, place_.date, step.name});
        if (!name) return name.error();
        entry.file = *name + entry.delivery->ending;
        if (Status older = stay_with_another_day(entry); !older) return older.error();
        const ManifestEntry* before = known(entry.file);
        const Result<bool> left = is_left(before);
        if (!left) return left.error();
        if (before) {
            entry.written = before->written;
            entry.report = before->report;
        }
        entry.unchanged = before && before->key == entry.key && !before->writing && *left;
        if (!*left) entry.asks = what_would_be_lost(before, entry.file);
        return compare_parts(before, entry);
    }

    // What is as it was when it was written on another day stays in that day's file.
    Status stay_with_another_day(HandOffEntry& entry) {
        if (known(entry.file) || entry.delivery->file.find("{date}") == std::string::npos) return Done{};
        for (const auto& [file, before] : manifest_.entries) {
            if (before.name != entry.name || before.key != entry.key || before.writing) continue;
            const Result<bool> left = is_left(&before);
            if (!left) return left.error();
            if (*left) entry.file = file;
        }
        return Done{};
    }

    // Whether the files of an entry are there as they were left.
    Result<bool> is_left(const ManifestEntry* before) {
        if (!before) return false;
        for (const HandedFile& one : before->files) {
            Result<bool> left = is_as_left(plan_.folder, one, run_);
            if (!left || !*left) return left;
        }
        return true;
    }

    std::optional<Error> what_would_be_lost(const ManifestEntry* before, const std::string& file) const {
        std::error_code ignored;
        const fs::path path = plan_.folder / file;
        if (!fs::exists(path, ignored)) return {};
        if (before && before->writing) return {};  // it broke off between the file and the manifest
        return Error{ErrorCode::file_changed, in_quotes(path.string()),
                     before ? "was changed by somebody else since it was written"
                            : "is there already, and was not written by this sentence",
                     "Move it away, or let it be replaced."};
    }

    Result<std::vector<HandedPart>> parts_of(const HandOffEntry& entry) {
        const auto found = kept_.find(entry.key);
        Result<std::vector<HandedPart>> parts =
            found != kept_.end() ? found->second
                                 : guarded([&] { return handed_parts(*entry.delivery, run_); });
        if (parts) needed_.insert_or_assign(entry.key, *parts);
        return parts;
    }

    Status compare_parts(const ManifestEntry* before, HandOffEntry& entry) {
        if (before && before->key == entry.key) {
            for (const HandedPart& part : before->parts)
                entry.parts.push_back({PartState::as_before, part, part});
        } else {
            Result<std::vector<HandedPart>> now = parts_of(entry);
            if (!now) return now.error();
            entry.parts = compared(before ? before->parts : std::vector<HandedPart>(), *std::move(now));
        }
        entry.counts = counted(entry.parts);
        return Done{};
    }

    void refuse_shared_files() {
        std::map<std::string, std::size_t> writers;
        for (const HandOffEntry& entry : plan_.entries)
            if (!entry.file.empty()) ++writers[entry.file];
        for (HandOffEntry& entry : plan_.entries)
            if (!entry.file.empty() && writers[entry.file] > 1 && !entry.error)
                entry.error =
                    Error{ErrorCode::name_clash, in_quotes(entry.file), "is written by another sentence, too",
                          "Give one of them another name, as in {study}-{name}."};
    }

    // Names that follow the day or a control have a file for each of these.
    static bool has_one_file(const std::string& name) {
        for (std::size_t at = name.find('{'); at != std::string::npos; at = name.find('{', at + 1))
            if (!name.substr(at).starts_with("{study}") && !name.substr(at).starts_with("{name}"))
                return false;
        return true;
    }
    void find_left_over() {
        for (const auto& [file, before] : manifest_.entries) {
            const auto writes = std::ranges::find(plan_.entries, file, &HandOffEntry::file);
            const auto writer = std::ranges::find(plan_.entries, before.name, &HandOffEntry::name);
            if (writes != plan_.entries.end()) continue;
            const bool lives =
                writer != plan_.entries.end() && (!writer->delivery || !has_one_file(writer->delivery->file));
            if (lives) continue;
            for (const HandedFile& one : before.files)
                plan_.left_over.push_back(one.name);
        }
    }

    const Evaluation& evaluation_;
    const Study& study_;
    const HandOffPlace& place_;
    const Run& run_;
    KeptParts& kept_;
    KeptParts needed_;
    Manifest manifest_;
    HandOffPlan plan_;
};

ManifestEntry entry_of(const HandOffEntry& entry, const Step& step, const StepKind* kind,
                       const HandOffPlace& place) {
    ManifestEntry made;
    made.name = step.name;
    made.sentence = kind ? sentence_text(*kind, step) : "";
    made.key = entry.key;
    made.written = place.date + ' ' + place.time;
    for (const PartChange& change : entry.parts)
        if (change.is) made.parts.push_back(*change.is);
    return made;
}

Status make_folder(const fs::path& folder) {
    std::error_code problem;
    fs::create_directories(folder, problem);
    if (problem)
        return Error{ErrorCode::file_unwritable, in_quotes(folder.string()),
                     "could not be made: " + problem.message(), "Choose a folder you may write to."};
    return Done{};
}

// The report with the file as the folder has it, wherever that lies.
std::string told_of(std::string report, const fs::path& path, const std::string& file) {
    const std::size_t at = report.find(path.string());
    return at == std::string::npos ? report : report.replace(at, path.string().size(), file);
}

// Those that the entry before had beside its file and the new one has not, where nobody changed them.
void remove_companions(const fs::path& folder, const ManifestEntry& before, const ManifestEntry& now,
                       const Run& run) {
    for (std::size_t at = 1; at < before.files.size(); ++at) {
        const HandedFile& file = before.files[at];
        const bool kept = std::ranges::find(now.files, file.name, &HandedFile::name) != now.files.end();
        const Result<bool> left = is_as_left(folder, file, run);
        std::error_code ignored;
        if (!kept && left && *left) fs::remove(folder / file.name, ignored);
    }
}

}  // namespace

std::string_view plain_name(PartState state) {
    static constexpr std::array<std::string_view, 4> names{"new", "changed", "as before", "gone"};
    return names[static_cast<std::size_t>(state)];
}

std::string counts_text(const PartCounts& counts) {
    std::string text;
    const auto add = [&](std::size_t count, const char* what) {
        if (count == 0) return;
        text += (text.empty() ? "" : ", ") + std::to_string(count) + ' ' + what;
    };
    add(counts.fresh, "new");
    add(counts.changed, "changed");
    add(counts.gone, "gone");
    if (text.empty()) return "as before";
    add(counts.as_before, "as before");
    return text;
}

std::string state_text(const HandOffEntry& entry) {
    if (entry.error) return "cannot be written";
    if (entry.unchanged) return "as before";
    const PartCounts& counts = entry.counts;
    return counts.fresh + counts.changed + counts.gone == 0 ? "to be written anew" : counts_text(counts);
}

HandOffPlace place_now(fs::path study_file) {
    const std::time_t now = std::chrono::system_clock::to_time_t(std::chrono::system_clock::now());
    std::tm local{};
    localtime_r(&now, &local);
    std::array<char, 32> date{}, time{};
    std::strftime(date.data(), date.size(), "%Y-%m-%d", &local);
    std::strftime(time.data(), time.size(), "%H:%M", &local);
    return {std::move(study_file), date.data(), time.data()};
}

std::vector<ItemId> HandOffPlan::to_write() const {
    std::vector<ItemId> steps;
    for (const HandOffEntry& one : entries)
        if (one.to_be_written()) steps.push_back(one.step);
    return steps;
}

const HandOffEntry* HandOffPlan::entry(ItemId step) const {
    const auto found = std::ranges::find(entries, step, &HandOffEntry::step);
    return found == entries.end() ? nullptr : &*found;
}

Result<fs::path> hand_off_folder(const Study& study, const HandOffPlace& place) {
    if (place.study_file.empty())
        return Error{ErrorCode::missing_input, "The study",
                     "has no file yet, and what it hands off goes beside it", "Save it first."};
    const fs::path given(study.hand_off_folder);
    // A whole path may be anywhere; a relative one has placeholders and stays below the study.
    if (given.is_absolute()) return given.lexically_normal();
    const Result<std::string> name = target_name(study.hand_off_folder, {study, place.date, "handoff"});
    if (!name) return error_at(name.error(), "The folder");
    return (place.study_file.parent_path() / *name).lexically_normal();
}

Result<HandOffPlan> plan_hand_off(const Evaluation& evaluation, const HandOffPlace& place, const Run& run,
                                  KeptParts* kept) {
    KeptParts none;
    return Planning(evaluation, place, run, kept ? *kept : none).plan();
}

Result<std::string> hand_off(const HandOffPlan& plan, const HandOffEntry& entry, const MomentSource& source,
                             const HandOffPlace& place, bool even_if_foreign, const Run& run) {
    const Study& study = *source.study;
    if (plan.error) return *plan.error;
    if (entry.error) return *entry.error;
    if (entry.unchanged) return "‘" + entry.file + "’ is as before.";
    if (plan.asks && !even_if_foreign) return *plan.asks;
    if (entry.asks && !even_if_foreign) return *entry.asks;
    const Step* step = study.step(entry.step);
    assert(step);
    const fs::path path = plan.folder / entry.file;
    if (Status made = make_folder(path.parent_path()); !made) return made.error();
    auto loaded = load_manifest(plan.folder);
    if (!loaded) return loaded.error();
    Manifest manifest = loaded->value_or(Manifest());
    manifest.study = study.title;
    const auto found = manifest.entries.find(entry.file);
    const std::optional<ManifestEntry> before =
        found == manifest.entries.end() ? std::nullopt : std::optional(found->second);
    // Said first: should the work end between the file and the manifest, its file is known to be ours.
    ManifestEntry& kept = manifest.entries[entry.file];
    kept.name = entry.name;
    kept.writing = entry.key;
    if (kept.files.empty()) kept.files.push_back({entry.file, 0, {}, 0});
    if (Status saved = save_manifest(manifest, plan.folder); !saved) return saved.error();
    const Result<DeliveredFiles> written =
        guarded([&] { return write_delivery(*entry.delivery, source, path, run); });
    if (!written) {
        manifest.entries.erase(entry.file);
        if (before) manifest.entries.emplace(entry.file, *before);
        if (Status saved = save_manifest(manifest, plan.folder); !saved) return saved.error();
        return labelled(written.error(), *source.plan.catalogue->find(*step));
    }
    ManifestEntry now = entry_of(entry, *step, source.plan.catalogue->find(*step), place);
    now.report = told_of(written->report, path, entry.file);
    for (const fs::path& file : written->files) {
        auto one = handed_file(plan.folder, file.lexically_relative(plan.folder).string(), Run());
        if (!one) return one.error();
        if (*one) now.files.push_back(**one);
    }
    manifest.entries[entry.file] = now;
    if (Status saved = save_manifest(manifest, plan.folder); !saved) return saved.error();
    if (before) remove_companions(plan.folder, *before, now, Run());
    return now.report;
}

}  // namespace plume
