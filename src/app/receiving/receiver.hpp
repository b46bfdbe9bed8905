#pragma once
// The stand-in for whoever receives building models, for the window: one folder and the model that takes its
// files in. What takes time happens on a thread of its own, one thing after the other.

#include <QObject>
#include <QThread>
#include <functional>
#include <memory>

#include "core/receiving/arrival.hpp"
#include "core/receiving/received_picture.hpp"

namespace plume::app {

class Receiver : public QObject {
    Q_OBJECT

public:
    // What is known of the model; never changed once it is there.
    struct State {
        Received here;
        Arrival arrival;
        ReceivedPicture picture;
        std::vector<std::string> doubts;
    };
    using StatePointer = std::shared_ptr<const State>;

    explicit Receiver(QObject* parent = nullptr) : QObject(parent) {}
    ~Receiver() override;

    // Another folder: what was known is forgotten.
    void open(const std::filesystem::path& folder);
    const std::filesystem::path& folder() const { return folder_; }
    // nullptr while nothing is known.
    const StatePointer& state() const { return state_; }
    // Why the last thing could not be done.
    const std::optional<Error>& error() const { return error_; }

    bool busy() const { return thread_ != nullptr; }
    double fraction() const { return run_.fraction(); }
    void cancel() { run_.cancel(); }

    // Files may have been changed meanwhile.
    void look();
    void take_in();
    void lock(const std::string& identity, bool locked);
    void remove(const std::string& identity);
    void place_deleted_again();
    void read_as(std::optional<LengthUnit> unit);
    void add_others(const std::filesystem::path& file);

Q_SIGNALS:
    void changed();

private:
    using Change = std::function<Result<Received>(const Received& here, const Run& run)>;
    void start(Change change);
    static Result<StatePointer> done(const std::filesystem::path& folder, const StatePointer& before,
                                     const Change& change, const Run& run);
    void take(const std::filesystem::path& folder, const Result<StatePointer>& made);

    std::filesystem::path folder_;
    StatePointer state_;
    std::optional<Error> error_;
    std::unique_ptr<QThread> thread_;
    bool look_again_ = false;
    Run run_;
};

}  // namespace plume::app
