#include "app/receiving/receive_window.hpp"

#include <QDir>
#include <QEvent>

#include "app/parts/window_size.hpp"
#include "app/receiving/received_panel.hpp"

namespace plume::app {

ReceiveWindow::ReceiveWindow(const QString& folder)
    : panel_(new ReceivedPanel(this)), folder_(QDir::cleanPath(QDir(folder).absolutePath())) {
    setObjectName("desk");
    setWindowTitle(tr("What arrived in %1").arg(QDir(folder_).dirName()));
    setCentralWidget(panel_);
    begin_in_size(*this, {1100, 760});
    panel_->look_at(folder_.toStdString());
}

void ReceiveWindow::changeEvent(QEvent* event) {
    if (event->type() == QEvent::ActivationChange && isActiveWindow()) panel_->look_at(folder_.toStdString());
    QMainWindow::changeEvent(event);
}

}  // namespace plume::app
