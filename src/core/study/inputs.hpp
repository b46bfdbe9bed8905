#pragma once
// Inputs: what a step is made from, its slots resolved and checked.

#include <map>
#include <memory>
#include <string>
#include <variant>
#include <vector>

#include "core/assets/file_store.hpp"
#include "core/base/hash.hpp"
#include "core/data/delivery.hpp"
#include "core/formula/formula.hpp"

namespace plume {

// A slot's value once expressions and references are resolved: study lengths and radians.
struct ResolvedPlace {
    std::string name;
    Vec3 position;
    double weight = 1;
};
// A formula and what names of the study mean in it; checked by the step, which knows what it runs on.
struct ResolvedFormula {
    std::string text;
    std::vector<std::string> muted;
    Scope scope;
};
// A linked file, as it was when the study first read it.
struct ResolvedFile {
    std::string name;
    Hash stamp;
    std::shared_ptr<FileStore> store;
};
// A result of a step above, and the key that names it.
struct ReadResult {
    ValuePointer value;
    Hash key;
};
using Resolved = std::variant<double, std::string, ReadResult, std::vector<ResolvedPlace>, Quantity,
                              ResolvedFormula, ResolvedFile, std::vector<GivenResult>, SeenFrom>;

// What make() and estimate() see: every active slot, checked. Asking for a slot that is not declared or of
// another type is a programmer's mistake.
class Inputs {
public:
    Inputs(std::map<std::string, Resolved> slots, std::string result_name, Units units, Units text_units)
        : slots_(std::move(slots)),
          result_name_(std::move(result_name)),
          units_(units),
          text_units_(text_units) {}

    double number(std::string_view key) const { return get<double>(key); }
    std::size_t count(std::string_view key) const { return static_cast<std::size_t>(number(key)); }
    // Of choices, responses, names and texts.
    const std::string& word(std::string_view key) const { return get<std::string>(key); }
    bool has(std::string_view key) const { return slots_.find(std::string(key)) != slots_.end(); }
    const ResolvedFile& file(std::string_view key) const { return get<ResolvedFile>(key); }
    // Of a slot that takes one kind.
    template <class T>
    const T& held(std::string_view key) const {
        return std::get<T>(value(key));
    }
    const Value& value(std::string_view key) const { return *get<ReadResult>(key).value; }
    const PointLattice& points(std::string_view key) const { return held<PointLattice>(key); }
    // Of a slot that takes points or numbers on points.
    const PointLattice& lattice(std::string_view key) const { return *lattice_of(value(key)); }
    Quantity quantity(std::string_view key) const { return get<Quantity>(key); }
    const ResolvedFormula& formula(std::string_view key) const { return get<ResolvedFormula>(key); }
    const FieldOnPoints& field(std::string_view key) const { return held<FieldOnPoints>(key); }
    const std::vector<ResolvedPlace>& places(std::string_view key) const {
        return get<std::vector<ResolvedPlace>>(key);
    }
    const std::vector<GivenResult>& given(std::string_view key) const {
        return get<std::vector<GivenResult>>(key);
    }
    const SeenFrom& seen(std::string_view key) const { return get<SeenFrom>(key); }
    // Of a kind that bears it; empty otherwise.
    const std::string& result_name() const { return result_name_; }
    const Units& units() const { return units_; }
    // What plain numbers in texts and tables count.
    const Units& text_units() const { return text_units_; }
    const std::map<std::string, Resolved>& all() const { return slots_; }

private:
    template <class T>
    const T& get(std::string_view key) const {
        const auto found = slots_.find(std::string(key));
        assert(found != slots_.end());
        return std::get<T>(found->second);
    }
    std::map<std::string, Resolved> slots_;
    std::string result_name_;
    Units units_, text_units_;
};

}  // namespace plume
