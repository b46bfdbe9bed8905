#include "app/window/language_help.hpp"

#include <QDialog>
#include <QFile>
#include <QTextBlock>
#include <QTextBrowser>
#include <QVBoxLayout>

#include "app/parts/markdown_page.hpp"
#include "app/theme/look.hpp"

namespace plume::app {
namespace {

constexpr const char* name = "language-help";

// From the top where there is no such chapter.
void show_chapter(QTextBrowser& browser, const QString& title) {
    browser.moveCursor(QTextCursor::End);
    QTextBlock at = browser.document()->begin();
    for (QTextBlock block = at; block.isValid(); block = block.next())
        if (block.blockFormat().headingLevel() == 1 && block.text() == title) at = block;
    browser.setTextCursor(QTextCursor(at));
    browser.ensureCursorVisible();
}

}  // namespace

void open_language_help(QWidget* parent, const QString& about) {
    auto* dialog = parent->findChild<QDialog*>(name);
    if (!dialog) {
        dialog = new QDialog(parent);
        dialog->setObjectName(name);
        dialog->setWindowTitle(QObject::tr("The languages of formulas, rules and scripts"));
        auto* column = new QVBoxLayout(dialog);
        column->setContentsMargins(0, 0, 0, 0);
        auto* browser = new QTextBrowser;
        browser->setFrameShape(QFrame::NoFrame);
        browser->setAccessibleName(dialog->windowTitle());
        browser->document()->setDefaultFont(text_font(13));
        browser->document()->setDocumentMargin(24);
        QStringList pages;
        for (const char* page : {":/help/formula-language.md", ":/help/growth.md", ":/help/scripts.md"})
            if (QFile file(page); file.open(QIODevice::ReadOnly)) pages << QString::fromUtf8(file.readAll());
        browser->document()->setMarkdown(pages.join("\n\n"));
        dress_page(*browser->document());
        column->addWidget(browser);
        dialog->resize(680, 720);
    }
    show_chapter(*dialog->findChild<QTextBrowser*>(), about);
    dialog->show();
    dialog->raise();
    dialog->activateWindow();
}

}  // namespace plume::app
