#pragma once
// Deliveries: results that leave the study, as what and into which file. Whoever writes them reads this;
// nothing is computed or written here.

#include <optional>
#include <string>
#include <vector>

#include "core/base/hash.hpp"
#include "core/base/units.hpp"
#include "core/data/camera.hpp"
#include "core/data/sheet_names.hpp"
#include "core/data/show.hpp"
#include "core/data/value.hpp"

namespace plume {

struct GivenResult {
    std::string name;
    ValuePointer value;
    Hash key;        // names the value
    Show show;       // colours and materials go along
    std::string as;  // what it is where it arrives, a word of the delivery's; empty: told from its name
};

// Of milling; study lengths and radians, feeds in lengths a minute.
struct MillingWishes {
    std::string seen;                  // "above", "south", "east", "north", "west": from where it is milled
    double thickness = 0, margin = 0;  // of the board; how far it goes on around the form
    std::string cutter;                // "ball", "flat", "rounded"
    double diameter = 0, corner = 0;
    double apart = 0, ridge = 0;  // of neighbouring paths; one of the two, the other 0
    std::string way;              // "parallel", "contours", "spiral"
    double angle = 0;
    // 0 for the diameter: it is not roughed.
    std::string rough_cutter = {};
    double rough_diameter = 0, rough_apart = 0, step_down = 0, allowance = 0;
    double feed = 0, plunge_feed = 0, safe = 0, clearance = 0;
    double spindle = 0;  // turns a minute; 0: not said
};

// Of flat cutting; study lengths, feeds in lengths a minute.
struct CuttingWishes {
    std::string by;      // "beam", "cutter"
    double kerf = 0;     // what a cut takes away: the beam's width, the cutter's diameter
    double lead_in = 0;  // how far beside its line a cut begins; 0: on it
    double margin = 0;   // around what is cut, where no rim says how large sheets are
    double feed = 0, mark_feed = 0;
    // Of a beam: how long it stands before it moves on, and what the file says of its strength (S).
    double pierce_s = 0, power = 0, mark_power = 0;
    // Of a cutter: through a sheet of this thickness, and further into what lies below.
    double thickness = 0, below = 0, step_down = 0, mark_depth = 0;
    double plunge_feed = 0, safe = 0;
    double spindle = 0;  // turns a minute; 0: not said
};

// A camera that stands where it was kept, or that steps back until all is in its picture.
struct SeenFrom {
    Camera camera;
    bool fitted = true;
    std::string name = {};  // of the study's camera; empty: a usual way to look
};

// Of pictures.
struct PictureWishes {
    SeenFrom seen;
    double width = 0, height = 0;  // pixels
    double dots_an_inch = 150;     // of pictures to scale
    std::string ground;            // "shadow": nothing but the shadow on it; "plain"; "none"
    bool clay = false;             // all of one dull material
    std::string lines;  // "shown": as results are shown; "outlined": outlines and creases besides; "none"
    std::optional<Vec3> sun = {};  // towards it, unit; nothing: soft light from behind whoever looks
    double passes = 0;             // samples a pixel
    double turn_pictures = 0, turn_seconds = 0;  // of a turn around the form; 0 pictures: a still
};

// Of films, which look as pictures do; a camera that is kept goes along its keys.
struct FilmWishes {
    std::optional<std::pair<double, double>> part = {};  // from and until, seconds; nothing: all of the time
    double turn_rad = 0;                                 // that the camera goes around meanwhile
};

// How the file is written; what a format does not ask for does not count.
struct DeliveryWishes {
    LengthUnit unit = LengthUnit::metre;
    std::string layers_by;       // a number whose values are layers or storeys
    std::string rows, group_by;  // of tables, and schedules on drawings
    double scale = 0;            // 50 for 1:50; 0: so that it fits, or as the camera has it
    bool for_print = false;      // bodies that cannot be printed are refused
    bool exact = false;          // curved parts as they are where facets are usual
    // How far facets and lines may be off what is curved, study lengths; 0: as far as it still looks smooth.
    double within = 0;
    // Of drawings: names of views (sheet_names.hpp), where there are any; the key of the paper; whether what
    // is hidden is drawn in dashes; what stands in the title block.
    std::vector<std::string> views = {};
    std::string paper = {};
    bool dashed = false;
    std::string title = {};
    std::optional<Vec3> cut = {};         // where sections cut; nothing: through the middle
    double contour_step = 0;              // study lengths; 0: none
    std::vector<SheetPlace> placed = {};  // what does not stand in rows
    std::optional<MillingWishes> milling = {};
    std::optional<CuttingWishes> cutting = {};
    std::optional<PictureWishes> picture = {};
    std::optional<FilmWishes> film = {};  // beside its picture
};

struct DeliveryContent {
    std::vector<GivenResult> results;  // at least one
    std::string ending;                // of the file, which says its format: ".ifc"
    std::string file;                  // its name without ending, with placeholders
    DeliveryWishes wishes;
};

// "3 results as IFC", for lists and outlines.
std::string outline_text(const DeliveryContent& delivery);

}  // namespace plume
