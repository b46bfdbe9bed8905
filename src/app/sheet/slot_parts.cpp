#include "app/sheet/slot_parts.hpp"

#include <QApplication>
#include <QBuffer>
#include <QContextMenuEvent>
#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QHelpEvent>
#include <QKeyEvent>
#include <QProxyStyle>
#include <QToolTip>

#include "app/document/moment_edits.hpp"
#include "app/parts/form_popup.hpp"
#include "app/parts/image_of.hpp"
#include "app/parts/step_actions.hpp"
#include "app/sheet/choice_picture.hpp"
#include "app/sheet/group_popup.hpp"
#include "app/sheet/inline_editor.hpp"
#include "app/sheet/picks_popup.hpp"
#include "app/sheet/places_editor.hpp"
#include "app/sheet/response_editor.hpp"
#include "app/sheet/response_picture.hpp"
#include "app/sheet/results_popup.hpp"
#include "app/sheet/sentence_widget.hpp"
#include "app/sheet/text_popup.hpp"
#include "app/theme/look.hpp"
#include "app/theme/popup_menu.hpp"
#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/formula/expression.hpp"
#include "core/reference/trade_words.hpp"
#include "core/results/items.hpp"
#include "core/study/needed_steps.hpp"
#include "core/study/offers.hpp"
#include "core/study/response_shape.hpp"
#include "core/study/sentence.hpp"
#include "core/study/slot_help.hpp"

