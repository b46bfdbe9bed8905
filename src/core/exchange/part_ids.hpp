#pragma once
// Identities of results and parts in files: the same for the same name and mark, whatever else changes.

#include <string>

#include "core/base/hash.hpp"

namespace plume {

// Of a part of a result, or of a result as a whole; `what` tells apart what else stands for them in a file.
Hash identity_of(const std::string& result, const std::string& part, const std::string& what);

// As a UUID of version 8 (RFC 9562): "f81d4fae-7dec-81d0-a765-00a0c91e6bf6".
std::string uuid_text(const Hash& identity);

}  // namespace plume
