#pragma once
// The file of the study in hand: new, open, save, what was opened lately. Asks before changes are lost.

#include <QObject>

#include "app/document/document.hpp"

class QMenu;

namespace plume::app {

class StudyFiles : public QObject {
    Q_OBJECT

public:
    // Dialogs stand before `window`.
    StudyFiles(Document& document, QWidget* window);

    // False when the study in hand has changes that whoever was asked wants to keep.
    bool may_leave();
    void begin_new();
    void open();
    // False when it could not be read; the document says why.
    bool open_file(const QString& path);
    // A study that nothing keeps yet: a sample, an example. Its links are whole paths.
    void open_copy(const StudyPointer& study);
    void open_copy_of(const QString& path);
    // Files that were let fall on the window: a study is opened, others get a step each that reads them.
    void take_dropped(const QStringList& paths);
    bool save();
    bool save_as();
    void fill_recent(QMenu& menu);

Q_SIGNALS:
    // The study in hand was saved, or gives way to another one.
    void put_away();

private:
    bool save_to(const QString& path);
    void link(const QString& path);

    Document& document_;
    QWidget* window_;
};

}  // namespace plume::app
