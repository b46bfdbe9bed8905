#pragma once
// Which layer of a drawing things stand on: that of their result, or one for each value of a number they
// carry.

#include <string>
#include <vector>

#include "core/exchange/scene.hpp"

namespace plume {

class Layers {
public:
    Layers(const ExportJob& job, std::string result) : job_(job), result_(std::move(result)) {}

    // Of an item whose numbers are those of `fields` at `index`.
    std::string of(const std::vector<Field>& fields, std::size_t index) const;
    // Of a value of the number that layers go by.
    std::string of(const Field& field, double value) const;

private:
    const ExportJob& job_;
    std::string result_;
};

// Error: unknown_name where layers go by a number that no result carries.
Status check_layers(const ExportJob& job);

}  // namespace plume
