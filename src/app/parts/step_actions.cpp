#include "app/parts/step_actions.hpp"

#include <QColorDialog>
#include <QMessageBox>
#include <QPushButton>
#include <algorithm>
#include <functional>

namespace plume::app {
namespace {

void change_show(Document& document, ItemId id, const std::function<void(Show&)>& change) {
    const Step* step = document.study().step(id);
    if (!step) return;
    Show show = step->show;
    change(show);
    document.apply(set_show(document.study(), id, show), QObject::tr("change of view"));
}

void add_toggle(QMenu& menu, Document& document, ItemId id, const QString& text, bool Show::*flag) {
    const Step* step = document.study().step(id);
    QAction* action = menu.addAction(text);
    action->setCheckable(true);
    action->setChecked(step->show.*flag);
    QObject::connect(action, &QAction::triggered, &document, [&document, id, flag](bool on) {
        change_show(document, id, [&](Show& show) { show.*flag = on; });
    });
}

// One of several, marked as the present one.
void add_word(QMenu& menu, Document& document, ItemId id, const QString& text, bool now,
              std::function<void(Show&)> change) {
    QAction* action = menu.addAction(text);
    action->setCheckable(true);
    action->setChecked(now);
    QObject::connect(action, &QAction::triggered, &document,
                     [&document, id, change = std::move(change)] { change_show(document, id, change); });
}

void add_ramp_menu(QMenu& menu, Document& document, ItemId id) {
    const RampStyle now = document.study().step(id)->show.ramp;
    QMenu* ramps = menu.addMenu(QObject::tr("Colour &ramp"));
    const std::pair<Ramp, QString> named[]{{Ramp::estuary, QObject::tr("Estuary: slate to sand")},
                                           {Ramp::dusk, QObject::tr("Dusk: plum to straw")},
                                           {Ramp::tide, QObject::tr("Tide: blue and ochre about a middle")},
                                           {Ramp::ink, QObject::tr("Ink: greys")}};
    for (const auto& [ramp, text] : named)
        add_word(*ramps, document, id, text, now.ramp == ramp,
                 [ramp = ramp](Show& show) { show.ramp.ramp = ramp; });
    ramps->addSeparator();
    add_word(*ramps, document, id, QObject::tr("Turned round"), now.reversed,
             [](Show& show) { show.ramp.reversed = !show.ramp.reversed; });
    ramps->addSeparator();
    for (const int steps : {0, 4, 6, 8, 12})
        add_word(*ramps, document, id,
                 steps == 0 ? QObject::tr("Without steps") : QObject::tr("In %1 steps").arg(steps),
                 now.steps == steps, [steps](Show& show) { show.ramp.steps = steps; });
}

// `usual` names what stands there where no field is chosen.
void add_label_menu(QMenu& menu, Document& document, ItemId id, const std::vector<std::string>& fields,
                    const QString& usual) {
    const Show now = document.study().step(id)->show;
    QMenu* labels = menu.addMenu(QObject::tr("&Labels"));
    add_word(*labels, document, id, QObject::tr("none"), !now.labels,
             [](Show& show) { show.labels = false; });
    add_word(*labels, document, id, usual, now.labels && now.label_by.empty(), [](Show& show) {
        show.labels = true;
        show.label_by.clear();
    });
    for (const std::string& field : fields)
        add_word(*labels, document, id, text_of(field), now.labels && now.label_by == field,
                 [field](Show& show) {
                     show.labels = true;
                     show.label_by = field;
                 });
}

void add_weight_menu(QMenu& menu, Document& document, ItemId id) {
    const int now = document.study().step(id)->show.heavier_each;
    QMenu* weights = menu.addMenu(QObject::tr("&Heavier lines"));
    for (const int each : {0, 2, 5, 10})
        add_word(*weights, document, id,
                 each == 0 ? QObject::tr("none") : QObject::tr("every %1 levels").arg(each), now == each,
                 [each](Show& show) { show.heavier_each = each; });
}

void choose_paint(Document& document, ItemId id, QWidget* parent) {
    const Step* step = document.study().step(id);
    if (!step) return;
    const QColor chosen =
        QColorDialog::getColor(QColor(text_of(step->show.material.paint)), parent, QObject::tr("Paint"));
    if (!chosen.isValid()) return;
    change_show(document, id, [&](Show& show) {
        show.material = {std::string(paint_key), chosen.name(QColor::HexRgb).toUpper().toStdString()};
    });
}

void add_material_menu(QMenu& menu, Document& document, ItemId id) {
    const std::string now = document.study().step(id)->show.material.key;
    QMenu* list = menu.addMenu(QObject::tr("&Material"));
    add_word(*list, document, id, QObject::tr("none"), now.empty(),
             [](Show& show) { show.material.key.clear(); });
    for (const Material& material : materials()) {
        if (material.key == paint_key) continue;
        add_word(*list, document, id, text_of(std::string(material.label)), now == material.key,
                 [key = std::string(material.key)](Show& show) { show.material.key = key; });
    }
    QAction* paint = list->addAction(QObject::tr("Paint…"));
    paint->setCheckable(true);
    paint->setChecked(now == paint_key);
    QObject::connect(paint, &QAction::triggered, &document,
                     [&document, id, parent = menu.parentWidget()] { choose_paint(document, id, parent); });
}

}  // namespace

void add_show_actions(QMenu& menu, Document& document, ItemId id) {
    if (!document.study().step(id)) return;
    add_toggle(menu, document, id, QObject::tr("&Visible"), &Show::visible);
    menu.addSeparator();
    const StepKind* kind = document.kind_of(*document.study().step(id));
    const bool handles =
        kind && std::ranges::find(kind->slots, SlotType::places, &SlotSpec::type) != kind->slots.end();
    add_toggle(menu, document, id, handles ? QObject::tr("&Points and handles") : QObject::tr("&Points"),
               &Show::points);
    add_toggle(menu, document, id, QObject::tr("&Edges"), &Show::edges);
    add_toggle(menu, document, id, QObject::tr("&Faces"), &Show::faces);
    const Shown* shown = document.results().shown(id);
    const auto names = shown && shown->value ? field_names(*shown->value) : std::vector<std::string>();
    const bool curves = shown && shown->drawable && shown->drawable->lines.size() > 1;
    add_label_menu(menu, document, id, names, curves ? QObject::tr("usual ones") : QObject::tr("addresses"));
    if (curves) add_weight_menu(menu, document, id);
    if (shown && shown->drawable && !shown->drawable->triangles.empty())
        add_material_menu(menu, document, id);
    if (names.empty()) return;
    add_ramp_menu(menu, document, id);
    QMenu* colours = menu.addMenu(QObject::tr("&Colour by"));
    const std::string now = document.study().step(id)->show.colour_by;
    const auto add = [&](const QString& text, const std::string& key, bool checked) {
        add_word(*colours, document, id, text, checked, [key](Show& show) { show.colour_by = key; });
    };
    add(QObject::tr("nothing"), "-", now == "-");
    for (const std::string& name : names)
        add(text_of(name), name, now == name || (now.empty() && name == names.back()));
}

void toggle_visible(Document& document, ItemId step) {
    change_show(document, step, [](Show& show) { show.visible = !show.visible; });
}

void toggle_labels(Document& document, ItemId step) {
    if (!document.study().step(step)) return;
    change_show(document, step, [](Show& show) { show.labels = !show.labels; });
}

void toggle_muted(Document& document, ItemId id) {
    const Step* step = document.study().step(id);
    if (!step) return;
    document.apply(set_muted(document.study(), id, !step->muted),
                   step->muted ? QObject::tr("unmute") : QObject::tr("mute"));
}

void throw_numbers(Document& document, ItemId id, bool forward) {
    document.apply(throw_again(document.study(), document.catalogue(), id, forward),
                   forward ? QObject::tr("another throw") : QObject::tr("previous throw"));
}

void move_selection(Document& document, int direction) {
    const Study& study = document.study();
    const ItemIds items = document.attention().selection();
    if (items.empty()) return;
    const auto first =
        std::ranges::find_if(study.items, [&](const Item& item) { return items.contains(id_of(item)); });
    if (first == study.items.end()) return;
    const auto at = static_cast<std::size_t>(first - study.items.begin()), behind = at + items.size();
    const Page page = page_of(*first);
    if (direction < 0 ? at == study.page_begin(page) : behind == study.page_end(page)) return;
    document.apply(move_items(study, items, direction < 0 ? at - 1 : behind + 1), QObject::tr("move"));
}

void remove_selection(Document& document, QWidget* parent) {
    const ItemIds items = document.attention().selection();
    if (items.empty()) return;
    Edited edited = remove_items(document.study(), items, false);
    if (!edited && edited.error().code == ErrorCode::still_read) {
        QMessageBox box(QMessageBox::Question, QObject::tr("Remove"), text_of(sentence(edited.error())),
                        QMessageBox::Cancel, parent);
        box.setInformativeText(
            QObject::tr("Remove it all the same? The steps that read it will say so until you choose "
                        "something else for them."));
        QPushButton* remove_button = box.addButton(QObject::tr("&Remove"), QMessageBox::DestructiveRole);
        box.setDefaultButton(QMessageBox::Cancel);
        box.exec();
        if (box.clickedButton() != remove_button) return;
        edited = remove_items(document.study(), items, true);
    }
    document.apply(edited, QObject::tr("remove"));
}

}  // namespace plume::app
