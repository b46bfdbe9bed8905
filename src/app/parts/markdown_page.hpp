#pragma once
// Pages in Markdown, with room around headings and tables that read as text does.

class QTextDocument;

namespace plume::app {

// After its text was set.
void dress_page(QTextDocument& page);

}  // namespace plume::app
