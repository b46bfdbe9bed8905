#include "app/window/language_help.hpp"

#include <QDialog>
#include <QFile>
#include <QTextBlock>
#include <QTextBrowser>
#include <QTextTable>
#include <QVBoxLayout>

#include "app/theme/look.hpp"

namespace plume::app {
namespace {

constexpr const char* name = "language-help";

// Markdown comes without room around headings and with ruled tables.
void dress(QTextDocument& page) {
    for (QTextFrame* frame : page.rootFrame()->childFrames()) {
        auto* table = qobject_cast<QTextTable*>(frame);
        if (!table) continue;
        QTextTableFormat format = table->format();
        format.setBorder(0);
        format.setCellSpacing(0);
        format.setCellPadding(3);
        format.setTopMargin(4);
        format.setBottomMargin(10);
        table->setFormat(format);
    }
    for (QTextBlock block = page.begin(); block.isValid(); block = block.next()) {
        QTextCursor cursor(block);
        if (cursor.currentTable()) continue;
        QTextBlockFormat format = block.blockFormat();
        format.setTopMargin(format.headingLevel() > 0 ? 14 : 4);
        format.setBottomMargin(6);
        cursor.setBlockFormat(format);
    }
}

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
        dress(*browser->document());
        column->addWidget(browser);
        dialog->resize(680, 720);
    }
    show_chapter(*dialog->findChild<QTextBrowser*>(), about);
    dialog->show();
    dialog->raise();
    dialog->activateWindow();
}

}  // namespace plume::app
