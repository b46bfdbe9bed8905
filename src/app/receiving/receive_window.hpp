#pragma once
// The stand-in for whoever receives building models, as a window of its own: plume-lattice --receive FOLDER.

#include <QMainWindow>

namespace plume::app {

class ReceivedPanel;

class ReceiveWindow : public QMainWindow {
    Q_OBJECT

public:
    explicit ReceiveWindow(const QString& folder);

protected:
    // Files may have been written meanwhile.
    void changeEvent(QEvent* event) override;

private:
    ReceivedPanel* panel_;
    QString folder_;
};

}  // namespace plume::app
