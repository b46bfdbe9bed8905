#include "core/exchange/exact_module.hpp"

#include <APIHeaderSection_MakeHeader.hxx>
#include <IGESCAFControl_Writer.hxx>
#include <IGESControl_Controller.hxx>
#include <IGESData_IGESModel.hxx>
#include <IGESData_IGESWriter.hxx>
#include <IGESData_Protocol.hxx>
#include <IGESSelect_WorkLibrary.hxx>
#include <Interface_FloatWriter.hxx>
#include <Interface_Static.hxx>
#include <Message.hxx>
#include <Message_Messenger.hxx>
#include <Message_ProgressIndicator.hxx>
#include <Quantity_ColorRGBA.hxx>
#include <STEPCAFControl_Writer.hxx>
#include <STEPControl_Controller.hxx>
#include <Standard_Failure.hxx>
#include <StepAP214.hxx>
#include <StepAP214_Protocol.hxx>
#include <StepData_StepModel.hxx>
#include <StepData_StepWriter.hxx>
#include <TDataStd_Name.hxx>
#include <TDocStd_Document.hxx>
#include <XCAFDoc_ColorTool.hxx>
#include <XCAFDoc_DocumentTool.hxx>
#include <XCAFDoc_ShapeTool.hxx>
#include <fstream>
#include <mutex>

#include "core/exchange/kernel_boundary.hpp"
#include "core/exchange/kernel_shapes.hpp"

namespace plume {
namespace {

class Progress : public Message_ProgressIndicator {
public:
    explicit Progress(const Run& run) : run_(run) {}
    Standard_Boolean UserBreak() override { return run_.cancelled(); }

protected:
    void Show(const Message_ProgressScope&, const Standard_Boolean) override { run_.report(GetPosition()); }

private:
    const Run& run_;
};

const char* unit_name(LengthUnit unit) {
    switch (unit) {
        case LengthUnit::metre:
            return "M";
        case LengthUnit::centimetre:
            return "CM";
        case LengthUnit::millimetre:
            return "MM";
        case LengthUnit::foot:
            return "FT";
        case LengthUnit::inch:
            return "INCH";
    }
    return "MM";
}

void set_name(const TDF_Label& label, const std::string& name) {
    TDataStd_Name::Set(label, TCollection_ExtendedString(name.c_str(), true));
}

// Results as products with names and colours; what has several pieces is an assembly of them.
class Product {
public:
    Product() : document_(new TDocStd_Document("XmlXCAF")) {
        shapes_ = XCAFDoc_DocumentTool::ShapeTool(document_->Main());
        colours_ = XCAFDoc_DocumentTool::ColorTool(document_->Main());
    }

    void add(const ExactObject& object, const std::vector<KernelShape>& pieces) {
        if (pieces.size() == 1) return add_piece(pieces.front().shape, object.name, object);
        const TDF_Label assembly = shapes_->NewShape();
        set_name(assembly, object.name);
        for (std::size_t at = 0; at < pieces.size(); ++at) {
            const std::string name = object.name + ' ' + std::to_string(at);
            const TDF_Label piece = shapes_->AddShape(pieces[at].shape, false);
            set_name(piece, name);
            set_colour(piece, object);
            set_name(shapes_->AddComponent(assembly, piece, TopLoc_Location()), name);
        }
        shapes_->UpdateAssemblies();
    }
    const Handle(TDocStd_Document) & document() const { return document_; }

private:
    void add_piece(const TopoDS_Shape& shape, const std::string& name, const ExactObject& object) {
        const TDF_Label label = shapes_->AddShape(shape, false);
        set_name(label, name);
        set_colour(label, object);
    }
    void set_colour(const TDF_Label& label, const ExactObject& object) {
        const Quantity_Color colour(static_cast<double>(object.colour.red),
                                    static_cast<double>(object.colour.green),
                                    static_cast<double>(object.colour.blue), Quantity_TOC_sRGB);
        colours_->SetColor(label, Quantity_ColorRGBA(colour, object.opacity), XCAFDoc_ColorGen);
    }

