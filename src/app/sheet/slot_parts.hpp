#pragma once
// The live part of each type of slot. Which one a slot gets follows from its type alone; no step has its own.

#include <QImage>

#include "app/parts/scrubbing.hpp"
#include "app/sheet/live_part.hpp"

class QMenu;

namespace plume::app {

// What every slot part knows: which slot of which step of which document.
struct SlotAccess {
    Document* document = nullptr;
    ItemId step = 0;
    const SlotSpec* slot = nullptr;

    const Step* current() const { return document->study().step(step); }
    SlotValue value() const;
    void set(SlotValue value, const std::string& stroke = {}) const;
};

class SlotPart : public LivePart {
    Q_OBJECT

public:
    SlotPart(Style style, SlotAccess access, QWidget* parent);
    const SlotSpec& slot() const { return *access_.slot; }
    // Opens the part of the sentence after this one, or before it; at the sentence's end the focus goes on.
    void open_beside(bool next);
    // Takes text and accessible name from the study.
    virtual void refresh();

protected:
    bool event(QEvent* event) override;
    // How it is changed with the mouse and the keyboard, for its tip.
    virtual QString how() const { return tr("Click to change it."); }

    SlotAccess access_;
};

SlotPart* make_slot_part(const SlotAccess& access, QWidget* parent);

// A number: scrubs, is typed into, can be made a control. While it holds just a control's name it changes
// that.
class NumberPart : public SlotPart {
    Q_OBJECT

public:
    NumberPart(SlotAccess access, QWidget* parent);
    void open() override;
    // Goes on with a drag that began on what it stands in for, in pixels of the screen; till the button is
    // up.
    void take_drag(QPointF pressed_at);

protected:
    QString how() const override;
    void mousePressEvent(QMouseEvent* event) override {
        scrubbing_.press(*event);
        setFocus(Qt::MouseFocusReason);
    }
    void mouseMoveEvent(QMouseEvent* event) override { scrubbing_.move(*event); }
    void mouseReleaseEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void contextMenuEvent(QContextMenuEvent* event) override;

private:
    std::string number_text() const;
    const Control* named_control() const;
    void scrub(double ticks, ScrubPace pace);
    void step(int direction, ScrubPace pace);
    void type(const QString& first);
    void make_control();

    Scrubbing scrubbing_;
    std::string start_text_;
    double start_value_ = 0;
};

class ChoicePart : public SlotPart {
    Q_OBJECT

public:
    ChoicePart(SlotAccess access, QWidget* parent) : SlotPart(Style::word, access, parent) {}
    void open() override;

protected:
    void keyPressEvent(QKeyEvent* event) override;

private:
    void show_offers(QMenu& menu);
};

class ReferencePart : public SlotPart {
    Q_OBJECT

public:
    ReferencePart(SlotAccess access, QWidget* parent) : SlotPart(Style::result, access, parent) {}
    void open() override;

private:
    void offer_handles(QMenu& menu);
    void offer_needed(QMenu& menu);
    void read_from(const std::vector<Step>& above);
};

// A name of the step's own, as of a loop or a file that is written: typed in place.
class NamePart : public SlotPart {
    Q_OBJECT

public:
    NamePart(SlotAccess access, QWidget* parent) : SlotPart(Style::word, access, parent) {}
    void open() override;
};

// Stands for a formula or a script below the sentence; opening it is up to whoever holds both.
class TextBelowPart : public SlotPart {
    Q_OBJECT

public:
    TextBelowPart(SlotAccess access, QWidget* parent) : SlotPart(Style::number, access, parent) {}
    void open() override { Q_EMIT open_wanted(); }

Q_SIGNALS:
    void open_wanted();
};

// Lines of the step's own language, or addresses: opens a pop-up.
class TextPart : public SlotPart {
    Q_OBJECT

public:
    TextPart(SlotAccess access, QWidget* parent) : SlotPart(Style::word, access, parent) {}
    void open() override;
};

// Steps that stand as one: opens what is inside.
class GroupPart : public SlotPart {
    Q_OBJECT

public:
    GroupPart(SlotAccess access, QWidget* parent) : SlotPart(Style::word, access, parent) {}
    void open() override;
};

// Names picked out of what a file has.
class PicksPart : public SlotPart {
    Q_OBJECT

public:
    PicksPart(SlotAccess access, QWidget* parent) : SlotPart(Style::word, access, parent) {}
    void open() override;
};

// Results that are handed off together: opens a pop-up.
class ResultsPart : public SlotPart {
    Q_OBJECT

public:
    ResultsPart(SlotAccess access, QWidget* parent) : SlotPart(Style::result, access, parent) {}
    void open() override;
};

// A linked file; of a picture a thumbnail stands before its name, with what is sampled outlined.
class FilePart : public SlotPart {
    Q_OBJECT

public:
    FilePart(SlotAccess access, QWidget* parent) : SlotPart(Style::word, access, parent) {}
    void open() override;
    void refresh() override;

protected:
    int sign_width() const override { return thumbnail_.isNull() ? 0 : 34; }
    void paint_sign(QPainter& painter, const QRectF& room) override;
    bool event(QEvent* event) override;

private:
    QImage thumbnail_;
    QRectF sampled_;  // in shares of the picture, from the top
};

// A response: its curve stands before its word.
class ResponsePart : public SlotPart {
    Q_OBJECT

public:
    ResponsePart(SlotAccess access, QWidget* parent) : SlotPart(Style::word, access, parent) {}
    void open() override;

protected:
    int sign_width() const override { return 32; }
    void paint_sign(QPainter& painter, const QRectF& room) override;
};

class PlacesPart : public SlotPart {
    Q_OBJECT

public:
    PlacesPart(SlotAccess access, QWidget* parent) : SlotPart(Style::word, access, parent) {}
    void open() override;
};

}  // namespace plume::app
