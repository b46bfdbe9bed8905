#pragma once
// How the form looked at each state of the history that was looked at for a moment.

#include <QImage>
#include <QTimer>
#include <functional>
#include <map>

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
    std::map<StudyPointer, QImage> pictures_;  // of the states themselves, which the history keeps
};

}  // namespace plume::app
