#include "app/sheet/step_actions.hpp"

#include <QMessageBox>
#include <QPushButton>

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

}  // namespace

void add_show_actions(QMenu& menu, Document& document, ItemId id) {
    if (!document.study().step(id)) return;
    add_toggle(menu, document, id, QObject::tr("&Visible"), &Show::visible);
    menu.addSeparator();
    add_toggle(menu, document, id, QObject::tr("&Points"), &Show::points);
    add_toggle(menu, document, id, QObject::tr("&Edges"), &Show::edges);
    add_toggle(menu, document, id, QObject::tr("&Faces"), &Show::faces);
    add_toggle(menu, document, id, QObject::tr("&Address labels"), &Show::labels);
    const Shown* shown = document.shown(id);
    const auto names = shown && shown->value ? field_names(*shown->value) : std::vector<std::string>();
    if (names.empty()) return;
    QMenu* colours = menu.addMenu(QObject::tr("&Colour by"));
    const std::string now = document.study().step(id)->show.colour_by;
    const auto add = [&](const QString& text, const std::string& key, bool checked) {
        QAction* action = colours->addAction(text);
        action->setCheckable(true);
        action->setChecked(checked);
        QObject::connect(action, &QAction::triggered, &document, [&document, id, key] {
            change_show(document, id, [&](Show& show) { show.colour_by = key; });
        });
    };
    add(QObject::tr("nothing"), "-", now == "-");
    for (const std::string& name : names)
        add(text_of(name), name, now == name || (now.empty() && name == names.back()));
}

void toggle_visible(Document& document, ItemId step) {
    change_show(document, step, [](Show& show) { show.visible = !show.visible; });
}

void toggle_muted(Document& document, ItemId id) {
    const Step* step = document.study().step(id);
    if (!step) return;
    document.apply(set_muted(document.study(), id, !step->muted),
                   step->muted ? QObject::tr("unmute") : QObject::tr("mute"));
}

void duplicate(Document& document, ItemId item) {
    const auto added = duplicate_item(document.study(), item);
    if (!added) return document.show_message(text_of(sentence(added.error())));
    if (document.apply(added->study, QObject::tr("duplicate"))) document.select(added->id);
}

void move_by(Document& document, ItemId item, int direction) {
    const auto at = document.study().position(item);
    if (!at) return;
    const auto count = document.study().items.size();
    if ((direction < 0 && *at == 0) || (direction > 0 && *at + 1 == count)) return;
    document.apply(move_item(document.study(), item, direction < 0 ? *at - 1 : *at + 2), QObject::tr("move"));
}

void remove(Document& document, ItemId item, QWidget* parent) {
    Edited edited = remove_item(document.study(), item, false);
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
        edited = remove_item(document.study(), item, true);
    }
    document.apply(edited, QObject::tr("remove"));
}

}  // namespace plume::app
