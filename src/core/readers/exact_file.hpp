#pragma once
// Curves, surfaces and solids from STEP and IGES, exactly: planes, cylinders, arcs and the like as the
// rational splines that they are, faces with their trims. By a geometry kernel (OpenCASCADE 7.6) in a process
// of its own, since strangers' files may break it.

#include <array>
#include <filesystem>
#include <optional>
#include <string>
#include <vector>

#include "core/base/run.hpp"
#include "core/data/mesh.hpp"
#include "core/data/surface_set.hpp"

namespace plume {

// A closed body: patches with their normals outwards; a closed mesh besides, a part a patch, where samples of
// their edges would not meet, or alone, where there are no patches.
struct ExactSolid {
    std::vector<SplinePatch> patches;
    double edges_within = 0;  // how far edges that are the same edge stand apart
    std::optional<Mesh> mesh;
};
// Triangles of a part as they stand in a file of bodies for printers: three places and four numbers a face
// (material, red, green, blue), none of it looked at yet.
struct LooseMesh {
    std::array<std::vector<double>, 3> places;
    std::vector<std::uint32_t> corners;
    std::array<std::vector<double>, 4> numbers;
};
// A part of the assembly where it is placed.
struct ExactPart {
    std::string name;  // "shed / roof": the assemblies it is in before its own
    std::vector<SplineCurve> curves;
    std::vector<SplinePatch> faces;  // that bound no solid
    std::vector<ExactSolid> solids;
    LooseMesh loose;  // of 3MF
};
struct ExactFile {
    std::vector<ExactPart> parts;
    double metres_per_unit = 0.001;      // of the coordinates here; those of the file were converted
    std::vector<std::string> materials;  // of 3MF, by their number from 1 on
    std::vector<std::string> losses;
};

// By its first bytes: STEP, where it is not IGES.
bool is_step(const std::filesystem::path& path);

// Around all poles of a part: nothing of it reaches further.
Box box_of(const ExactPart& part);

// Errors: file_missing, file_unreadable, file_too_large; file_damaged as the kernel says; broke_off where it
// broke the kernel; empty_input; cancelled.
Result<ExactFile> read_exact_file(const std::filesystem::path& path, const Run& run);

// As one process hands it to another; an error in its place. Errors of reading: file_damaged, and the error
// handed over.
std::string bytes_of(const Result<ExactFile>& file);
Result<ExactFile> exact_file_from(std::string_view bytes);

}  // namespace plume
