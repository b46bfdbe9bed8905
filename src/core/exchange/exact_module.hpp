#pragma once
// STEP and IGES stand in a library of their own: the geometry kernel behind them brings fifty others along
// and takes a third of a second to load.

#include <string>
#include <vector>

#include "core/base/run.hpp"
#include "core/base/units.hpp"
#include "core/exchange/exact_boundary.hpp"
#include "core/picture/ramp.hpp"
#include "core/results/exact_form.hpp"

namespace plume {

enum class ExactFormat { step, iges };

// A result; its splines are open at their seams.
struct ExactObject {
    std::string name;
    Rgb colour;
    float opacity = 1;
    ExactForm form;
};

struct ExactJob {
    ExactFormat format = ExactFormat::step;
    std::vector<ExactObject> objects;
    double millimetres = 1;  // a study length
    LengthUnit unit = LengthUnit::millimetre;
    std::string path;  // of the file to write
};

// What came of it, counted.
struct ExactCounts {
    std::size_t points = 0, curves = 0, faces = 0, bodies = 0, facets = 0;
    std::size_t loose_bodies = 0;  // whose faces could not be put together: written as faces
};

struct ExactWriter {
    // Errors: what of it the kernel could not make; cancelled.
    Result<ExactCounts> (*write)(const ExactJob& job, const Run& run);
    // What bounds the faces and then the bodies of a form, in millimetres; a body whose edges do not meet has
    // no faces. The same errors.
    Result<std::vector<ExactBoundary>> (*boundaries)(const ExactForm& form, double millimetres,
                                                     const Run& run);
};

}  // namespace plume

// The one name the program looks up in it: an ExactWriter.
extern "C" const void* plume_exact_writer();
