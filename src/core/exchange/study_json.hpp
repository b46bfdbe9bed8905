#pragma once
// Between Study and JSON values. Private to the exchange layer.

#include "core/exchange/json_reader.hpp"

namespace plume {

Json json_of(const Control& control);
Json json_of(const KeptCamera& camera);
Json json_of(const Heading& heading);
Json json_of(const Step& step);
// The study without controls and page, which are written line by line.
Json head_json_of(const Study& study);

// The whole, as it stands within another one.
Json json_of(const Study& study);

Result<StudyPointer> study_from_json(const Json& json);

}  // namespace plume
