#pragma once
// Names and functions that fit what is being typed, each with one line of help. Never takes the focus: the
// editor sends it the keys.

#include <QListWidget>
#include <vector>

namespace plume::app {

struct Completion {
    QString name, insert, help;
};

// The function or constant of that name, "smoothstep(from, to, x): ...", or an empty text.
QString help_for(const std::vector<Completion>& all, const QString& name);

class CompletionList : public QListWidget {
    Q_OBJECT

public:
    explicit CompletionList(QWidget* parent);
    // Shows what begins with (or else contains) `typed` below `at`; hides when nothing does.
    void offer(const std::vector<Completion>& all, const QString& typed, const QPoint& at);
    void step(int direction);
    QString chosen() const;

Q_SIGNALS:
    void taken();

protected:
    void mouseReleaseEvent(QMouseEvent* event) override;
};

}  // namespace plume::app
