#pragma once
// The response of a step, drawn: knots dragged in a graph, with the numbers that come in spread below it and
// those that go out beside it.

#include "app/parts/popup.hpp"
#include "app/sheet/slot_parts.hpp"
#include "core/geometry/numbers/response.hpp"

class QLineEdit;
class QToolButton;

namespace plume::app {

class ResponseGraph : public QWidget {
    Q_OBJECT

public:
    ResponseGraph(SlotAccess access, QWidget* parent);
    void refresh();
    int chosen() const { return chosen_; }
    void choose(int knot);
    const std::vector<ResponseKnot>& knots() const { return knots_; }
    bool drawn() const { return drawn_; }
    const ResponseNumbers* numbers() const;
    // What a word would be in this step.
    Result<Shaping> shape(const std::string& word) const;
    // Puts the chosen knot there, as far as its neighbours let it.
    void move_chosen(double at, double answer, const std::string& stroke);
    void toggle_straight();
    void remove_chosen();
    // Where a share and an answer stand in this widget.
    QPointF place_of(double at, double answer) const;

Q_SIGNALS:
    void chosen_changed();

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

private:
    QRectF field() const;
    int knot_at(QPointF cursor) const;
    void keep(const std::string& stroke);
    void paint_spread(QPainter& painter) const;
    void paint_axes(QPainter& painter) const;

    SlotAccess access_;
    Shaping shaping_{Response::straight};
    std::vector<ResponseKnot> knots_;
    bool drawn_ = false, dragging_ = false;
    int chosen_ = -1;
};

class ResponseEditor : public Popup {
    Q_OBJECT

public:
    ResponseEditor(SlotAccess access, QWidget* near);
    ~ResponseEditor() override;

private:
    void build_words(QWidget* row);
    void show_word(QToolButton& button, const std::string& now);
    void refresh();
    void type_numbers();

    SlotAccess access_;
    ResponseGraph* graph_;
    QLineEdit *at_, *answer_;
    QToolButton *straight_, *remove_;
    std::vector<QToolButton*> words_;
};

void open_response_editor(const SlotAccess& access, QWidget* near);

}  // namespace plume::app
