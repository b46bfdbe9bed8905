#include "app/window/language_help.hpp"

#include <QDialog>
#include <QFile>
#include <QTextBrowser>
#include <QVBoxLayout>

#include "app/theme/look.hpp"

namespace plume::app {
namespace {

constexpr const char* name = "language-help";

// Tables come without lines or room from Markdown.
void dress(QTextDocument& page) {
    page.setDefaultFont(text_font(13));
    page.setDocumentMargin(20);
}

}  // namespace

void open_language_help(QWidget* parent) {
    auto* dialog = parent->findChild<QDialog*>(name);
    if (!dialog) {
        dialog = new QDialog(parent);
        dialog->setObjectName(name);
        dialog->setWindowTitle(QObject::tr("The formula language"));
        auto* column = new QVBoxLayout(dialog);
        column->setContentsMargins(0, 0, 0, 0);
        auto* browser = new QTextBrowser;
        browser->setFrameShape(QFrame::NoFrame);
        browser->setAccessibleName(dialog->windowTitle());
        dress(*browser->document());
        QFile file(":/help/formula-language.md");
        if (file.open(QIODevice::ReadOnly))
            browser->document()->setMarkdown(QString::fromUtf8(file.readAll()));
        column->addWidget(browser);
        dialog->resize(680, 720);
    }
    dialog->show();
    dialog->raise();
    dialog->activateWindow();
}

}  // namespace plume::app
