#pragma once
// A sheet as it will be printed. The wheel goes nearer, what stands on the sheet can be moved.

#include <QWidget>

#include "app/handoff/sheet_maker.hpp"

namespace plume::app {

class SheetView : public QWidget {
    Q_OBJECT

public:
    explicit SheetView(SheetMaker& maker, QWidget* parent = nullptr);

    // The whole sheet.
    void fit();
    // Where something stands, in the widget; nothing while it is not on the sheet.
    std::optional<QRectF> place_of(const std::string& item) const;

Q_SIGNALS:
    void moved(const plume::SheetPlace& to);

protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void leaveEvent(QEvent* event) override;
    bool focusNextPrevChild(bool next) override;

private:
    const PlanItem* item(const std::string& name) const;
    const PlanItem* item_at(QPointF place) const;
    double pixels_a_mm() const;
    QPointF on_screen(PaperPlace place) const;
    PaperPlace on_paper(QPointF place) const;
    QRectF frame_of(const PlanItem& item) const;
    // Within the frame of the paper.
    PaperPlace held_on_paper(const PlanItem& item, PaperPlace low) const;
    void move_in_hand(PaperPlace by);
    void ask_for_picture();

    SheetMaker& maker_;
    double nearer_ = 1;  // than fitting
    PaperPlace middle_;  // of the view
    std::string hovered_, in_hand_;
    std::optional<QPointF> pressed_;
    bool dragging_ = false, panning_ = false;
    PaperPlace dragged_to_, middle_before_;
};

}  // namespace plume::app
