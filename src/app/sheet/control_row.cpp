#include "app/sheet/control_row.hpp"

#include <QAbstractButton>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QMessageBox>
#include <QPainter>
#include <QPushButton>

#include "app/document/moment_edits.hpp"
#include "app/parts/form_popup.hpp"
#include "app/parts/track_slider.hpp"
#include "app/sheet/inline_editor.hpp"
#include "app/theme/look.hpp"
#include "core/base/numbers.hpp"
#include "core/formula/expression.hpp"
#include "core/study/edits/chosen_keys.hpp"
#include "core/study/moving.hpp"
#include "core/study/study_scope.hpp"

namespace plume::app {
namespace {

// "2.5", "250 cm" or an expression, in the control's own unit.
Result<double> typed_value(const Document& document, const Control& control, const QString& typed) {
    const Scope bare{document.study().units, {}, {}};
    const auto unit = evaluate("1 " + control.unit, bare);
    const std::string text = without_equals(text_of(typed));
    const auto literal = read_literal(text);
    const auto value =
        evaluate_as(unit->dimension, literal && literal->unit.empty() ? text + " " + control.unit : text,
                    scope_of(document.study(), document.playing().seconds()));
    if (!value) return error_at(value.error(), control.name);
    return *value / unit->value;
}

void remove_asking(Document& document, const std::string& name, QWidget* parent) {
    Edited edited = remove_control(document.study(), name, false);
    if (!edited && edited.error().code == ErrorCode::still_read) {
        QMessageBox box(QMessageBox::Question, QObject::tr("Remove"), text_of(sentence(edited.error())),
                        QMessageBox::Cancel, parent);
        QPushButton* remove_button = box.addButton(QObject::tr("&Remove"), QMessageBox::DestructiveRole);
        box.exec();
        if (box.clickedButton() != remove_button) return;
        edited = remove_control(document.study(), name, true);
    }
    document.apply(edited, QObject::tr("remove control"));
}

}  // namespace

namespace {

bool has_key_now(const Document& document, const Control& control) {
    return key_at(control.keys, document.playing().seconds()) != control.keys.end();
}

bool is_key_of_keys(const QKeyEvent& event) {
    return event.key() == Qt::Key_K && !(event.modifiers() & ~Qt::KeypadModifier);
}

// Sets a key at the moment that is looked at, or takes away the one that is there.
void toggle_key(Document& document, const std::string& name) {
    const Control* control = document.study().control(name);
    if (!control) return;
    document.playing().pause();
    document.playing().take_in_hand({keyed_control(name)});
    const double now = document.playing().seconds();
    if (has_key_now(document, *control))
        document.apply(remove_keys(document.study(), {{keyed_control(name), {now}}}),
                       QObject::tr("removal of a key"));
    else
        document.playing().key_in_hand();
}

}  // namespace

class ControlName : public LivePart {
public:
    ControlName(Document& document, QWidget* parent) : LivePart(Style::word, parent), document_(document) {
        setToolTip(tr("Name, range, step and unit of this control"));
    }
    std::string name;
    void open() override { open_control_form(document_, name, this); }

private:
    Document& document_;
};

class ControlValue : public LivePart {
public:
    ControlValue(Document& document, QWidget* parent) : LivePart(Style::number, parent), document_(document) {
        setToolTip(tr("Drag sideways to change (Shift fine, Ctrl coarse), click to type"));
        scrubbing_.began = [this] { start_ = control() ? value_now(document_, *control()) : 0; };
        scrubbing_.moved = [this](double ticks, ScrubPace pace) {
            if (control())
                set_control_now(document_, name, scrubbed_value(*control(), start_, ticks, pace),
                                "control " + name);
        };
        scrubbing_.stepped = [this](int direction, ScrubPace pace) {
            if (control())
                set_control_now(
                    document_, name,
                    scrubbed_value(*control(), value_now(document_, *control()), direction, pace));
        };
        scrubbing_.ended = [this] { document_.end_stroke(); };
        scrubbing_.clicked = [this] { open(); };
    }
    std::string name;
    void open() override {
        InlineEditor::open(this, text(), tr("Value of %1").arg(text_of(name)),
                           [&document = document_, name = name](const QString& typed) {
                               const Control* now = document.study().control(name);
                               if (!now) return;
                               const auto value = typed_value(document, *now, typed);
                               if (value)
                                   set_control_now(document, name, *value);
                               else
                                   document.show_message(text_of(sentence(value.error())));
                           });
    }

protected:
    void mousePressEvent(QMouseEvent* event) override {
        scrubbing_.press(*event);
        setFocus(Qt::MouseFocusReason);
    }
    void mouseMoveEvent(QMouseEvent* event) override { scrubbing_.move(*event); }
    void mouseReleaseEvent(QMouseEvent* event) override { scrubbing_.release(*event); }
    void keyPressEvent(QKeyEvent* event) override {
        if (is_key_of_keys(*event)) return toggle_key(document_, name);
        if (!scrubbing_.key(*event)) LivePart::keyPressEvent(event);
    }
    void focusInEvent(QFocusEvent* event) override {
        document_.playing().take_in_hand({keyed_control(name)});
        LivePart::focusInEvent(event);
    }

private:
    const Control* control() const { return document_.study().control(name); }
    Document& document_;
    Scrubbing scrubbing_;
    double start_ = 0;
};

class ControlSlider : public TrackSlider {
public:
    ControlSlider(Document& document, QWidget* parent) : TrackSlider(parent), document_(document) {
        share = [this]() -> std::optional<double> {
            const Control* control = document_.study().control(name);
            return control ? std::optional(share_of_value(*control, value_now(document_, *control)))
                           : std::nullopt;
        };
        moved = [this](double to) {
            if (const Control* control = document_.study().control(name))
                set_control_now(document_, name, value_at_share(*control, to), "slide " + name);
        };
        ended = [this] { document_.end_stroke(); };
        stepped = [this](int direction, ScrubPace pace) {
            if (const Control* control = document_.study().control(name))
                set_control_now(document_, name,
                                scrubbed_value(*control, value_now(document_, *control), direction, pace));
        };
    }
    std::string name;

protected:
    void keyPressEvent(QKeyEvent* event) override {
        if (is_key_of_keys(*event)) return toggle_key(document_, name);
        TrackSlider::keyPressEvent(event);
    }
    void focusInEvent(QFocusEvent* event) override {
        document_.playing().take_in_hand({keyed_control(name)});
        TrackSlider::focusInEvent(event);
    }

private:
    Document& document_;
};

// Whether the control has a key at the moment that is looked at: a disc where it has one, a ring where it has
// some elsewhere. Pressing it sets one, or takes it away.
class ControlKeyMark : public QAbstractButton {
public:
    ControlKeyMark(Document& document, QWidget* parent) : QAbstractButton(parent), document_(document) {
        setObjectName("control-key");
        setFixedSize(20, 22);
        setCursor(Qt::PointingHandCursor);
        connect(this, &QAbstractButton::clicked, this, [this] { toggle_key(document_, name); });
    }
    std::string name;

