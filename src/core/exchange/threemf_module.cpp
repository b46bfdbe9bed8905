#include "core/exchange/threemf_module.hpp"

#include <cstring>
#include <memory>

#include "core/readers/print/print_library.hpp"

namespace plume {
namespace {

class ModelWriter {
public:
    explicit ModelWriter(const Run& run) : run_(run) {
        check(NMR::lib3mf_createmodel(model_.out()));
        check(NMR::lib3mf_model_setunit(model_, NMR::MODELUNIT_MILLIMETER));
        check(NMR::lib3mf_model_addmetadatautf8(model_, "Application", "Plume Lattice"));
        check(NMR::lib3mf_model_addbasematerialgroup(model_, materials_.out()));
        check(NMR::lib3mf_resource_getresourceid(materials_, &material_group_));
    }

    void add(const PrintBody& body) {
        Held object;
        check(NMR::lib3mf_model_addmeshobject(model_, object.out()));
        check(NMR::lib3mf_object_setnameutf8(object, body.name.c_str()));
        check(NMR::lib3mf_object_setuuidutf8(object, body.id.c_str()));
        set_geometry(object, body);
        // What encloses nothing is a surface: the specification asks models to be closed.
        if (!body.closed) check(NMR::lib3mf_object_settype(object, NMR::MODELOBJECTTYPE_SURFACE));
        set_material(object, body);
        if (!body.corner_colours.empty()) set_colours(object, body);
        Held item;
        check(NMR::lib3mf_model_addbuilditem(model_, object, nullptr, item.out()));
        check(NMR::lib3mf_builditem_setuuidutf8(item, body.item_id.c_str()));
    }

    Result<std::string> bytes(const std::string& id) {
        check(NMR::lib3mf_model_setbuilduuidutf8(model_, id.c_str()));
        Held writer;
        check(NMR::lib3mf_model_querywriter(model_, "3mf", writer.out()));
        NMR::lib3mf_writer_setprogresscallback(writer, go_on, const_cast<Run*>(&run_));
        Output output;
        if (failed_) return failure();
        check(NMR::lib3mf_writer_writetocallback(writer, reinterpret_cast<void*>(append),
                                                 reinterpret_cast<void*>(seek), &output));
        if (run_.cancelled()) return cancelled_error();
        if (failed_) return failure();
        return std::move(output.bytes);
    }

private:
    struct Output {
        std::string bytes;
        std::size_t at = 0;
    };
    static std::uint32_t append(std::uint8_t* data, std::uint32_t count, void* user) {
        Output& output = *static_cast<Output*>(user);
        if (output.bytes.size() < output.at + count) output.bytes.resize(output.at + count);
        std::memcpy(output.bytes.data() + output.at, data, count);
        output.at += count;
        return 0;
    }
    static std::uint32_t seek(std::uint64_t position, void* user) {
        static_cast<Output*>(user)->at = position;
        return 0;
    }
    static bool go_on(int percent, NMR::ProgressIdentifier, void* user) {
        const Run& run = *static_cast<const Run*>(user);
        run.report(percent / 100.0);
        return !run.cancelled();
    }

    void check(LIB3MFRESULT result) { failed_ = failed_ || result != 0; }
    Error failure() const {
        return {ErrorCode::out_of_range, "", "is refused by the library that writes 3MF",
                "Write .stl, or fewer results at once."};
    }

    void set_geometry(Held::Handle object, const PrintBody& body) {
        static_assert(sizeof(NMR::MODELMESHVERTEX) == sizeof(std::array<float, 3>) &&
                      sizeof(NMR::MODELMESHTRIANGLE) == sizeof(std::array<std::uint32_t, 3>));
        std::vector<NMR::MODELMESHVERTEX> vertices(body.vertices.size());
        std::vector<NMR::MODELMESHTRIANGLE> triangles(body.triangles.size());
        std::memcpy(vertices.data(), body.vertices.data(), vertices.size() * sizeof vertices[0]);
        std::memcpy(triangles.data(), body.triangles.data(), triangles.size() * sizeof triangles[0]);
        check(NMR::lib3mf_meshobject_setgeometry(object, vertices.data(), static_cast<DWORD>(vertices.size()),
                                                 triangles.data(), static_cast<DWORD>(triangles.size())));
    }

    // Bodies of one material and colour share an entry of the group.
    void set_material(Held::Handle object, const PrintBody& body) {
        const auto key = std::pair(body.material, body.colour);
        DWORD index = 0;
        while (index < known_.size() && known_[index].first != key)
            ++index;
        if (index == known_.size()) {
            DWORD added = 0;
            check(NMR::lib3mf_basematerial_addmaterialutf8(materials_, body.material.c_str(), body.colour[0],
                                                           body.colour[1], body.colour[2], &added));
            check(NMR::lib3mf_basematerial_setdisplaycolorrgba(
                materials_, added, body.colour[0], body.colour[1], body.colour[2], body.colour[3]));
            known_.emplace_back(key, added);
        }
        Held handler;
        check(NMR::lib3mf_object_createdefaultpropertyhandler(object, handler.out()));
        check(NMR::lib3mf_defaultpropertyhandler_setbasematerial(handler, material_group_,
                                                                 known_[index].second));
    }
    void set_colours(Held::Handle object, const PrintBody& body) {
        std::vector<NMR::MODELMESH_TRIANGLECOLOR_SRGB> colours(body.corner_colours.size());
        for (std::size_t triangle = 0; triangle < colours.size(); ++triangle)
            for (std::size_t corner = 0; corner < 3; ++corner) {
                const PrintColour& from = body.corner_colours[triangle][corner];
                NMR::MODELMESHCOLOR_SRGB& to = colours[triangle].m_Colors[corner];
                to.m_Red = from[0];
                to.m_Green = from[1];
                to.m_Blue = from[2];
                to.m_Alpha = from[3];
            }
        Held handler;
        check(NMR::lib3mf_meshobject_createpropertyhandler(object, handler.out()));
        check(NMR::lib3mf_propertyhandler_setgradientcolorarray(handler, colours.data()));
    }

    const Run& run_;
    Held model_;
    Held materials_;
    DWORD material_group_ = 0;
    std::vector<std::pair<std::pair<std::string, PrintColour>, DWORD>> known_;
    bool failed_ = false;
};

Result<std::string> write(const std::vector<PrintBody>& bodies, const std::string& id, const Run& run) {
    ModelWriter writer(run);
    for (const PrintBody& body : bodies) {
        if (run.cancelled()) return cancelled_error();
        writer.add(body);
    }
    return writer.bytes(id);
}

}  // namespace
}  // namespace plume

const void* plume_threemf_writer() {
    static constexpr plume::ThreeMfWriter writer{plume::write};
    return &writer;
}
