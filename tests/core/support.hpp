#pragma once
// What tests of the core share: studies made by hand, and the pathological lattices every algorithm is run
// over.

#include <gtest/gtest.h>

#include <filesystem>

#include "core/data/mesh.hpp"
#include "core/evaluation/evaluator.hpp"
#include "core/steps/catalogue.hpp"
#include "core/study/edits/edits.hpp"

namespace plume::test {

// A grid of columns x rows points, `height(i, j)` up, one study length apart.
PointLattice grid(std::size_t columns, std::size_t rows,
                  const std::function<double(double, double)>& height = {}, bool closed_i = false,
                  bool closed_j = false);
// A torus: closed both ways.
PointLattice torus(std::size_t around, std::size_t across, double major, double minor);

struct Named {
    const char* name;
    PointLattice lattice;
};
// One point, one row, closed both ways, a gap in the middle, coincident points, a pole, a fold, a Moebius
// strip, coordinates at 1e-9 and 1e9.
std::vector<Named> pathological();

// Builds studies step by step, by kind.
class StudyMaker {
public:
    StudyMaker();
    ItemId add(const std::string& kind, const std::string& name);
    StudyMaker& set(const std::string& name, const std::string& slot, SlotValue value);
    StudyMaker& number(const std::string& name, const std::string& slot, const std::string& text) {
        return set(name, slot, NumberText{text});
    }
    StudyMaker& word(const std::string& name, const std::string& slot, const std::string& key) {
        return set(name, slot, WordKey{key});
    }
    StudyMaker& formula(const std::string& name, const std::string& text) {
        return set(name, "formula", FormulaText{text, {}, {}});
    }
    StudyMaker& control(const std::string& name, double value, const std::string& unit = "");
    StudyPointer study;
};

// lattice, perches, reach, rise, pushed, roof: the canopy's six steps on their presets.
StudyMaker canopy();

Evaluation run(const StudyPointer& study, Budget budget = {}, ResultStore* cache = nullptr);
Value value_of(const Evaluation& evaluation, const std::string& name);
Error error_of(const Evaluation& evaluation, const std::string& name);
// What is remarked about it, a line each; losses begin with "! ".
std::string remarks_of(const Evaluation& evaluation, const std::string& name);

// By the divergence theorem over the faces' triangles; positive when faces turn outwards.
double volume(const Mesh& mesh);
// Edges that do not belong to exactly two faces running opposite ways.
std::size_t open_edges(const Mesh& mesh);

// A folder of its own for each test, removed with it.
class Folder {
public:
    Folder();
    ~Folder();
    Folder(const Folder&) = delete;
    Folder& operator=(const Folder&) = delete;
    std::filesystem::path operator/(const char* name) const { return path_ / name; }
    const std::filesystem::path& path() const { return path_; }

private:
    std::filesystem::path path_;
};

}  // namespace plume::test
