#pragma once
// Rehearses what a sentence mills, or a milling file from elsewhere against the sentence's form, on a thread
// of its own.

#include <filesystem>

#include "app/parts/latest_work.hpp"
#include "core/handoff/milled_delivery.hpp"
#include "core/milling/playback.hpp"

namespace plume::app {

class Rehearser : public QObject {
    Q_OBJECT

public:
    struct State {
        FormInBoard form;
        Rehearsal rehearsal;
        std::string overhangs;             // a sentence, or nothing
        std::vector<std::string> remarks;  // of the file
        // For playing: fewer cells, with the form's heights over them.
        Playback playback;
        FormHeights played_form;
    };

    explicit Rehearser(QObject* parent = nullptr);

    // What a sentence gives in a state that the key names; nullptr: nothing.
    void make(const Delivery& delivery, const Hash& key, const Units& units);
    // Instead of what the sentence would write; empty: that again.
    void rehearse_file(const std::filesystem::path& file);
    const std::filesystem::path& file() const { return file_; }

    // nullptr while there is none; while another one is made the one before. It is played with.
    const std::shared_ptr<State>& state() const { return state_; }
    const std::optional<Error>& error() const { return error_; }
    bool busy() const { return work_.busy(); }
    double fraction() const { return work_.fraction(); }
    void cancel() { work_.cancel(); }

Q_SIGNALS:
    void changed();

private:
    struct Made {
        std::shared_ptr<State> state;
        std::optional<Error> error;
    };
    void start();
    LatestWork<Made>::Work next() const;
    void take(const Made& made, bool more);

    Delivery delivery_;
    Hash key_;
    Units units_;
    std::filesystem::path file_;
    std::shared_ptr<State> state_;
    std::optional<Error> error_;
    LatestWork<Made> work_;
};

}  // namespace plume::app
