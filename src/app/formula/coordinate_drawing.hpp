#pragma once
// A small drawing of a coordinate system: which length and which angles are meant.

#include <QWidget>

namespace plume::app {

class CoordinateDrawing : public QWidget {
public:
    explicit CoordinateDrawing(QWidget* parent);
    // "cartesian", "cylindrical" or "spherical"
    void set_system(const std::string& system);

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    std::string system_;
};

}  // namespace plume::app
