#pragma once
// The reference as Markdown: pages in a folder, pages in the window, and what the command line prints.

#include <functional>

#include "core/reference/reference_page.hpp"

namespace plume {

// Where other things are from a page's point of view.
struct ReferenceLinks {
    std::function<std::string(const std::string& kind)> page = {};
    std::function<std::string(const std::string& kind)> picture =
        {};  // of its example; empty: pages have none
    std::function<std::string(const std::string& kind)> example = {};  // what opens it
    std::function<std::string(const std::string& word)> word = {};  // where a word of the trade is explained
};

// Of pages in docs/steps: to each other, and to the examples and pictures of the project.
ReferenceLinks links_in_docs();

std::string page_text(const ReferencePage& page, const ReferenceLinks& links);

// The words of the trade, each with its picture.
std::string words_text(const Catalogue& catalogue, const ReferenceLinks& links);

// All kinds by what one wants to do, with their pictures.
std::string contents_text(const Catalogue& catalogue, const ReferenceLinks& links);

}  // namespace plume
