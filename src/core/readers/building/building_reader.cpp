// The program that reads IFC for others: plume-building-reader FILE writes the elements that are in it to its
// output, as building_file.hpp says. By libifcplusplus, which may break on what strangers wrote.

#include <ifcpp/IFC4/include/IfcAreaMeasure.h>
#include <ifcpp/IFC4/include/IfcBuildingStorey.h>
#include <ifcpp/IFC4/include/IfcColourRgb.h>
#include <ifcpp/IFC4/include/IfcElement.h>
#include <ifcpp/IFC4/include/IfcElementQuantity.h>
#include <ifcpp/IFC4/include/IfcGloballyUniqueId.h>
#include <ifcpp/IFC4/include/IfcIdentifier.h>
#include <ifcpp/IFC4/include/IfcLabel.h>
#include <ifcpp/IFC4/include/IfcMaterial.h>
#include <ifcpp/IFC4/include/IfcNormalisedRatioMeasure.h>
#include <ifcpp/IFC4/include/IfcOpeningElement.h>
#include <ifcpp/IFC4/include/IfcProject.h>
#include <ifcpp/IFC4/include/IfcPropertySet.h>
#include <ifcpp/IFC4/include/IfcPropertySingleValue.h>
#include <ifcpp/IFC4/include/IfcQuantityArea.h>
#include <ifcpp/IFC4/include/IfcQuantityLength.h>
#include <ifcpp/IFC4/include/IfcQuantityVolume.h>
#include <ifcpp/IFC4/include/IfcRelAggregates.h>
#include <ifcpp/IFC4/include/IfcRelAssociatesMaterial.h>
#include <ifcpp/IFC4/include/IfcRelContainedInSpatialStructure.h>
#include <ifcpp/IFC4/include/IfcRelDefinesByProperties.h>
#include <ifcpp/IFC4/include/IfcStyledItem.h>
#include <ifcpp/IFC4/include/IfcSurfaceStyle.h>
#include <ifcpp/IFC4/include/IfcSurfaceStyleShading.h>
#include <ifcpp/IFC4/include/IfcVolumeMeasure.h>
#include <ifcpp/model/BuildingException.h>
#include <ifcpp/reader/ReaderSTEP.h>

#include <algorithm>
#include <cstdio>
#include <iostream>
#include <map>

#include "core/base/file.hpp"
#include "core/base/text.hpp"
#include "core/base/utf8.hpp"
#include "core/readers/building/curved_text.hpp"
#include "core/readers/building/element_shapes.hpp"
#include "core/readers/building/file_units.hpp"
#include "core/readers/building/values.hpp"
#include "core/readers/reading_program.hpp"

namespace plume {

std::string utf8_of(const std::wstring& wide) {
    std::string text;
    for (const wchar_t character : wide)
        add_character(text, static_cast<char32_t>(character));
    return printable(text);
}

namespace {

// Deeper wholes of wholes are taken for a circle.
constexpr int deepest_whole = 64;

class BuildingReader {
public:
    Result<BuildingFile> read(const char* path) {
        constexpr std::uintmax_t largest = 300'000'000;
        Result<std::string> text = read_file(path, largest);
        if (!text) return text.error();
        // The library takes its text apart in place.
        text_ = *text;
        ReaderSTEP reader;
        reader.setMessageCallBack(this, &BuildingReader::hear);
        reader.loadModelFromString(*text, model_);
        units_ = units_of(*model_);
        file_.metres_per_unit = units_.length;
        find_relations();
        take_elements();
        if (file_.elements.empty())
            return Error{ErrorCode::empty_input, "", "has no element", "Hand off a result in it."};
        if (wrong_ > 0)
            file_.losses.push_back(count_text(wrong_, "instance is", "instances are") +
                                   " not as the schema has it: " + shortened(first_wrong_, 200));
        return std::move(file_);
    }

private:
    static void hear(void* reader, std::shared_ptr<StatusCallback::Message> message) {
        static_cast<BuildingReader*>(reader)->hear(*message);
    }
    void hear(const StatusCallback::Message& message) {
        using Type = StatusCallback::MessageType;
        if (message.m_message_type == Type::MESSAGE_TYPE_PROGRESS_VALUE)
            std::fprintf(stderr, "%.2f\n", 0.8 * message.m_progress_value);
        if (message.m_message_type != Type::MESSAGE_TYPE_ERROR) return;
        if (wrong_++ == 0) first_wrong_ = utf8_of(message.m_message_text);
    }

    // What is told of elements from elsewhere, by their numbers.
    void find_relations() {
        for (const auto& [number, entity] : model_->getMapIfcEntities()) {
            if (const auto contains = as<IfcRelContainedInSpatialStructure>(entity)) {
                if (!contains->m_RelatingStructure) continue;
                for (const auto& element : contains->m_RelatedElements)
                    if (element)
                        storeys_[element->m_entity_id] = text_of(contains->m_RelatingStructure->m_Name);
            } else if (const auto whole = as<IfcRelAggregates>(entity)) {
                if (!whole->m_RelatingObject) continue;
                for (const auto& part : whole->m_RelatedObjects)
                    if (part) wholes_[part->m_entity_id] = whole->m_RelatingObject->m_entity_id;
            } else if (const auto defined = as<IfcRelDefinesByProperties>(entity)) {
                for (const auto& object : defined->m_RelatedObjects)
                    if (object)
                        definitions_[object->m_entity_id].push_back(defined->m_RelatingPropertyDefinition);
            } else if (const auto made = as<IfcRelAssociatesMaterial>(entity)) {
                const auto material = as<IfcMaterial>(made->m_RelatingMaterial);
                for (const auto& object : made->m_RelatedObjects)
                    if (const auto of = as<BuildingEntity>(object); of && material)
                        materials_[of->m_entity_id] = text_of(material->m_Name);
            } else if (const auto styled = as<IfcStyledItem>(entity)) {
                if (styled->m_Item)
                    if (const auto colour = colour_in(*styled))
                        colours_[styled->m_Item->m_entity_id] = *colour;
            } else if (const auto project = as<IfcProject>(entity)) {
                file_.project = text_of(project->m_Name);
            }
        }
    }
    static std::optional<std::array<double, 3>> colour_in(const IfcStyledItem& styled) {
        for (const auto& one : styled.m_Styles) {
            const auto style = as<IfcSurfaceStyle>(one);
            if (!style) continue;
            for (const auto& part : style->m_Styles) {
                const auto shading = as<IfcSurfaceStyleShading>(part);
                const auto rgb = shading ? shading->m_SurfaceColour : nullptr;
                if (rgb && rgb->m_Red && rgb->m_Green && rgb->m_Blue)
                    return std::array{rgb->m_Red->m_value, rgb->m_Green->m_value, rgb->m_Blue->m_value};
            }
        }
        return {};
    }

