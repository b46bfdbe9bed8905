#pragma once
// How values of slots are written in files, and what a written value can only mean. Private to the exchange
// layer.

#include "core/exchange/json_reader.hpp"

namespace plume {

Json json_of(const SlotValue& value);
// A form that is not known is kept as it stands.
SlotValue slot_from(const Json& json);

}  // namespace plume
