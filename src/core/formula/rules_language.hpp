#pragma once
// The languages that rules of growth are written in: one grammar, with other clauses.

namespace plume {

enum class RulesLanguage { parts, faces };

}  // namespace plume
