#pragma once
// Draws the picture of a sentence on a thread of its own, and shows it while it gets better.

#include <QImage>
#include <QObject>

#include "app/parts/latest_work.hpp"
#include "core/handoff/pictured_delivery.hpp"

namespace plume::app {

class PictureMaker : public QObject {
    Q_OBJECT

public:
    // A picture as it is so far, in the pixels it is seen with.
    struct State {
        QImage image;
        QSize wished;  // that the file has
        int passes = 0, all_passes = 0;
        double seconds_left = 0;
        std::optional<Error> error;
    };

    explicit PictureMaker(QObject* parent = nullptr);

    // The picture of a state that the key names, as large as there is room for; nullptr: none.
    void make(const Delivery& delivery, const Hash& key, const Units& units, QSize room);
    const State& state() const { return state_; }
    bool busy() const { return work_.busy(); }
    void cancel() { work_.cancel(); }

Q_SIGNALS:
    void changed();

private:
    LatestWork<State>::Work next();
    void take(const State& made, bool more);

    Delivery delivery_;
    Hash key_;
    Units units_;
    QSize room_;
    State state_;
    LatestWork<State> work_;
};

}  // namespace plume::app
