// The program that reads 3MF for others: plume-print-reader FILE writes the bodies that are in it to its
// output, as exact_file.hpp says. By lib3mf (3MF Consortium, Core Specification 1.2), which unpacks what
// strangers packed.

#include <array>
#include <map>

#include "core/base/text.hpp"
#include "core/readers/exact_file.hpp"
#include "core/readers/print/print_library.hpp"
#include "core/readers/reading_program.hpp"

namespace plume {
namespace {

struct Refused {};
void check(LIB3MFRESULT result) {
    if (result != LIB3MF_OK) throw Refused{};
}

template <class Call>
std::string text_of(Call call) {
    ULONG needed = 0;
    check(call(nullptr, 0, &needed));
    std::string text(needed + 1, '\0');
    check(call(text.data(), static_cast<ULONG>(text.size()), &needed));
    text.resize(needed);
    return printable(text);
}

// v' = v (x, y, z) + t, with what the library calls fields of three rows and four columns.
using Map = NMR::MODELTRANSFORM;
constexpr Map identity = {{{1, 0, 0, 0}, {0, 1, 0, 0}, {0, 0, 1, 0}}};

Map composed(const Map& outer, const Map& inner) {
    Map made = identity;
    for (int row = 0; row < 3; ++row)
        for (int column = 0; column < 4; ++column) {
            float sum = column == 3 ? outer.m_fFields[row][3] : 0.0F;
            for (int at = 0; at < 3; ++at)
                sum += outer.m_fFields[row][at] * inner.m_fFields[at][column];
            made.m_fFields[row][column] = sum;
        }
    return made;
}

class PrintReader {
public:
    ExactFile read(const char* path) {
        check(NMR::lib3mf_createmodel(model_.out()));
        Held reader;
        check(NMR::lib3mf_model_queryreader(model_, "3mf", reader.out()));
        check(NMR::lib3mf_reader_readfromfileutf8(reader, path));
        take_unit();
        Held items;
        check(NMR::lib3mf_model_getbuilditems(model_, items.out()));
        for (BOOL more = 0; check(NMR::lib3mf_builditemiterator_movenext(items, &more)), more != 0;) {
            Held item, object;
            check(NMR::lib3mf_builditemiterator_getcurrent(items, item.out()));
            check(NMR::lib3mf_builditem_getobjectresource(item, object.out()));
            Map map = identity;
            check(NMR::lib3mf_builditem_getobjecttransform(item, &map));
            add(object, map, 0);
        }
        for (auto& [key, name] : material_names_)
            file_.materials.push_back(name);
        if (mixed_ > 0)
            file_.losses.push_back("Colours that vary within " +
                                   count_text(mixed_, "triangle are", "triangles are") +
                                   " taken at their mean.");
        return std::move(file_);
    }

private:
    void take_unit() {
        DWORD unit = NMR::MODELUNIT_MILLIMETER;
        check(NMR::lib3mf_model_getunit(model_, &unit));
        constexpr std::array metres = {1e-6, 0.001, 0.01, 0.0254, 0.3048, 1.0};
        if (unit >= metres.size()) throw Refused{};
        file_.metres_per_unit = metres[unit];
    }

    void add(const Held& object, const Map& map, int depth) {
        constexpr int deepest = 64;
        constexpr std::size_t most_parts = 1'000'000;
        if (depth > deepest || file_.parts.size() >= most_parts) throw Refused{};
        BOOL is_mesh = 0, is_assembly = 0;
        check(NMR::lib3mf_object_ismeshobject(object, &is_mesh));
        check(NMR::lib3mf_object_iscomponentsobject(object, &is_assembly));
        if (is_mesh != 0) add_mesh(object, map);
        if (is_assembly == 0) return;
        DWORD count = 0;
        check(NMR::lib3mf_componentsobject_getcomponentcount(object, &count));
        for (DWORD at = 0; at < count; ++at) {
            Held component, inner;
            check(NMR::lib3mf_componentsobject_getcomponent(object, at, component.out()));
            check(NMR::lib3mf_component_getobjectresource(component, inner.out()));
            Map own = identity;
            check(NMR::lib3mf_component_gettransform(component, &own));
            add(inner, composed(map, own), depth + 1);
        }
    }

    void add_mesh(const Held& object, const Map& map) {
        DWORD vertices = 0, triangles = 0, got = 0;
        check(NMR::lib3mf_meshobject_getvertexcount(object, &vertices));
        check(NMR::lib3mf_meshobject_gettrianglecount(object, &triangles));
        if (vertices == 0 || triangles == 0) return;
        std::vector<NMR::MODELMESHVERTEX> places(vertices);
        std::vector<NMR::MODELMESHTRIANGLE> corners(triangles);
        check(NMR::lib3mf_meshobject_getvertices(object, places.data(), vertices, &got));
        check(NMR::lib3mf_meshobject_gettriangleindices(object, corners.data(), triangles, &got));
        ExactPart part;
        part.name = text_of([&](char* into, ULONG size, ULONG* needed) {
            return NMR::lib3mf_object_getnameutf8(object, into, size, needed);
        });
        LooseMesh mesh;
        for (const NMR::MODELMESHVERTEX& place : places)
            for (int row = 0; row < 3; ++row) {
                const float* m = map.m_fFields[row];
                mesh.places[static_cast<std::size_t>(row)].push_back(
                    static_cast<double>(m[0] * place.m_fPosition[0] + m[1] * place.m_fPosition[1] +
                                        m[2] * place.m_fPosition[2] + m[3]));
            }
        const bool turned = mirrors(map);
        for (const NMR::MODELMESHTRIANGLE& triangle : corners)
            for (std::size_t corner = 0; corner < 3; ++corner)
                mesh.corners.push_back(triangle.m_nIndices[turned ? 2 - corner : corner]);
        take_colours(object, triangles, mesh);
        part.loose = std::move(mesh);
        file_.parts.push_back(std::move(part));
    }
    static bool mirrors(const Map& map) {
        const auto& m = map.m_fFields;
        return m[0][0] * (m[1][1] * m[2][2] - m[1][2] * m[2][1]) -
                   m[0][1] * (m[1][0] * m[2][2] - m[1][2] * m[2][0]) +
                   m[0][2] * (m[1][0] * m[2][1] - m[1][1] * m[2][0]) <
               0;
    }

