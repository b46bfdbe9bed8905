#include "app/parts/markdown_page.hpp"

#include <QTextBlock>
#include <QTextDocument>
#include <QTextTable>

namespace plume::app {

// Markdown comes without room around headings and with ruled tables.
void dress_page(QTextDocument& page) {
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
    constexpr int title_pixels = 19, heading_pixels = 15;
    for (QTextBlock block = page.begin(); block.isValid(); block = block.next()) {
        QTextCursor cursor(block);
        if (cursor.currentTable()) continue;
        QTextBlockFormat format = block.blockFormat();
        format.setTopMargin(format.headingLevel() > 0 ? 14 : 4);
        format.setBottomMargin(6);
        cursor.setBlockFormat(format);
        if (format.headingLevel() == 0) continue;
        cursor.select(QTextCursor::BlockUnderCursor);
        QTextCharFormat letters = cursor.charFormat();
        letters.clearProperty(QTextFormat::FontSizeAdjustment);
        letters.setProperty(QTextFormat::FontPixelSize,
                            format.headingLevel() == 1 ? title_pixels : heading_pixels);
        letters.setFontWeight(QFont::DemiBold);
        cursor.setCharFormat(letters);
    }
}

}  // namespace plume::app
