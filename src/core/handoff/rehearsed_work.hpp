#pragma once
// A file for a machine, rehearsed: what comes of it, and how it runs, whatever machine it is for.

#include <filesystem>
#include <memory>

#include "core/data/delivery.hpp"
#include "core/handoff/colour_meaning.hpp"
#include "core/milling/rehearsal.hpp"
#include "core/picture/drawable.hpp"

namespace plume {

struct RehearsedFigure {
    std::string name;  // "cutting_mm"
    double value = 0;
};

// What is drawn of it, in metres.
using RehearsedDrawing = std::vector<std::shared_ptr<const Drawable>>;

class RehearsedWork {
public:
    virtual ~RehearsedWork() = default;

    virtual std::string summary() const = 0;
    // A line each; places that want looking at; what there is to know about the file itself.
    virtual std::vector<std::string> details() const = 0;
    virtual std::vector<std::string> places() const { return {}; }
    virtual std::vector<std::string> remarks() const = 0;
    virtual std::vector<RehearsedFigure> figures() const = 0;

    // Played: minutes in all and now, and the line of the file that runs then, 0 at the end.
    virtual double minutes() const = 0;
    virtual double now() const = 0;
    virtual std::uint32_t line() const = 0;
    virtual void go_to(double minutes) = 0;
    // As it is now, quick enough to be played.
    virtual RehearsedDrawing drawn() const = 0;
    // As it stands at a minute, with what would be too much to be played; nothing where that is no more. May
    // be called beside the others, from one thread at a time. Errors: cancelled.
    virtual Result<RehearsedDrawing> drawn_finely(double /*minutes*/, const Run& /*run*/) {
        return RehearsedDrawing();
    }
    virtual std::vector<ColourMeaning> colours() const = 0;
    // What lies flat is looked at from above.
    virtual bool is_flat() const = 0;
};
using RehearsedWorkPointer = std::shared_ptr<RehearsedWork>;

// Whether what a sentence gives is for a machine.
bool is_rehearsed(const DeliveryContent& delivery);

// What the sentence writes, or a file from elsewhere in its place. Errors: those of making and of reading it;
// cancelled.
Result<RehearsedWorkPointer> rehearsed_work(const DeliveryContent& delivery, const Units& units,
                                            const std::filesystem::path& file, const Run& run);

// A milling file without a form to be compared with.
Result<RehearsedWorkPointer> rehearsed_milling(const std::filesystem::path& file, const RehearsalJob& job,
                                               const Run& run);

}  // namespace plume
