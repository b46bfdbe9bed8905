#include "core/receiving/hand_made_ifc.hpp"

#include <array>
#include <map>

namespace plume::test {
namespace {

std::string number(double value) {
    std::string text = std::to_string(value);
    text.erase(text.find_last_not_of('0') + 1);
    return text;
}

std::string replaced(std::string text, int begin) {
    for (std::size_t at = text.find('@'); at != std::string::npos; at = text.find('@', at)) {
        std::size_t end = at + 1;
        while (end < text.size() && text[end] >= '0' && text[end] <= '9')
            ++end;
        const int more = end > at + 1 ? std::stoi(text.substr(at + 1, end - at - 1)) : 0;
        text.replace(at, end - at, "#" + std::to_string(begin + more));
    }
    return text;
}

std::string place(double x, double y, double z) {
    return '(' + number(x) + ',' + number(y) + ',' + number(z) + ')';
}

// Corners by bits x 1, y 2, z 4; faces outwards.
constexpr std::array<std::array<int, 4>, 6> box_faces{
    {{0, 2, 3, 1}, {4, 5, 7, 6}, {0, 1, 5, 4}, {2, 6, 7, 3}, {0, 4, 6, 2}, {1, 3, 7, 5}}};

}  // namespace

std::string identity_number(int number) {
    std::string text = "0part" + std::to_string(number);
    return text + std::string(22 - text.size(), 'x');
}

std::vector<std::string> box_of_triangles(double x, double y, double z) {
    std::string places, triangles;
    for (int corner = 0; corner < 8; ++corner)
        places += (corner > 0 ? "," : "") +
                  place((corner & 1) != 0 ? x : 0, (corner & 2) != 0 ? y : 0, (corner & 4) != 0 ? z : 0);
    for (const auto& face : box_faces)
        for (const auto& [a, b, c] : {std::array{0, 1, 2}, std::array{0, 2, 3}})
            triangles += (triangles.empty() ? "(" : ",(") +
                         std::to_string(face[static_cast<std::size_t>(a)] + 1) + ',' +
                         std::to_string(face[static_cast<std::size_t>(b)] + 1) + ',' +
                         std::to_string(face[static_cast<std::size_t>(c)] + 1) + ')';
    return {"IFCTRIANGULATEDFACESET(@1,$,.T.,(" + triangles + "),$)",
            "IFCCARTESIANPOINTLIST3D((" + places + "))"};
}

std::vector<std::string> pulled_rectangle(double x, double y, double z) {
    return {"IFCEXTRUDEDAREASOLID(@1,$,@2," + number(z) + ")",
            "IFCRECTANGLEPROFILEDEF(.AREA.,$,$," + number(x) + ',' + number(y) + ")",
            "IFCDIRECTION((0.,0.,1.))"};
}

std::vector<std::string> faceted_box(double x, double y, double z) {
    std::vector<std::string> lines{"IFCFACETEDBREP(@1)", ""};
    for (int corner = 0; corner < 8; ++corner)
        lines.push_back(
            "IFCCARTESIANPOINT(" +
            place((corner & 1) != 0 ? x : 0, (corner & 2) != 0 ? y : 0, (corner & 4) != 0 ? z : 0) + ")");
    std::string faces;
    for (const auto& face : box_faces) {
        std::string corners;
        for (const int corner : face)
            corners += (corners.empty() ? "@" : ",@") + std::to_string(2 + corner);
        const std::string loop = std::to_string(lines.size());
        lines.push_back("IFCPOLYLOOP((" + corners + "))");
        lines.push_back("IFCFACEOUTERBOUND(@" + loop + ",.T.)");
        lines.push_back("IFCFACE((@" + std::to_string(lines.size() - 1) + "))");
        faces += (faces.empty() ? "@" : ",@") + std::to_string(lines.size() - 1);
    }
    lines[1] = "IFCCLOSEDSHELL((" + faces + "))";
    return lines;
}

std::string hand_made_ifc(const std::vector<HandMadePart>& parts, const std::string& prefix) {
    std::string text =
        "ISO-10303-21;\nHEADER;\nFILE_DESCRIPTION((''),'2;1');\n"
        "FILE_NAME('','2031-05-04T14:20:00',(''),(''),'','','');\nFILE_SCHEMA(('IFC4'));\nENDSEC;\nDATA;\n";
    int next = 1;
    const auto add = [&](const std::string& entity) {
        text += '#' + std::to_string(next) + "=" + entity + ";\n";
        return '#' + std::to_string(next++);
    };
    const std::string metre = add("IFCSIUNIT(*,.LENGTHUNIT.," + prefix + ",.METRE.)");
    const std::string area = add("IFCSIUNIT(*,.AREAUNIT.,$,.SQUARE_METRE.)");
    const std::string volume = add("IFCSIUNIT(*,.VOLUMEUNIT.,$,.CUBIC_METRE.)");
    const std::string units = add("IFCUNITASSIGNMENT((" + metre + ',' + area + ',' + volume + "))");
    const std::string at = add("IFCCARTESIANPOINT((10.,20.,0.))");
    const std::string up = add("IFCDIRECTION((0.,0.,1.))"), along = add("IFCDIRECTION((0.,1.,0.))");
    const std::string axes = add("IFCAXIS2PLACEMENT3D(" + at + ',' + up + ',' + along + ')');
    const std::string placement = add("IFCLOCALPLACEMENT($," + axes + ')');
    const std::string context = add("IFCGEOMETRICREPRESENTATIONCONTEXT($,'Model',3,1.E-05," + axes + ",$)");
    add("IFCPROJECT('0projectxxxxxxxxxxxxxx',$,'Nests',$,$,$,$,(" + context + ")," + units + ')');
    std::map<std::string, std::string> storeys, materials;
    for (const HandMadePart& part : parts) {
        const int begin = next;
        for (const std::string& line : part.shape)
            add(replaced(line, begin));
        const std::string item = '#' + std::to_string(begin);
        const std::string shown =
            add("IFCSHAPEREPRESENTATION(" + context + ",'" + part.representation + "','Any',(" + item + "))");
        const std::string shape = add("IFCPRODUCTDEFINITIONSHAPE($,$,(" + shown + "))");
        const std::string element = add(part.entity + "('" + part.identity + "',$,'" + part.name + "',$,$," +
                                        placement + ',' + shape + ",$,$)");
        std::string& storey = storeys[part.storey];
        storey += (storey.empty() ? "" : ",") + element;
        if (!part.material.empty()) {
            std::string& made = materials[part.material];
            made += (made.empty() ? "" : ",") + element;
        }
    }
    int number = 0;
    const auto identity = [&] { return '\'' + identity_number(1000 + number++) + '\''; };
    for (const auto& [name, elements] : storeys) {
        const std::string storey = add("IFCBUILDINGSTOREY(" + identity() + ",$,'" + name + "',$,$," +
                                       placement + ",$,$,.ELEMENT.,0.)");
        add("IFCRELCONTAINEDINSPATIALSTRUCTURE(" + identity() + ",$,$,$,(" + elements + ")," + storey + ')');
    }
    for (const auto& [name, elements] : materials) {
        const std::string material = add("IFCMATERIAL('" + name + "',$,$)");
        add("IFCRELASSOCIATESMATERIAL(" + identity() + ",$,$,$,(" + elements + ")," + material + ')');
    }
    return text + "ENDSEC;\nEND-ISO-10303-21;\n";
}

}  // namespace plume::test
