#pragma once
// A delivery as a file, in whatever format its ending names.

#include <filesystem>

#include "core/base/run.hpp"
#include "core/data/delivery.hpp"
#include "core/evaluation/evaluator.hpp"

namespace plume {

struct DeliveredFiles {
    std::string report;                        // a sentence
    std::vector<std::filesystem::path> files;  // the file itself first, then those it refers to
};

// Whose study it is, and how other moments of it are computed.
struct MomentSource {
    StudyPointer study;
    EvaluationPlan plan;
};

// Errors: those of formats (export.hpp, picture_file.hpp) and files; `path` is then as it was.
Result<DeliveredFiles> write_delivery(const DeliveryContent& delivery, const MomentSource& source,
                                      const std::filesystem::path& path, const Run& run);

}  // namespace plume