    void refresh() {
        const Control* control = document_.study().control(name);
        keyed_ = control && !control->keys.empty();
        key_here_ = control && has_key_now(document_, *control);
        setVisible(keyed_ || document_.playing().shown());
        const QString now = QString::number(document_.playing().seconds(), 'f', 2);
        setToolTip(key_here_ ? tr("Removes the key of %1 at %2 s (K)").arg(text_of(name), now)
                             : tr("Sets a key of %1 at %2 s (K)").arg(text_of(name), now));
        setAccessibleName(toolTip());
        update();
    }

protected:
    void paintEvent(QPaintEvent* /*event*/) override {
        QPainter painter(this);
        painter.setRenderHint(QPainter::Antialiasing);
        const bool lively = underMouse() || hasFocus();
        painter.setPen(QPen(keyed_ || lively ? look().accent : look().second_ink, 1.5));
        painter.setBrush(key_here_ ? QBrush(look().accent) : QBrush(Qt::NoBrush));
        const double radius = lively ? 5 : 4;
        painter.drawEllipse(QPointF(width() / 2.0, height() / 2.0), radius, radius);
    }
    void enterEvent(QEnterEvent* /*event*/) override { update(); }
    void leaveEvent(QEvent* /*event*/) override { update(); }

private:
    Document& document_;
    bool keyed_ = false, key_here_ = false;
};

ControlRow::ControlRow(Document& document, std::string name, QWidget* parent)
    : QWidget(parent), document_(document) {
    setObjectName("control-row");
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(margin_width - 2, 0, 14, 0);
    row->setSpacing(8);
    label_ = new ControlName(document, this);
    auto* label_spot = new QWidget;
    label_spot->setFixedWidth(112);
    auto* label_row = new QHBoxLayout(label_spot);
    label_row->setContentsMargins(0, 0, 0, 0);
    label_row->addWidget(label_);
    label_row->addStretch();
    value_ = new ControlValue(document, this);
    value_->setObjectName("control-value");
    slider_ = new ControlSlider(document, this);
    slider_->setObjectName("control-slider");
    auto* value_site = new QWidget;
    value_site->setFixedWidth(84);
    auto* value_row = new QHBoxLayout(value_site);
    value_row->setContentsMargins(0, 0, 0, 0);
    value_row->addStretch();
    value_row->addWidget(value_);
    row->addWidget(label_spot);
    row->addWidget(value_site);
    row->addWidget(slider_, 1);
    key_ = new ControlKeyMark(document, this);
    row->addWidget(key_);
    connect(&document.playing(), &Playing::moment_changed, this, [this] {
        // What has no keys stays as it is, and there may be many.
        const Control* control = document_.study().control(name_);
        if (control && !control->keys.empty()) refresh();
    });
    connect(&document.playing(), &Playing::playing_changed, this, &ControlRow::refresh);
    set_name(std::move(name));
}

void ControlRow::set_name(std::string name) {
    name_ = name;
    label_->name = value_->name = slider_->name = key_->name = std::move(name);
    refresh();
}

void ControlRow::refresh() {
    const Control* control = document_.study().control(name_);
    if (!control) return;
    const QString title = text_of(name_);
    label_->set_text(title);
    label_->setFixedSize(label_->sizeHint().boundedTo(QSize(112, 22)));
    label_->setAccessibleName(tr("Control %1").arg(title));
    label_->setToolTip((control->note.empty() ? QString() : text_of(control->note) + "\n") +
                       tr("Click for name, range, step and unit"));
    const QString value = text_of(literal_text({value_now(document_, *control), control->unit}, 6));
    value_->set_text(value);
    value_->setAccessibleName(tr("%1: %2").arg(title, value));
    value_->setFixedSize(value_->sizeHint());
    slider_->setAccessibleName(tr("Slider of %1").arg(title));
    slider_->setToolTip(tr("%1 … %2 %3")
                            .arg(text_of(short_text(control->least)), text_of(short_text(control->most)),
                                 text_of(control->unit)));
    slider_->update();
    key_->refresh();
}

void open_control_form(Document& document, const std::string& name, QWidget* near) {
    const Control* old = document.study().control(name);
    const Control start = old ? *old : proposed_control(free_name(document.study(), "control"), 1, "", false);
    const double seconds = document.playing().seconds(), value_then = value_at(start, seconds);
    auto* form =
        new FormPopup(near, old ? QObject::tr("Control %1").arg(text_of(name)) : QObject::tr("New control"));
    const auto number = [](double value) { return text_of(short_text(value, 10)); };
    QLineEdit* title = form->add_line(QObject::tr("Name"), text_of(start.name));
    QLineEdit* value = form->add_line(QObject::tr("Value"), number(value_then));
    QLineEdit* least = form->add_line(QObject::tr("From"), number(start.least));
    QLineEdit* most = form->add_line(QObject::tr("To"), number(start.most));
    QLineEdit* step = form->add_line(QObject::tr("Step"), number(start.step), QObject::tr("0 for none"));
    QLineEdit* unit = form->add_line(QObject::tr("Unit"), text_of(start.unit),
                                     QObject::tr("m, cm, mm, ft, in, °, rad, kN, kN/m or none"));
    QLineEdit* note = form->add_line(QObject::tr("Note"), text_of(start.note));
    if (old)
        form->add_action(QObject::tr("Remove"),
                         [&document, name, near] { remove_asking(document, name, near->window()); });
    form->open(old ? QObject::tr("Set control") : QObject::tr("Add control"), [=, &document]() -> QString {
        Control control = start;
        control.name = text_of(title->text().trimmed());
        control.unit = text_of(unit->text().trimmed());
        control.note = text_of(note->text());
        const std::pair<QLineEdit*, double*> numbers[] = {
            {value, &control.value}, {least, &control.least}, {most, &control.most}, {step, &control.step}};
        for (const auto& [line, target] : numbers) {
            const auto read = read_number(text_of(line->text().trimmed()));
            if (!read)
                return QObject::tr("‘%1’ is not a number. Type one for “%2”, without a unit.")
                    .arg(line->text(), line->accessibleName());
            *target = *read;
        }
        if (!control.keys.empty()) {
            if (value->text() != number(value_then)) put_key(control.keys, {seconds, control.value});
            control.value = start.value;
        }
        const Edited edited =
            old ? set_control(document.study(), name, control) : add_control(document.study(), control);
        if (!edited) return text_of(sentence(edited.error()));
        document.apply(edited, old ? QObject::tr("change of control") : QObject::tr("new control"));
        return {};
    });
}

}  // namespace plume::app