namespace plume::app {
namespace {

// More could not be told apart in the model.
constexpr std::size_t most_handles = 100;

// Menus with pictures as large as what they show needs.
class PictureMenuStyle : public QProxyStyle {
public:
    explicit PictureMenuStyle(QObject* owner) { setParent(owner); }
    int pixelMetric(PixelMetric metric, const QStyleOption* option, const QWidget* widget) const override {
        return metric == PM_SmallIconSize ? choice_picture_size.width()
                                          : QProxyStyle::pixelMetric(metric, option, widget);
    }
};

QString action_text(const Word& word) {
    const QString label = text_of(word.label);
    return word.help.empty() ? label : label + "\t" + text_of(word.help);
}

}  // namespace

SlotValue SlotAccess::value() const {
    return slot_value(*slot, *current());
}

void SlotAccess::set(SlotValue value, const std::string& stroke) const {
    const QString label = QObject::tr("change of %1").arg(text_of(slot->label).toLower());
    document->apply(set_slot(document->study(), step, slot->key, std::move(value)), label, stroke);
}

SlotPart::SlotPart(Style style, SlotAccess access, QWidget* parent)
    : LivePart(style, parent), access_(access) {
    setObjectName(text_of("slot-" + access.slot->key));
}

void SlotPart::open_beside(bool next) {
    const auto* sentence = qobject_cast<SentenceWidget*>(parentWidget());
    SlotPart* beside = sentence ? sentence->beside(*this, next) : nullptr;
    if (!beside) {
        focusNextPrevChild(next);
        return;
    }
    beside->setFocus(next ? Qt::TabFocusReason : Qt::BacktabFocusReason);
    beside->open();
}

void SlotPart::refresh() {
    const Step* step = access_.current();
    if (!step) return;
    const QString text = text_of(slot_text(*access_.slot, *step));
    set_text(text);
    setAccessibleName(tr("%1: %2").arg(text_of(access_.slot->label), text));
    const Shown* shown = access_.document->results().shown(step->id);
    set_wrong(shown && shown->error && shown->state == StepState::failed && shown->error->slot == slot().key);
}

bool SlotPart::event(QEvent* event) {
    const Step* step = event->type() == QEvent::ToolTip ? access_.current() : nullptr;
    if (!step) return LivePart::event(event);
    const SlotTip tip = slot_tip(access_.document->study(), access_.document->catalogue(), *step,
                                 *access_.slot, access_.document->playing().seconds());
    QString html =
        QString("<b>%1</b> · %2").arg(text_of(tip.title).toHtmlEscaped(), text_of(tip.takes).toHtmlEscaped());
    for (const std::string& line : {tip.help, tip.now, tip.follow})
        if (!line.empty()) html += "<br>" + text_of(line).toHtmlEscaped();
    for (const TradeWord* word : trade_words_in(tip.title + ' ' + tip.takes))
        html += QString("<br><i>%1</i>: %2").arg(text_of(word->word), text_of(word->meaning).toHtmlEscaped());
    html += QString("<br><span style='color:%1'>%2 %3</span>")
                .arg(look().second_ink.name(), how(), tr("F2 reads on."));
    QToolTip::showText(static_cast<QHelpEvent*>(event)->globalPos(), html, this);
    return true;
}

SlotPart* make_slot_part(const SlotAccess& access, QWidget* parent) {
    SlotPart* part = nullptr;
    switch (access.slot->type) {
        case SlotType::choice:
        case SlotType::camera:
            part = new ChoicePart(access, parent);
            break;
        case SlotType::reference:
            part = new ReferencePart(access, parent);
            break;
        case SlotType::places:
            part = new PlacesPart(access, parent);
            break;
        case SlotType::results:
            part = new ResultsPart(access, parent);
            break;
        case SlotType::name:
        case SlotType::target:
            part = new NamePart(access, parent);
            break;
        case SlotType::formula:
            part = new TextBelowPart(access, parent);
            break;
        case SlotType::text:
        case SlotType::addresses:
            if (access.slot->script)
                part = new TextBelowPart(access, parent);
            else
                part = new TextPart(access, parent);
            break;
        case SlotType::group:
            part = new GroupPart(access, parent);
            break;
        case SlotType::file:
            part = new FilePart(access, parent);
            break;
        case SlotType::picks:
            part = new PicksPart(access, parent);
            break;
        case SlotType::response:
            part = new ResponsePart(access, parent);
            break;
        case SlotType::count:
        case SlotType::number:
        case SlotType::length:
        case SlotType::angle:
        case SlotType::force:
        case SlotType::quantity:
        case SlotType::seed:
            part = new NumberPart(access, parent);
            break;
    }
    part->refresh();
    return part;
}

// Numbers -------------------------------------------------------------------------------------------------

NumberPart::NumberPart(SlotAccess access, QWidget* parent) : SlotPart(Style::number, access, parent) {
    scrubbing_.began = [this] {
        start_text_ = number_text();
        if (const Control* control = named_control()) start_value_ = value_now(*access_.document, *control);
    };
    scrubbing_.moved = [this](double ticks, ScrubPace pace) { scrub(ticks, pace); };
    scrubbing_.stepped = [this](int direction, ScrubPace pace) { step(direction, pace); };
    scrubbing_.ended = [this] { access_.document->end_stroke(); };
    scrubbing_.clicked = [this] { open(); };
}

void NumberPart::take_drag(QPointF pressed_at) {
    if (!(QApplication::mouseButtons() & Qt::LeftButton)) return;
    setFocus(Qt::MouseFocusReason);
    scrubbing_.take_over(pressed_at);
    grabMouse(cursor());
}

void NumberPart::mouseReleaseEvent(QMouseEvent* event) {
    if (mouseGrabber() == this) releaseMouse();
    scrubbing_.release(*event);
}

std::string NumberPart::number_text() const {
    return std::get<NumberText>(access_.value()).text;
}

const Control* NumberPart::named_control() const {
    return access_.document->study().control(number_text());
}

QString NumberPart::how() const {
    if (!named_control() && !read_literal(number_text())) return tr("An expression: click to change it.");
    const QString how = tr("Drag sideways to change (Shift fine, Ctrl coarse), click to type.");
    return slot().type == SlotType::seed ? how + tr(" N is another throw, P the one before.") : how;
}

void NumberPart::scrub(double ticks, ScrubPace pace) {
    Document& document = *access_.document;
    const std::string stroke = "scrub " + std::to_string(access_.step) + access_.slot->key;
    if (const Control* control = named_control()) {
        const double value = scrubbed_value(*control, start_value_, ticks, pace);
        set_control_now(document, control->name, value, stroke);
    } else if (const auto text =
                   scrubbed_text(*access_.slot, start_text_, ticks, pace, document.study().units)) {
        access_.set(NumberText{*text}, stroke);
    }
}

void NumberPart::step(int direction, ScrubPace pace) {
    Document& document = *access_.document;
    if (const Control* control = named_control()) {
        const double value = scrubbed_value(*control, value_now(document, *control), direction, pace);
        set_control_now(document, control->name, value);
    } else if (const auto text =
                   stepped_text(*access_.slot, number_text(), direction, pace, document.study().units)) {
        access_.set(NumberText{*text});
    }
}

void NumberPart::open() {
    type({});
}

void NumberPart::type(const QString& first) {
    const SlotAccess access = access_;
    InlineEditor* editor =
        InlineEditor::open(this, text(), text_of(slot().label), [access](const QString& typed) {
            if (access.current()) access.set(NumberText{text_of(typed)});
        });
    if (!first.isEmpty()) editor->setText(first);
    connect(editor, &InlineEditor::tabbed, this, &SlotPart::open_beside);
}

void NumberPart::keyPressEvent(QKeyEvent* event) {
    if (scrubbing_.key(*event)) return;
    const bool throws = slot().type == SlotType::seed && event->modifiers() == Qt::NoModifier;
    if (throws && (event->key() == Qt::Key_N || event->key() == Qt::Key_P))
        return throw_numbers(*access_.document, access_.step, event->key() == Qt::Key_N);
    const QString typed = event->text();
    const bool starts_number =
        !typed.isEmpty() && (typed[0].isLetterOrNumber() || QString("-.(=").contains(typed[0]));
    if (starts_number && !(event->modifiers() & (Qt::ControlModifier | Qt::AltModifier))) return type(typed);
    SlotPart::keyPressEvent(event);
}

void NumberPart::contextMenuEvent(QContextMenuEvent* event) {
    QMenu& menu = *new_popup_menu(this);
    if (slot().type == SlotType::seed) {
        menu.addAction(tr("Another &throw\tN"), this,
                       [this] { throw_numbers(*access_.document, access_.step, true); });
        menu.addAction(tr("&Previous throw\tP"), this,
                       [this] { throw_numbers(*access_.document, access_.step, false); });
    }
    menu.addAction(tr("&Type a value…"), this, [this] { open(); });
    QAction* promote_action = menu.addAction(tr("Make it a &control…"), this, [this] { make_control(); });
    promote_action->setEnabled(read_literal(number_text()).has_value());
    menu.addAction(tr("Back to %1").arg(text_of(slot().preset)), this,
                   [this] { access_.set(NumberText{slot().preset}); });
    menu.popup(event->reason() == QContextMenuEvent::Keyboard ? mapToGlobal(rect().bottomLeft())
                                                              : event->globalPos());
}

void NumberPart::make_control() {
    auto* form = new FormPopup(this, tr("A control for %1").arg(text_of(slot().label).toLower()));
    QLineEdit* name = form->add_line(tr("Name"), text_of(free_name(access_.document->study(), slot().key)));
    const SlotAccess access = access_;
    form->open(tr("Make control"), [access, name]() -> QString {
        const Step* step = access.current();
        if (!step) return {};
        const Edited edited = promote(access.document->study(), *access.document->kind_of(*step), step->id,
                                      access.slot->key, text_of(name->text()));
        if (!edited) return text_of(sentence(edited.error()));
        access.document->apply(edited, QObject::tr("new control %1").arg(name->text()));
        return {};
    });
}

// Words ---------------------------------------------------------------------------------------------------

void ChoicePart::open() {
    QMenu& menu = *new_popup_menu(this);
    const std::string chosen = std::get<WordKey>(access_.value()).key;
    const std::vector<QIcon> pictures = choice_pictures_of(access_.current()->kind, slot().key);
    if (!pictures.empty()) menu.setStyle(new PictureMenuStyle(&menu));
    std::size_t number = 0;
    for (const Word& word : words_in(slot(), access_.document->study())) {
        QAction* action =
            menu.addAction(action_text(word), this, [this, key = word.key] { access_.set(WordKey{key}); });
        if (number < pictures.size()) action->setIcon(pictures[number]);
        ++number;
        if (word.key == chosen) menu.setActiveAction(action);
        action->setData(text_of(word.key));
    }
    show_offers(menu);
    menu.popup(mapToGlobal(QPoint(0, height() + 2)));
}

// What each word would come to stands beside it, as soon as it is known.
void ChoicePart::show_offers(QMenu& menu) {
    Document& document = *access_.document;
    if (!has_offers(*document.kind_of(*access_.current()), slot())) return;
    const auto refresh = [this, &menu] {
        const StepOffers* known = access_.document->results().offers(access_.step);
        const auto offers = known ? known->by_slot.find(slot().key) : decltype(known->by_slot.end()){};
        if (!known || offers == known->by_slot.end()) return;
        for (const Offer& offer : offers->second.offers)
            for (QAction* action : menu.actions())
                if (action->data().toString() == text_of(offer.name))
                    action->setText(action->text().section('\t', 0, 0) + '\t' + text_of(offer.note));
    };
    connect(&document.results(), &Results::notes_changed, &menu, refresh);
    connect(&menu, &QObject::destroyed, &document, [&document] { document.attention().set_offers_wish(0); });
    document.attention().set_offers_wish(access_.step);
    refresh();
}

void ChoicePart::keyPressEvent(QKeyEvent* event) {
    if ((event->key() == Qt::Key_Up || event->key() == Qt::Key_Down) &&
        !(event->modifiers() & Qt::AltModifier)) {
        const std::vector<Word> words = words_in(slot(), access_.document->study());
        const auto count = static_cast<int>(words.size());
        int at = 0;
        for (int index = 0; index < count; ++index)
            if (words[static_cast<std::size_t>(index)].key == std::get<WordKey>(access_.value()).key)
                at = index;
        at = qBound(0, at + (event->key() == Qt::Key_Down ? 1 : -1), count - 1);
        return access_.set(WordKey{words[static_cast<std::size_t>(at)].key});
    }
    SlotPart::keyPressEvent(event);
}

// References ----------------------------------------------------------------------------------------------

void ReferencePart::open() {
    const Study& study = access_.document->study();
    QMenu& menu = *new_popup_menu(this);
    for (const std::string& name : results_that_fit(study, access_.document->catalogue(),
                                                    *study.position(access_.step), slot().accepts)) {
        const Shown* shown = access_.document->results().shown(name);
        // A result that turned out to be of another kind does not fit.
        if (shown && shown->value &&
            std::ranges::find(slot().accepts, kind_of(*shown->value)) == slot().accepts.end())
            continue;
        const QString outline =
            shown && shown->value ? "\t" + text_of(outline_text(*shown->value, study.units)) : QString();
        menu.addAction(text_of(name) + outline, this, [this, name] { access_.set(ResultName{name}); });
    }
    if (menu.isEmpty()) {
        QString kinds;
        for (const Kind kind : slot().accepts)
            kinds += (kinds.isEmpty() ? "" : tr(" or ")) + text_of(plain_name(kind));
        menu.addAction(tr("No step above results in %1").arg(kinds))->setEnabled(false);
    }
    offer_handles(menu);
    offer_needed(menu);
    menu.popup(mapToGlobal(QPoint(0, height() + 2)));
}

// Where the points are that it leads, as the first thing that is read has them.
void ReferencePart::offer_handles(QMenu& menu) {
    if (slot().for_each_of.empty()) return;
    const Document& document = *access_.document;
    const Step& step = *access_.current();
    const StepKind& kind = *document.kind_of(step);
    const Shown* thing =
        document.results().shown(std::get<ResultName>(slot_value(*kind.first_reference(), step)).name);
    if (!thing || !thing->value) return;
    const std::string list = std::get<Lines>(slot_value(*kind.slot(slot().for_each_of), step)).text;
    const std::vector<Vec3> places = listed_places(point_items_of(*thing->value), list);
    if (places.empty() || places.size() > most_handles || !std::ranges::all_of(places, is_finite)) return;
    menu.addSeparator();
    menu.addAction(tr("Handles where they are now") + "\t" +
                       tr("%1 to be dragged").arg(text_of(count_text(places.size(), "place", "places"))),
                   this,
                   [this, places] { read_from({handles_at(places, access_.document->study().units)}); });
}

// What would be there to be read.
void ReferencePart::offer_needed(QMenu& menu) {
    const Document& document = *access_.document;
    const std::vector<Step> needed =
        needed_above(document.study(), document.catalogue(), access_.step, slot());
    if (needed.empty()) return;
    QString verbs;
    for (const Step& step : needed)
        verbs += (verbs.isEmpty() ? "" : ", ") + text_of(document.kind_of(step)->verb).toLower();
    menu.addAction(tr("Add above: %1").arg(verbs), this, [this, needed] { read_from(needed); });
}

void ReferencePart::read_from(const std::vector<Step>& above) {
    Document& document = *access_.document;
    document.apply(read_from_above(document.study(), document.catalogue(), above, access_.step, slot().key),
                   tr("steps above"));
}

// Names and formulas --------------------------------------------------------------------------------------

void NamePart::open() {
    const SlotAccess access = access_;
    InlineEditor* editor =
        InlineEditor::open(this, text(), text_of(slot().label), [access](const QString& typed) {
            if (access.current()) access.set(WordKey{text_of(typed)});
        });
    connect(editor, &InlineEditor::tabbed, this, &SlotPart::open_beside);
}

// Texts, files, responses ---------------------------------------------------------------------------------

void ResultsPart::open() {
    open_results_popup(access_, this);
}

void PicksPart::open() {
    open_picks_popup(access_, this);
}

void GroupPart::open() {
    open_group_contents(access_, this);
}

void TextPart::open() {
    open_text_popup(access_, this);
}

void FilePart::open() {
    QStringList patterns;
    for (const std::string& ending : slot().files.endings)
        patterns << "*." + text_of(ending);
    const QString filter = tr("%1 (%2);;All files (*)").arg(text_of(slot().files.name), patterns.join(' '));
    const QString folder =
        access_.document->path().isEmpty() ? QDir::homePath() : QFileInfo(access_.document->path()).path();
    auto* dialog = new QFileDialog(window(), tr("Choose a file"), folder, filter);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->setFileMode(QFileDialog::ExistingFile);
    const SlotAccess access = access_;
    connect(dialog, &QFileDialog::fileSelected, this, [access](const QString& path) {
        if (access.current()) access.set(FileName{access.document->linked_name(path)});
    });
    dialog->open();
}

void FilePart::refresh() {
    const Shown* shown = access_.current() ? access_.document->results().shown(access_.step) : nullptr;
    thumbnail_ = {};
    if (shown && shown->thumbnail) {
        thumbnail_ = image_of(shown->thumbnail->image);
        const PictureArea& area = shown->thumbnail->area;
        sampled_ = QRectF(QPointF(area.left, 1 - area.top), QPointF(area.right, 1 - area.bottom));
    }
    SlotPart::refresh();
    updateGeometry();
    update();
}

void FilePart::paint_sign(QPainter& painter, const QRectF& room) {
    const QSizeF size = QSizeF(thumbnail_.size()).scaled(room.size(), Qt::KeepAspectRatio);
    const QRectF at(QPointF(room.left() + (room.width() - size.width()) / 2,
                            room.top() + (room.height() - size.height()) / 2),
                    size);
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    painter.drawImage(at, thumbnail_);
    painter.setPen(QPen(look().attention, 1));
    painter.setBrush(Qt::NoBrush);
    painter.drawRect(QRectF(at.left() + sampled_.left() * at.width(), at.top() + sampled_.top() * at.height(),
                            sampled_.width() * at.width() - 1, sampled_.height() * at.height() - 1));
}

bool FilePart::event(QEvent* event) {
    if (event->type() == QEvent::ToolTip && !thumbnail_.isNull()) {
        QImage large = thumbnail_.copy();
        QPainter painter(&large);
        painter.setPen(QPen(look().attention, 2));
        painter.drawRect(QRectF(sampled_.left() * large.width(), sampled_.top() * large.height(),
                                sampled_.width() * large.width() - 2,
                                sampled_.height() * large.height() - 2));
        painter.end();
        QByteArray bytes;
        QBuffer buffer(&bytes);
        buffer.open(QIODevice::WriteOnly);
        large.save(&buffer, "PNG");
        QToolTip::showText(static_cast<QHelpEvent*>(event)->globalPos(),
                           QString("<img src=\"data:image/png;base64,%1\"><br>%2")
                               .arg(QString::fromLatin1(bytes.toBase64()), text().toHtmlEscaped()),
                           this);
        return true;
    }
    return SlotPart::event(event);
}

void ResponsePart::open() {
    open_response_editor(access_, this);
}

void ResponsePart::paint_sign(QPainter& painter, const QRectF& room) {
    const Step* step = access_.current();
    if (!step) return;
    const auto shaping = response_shape(access_.document->study(), *access_.document->kind_of(*step), *step,
                                        std::get<WordKey>(access_.value()).key);
    if (shaping) paint_response(painter, room, *shaping);
}

// Places --------------------------------------------------------------------------------------------------

void PlacesPart::open() {
    open_places_editor(access_, this);
}

}  // namespace plume::app
