#pragma once
// Rehearses what a sentence gives for a machine, or a file from elsewhere in its place, on a thread of its
// own.

#include <filesystem>

#include "app/parts/latest_work.hpp"
#include "core/handoff/rehearsed_work.hpp"

namespace plume::app {

class Rehearser : public QObject {
    Q_OBJECT

public:
    explicit Rehearser(QObject* parent = nullptr);

    // What a sentence gives in a state that the key names; nullptr: nothing.
    void make(const Delivery& delivery, const Hash& key, const Units& units);
    // Instead of what the sentence would write; empty: that again.
    void rehearse_file(const std::filesystem::path& file);
    const std::filesystem::path& file() const { return file_; }

    // nullptr while there is none; while another one is made the one before. It is played with.
    const RehearsedWorkPointer& work() const { return made_; }
    const std::optional<Error>& error() const { return error_; }
    bool busy() const { return work_.busy(); }
    double fraction() const { return work_.fraction(); }
    void cancel() { work_.cancel(); }

Q_SIGNALS:
    void changed();

private:
    struct Made {
        RehearsedWorkPointer work;
        std::optional<Error> error;
    };
    void start();
    LatestWork<Made>::Work next() const;
    void take(const Made& made, bool more);

    Delivery delivery_;
    Hash key_;
    Units units_;
    std::filesystem::path file_;
    RehearsedWorkPointer made_;
    std::optional<Error> error_;
    LatestWork<Made> work_;
};

}  // namespace plume::app
