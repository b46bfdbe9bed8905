#pragma once
// Results on their way into files, for tests.

#include "core/exchange/formats.hpp"
#include "core/support.hpp"

namespace plume::test {

inline ExportJob job_of(const Value& value, const std::string& name = "it",
                        LengthUnit unit = LengthUnit::metre) {
    return {{{std::make_shared<const Value>(value), name}}, {}, unit};
}

using Writer = Result<ExportReport> (*)(const ExportJob&, const ByteSink&, const plume::Run&);

inline std::string bytes_of(Writer write, const ExportJob& job) {
    std::string bytes;
    const auto report = write(
        job, [&](std::string_view piece) { bytes += piece; }, plume::Run());
    EXPECT_TRUE(report) << sentence(report.error());
    return bytes;
}

inline Result<ExportReport> tried(Writer write, const ExportJob& job) {
    return write(
        job, [](std::string_view) {}, plume::Run());
}

}  // namespace plume::test
