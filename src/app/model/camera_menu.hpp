#pragma once
// The cameras that a study keeps: looking from one, keeping the view as one, putting one elsewhere.

#include "app/document/document.hpp"

class QWidget;

namespace plume::app {

class OrbitView;

class CameraMenu {
public:
    CameraMenu(Document& document, OrbitView& view) : document_(document), view_(view) {}

    void open_from(QWidget* button) { button_ = button; }
    void open();

private:
    void keep();
    void rename(const std::string& camera);

    Document& document_;
    OrbitView& view_;
    QWidget* button_ = nullptr;
    std::string last_;  // that was looked from
};

}  // namespace plume::app