    void take_elements() {
        const Run run;
        ElementShapes shapes(units_.length, run);
        const auto& entities = model_->getMapIfcEntities();
        std::size_t at = 0;
        for (const auto& [number, entity] : entities) {
            if (++at % 4096 == 0)
                std::fprintf(stderr, "%.3f\n",
                             0.8 + 0.2 * static_cast<double>(at) / static_cast<double>(entities.size()));
            const auto element = as<IfcElement>(entity);
            if (element && !as<IfcOpeningElement>(entity)) take_element(*element, shapes);
        }
        if (shapes.curved().empty()) return;
        std::vector<std::string> lines;
        ReaderSTEP().splitIntoStepLines(text_, lines);
        file_.curved_shapes = curved_text(lines, shapes.curved(), units_.length);
    }
    void take_element(const IfcElement& element, ElementShapes& shapes) {
        BuildingElement made;
        made.identity = element.m_GlobalId ? utf8_of(element.m_GlobalId->m_value) : "";
        made.entity = element.className();
        made.name = text_of(element.m_Name);
        made.storey = storey_of(element.m_entity_id);
        if (const auto found = materials_.find(element.m_entity_id); found != materials_.end())
            made.material = found->second;
        for (const auto& definition : definitions_[element.m_entity_id])
            take_properties(definition, made);
        std::vector<int> items;
        shapes.take(element, made, items);
        for (const int item : items)
            if (const auto found = colours_.find(item); found != colours_.end() && !made.colour)
                made.colour = found->second;
        file_.elements.push_back(std::move(made));
    }
    // Of the element or of the whole it is part of.
    std::string storey_of(int element) const {
        for (int depth = 0; depth < deepest_whole; ++depth) {
            if (const auto found = storeys_.find(element); found != storeys_.end()) return found->second;
            const auto whole = wholes_.find(element);
            if (whole == wholes_.end()) break;
            element = whole->second;
        }
        return {};
    }

    void take_properties(const std::shared_ptr<IfcPropertySetDefinitionSelect>& definition,
                         BuildingElement& element) const {
        if (const auto set = as<IfcPropertySet>(definition))
            for (const auto& property : set->m_HasProperties) {
                const auto single = as<IfcPropertySingleValue>(property);
                if (!single) continue;
                add(element, text_of(set->m_Name), text_of(single->m_Name), number_in(single->m_NominalValue),
                    text_in(single->m_NominalValue));
            }
        if (const auto set = as<IfcElementQuantity>(definition))
            for (const auto& one : set->m_Quantities) {
                std::optional<Quantity> number;
                if (const auto along = as<IfcQuantityLength>(one); along && along->m_LengthValue)
                    number = {along->m_LengthValue->m_value, a_length};
                else if (const auto area = as<IfcQuantityArea>(one); area && area->m_AreaValue)
                    number = {area->m_AreaValue->m_value, {2, 0}};
                else if (const auto volume = as<IfcQuantityVolume>(one); volume && volume->m_VolumeValue)
                    number = {volume->m_VolumeValue->m_value, {3, 0}};
                if (number) add(element, text_of(set->m_Name), text_of(one->m_Name), number, {});
            }
    }
    void add(BuildingElement& element, std::string set, std::string name, std::optional<Quantity> number,
             std::string text) const {
        if (number) {
            number->value *= units_.factor(number->dimension);
            text.clear();
        }
        element.properties.push_back({std::move(set), std::move(name), number, std::move(text)});
    }

    std::shared_ptr<BuildingModel> model_ = std::make_shared<BuildingModel>();
    std::string text_;
    FileUnits units_;
    BuildingFile file_;
    std::map<int, std::string> storeys_, materials_;
    std::map<int, int> wholes_;
    std::map<int, std::vector<std::shared_ptr<IfcPropertySetDefinitionSelect>>> definitions_;
    std::map<int, std::array<double, 3>> colours_;
    std::size_t wrong_ = 0;
    std::string first_wrong_;
};

Result<BuildingFile> guarded_read(const char* path) {
    try {
        return BuildingReader().read(path);
    } catch (const BuildingException& problem) {
        return Error{ErrorCode::file_damaged, "", "cannot be read as IFC: " + printable(problem.what()),
                     "Get it anew, or have it written anew."};
    }
}

}  // namespace
}  // namespace plume

int main(int count, char** arguments) {
    plume::set_limits(1800, 16);
    // The library speaks to the output, which is ours.
    std::cout.setstate(std::ios::failbit);
    std::wcout.setstate(std::ios::failbit);
    return plume::hand_over(count, arguments, plume::guarded_read);
}
