// plume: the studies of Plume Lattice without a window.

#include <CLI/CLI.hpp>

#include <algorithm>

#include "cli/commands.hpp"
#include "cli/output.hpp"
#include "core/exchange/export.hpp"

namespace {

using namespace plume::cli;

void add_study(CLI::App& command, StudyOptions& options) {
    command.add_option("STUDY", options.path, "A .plume file")->required();
    command
        .add_option("--set", options.settings, "Set a control, as in --set swell=2.5 or --set swell=250cm")
        ->type_name("CONTROL=VALUE")
        ->allow_extra_args(false);
    command
        .add_option("--time", options.seconds,
                    "The moment of a study that moves, in seconds; the nearest frame is taken (0)")
        ->type_name("SECONDS")
        ->check(CLI::Range(0.0, plume::longest_time_s));
    command
        .add_option("--budget", options.budget_gigabytes,
                    "Memory a single step may use without being refused, in GB (2)")
        ->type_name("GB")
        ->check(CLI::PositiveNumber);
}

// How pictures are drawn.
void add_drawing(CLI::App& command, PictureOptions& options) {
    command.add_option("--size", options.size, "Pixels (1280x800)")->type_name("WxH");
    command.add_option("--view", options.view, "above, plan, front, side or a camera of the study (above)")
        ->type_name("VIEW");
    command.add_option("--show", options.results, "Draw this result instead of what the study shows")
        ->type_name("RESULT")
        ->allow_extra_args(false);
    command.add_flag("--parallel", options.parallel, "Parallel instead of perspective");
    command
        .add_option("--sun", options.sun,
                    "The sun: 215,35 for its bearing and height, or 54,1,2026-06-21T15:00+01:00 for a place "
                    "and an instant")
        ->type_name("SUN");
    command.add_flag("--clay", options.clay, "All of one pale, dull material");
    command.add_flag("--outlines", options.outlines, "Lines drawn over where something ends");
    command.add_flag("--plain", options.plain, "On a plain as far as the horizon");
    command.add_flag("--transparent", options.transparent, "Nothing behind what is drawn but its shadow")
        ->excludes("--plain");
    command
        .add_option("--density", options.density,
                    "Lines and points so many times as wide: 2 for a picture that is shown half as large (1)")
        ->type_name("N")
        ->check(CLI::Range(0.25, 8.0));
    command.add_option("--samples", options.samples, "Samples a pixel (8)")
        ->type_name("N")
        ->check(CLI::Range(1, 4096));
}

int run_program(int argc, char** argv) {
    CLI::App app{"plume - run, read and draw Plume Lattice studies", "plume"};
    app.require_subcommand(1);
    app.set_version_flag("--version", PLUME_VERSION);
    app.footer(
        "Exit status: 0 done, 1 the study or a file has errors, 2 wrong usage.\n"
        "Example: plume run roof.plume --set swell=2.5 --out canopy=canopy.obj");
    int status = all_done;
    StudyOptions study;

    RunOptions run;
    CLI::App* command = app.add_subcommand("run", "Compute a study and write results to files");
    add_study(*command, study);
    command
        ->add_option("--out", run.outputs,
                     "Write a result, several (ROOF,FRAME=FILE) or all that are shown (*=FILE); the ending "
                     "chooses the format: " +
                         plume::export_endings("or"))
        ->type_name("RESULT=FILE")
        ->allow_extra_args(false);
    command->add_flag("--for-print", run.for_print,
                      "Refuse bodies that cannot be printed, saying where: open, inside out, crossing");
    command
        ->add_option("--layers-by", run.layers_by,
                     "Of drawings: a number whose values are layers of their own (a layer a result)")
        ->type_name("NUMBER");
    command
        ->add_option(
            "--class", run.classes,
            "Of .ifc: what a result is: roof, slab, wall, column, beam, member, plate, covering, railing, "
            "proxy (told from its name)")
        ->type_name("RESULT=CLASS")
        ->allow_extra_args(false);
    command->add_flag(
        "--exact", run.exact,
        "Of .ifc: curved parts as trimmed splines instead of facets; some programs show these coarsely");
    command
        ->add_option("--scale", run.plan_scale,
                     "Of .svg and .pdf: 50 for 1:50 (the first of 1, 2, 5 … that fits a sheet)")
        ->type_name("N")
        ->check(CLI::PositiveNumber);
    command->add_option("--unit", run.unit, "Unit of written files: m, cm, mm, ft, in (the study's)")
        ->type_name("UNIT");
    command->callback([&] { status = run_command(study, run); });

    std::string result;
    bool json = false;
    command =
        app.add_subcommand("inspect", "Say what every result is: kind, arrangement, counts, bounds, ranges");
    add_study(*command, study);
    command->add_option("RESULT", result, "Only this result");
    command->add_flag("--json", json, "For programs; see docs/command-line.md");
    command->callback([&] { status = inspect_command(study, result, json); });

    std::vector<std::string> asked;
    command = app.add_subcommand(
        "why", "Say why parts of a result are as they are: what they were at every step they came through");
    add_study(*command, study);
    command->add_option("RESULT", result, "Any result with parts")->required();
    command
        ->add_option(
            "PART", asked,
            "What is asked about: an address (4,3), a mark (8,5–8,6), a number, a name, or ‘face 12’ "
            "and ‘vertex 7’ of meshes; several are told one after the other")
        ->required();
    command->add_flag("--json", json, "As JSON");
    command->callback([&] { status = why_command(study, result, asked, json); });

    ValuesOptions values;
    command = app.add_subcommand("values", "Print a result as a table: CSV, or JSON");
    add_study(*command, study);
    command->add_option("RESULT", values.result, "Any result")->required();
    command
        ->add_option("--rows", values.rows,
                     "What has a row: members or nodes of frames, parts or faces of meshes, points on curves "
                     "or curves")
        ->type_name("ROWS");
    command
        ->add_option("--group-by", values.group_by,
                     "A row for each value of this column, with totals and means")
        ->type_name("COLUMN");
    command->add_option("--unit", values.unit, "Unit of lengths: m, cm, mm, ft, in (the study's)")
        ->type_name("UNIT");
    command->add_flag("--json", values.json, "As JSON: columns with their units, and rows");
    command->callback([&] { status = values_command(study, values); });

    PictureOptions picture;
    command = app.add_subcommand("picture", "Draw a study as a PNG, without a graphics card");
    add_study(*command, study);
    command->add_option("--out", picture.file, "The PNG to write")->required()->type_name("FILE");
    add_drawing(*command, picture);
    command
        ->add_option("--turn", picture.turn,
                     "A turn around the form in so many pictures, as one PNG that moves")
        ->type_name("N")
        ->check(CLI::Range(2, 360));
    command->add_option("--seconds", picture.seconds, "How long a turn takes (6)")
        ->type_name("N")
        ->check(CLI::Range(0.1, 600.0));
    command
        ->add_option("--scale", picture.scale,
                     "To scale, 50 for 1:50: parallel, as many pixels as it takes instead of --size")
        ->type_name("N")
        ->check(CLI::PositiveNumber);
    command->add_option("--dpi", picture.dots_an_inch, "Pixels an inch of a picture to scale (150)")
        ->type_name("N")
        ->check(CLI::Range(1.0, 2400.0));
    command->callback([&] { status = picture_command(study, picture); });

    FilmOptions film;
    command = app.add_subcommand("film", "Draw a study that moves, frame by frame");
    add_study(*command, study);
    command->remove_option(command->get_option("--time"));  // it has many
    command
        ->add_option(
            "--out", film.picture.file,
            "Where to: a name without an ending for a folder of PNGs, a .png that moves, or a film such "
            "as .mp4, which needs ffmpeg")
        ->required()
        ->type_name("FILE");
    command->add_option("--from", film.from, "The moment it begins at, in seconds (0)")
        ->type_name("SECONDS")
        ->check(CLI::Range(0.0, plume::longest_time_s));
    command->add_option("--to", film.to, "The moment it ends at (the end of the study's time)")
        ->type_name("SECONDS")
        ->check(CLI::Range(0.0, plume::longest_time_s));
    command->add_option("--turn", film.turn, "Degrees that the camera goes around meanwhile (0)")
        ->type_name("DEGREES");
    command->add_flag("--many", film.many, "More than 20 000 frames, too");
    add_drawing(*command, film.picture);
    command->callback([&] { status = film_command(study, film); });

    StepsOptions steps;
    command = app.add_subcommand("steps", "List the kinds of steps, or tell all of one");
    command->add_option("KEY", steps.kind,
                        "One of them: lattice.polar, or words that find it: \"polar lattice\"");
    command->add_option("--choices", steps.choices, "Draw what can be chosen into this folder, as PNG")
        ->type_name("DIR");
    command->add_option("--examples", steps.examples, "Where the files are that examples read, for --choices")
        ->type_name("DIR");
    command->add_flag("--words", steps.words, "Say what words of the trade mean");
    command->add_option("--pages", steps.pages, "Write a page of each into this folder, as Markdown")
        ->type_name("FOLDER")
        ->check(CLI::ExistingDirectory);
    command->add_flag("--json", steps.json, "For programs");
    command->callback([&] { status = steps_command(steps); });

    OwnOptions own;
    command = app.add_subcommand("own", "List the steps that you keep for every study, or keep one more");
    auto* keeping =
        command->add_option("--keep", own.keep, "The result of a script or a group of steps of STUDY")
            ->type_name("RESULT");
    command->add_option("STUDY", own.study.path, "A .plume file")->needs(keeping);
    keeping->needs(command->get_option("STUDY"));
    command->add_flag("--over", own.over, "Replace one of the same title")->needs(keeping);
    command->add_flag("--json", own.json, "As JSON");
    command->callback([&] { status = own_command(own); });

    std::string file, kind;
    command =
        app.add_subcommand("contents", "Say what is in a file that steps read: layers, parts, sizes, units");
    command->add_option("FILE", file, "A mesh, drawing, STEP, grid of heights, cloud of points, table")
        ->required();
    command->add_option("--step", kind, "The kind of step that reads it (all that read files of its ending)")
        ->type_name("KIND");
    command->add_flag("--json", json, "For programs");
    command->callback([&] { status = contents_command(file, kind, json); });

    command = app.add_subcommand("check", "Print every error of a study");
    add_study(*command, study);
    command->add_flag("--json", json, "For programs");
    command->callback([&] { status = check_command(study, json); });

    HandOffOptions handed;
    command = app.add_subcommand("handoff", "Write what the study hands off, as far as it has changed");
    add_study(*command, study);
    command->add_option("--only", handed.only, "Only the sentence of this name (all)")
        ->type_name("NAME")
        ->allow_extra_args(false);
    command->add_option("--to", handed.folder, "Another folder than the study's own")->type_name("FOLDER");
    command->add_flag("--check", handed.check, "Say what is new, changed, as before or gone; write nothing");
    command->add_flag("--over", handed.over, "Replace files even where somebody else changed them");
    command->add_flag("--json", handed.json, "For programs");
    command->callback([&] { status = handoff_command(study, handed); });

    ReceiveOptions received;
    command = app.add_subcommand(
        "receive", "Stand in for whoever receives building models: take a folder's IFC files in, in place");
    command->add_option("FOLDER", received.folder, "The folder that files are handed off into")->required();
    command->add_option("--by", received.by, "Areas and volumes by storey, class or material (material)")
        ->type_name("WHAT")
        ->check(CLI::IsMember({"storey", "class", "material"}));
    command->add_option("--part", received.part, "What arrived of this part, and nothing else")
        ->type_name("NAME");
    command->add_flag("--check", received.check, "Say what would become of the model; change nothing");
    const auto parts = [&](const char* name, std::vector<std::string>& names, const char* help) {
        command->add_option(name, names, help)->type_name("NAME")->allow_extra_args(false);
    };
    parts("--lock", received.lock, "This part is neither replaced nor removed from now on");
    parts("--unlock", received.unlock, "This part is replaced and removed again");
    parts("--delete", received.remove, "Delete this part here, as people do");
    command->add_flag("--again", received.again, "Place again what was deleted here");
    command
        ->add_option(
            "--reads-as", received.reads_as,
            "Take lengths to be in this unit, whatever files say: m, cm, mm, ft, in; told: as they say")
        ->type_name("UNIT");
    command
        ->add_option("--others", received.others,
                     "Put the parts of this IFC file there as somebody else's, which stay")
        ->type_name("FILE")
        ->allow_extra_args(false);
    command->add_flag("--json", received.json, "For programs");
    command->callback([&] { status = receive_command(received); });

    RehearseOptions rehearsed;
    StudyOptions rehearsed_study;
    command = app.add_subcommand("rehearse",
                                 "Say what becomes of a board or sheets when a file for a machine is run");
    command->add_option("FILE", rehearsed.file, "Words of ISO 6983, from wherever")->required();
    command->add_option("--study", rehearsed_study.path, "A study that mills or cuts: with what it is about")
        ->type_name("STUDY");
    command->add_option("--only", rehearsed.only, "Its sentence of this name (the first for a machine)")
        ->type_name("NAME");
    command->add_option("--board", rehearsed.board, "Without a study: its width, depth and thickness in mm")
        ->type_name("\"600 400 40\"");
    command
        ->add_option("--cutter", rehearsed.cutters,
                     "In the order of tools: flat, ball or rounded, diameter and rounding in mm")
        ->type_name("\"ball 12\"")
        ->allow_extra_args(false);
    command->add_flag("--json", rehearsed.json, "For programs");
    command->callback([&] { status = rehearse_command(rehearsed_study, rehearsed); });

    try {
        app.parse(argc, argv);
    } catch (const CLI::ParseError& problem) {
        const int code = app.exit(problem);
        return code == 0 ? all_done : wrong_usage;
    }
    return status;
}

}  // namespace

int main(int argc, char** argv) {
    try {
        const int status = run_program(argc, argv);
        if (interruptible_run().cancelled()) return interrupted;
        return all_was_written() ? status : std::max<int>(status, study_has_errors);
    } catch (const std::exception& problem) {
        warn(std::string("plume: stopped: ") + problem.what());
        return study_has_errors;
    }
}
