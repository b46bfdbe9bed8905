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
    // A camera with keys that is looked by goes with the moment, until the view is turned by hand.
    void follow_moment();

private:
    void look_by(const KeptCamera& kept);
    void keep();
    void rename(const std::string& camera);

    Document& document_;
    OrbitView& view_;
    QWidget* button_ = nullptr;
    std::string last_;             // that was looked from
    std::optional<Camera> looks_;  // how it was turned then
};

}  // namespace plume::app
