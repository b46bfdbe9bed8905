#pragma once
// The commands of `plume`. Each prints to stdout and returns an exit status.

#include <string>
#include <vector>

#include "cli/session.hpp"

namespace plume::cli {

struct RunOptions {
    std::vector<std::string> outputs;  // "result=file", "one,other=file", "*=file"
    std::string unit;                  // of written files; empty: the study's
    bool for_print = false;            // bodies that cannot be printed are refused
    std::string layers_by;             // a number; empty: a layer a result
    std::vector<std::string> classes;  // "result=roof", of .ifc
    bool exact = false;                // curved parts as they are, where there is a choice
    double plan_scale = 0;             // 0: so that it fits a sheet
};
int run_command(const StudyOptions& study, const RunOptions& options);
int inspect_command(const StudyOptions& study, const std::string& result, bool json);
// The line of descent of one part of what grew.
int why_command(const StudyOptions& study, const std::string& result, const std::vector<std::string>& parts,
                bool json);
struct ValuesOptions {
    std::string result, unit, rows, group_by;
    bool json = false;
};
int values_command(const StudyOptions& study, const ValuesOptions& options);
struct PictureOptions {
    std::string file, size = "1280x800", view = "above";
    std::vector<std::string> results;  // empty: what the study shows
    bool parallel = false, transparent = false, plain = false;
    bool clay = false, outlines = false;
    std::string sun;  // empty: soft light
    int samples = 8;  // a pixel
    double density = 1;
    int turn = 0;               // pictures of a turn; 0: a still
    double seconds = 6;         // of a turn
    double scale = 0;           // 50 for 1:50; 0: so that everything fits the size
    double dots_an_inch = 150;  // of a picture to scale
};
struct FilmOptions {
    PictureOptions picture;
    double from = 0;
    double to = -1;     // below 0: the end of the study's time
    double turn = 0;    // degrees
    bool many = false;  // more frames than usual
};
int film_command(const StudyOptions& study, const FilmOptions& options);
int picture_command(const StudyOptions& study, const PictureOptions& options);
struct StepsOptions {
    std::string kind;     // its key, or words that find it; empty: all
    std::string pages;    // a folder for a page of each, as Markdown
    std::string choices;  // a folder for pictures of what can be chosen; of `kind`, or of all
    std::string examples = "resources/examples";  // where the files that examples read are
    bool words = false;                           // those of the trade
    bool json = false;
};
int steps_command(const StepsOptions& options);
struct OwnOptions {
    StudyOptions study;
    std::string keep;   // the result of a step of the study; empty: tells what is kept
    bool over = false;  // even where one of that title is kept
    bool json = false;
};
// Steps that one keeps for every study.
int own_command(const OwnOptions& options);
// What is in a file, by the step named, or by each that reads files of its ending.
int contents_command(const std::string& file, const std::string& step, bool json);
int check_command(const StudyOptions& study, bool json);
struct HandOffOptions {
    std::vector<std::string> only;  // names of sentences; empty: all
    std::string folder;             // instead of the study's own
    bool check = false;             // only say what would be written
    bool over = false;              // even what somebody else changed
    bool json = false;
};
int handoff_command(const StudyOptions& study, const HandOffOptions& options);
struct ReceiveOptions {
    std::string folder;
    std::string by = "material";  // or storey, class
    std::string part;             // only what is known of this one
    bool check = false;           // only say what would become of it
    bool json = false;
    // What happens to such a model, before the files are looked at: parts by their names.
    std::vector<std::string> lock, unlock, remove;
    bool again = false;               // what was deleted is placed again
    std::string reads_as;             // a unit, or "told"; empty: as before
    std::vector<std::string> others;  // files of somebody else's parts
};
// Takes the building models of a folder into the model of a stand-in for whoever receives them.
int receive_command(const ReceiveOptions& options);

struct RehearseOptions {
    std::string file;
    std::string only;                  // the sentence of the study, which has a board, a form and cutters
    std::string board;                 // "600 400 40": width, depth and thickness, mm
    std::vector<std::string> cutters;  // "ball 12", "flat 20", "rounded 12 2": diameters, mm
    bool json = false;
};
// Says what becomes of a board that is milled so. The study has no path where there is none.
int rehearse_command(const StudyOptions& study, const RehearseOptions& options);

}  // namespace plume::cli
