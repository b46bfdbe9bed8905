#include "app/model/camera_menu.hpp"

#include <QMenu>

#include "app/model/orbit_view.hpp"
#include "app/parts/form_popup.hpp"
#include "app/theme/look.hpp"
#include "app/theme/popup_menu.hpp"
#include "core/study/moving.hpp"

namespace plume::app {
namespace {

QString tr(const char* text) {
    return QObject::tr(text);
}

// Does it, or says what is wrong with it.
QString done_or_wrong(Document& document, const Edited& edited, const QString& label) {
    if (!edited) return text_of(sentence(edited.error()));
    document.apply(edited, label);
    return {};
}

}  // namespace

void CameraMenu::open() {
    const Study& study = document_.study();
    QMenu& menu = *new_popup_menu(button_);
    for (const KeptCamera& kept : study.cameras) {
        QAction* look = menu.addAction(text_of(kept.name), [this, kept] {
            last_ = kept.name;
            look_by(kept);
        });
        look->setToolTip(tr("Look from there"));
    }
    if (study.cameras.empty()) menu.addAction(tr("No camera is kept yet"))->setEnabled(false);
    menu.addSeparator();
    menu.addAction(tr("Keep this view as a camera …"), [this] { keep(); });
    if (study.camera(last_)) {
        const QString name = text_of(last_);
        menu.addSeparator();
        menu.addAction(tr("Put ‘%1’ here").arg(name), [this, camera = last_] {
            document_.apply(
                keep_camera(document_.study(), camera, view_.camera(), document_.playing().seconds()),
                tr("place of a camera"));
        });
        menu.addAction(tr("Key ‘%1’ here, at %2 s").arg(name).arg(document_.playing().seconds(), 0, 'f', 2),
                       [this, camera = last_] {
                           document_.apply(key_camera(document_.study(), camera, view_.camera(),
                                                      document_.playing().seconds()),
                                           tr("key"));
                       });
        menu.addAction(tr("Rename ‘%1’ …").arg(name), [this, camera = last_] { rename(camera); });
        menu.addAction(tr("Remove ‘%1’").arg(name), [this, camera = last_] {
            document_.apply(remove_camera(document_.study(), camera), tr("removal of a camera"));
        });
    }
    menu.popup(button_->mapToGlobal(QPoint(0, -menu.sizeHint().height() - 2)));
}

void CameraMenu::look_by(const KeptCamera& kept) {
    view_.set_camera(camera_at(kept, document_.playing().seconds()));
    looks_ = view_.camera();
}

void CameraMenu::follow_moment() {
    const KeptCamera* kept = document_.study().camera(std::string_view(last_));
    if (!kept || kept->keys.empty() || looks_ != view_.camera()) return;
    look_by(*kept);
}

void CameraMenu::keep() {
    auto* form = new FormPopup(button_, tr("Keep this view"));
    QLineEdit* line = form->add_line(tr("Name"), {}, tr("what is seen from there"));
    line->setMinimumWidth(220);
    form->open(tr("Keep it"), [this, line, camera = view_.camera()]() -> QString {
        const std::string name = text_of(line->text().trimmed());
        if (document_.study().camera(name))
            return tr("A camera of this name is there already. Look from it to put it elsewhere.");
        last_ = name;
        return done_or_wrong(document_, keep_camera(document_.study(), name, camera), tr("camera"));
    });
}

void CameraMenu::rename(const std::string& camera) {
    auto* form = new FormPopup(button_, tr("Rename a camera"));
    QLineEdit* line = form->add_line(tr("Name"), text_of(camera));
    line->setMinimumWidth(220);
    form->open(tr("Rename it"), [this, line, camera]() -> QString {
        const std::string name = text_of(line->text().trimmed());
        const Edited renamed = rename_camera(document_.study(), document_.catalogue(), camera, name);
        if (renamed) last_ = name;
        return done_or_wrong(document_, renamed, tr("name of a camera"));
    });
}

}  // namespace plume::app
