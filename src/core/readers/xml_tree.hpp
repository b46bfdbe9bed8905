#pragma once
// XML (W3C, 5th ed. 2008) as a tree, by expat. Entities of the document are put in their places within the
// library's limits; external ones are never followed, nor is a document type that stands elsewhere.

#include <deque>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

#include "core/base/error.hpp"

namespace plume {

struct XmlElement {
    std::string name;                                             // without its namespace
    std::vector<std::pair<std::string, std::string>> attributes;  // likewise
    std::vector<const XmlElement*> children;
    std::string text;  // of a title alone
    std::size_t line = 0;

    // Empty where there is none.
    std::string_view attribute(std::string_view wanted) const;
};

class XmlTree {
public:
    // Errors: file_damaged, naming the line; too_deep; file_too_large with more than some ten million
    // elements.
    static Result<XmlTree> read(std::string_view bytes);
    const XmlElement& root() const { return elements_.front(); }
    const std::deque<XmlElement>& elements() const { return elements_; }

private:
    std::deque<XmlElement> elements_;
    friend class XmlBuilder;
};

}  // namespace plume
