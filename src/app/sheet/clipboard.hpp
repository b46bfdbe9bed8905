#pragma once
// Steps, headings and controls on the clipboard, as text of the file format: what is copied is a study of its
// own, and any study's text can be pasted.

#include <string>

#include "app/document/document.hpp"
#include "core/study/edits/excerpt.hpp"

namespace plume::app {

// What is selected, or a control alone.
void copy_selection(Document& document);
void copy_control(Document& document, const std::string& name);
// Asks first when others read a result of what is cut.
void cut_selection(Document& document, QWidget* parent);
// Below what is selected, else at the end of the page; what came is selected then.
void paste_items(Document& document, PastedControls controls);
// The same without the clipboard, for what is selected.
void duplicate_selection(Document& document);

}  // namespace plume::app
