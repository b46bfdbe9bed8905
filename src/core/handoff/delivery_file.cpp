#include "core/handoff/delivery_file.hpp"

#include "core/exchange/picture_file.hpp"
#include "core/handoff/drawn_sheet.hpp"
#include "core/handoff/milled_delivery.hpp"

namespace plume {
namespace {

std::vector<ExportedResult> results_in(const DeliveryContent& delivery) {
    std::vector<ExportedResult> results;
    for (const GivenResult& given : delivery.results)
        results.push_back({given.value, given.name, given.show, given.as});
    return results;
}

Result<DeliveredFiles> write_as_picture(const DeliveryContent& delivery, const Units& units,
                                        const std::filesystem::path& path, const Run& run) {
    const DeliveryWishes& wishes = delivery.wishes;
    PictureJob job{results_in(delivery), units};
    job.still.camera = seen_from(standard_view_from(wishes.view).value_or(StandardView::above), {});
    job.still.width = static_cast<int>(wishes.width);
    job.still.height = static_cast<int>(wishes.height);
    job.still.transparent = wishes.transparent;
    job.scale = wishes.scale;
    job.dots_an_inch = wishes.dots_an_inch;
    Result<std::string> report = write_picture(job, path, run);
    if (!report) return report.error();
    return DeliveredFiles{*std::move(report), {path}};
}

Result<DeliveredFiles> write_as_drawing(const DeliveryContent& delivery, const Units& units,
                                        const std::filesystem::path& path, const Run& run) {
    Result<std::string> report = write_drawing(drawing_job_of(delivery, units), path, run);
    if (!report) return report.error();
    return DeliveredFiles{*std::move(report), {path}};
}

}  // namespace

Result<DeliveredFiles> write_delivery(const DeliveryContent& delivery, const Units& units,
                                      const std::filesystem::path& path, const Run& run) {
    if (is_drawing(delivery)) return write_as_drawing(delivery, units, path, run);
    if (is_milled(delivery)) {
        Result<std::string> report = write_milling(delivery, units, path, run);
        if (!report) return report.error();
        return DeliveredFiles{*std::move(report), {path}};
    }
    if (delivery.ending == ".png") return write_as_picture(delivery, units, path, run);
    const DeliveryWishes& wishes = delivery.wishes;
    ExportJob job{results_in(delivery), units, wishes.unit, wishes.rows, wishes.group_by, wishes.layers_by};
    job.plan_scale = wishes.scale;
    job.for_print = wishes.for_print;
    job.exact = wishes.exact;
    job.beside_by_content = true;
    Result<ExportedFiles> written = export_files(std::move(job), path, run);
    if (!written) return written.error();
    return DeliveredFiles{std::move(written->report), std::move(written->files)};
}

}  // namespace plume
