#pragma once
// What was done, the last at the top, each with a picture of the form; a click goes there.

#include "app/parts/popup.hpp"
#include "app/window/history_pictures.hpp"

class QListWidget;

namespace plume::app {

class HistoryPopup : public Popup {
    Q_OBJECT

public:
    HistoryPopup(Document& document, const HistoryPictures& pictures, QWidget* near);

private:
    void fill();
    void show_where();

    Document& document_;
    const HistoryPictures& pictures_;
    QListWidget* list_;
};

}  // namespace plume::app
