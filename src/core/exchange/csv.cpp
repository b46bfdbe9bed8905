#include <cmath>

#include "core/base/numbers.hpp"
#include "core/exchange/formats.hpp"

namespace plume {
namespace {

std::string quoted(const std::string& text) {
    if (text.find_first_of(",\"\r\n") == std::string::npos) return text;
    std::string result = "\"";
    for (const char c : text)
        result += c == '"' ? std::string("\"\"") : std::string(1, c);
    return result + '"';
}

std::string titled(const std::string& name, Dimension dimension, const Units& units) {
    const std::string unit = unit_text(dimension, units);
    return quoted(unit.empty() ? name : name + " " + unit);
}

// Factor from internal units to the file's: lengths to their power, angles to the study's unit.
double factor_of(Dimension dimension, const ExportJob& job) {
    return std::pow(job.scale(), dimension.length) * shown_per_internal(dimension, job.study_units);
}

Result<std::string> write_lattice(const PointLattice& lattice, const ExportJob& job, const ByteSink& sink,
                                  const Run& run) {
    const Units units{job.unit, job.study_units.angle};
    std::string header = "i,j,k";
    for (const char* axis : {"x", "y", "z"})
        header += ',' + titled(axis, a_length, units);
    for (const Field& field : lattice.fields())
        header += ',' + titled(field.name, field.dimension, units);
    sink(header + '\n');
    std::size_t odd = 0;
    const auto cell = [&](double value) {
        if (std::isfinite(value)) return ',' + exact_text(value);
        ++odd;  // its cell stays empty, which every reader takes for missing
        return std::string(",");
    };
    for (std::size_t index = 0; index < lattice.address_count(); ++index) {
        if (index % 4096 == 0 && run.cancelled()) return cancelled_error();
        if (!lattice.present(index)) continue;
        const Address at = lattice.address(index);
        std::string line = std::to_string(at.i) + ',' + std::to_string(at.j) + ',' + std::to_string(at.k);
        for (const Column* column : {&lattice.x(), &lattice.y(), &lattice.z()})
            line += cell((*column)[index] * job.scale());
        for (const Field& field : lattice.fields())
            line += cell(field.values[index] * factor_of(field.dimension, job));
        sink(line + '\n');
    }
    std::string what = grouped_text(static_cast<std::int64_t>(lattice.point_count())) + " points";
    if (odd > 0)
        what += ", " + grouped_text(static_cast<std::int64_t>(odd)) + " numbers that are not finite left out";
    return what;
}

Result<std::string> write_attractors(const Attractors& attractors, const ExportJob& job,
                                     const ByteSink& sink) {
    const Units units{job.unit, job.study_units.angle};
    sink("name," + titled("x", a_length, units) + ',' + titled("y", a_length, units) + ',' +
         titled("z", a_length, units) + ",weight\n");
    for (const Attractor& item : attractors.items()) {
        const Vec3 p = item.position * job.scale();
        sink(quoted(item.name) + ',' + exact_text(p.x) + ',' + exact_text(p.y) + ',' + exact_text(p.z) + ',' +
             exact_text(item.weight) + '\n');
    }
    return grouped_text(static_cast<std::int64_t>(attractors.items().size())) + " attractors";
}

}  // namespace

Result<std::string> write_csv(const ExportJob& job, const ByteSink& sink, const Run& run) {
    if (const auto* attractors = std::get_if<Attractors>(&job.value))
        return write_attractors(*attractors, job, sink);
    const PointLattice* lattice = lattice_of(job.value);
    if (!lattice)
        return Error{ErrorCode::wrong_kind, "",
                     "It has no points of its own: it is " + std::string(plain_name(kind_of(job.value))),
                     "Choose the points it was made from."};
    if (lattice->point_count() == 0)
        return Error{ErrorCode::nothing_to_write, "", "It is empty",
                     "Choose a result that has something in it."};
    return write_lattice(*lattice, job, sink, run);
}

}  // namespace plume
