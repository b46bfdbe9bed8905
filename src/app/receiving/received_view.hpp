#pragma once
// A received model as it is seen: parts in the colours they arrived in; those in hand stand out.

#include "app/model/orbit_view.hpp"
#include "app/receiving/receiver.hpp"

namespace plume::app {

class ReceivedView : public OrbitView {
    Q_OBJECT

public:
    explicit ReceivedView(QWidget* parent);

    // Another state; of another folder it is seen whole.
    void show_state(const Receiver::StatePointer& state);
    // Places in the model's parts.
    void show_in_hand(const std::vector<std::size_t>& parts);

Q_SIGNALS:
    void part_clicked(std::size_t part);

protected:
    void paint_over(QPainter& painter) override;
    Units units() const override { return {}; }
    void hover_at(QPointF cursor) override;
    void clicked() override;
    void leaveEvent(QEvent* event) override;

private:
    std::optional<std::size_t> part_at(QPointF cursor) const;

    Receiver::StatePointer state_;
    std::vector<Received::Part> parts_;
    std::optional<std::size_t> hovered_;
};

// What is told first of a part: class, material, storey; its figures.
QStringList lines_about(const Received::Part& part);

}  // namespace plume::app
