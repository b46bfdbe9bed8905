#include "core/handoff/rehearsed_work.hpp"

#include "core/base/file.hpp"
#include "core/handoff/cut_work.hpp"
#include "core/handoff/milled_work.hpp"

namespace plume {
namespace {

constexpr std::size_t most_bytes = 2'000'000'000;

Result<GcodeFile> foreign_file(const std::filesystem::path& file, const Run& run) {
    const auto text = read_file(file, most_bytes);
    if (!text) return text.error();
    auto read = gcode_from(*text, run);
    if (!read) return error_at(read.error(), "‘" + file.filename().string() + "’");
    return read;
}

// A file from elsewhere, or what the sentence writes.
Result<GcodeFile> file_from(const std::filesystem::path& file,
                            const std::function<Result<std::string>()>& own, const Run& run) {
    if (!file.empty()) return foreign_file(file, run);
    const auto text = own();
    if (!text) return text.error();
    return gcode_from(*text, run);
}

Result<RehearsedWorkPointer> milled(const DeliveryContent& delivery, const Units& units,
                                    const std::filesystem::path& path, const Run& run) {
    auto form = form_in_board(delivery, units, run);
    if (!form) return form.error();
    const auto kept = std::make_shared<const FormInBoard>(*std::move(form));
    auto file = file_from(
        path, [&] { return milling_file(delivery, *kept, units, run); }, run);
    if (!file) return file.error();
    return milled_work(*std::move(file), rehearsal_of(delivery, *kept, units), kept, run);
}

Result<RehearsedWorkPointer> cut(const DeliveryContent& delivery, const Units& units,
                                 const std::filesystem::path& path, const Run& run) {
    auto sheets = sheets_of(delivery, units, run);
    if (!sheets) return sheets.error();
    std::vector<std::string> losses;
    const auto own = [&]() -> Result<std::string> {
        auto made = cutting_file(delivery, *sheets, units, run);
        if (!made) return made.error();
        losses = std::move(made->losses);
        return std::move(made->text);
    };
    auto file = file_from(path, own, run);
    if (!file) return file.error();
    file->remarks.insert(file->remarks.begin(), losses.begin(), losses.end());
    return cut_work(*std::move(file), *std::move(sheets), rehearsal_of(delivery, {}, units), run);
}

}  // namespace

bool is_rehearsed(const DeliveryContent& delivery) {
    return is_milled(delivery) || is_cut(delivery);
}

Result<RehearsedWorkPointer> rehearsed_work(const DeliveryContent& delivery, const Units& units,
                                            const std::filesystem::path& file, const Run& run) {
    return is_cut(delivery) ? cut(delivery, units, file, run) : milled(delivery, units, file, run);
}

Result<RehearsedWorkPointer> rehearsed_milling(const std::filesystem::path& file, const RehearsalJob& job,
                                               const Run& run) {
    auto read = foreign_file(file, run);
    if (!read) return read.error();
    return milled_work(*std::move(read), job, nullptr, run);
}

}  // namespace plume
