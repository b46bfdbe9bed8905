// The program that reads STEP and IGES for others: plume-exact-reader FILE writes what is in it to its
// output, as exact_file.hpp says, and how far it is to its error output.

#include <IGESCAFControl_Reader.hxx>
#include <Interface_Static.hxx>
#include <Message.hxx>
#include <Message_Messenger.hxx>
#include <Message_ProgressIndicator.hxx>
#include <STEPCAFControl_Reader.hxx>
#include <Standard_Failure.hxx>
#include <TDF_LabelSequence.hxx>
#include <TDataStd_Name.hxx>
#include <TDocStd_Document.hxx>
#include <XCAFDoc_DocumentTool.hxx>
#include <XCAFDoc_ShapeTool.hxx>

#include <cstdio>

#include "core/base/text.hpp"
#include "core/readers/kernel/kernel_forms.hpp"
#include "core/readers/reading_program.hpp"

namespace plume {
namespace {

class Progress : public Message_ProgressIndicator {
protected:
    void Show(const Message_ProgressScope&, const Standard_Boolean) override {
        if (GetPosition() < last_ + 0.01) return;
        last_ = GetPosition();
        tell(0.6 * last_);
    }

public:
    static void tell(double share) {
        std::fprintf(stderr, "%.3f\n", share);
        std::fflush(stderr);
    }

private:
    double last_ = 0;
};

std::string name_of(const TDF_Label& label) {
    Handle(TDataStd_Name) name;
    if (!label.FindAttribute(TDataStd_Name::GetID(), name)) return {};
    const TCollection_ExtendedString& wide = name->Get();
    std::string text(static_cast<std::size_t>(wide.LengthOfCString()) + 1, '\0');
    Standard_PCharacter place = text.data();
    const int size = wide.ToUTF8CString(place);
    text.resize(static_cast<std::size_t>(size));
    return printable(text);
}

class AssemblyReader {
public:
    explicit AssemblyReader(const Handle(TDocStd_Document) & document)
        : shapes_(XCAFDoc_DocumentTool::ShapeTool(document->Main())) {}

    ExactFile read() {
        TDF_LabelSequence roots;
        shapes_->GetFreeShapes(roots);
        for (int at = 1; at <= roots.Length(); ++at) {
            walk(roots(at), TopLoc_Location(), "", 0);
            Progress::tell(0.6 + 0.4 * at / roots.Length());
        }
        return std::move(file_);
    }

private:
    void walk(const TDF_Label& label, const TopLoc_Location& location, const std::string& above, int depth) {
        constexpr int deepest = 64;
        if (depth > deepest) throw Standard_Failure("assemblies within assemblies without an end");
        TDF_Label shape = label;
        std::string name = name_of(label);
        if (XCAFDoc_ShapeTool::GetReferredShape(label, shape) && name.empty()) name = name_of(shape);
        if (name.empty()) name = "part " + std::to_string(++nameless_);
        const std::string whole = above.empty() ? name : above + " / " + name;
        const TopLoc_Location here = location * XCAFDoc_ShapeTool::GetLocation(label);
        TDF_LabelSequence components;
        if (XCAFDoc_ShapeTool::GetComponents(shape, components) && components.Length() > 0) {
            for (int at = 1; at <= components.Length(); ++at)
                walk(components(at), here, whole, depth + 1);
            return;
        }
        const TopoDS_Shape found = XCAFDoc_ShapeTool::GetShape(shape);
        if (found.IsNull()) return;
        ExactPart part = forms_of(found.Located(here * found.Location()), whole, file_.losses);
        if (!part.curves.empty() || !part.faces.empty() || !part.solids.empty())
            file_.parts.push_back(std::move(part));
    }

    Handle(XCAFDoc_ShapeTool) shapes_;
    ExactFile file_;
    int nameless_ = 0;
};

template <class Reader>
bool transferred(const char* path, Handle(TDocStd_Document) document) {
    Reader reader;
    reader.SetNameMode(true);
    if (reader.ReadFile(path) != IFSelect_RetDone) return false;
    const Handle(Progress) progress = new Progress;
    return reader.Transfer(document, progress->Start());
}

Result<ExactFile> read(const char* path) {
    Message::DefaultMessenger()->ChangePrinters().Clear();
    Handle(TDocStd_Document) document = new TDocStd_Document("XmlXCAF");
    const bool step = is_step(path);
    const bool read = step ? transferred<STEPCAFControl_Reader>(path, document)
                           : transferred<IGESCAFControl_Reader>(path, document);
    if (!read)
        return Error{ErrorCode::file_damaged, "",
                     std::string("cannot be read as ") + (step ? "STEP" : "IGES"),
                     "Get it anew, or save it anew where it was made."};
    ExactFile file = AssemblyReader(document).read();
    if (file.parts.empty())
        return Error{
            ErrorCode::empty_input, "",
            "has no curve, surface or solid" + (file.losses.empty() ? "" : ". " + file.losses.front()),
            "Choose another file."};
    return file;
}

Result<ExactFile> guarded_read(const char* path) {
    try {
        return read(path);
    } catch (const Standard_Failure& failure) {
        return Error{ErrorCode::file_damaged, "",
                     std::string("cannot be read: ") + failure.GetMessageString(),
                     "Get it anew, or save it anew where it was made."};
    }
}

}  // namespace
}  // namespace plume

int main(int count, char** arguments) {
    // An hour of computing, and what a large assembly takes.
    plume::set_limits(3600, 16);
    return plume::hand_over(count, arguments, plume::guarded_read);
}
