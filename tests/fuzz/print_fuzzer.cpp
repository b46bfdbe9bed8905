// Any text as the model within a 3MF, and any bytes as the package itself: each is read or refused with a
// sentence, whatever becomes of the program that reads it.

#include "core/exchange/packed_file.hpp"
#include "core/readers/mesh_file.hpp"
#include "fuzz/other_numbers.hpp"
#include "fuzz/read_by_program.hpp"

namespace {

using namespace plume;

constexpr std::string_view types =
    R"(<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="model" ContentType="application/vnd.ms-package.3dmanufacturing-3dmodel+xml"/></Types>)";
constexpr std::string_view links =
    R"(<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="model" Target="/3D/3dmodel.model" Type="http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel"/></Relationships>)";

std::string packed(std::string_view model) {
    std::string package;
    const ByteSink sink = [&](std::string_view bytes) { package += bytes; };
    PackedFile file(sink);
    const std::pair<const char*, std::string_view> entries[] = {
        {"[Content_Types].xml", types}, {"_rels/.rels", links}, {"3D/3dmodel.model", model}};
    for (const auto& [name, text] : entries)
        demand(
            static_cast<bool>(file.add(name, {[made = text](std::string& into) { into += made; }}, Run())));
    demand(static_cast<bool>(file.finish()));
    return package;
}

void read(std::string_view bytes) {
    const auto file = read_by_program(bytes, ".3mf", &read_mesh_file);
    if (!file) return;
    const Mesh& mesh = file->mesh;
    demand(mesh.face_count() > 0 && file->part_names.size() == mesh.part_count());
    for (std::size_t vertex = 0; vertex < mesh.vertex_count(); ++vertex)
        demand(is_finite(mesh.vertex(vertex)));
}

}  // namespace

extern "C" std::size_t LLVMFuzzerCustomMutator(std::uint8_t* data, std::size_t size, std::size_t most,
                                               unsigned seed) {
    return with_other_numbers(data, size, most, seed);
}

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const std::string_view bytes(reinterpret_cast<const char*>(data), size);
    read(bytes.starts_with("PK") ? std::string(bytes) : packed(bytes));
    return 0;
}
