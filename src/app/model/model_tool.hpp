#pragma once
// A tool takes the mouse and keys of the model for a while: drawing an outline, picking points. The view goes
// on turning and moving with the right button and the wheel.

#include <QKeyEvent>
#include <QMouseEvent>
#include <QObject>
#include <QPainter>

#include "app/document/document.hpp"

namespace plume::app {

class ModelView;

class ModelTool : public QObject {
    Q_OBJECT

public:
    ModelTool(Document& document, ModelView& view, ItemId step, std::string slot);

    virtual void press(QPointF cursor, Qt::KeyboardModifiers modifiers) = 0;
    virtual void hover(QPointF /*cursor*/, Qt::KeyboardModifiers /*modifiers*/) {}
    // False when the key means nothing to the tool. Return and Escape are the view's to hand on.
    virtual bool key(QKeyEvent& /*event*/) { return false; }
    virtual void paint(QPainter& /*painter*/) {}
    virtual QString hint() const = 0;
    // Takes over what was done, or gives it up.
    virtual void accept() { Q_EMIT done(); }
    void give_up() { Q_EMIT done(); }

    ItemId step() const { return step_; }

Q_SIGNALS:
    void done();
    void hint_changed();

protected:
    const Step* current() const { return document_.study().step(step_); }
    const SlotSpec* slot_spec() const;

    Document& document_;
    ModelView& view_;
    ItemId step_;
    std::string slot_;
};

}  // namespace plume::app