    Handle(TDocStd_Document) document_;
    Handle(XCAFDoc_ShapeTool) shapes_;
    Handle(XCAFDoc_ColorTool) colours_;
};

std::vector<KernelShape> shapes_of(const ExactForm& form, const KernelShapes& kernel, const Run& run) {
    std::vector<KernelShape> shapes;
    const auto add = [&](const auto& pieces) {
        for (const auto& piece : pieces)
            if (!run.cancelled()) shapes.push_back(kernel.of(piece));
    };
    add(form.points);
    add(form.curves);
    add(form.faces);
    add(form.bodies);
    add(form.facets);
    return shapes;
}

void count(const std::vector<KernelShape>& shapes, ExactCounts& counts) {
    for (const KernelShape& shape : shapes) {
        switch (shape.kind) {
            case KernelKind::point:
                ++counts.points;
                break;
            case KernelKind::curve:
                ++counts.curves;
                break;
            case KernelKind::face:
                ++counts.faces;
                break;
            case KernelKind::body:
                ++counts.bodies;
                break;
            case KernelKind::facets:
                counts.facets += shape.facets;
                break;
        }
        counts.loose_bodies += shape.loose ? 1 : 0;
    }
}

// Every digit that a double has; the kernel's own writers leave the last three away, and cut them off where
// they leave out zeros at the end.
void write_in_full(Interface_FloatWriter& numbers) {
    numbers.SetFormat("%.16E");
    numbers.SetFormatForRange("", 0, 0);
    numbers.SetZeroSuppress(false);
}

template <class Writer, class Model, class Protocol>
bool write_model(const Model& model, const Protocol& protocol, const std::string& path) {
    Writer writer(model);
    write_in_full(writer.FloatWriter());
    writer.SendModel(protocol);
    std::ofstream file(path, std::ios::binary);
    return writer.Print(file) && file.flush().good();
}

// No clock in the head, so that files differ where forms do.
bool write_step(const Product& product, const ExactJob& job, const Message_ProgressRange& progress) {
    STEPControl_Controller::Init();
    Interface_Static::SetCVal("write.step.schema", "AP242DIS");
    Interface_Static::SetCVal("write.step.unit", unit_name(job.unit));
    Interface_Static::SetCVal("write.step.product.name", job.objects.front().name.c_str());
    Interface_Static::SetIVal("write.step.assembly", 2);
    STEPCAFControl_Writer writer;
    if (!writer.Transfer(product.document(), STEPControl_AsIs, nullptr, progress)) return false;
    const Handle(StepData_StepModel) model = writer.ChangeWriter().Model();
    APIHeaderSection_MakeHeader head(model);
    const auto text = [](const char* words) { return new TCollection_HAsciiString(words); };
    head.SetName(text("Plume Lattice"));
    head.SetTimeStamp(text("2000-01-01T00:00:00"));
    head.SetAuthorValue(1, text(""));
    head.SetOrganizationValue(1, text(""));
    head.SetOriginatingSystem(text("Plume Lattice"));
    return write_model<StepData_StepWriter>(model, StepAP214::Protocol(), job.path);
}

bool write_iges(const Product& product, const ExactJob& job, const Message_ProgressRange& progress) {
    IGESControl_Controller::Init();
    Interface_Static::SetIVal("write.iges.brep.mode", 1);
    Interface_Static::SetCVal("write.iges.unit", unit_name(job.unit));
    Interface_Static::SetCVal("write.iges.header.author", "Plume Lattice");
    Interface_Static::SetCVal("write.iges.header.company", "");
    IGESCAFControl_Writer writer;
    if (!writer.Transfer(product.document(), progress)) return false;
    writer.ComputeModel();
    const Handle(IGESData_IGESModel) model = writer.Model();
    IGESData_GlobalSection head = model->GlobalSection();
    const auto text = [](const char* words) { return new TCollection_HAsciiString(words); };
    head.SetSendName(text("Plume Lattice"));
    head.SetFileName(text("Plume Lattice"));
    head.SetSystemId(text("Plume Lattice"));
    head.SetDate(text("20000101.000000"));
    head.SetLastChangeDate(text("20000101.000000"));
    model->SetGlobalSection(head);
    return write_model<IGESData_IGESWriter>(model, IGESSelect_WorkLibrary::DefineProtocol(), job.path);
}

Result<ExactCounts> made(const ExactJob& job, const Run& run) {
    Message::DefaultMessenger()->ChangePrinters().Clear();
    const KernelShapes kernel(job.millimetres);
    Product product;
    ExactCounts counts;
    for (const ExactObject& object : job.objects) {
        const auto shapes = shapes_of(object.form, kernel, run);
        if (run.cancelled()) return cancelled_error();
        count(shapes, counts);
        product.add(object, shapes);
    }
    const Handle(Progress) progress = new Progress(run);
    const bool written = job.format == ExactFormat::step ? write_step(product, job, progress->Start())
                                                         : write_iges(product, job, progress->Start());
    if (run.cancelled()) return cancelled_error();
    if (!written)
        return Error{ErrorCode::file_unwritable, "", "is refused by the kernel that writes exact forms",
                     "Write fewer results at once, or a mesh."};
    return counts;
}

Result<std::vector<ExactBoundary>> bounded(const ExactForm& form, double millimetres, const Run& run) {
    const std::vector<KernelShape> shapes = shapes_of(form, KernelShapes(millimetres), run);
    if (run.cancelled()) return cancelled_error();
    std::vector<ExactBoundary> boundaries;
    boundaries.reserve(shapes.size());
    for (const KernelShape& shape : shapes)
        boundaries.push_back(shape.loose ? ExactBoundary()
                                         : boundary_of(shape.shape, shape.kind == KernelKind::body));
    return boundaries;
}

// The kernel keeps its settings for the whole program: one at a time.
std::mutex& kernel_in_use() {
    static std::mutex one;
    return one;
}

template <class Make>
auto kept_in_order(Make make) -> decltype(make()) {
    const std::lock_guard lock(kernel_in_use());
    try {
        return make();
    } catch (const Standard_Failure& failure) {
        const std::string why = failure.GetMessageString();
        return Error{ErrorCode::out_of_range, "",
                     "cannot be put together by the kernel" + (why.empty() ? "" : " (" + why + ")"),
                     "Write the results one by one to find which, or a mesh."};
    }
}

Result<ExactCounts> write(const ExactJob& job, const Run& run) {
    return kept_in_order([&] { return made(job, run); });
}
Result<std::vector<ExactBoundary>> boundaries(const ExactForm& form, double millimetres, const Run& run) {
    return kept_in_order([&] { return bounded(form, millimetres, run); });
}

}  // namespace
}  // namespace plume

const void* plume_exact_writer() {
    static constexpr plume::ExactWriter writer{plume::write, plume::boundaries};
    return &writer;
}
