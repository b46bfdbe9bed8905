#include "core/handoff/delivery_file.hpp"

#include "core/handoff/cut_delivery.hpp"
#include "core/handoff/drawn_sheet.hpp"
#include "core/handoff/milled_delivery.hpp"
#include "core/handoff/pictured_delivery.hpp"

namespace plume {
namespace {

std::vector<ExportedResult> results_in(const DeliveryContent& delivery) {
    std::vector<ExportedResult> results;
    for (const GivenResult& given : delivery.results)
        results.push_back({given.value, given.name, given.show, given.as});
    return results;
}

Result<DeliveredFiles> one_file(Result<std::string> report, const std::filesystem::path& path) {
    if (!report) return report.error();
    return DeliveredFiles{*std::move(report), {path}};
}

Result<DeliveredFiles> write_film_of(const DeliveryContent& delivery, const MomentSource& source,
                                     const std::filesystem::path& path, const Run& run) {
    const Result<FilmJob> job = film_job_of(delivery, source);
    return job ? one_file(write_film(*job, path, run), path) : job.error();
}

}  // namespace

Result<DeliveredFiles> write_delivery(const DeliveryContent& delivery, const MomentSource& source,
                                      const std::filesystem::path& path, const Run& run) {
    const Units& units = source.study->units;
    if (is_film(delivery)) return write_film_of(delivery, source, path, run);
    if (is_drawing(delivery))
        return one_file(write_drawing(drawing_job_of(delivery, units), path, run), path);
    if (is_milled(delivery)) return one_file(write_milling(delivery, units, path, run), path);
    if (is_cut(delivery)) return one_file(write_cutting(delivery, units, path, run), path);
    if (is_picture(delivery))
        return one_file(write_picture(picture_job_of(delivery, units), path, run), path);
    const DeliveryWishes& wishes = delivery.wishes;
    ExportJob job{results_in(delivery), units, wishes.unit, wishes.rows, wishes.group_by, wishes.layers_by};
    job.plan_scale = wishes.scale;
    job.for_print = wishes.for_print;
    job.exact = wishes.exact;
    job.within = wishes.within;
    job.beside_by_content = true;
    Result<ExportedFiles> written = export_files(std::move(job), path, run);
    if (!written) return written.error();
    return DeliveredFiles{std::move(written->report), std::move(written->files)};
}

}  // namespace plume