    // A material or colours a triangle; where it has none, that of its object.
    void take_colours(const Held& object, DWORD triangles, LooseMesh& mesh) {
        Held own, all;
        check(NMR::lib3mf_meshobject_createpropertyhandler(object, own.out()));
        check(NMR::lib3mf_object_createdefaultpropertyhandler(object, all.out()));
        NMR::eModelPropertyType usual = NMR::MODELPROPERTYTYPE_NONE;
        check(NMR::lib3mf_defaultpropertyhandler_getpropertytype(all, &usual));
        for (DWORD at = 0; at < triangles; ++at) {
            NMR::eModelPropertyType type = NMR::MODELPROPERTYTYPE_NONE;
            check(NMR::lib3mf_propertyhandler_getpropertytype(own, at, &type));
            DWORD group = 0, index = 0;
            if (type == NMR::MODELPROPERTYTYPE_COLOR) {
                NMR::MODELMESH_TRIANGLECOLOR_SRGB colours{};
                check(NMR::lib3mf_propertyhandler_getcolor(own, at, &colours));
                add_mean(mesh, colours);
            } else if (type == NMR::MODELPROPERTYTYPE_BASEMATERIALS) {
                check(NMR::lib3mf_propertyhandler_getbasematerial(own, at, &group, &index));
                add_material(mesh, group, index);
            } else if (usual == NMR::MODELPROPERTYTYPE_BASEMATERIALS) {
                check(NMR::lib3mf_defaultpropertyhandler_getbasematerial(all, &group, &index));
                add_material(mesh, group, index);
            } else {
                add_number(mesh, 0, {255, 255, 255});
            }
        }
    }
    void add_number(LooseMesh& mesh, double material, std::array<double, 3> bytes) {
        mesh.numbers[0].push_back(material);
        for (std::size_t part = 0; part < 3; ++part)
            mesh.numbers[part + 1].push_back(bytes[part] / 255);
    }
    void add_mean(LooseMesh& mesh, const NMR::MODELMESH_TRIANGLECOLOR_SRGB& colours) {
        std::array<double, 3> sums{};
        bool mixed = false;
        for (const NMR::MODELMESHCOLOR_SRGB& corner : colours.m_Colors) {
            const std::array parts{corner.m_Red, corner.m_Green, corner.m_Blue};
            const NMR::MODELMESHCOLOR_SRGB& first = colours.m_Colors[0];
            mixed = mixed || parts != std::array{first.m_Red, first.m_Green, first.m_Blue};
            for (std::size_t part = 0; part < 3; ++part)
                sums[part] += parts[part] / 3.0;
        }
        mixed_ += mixed ? 1 : 0;
        add_number(mesh, 0, sums);
    }
    void add_material(LooseMesh& mesh, DWORD group, DWORD index) {
        const auto key = std::pair(group, index);
        auto known = materials_.find(key);
        if (known == materials_.end()) {
            Held materials;
            check(NMR::lib3mf_model_getbasematerialbyid(model_, group, materials.out()));
            Material made;
            made.number = static_cast<double>(materials_.size() + 1);
            check(NMR::lib3mf_basematerial_getdisplaycolor(materials, index, &made.red, &made.green,
                                                           &made.blue, &made.alpha));
            material_names_[materials_.size() + 1] = text_of([&](char* into, ULONG size, ULONG* needed) {
                return NMR::lib3mf_basematerial_getnameutf8(materials, index, into, size, needed);
            });
            known = materials_.emplace(key, made).first;
        }
        const Material& material = known->second;
        add_number(mesh, material.number,
                   {static_cast<double>(material.red), static_cast<double>(material.green),
                    static_cast<double>(material.blue)});
    }

    struct Material {
        double number = 0;
        BYTE red = 0, green = 0, blue = 0, alpha = 0;
    };
    Held model_;
    ExactFile file_;
    std::map<std::pair<DWORD, DWORD>, Material> materials_;
    std::map<std::size_t, std::string> material_names_;  // by number
    std::size_t mixed_ = 0;
};

Result<ExactFile> guarded_read(const char* path) {
    try {
        return PrintReader().read(path);
    } catch (const Refused&) {
        return Error{ErrorCode::file_damaged, "", "cannot be read as 3MF",
                     "Get it anew, or save it anew where it was made."};
    }
}

}  // namespace
}  // namespace plume

int main(int count, char** arguments) {
    // Packed files say little of how large they are.
    plume::set_limits(1800, 8);
    return plume::hand_over(count, arguments, plume::guarded_read);
}
