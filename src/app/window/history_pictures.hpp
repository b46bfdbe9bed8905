#pragma once
// How the form looked at each state of the history that was looked at for a moment; of many the last ones.

#include <QImage>
#include <QTimer>
#include <deque>
#include <functional>

#include "app/document/document.hpp"

namespace plume::app {

class HistoryPictures : public QObject {
    Q_OBJECT

public:
    // seen: what the model shows now; null where nothing does.
    HistoryPictures(Document& document, std::function<QImage()> seen, QObject* parent);
    // Null where there is none.
    QImage of(const StudyPointer& study) const;

    static constexpr QSize size{72, 48};

private:
    void take();

    Document& document_;
    std::function<QImage()> seen_;
    QTimer rest_;
    struct Picture {
        StudyPointer of;  // the state itself, which the history keeps
        QImage image;
    };
    std::deque<Picture> pictures_;  // in the order they were taken
};

}  // namespace plume::app
