#pragma once
// What stands above a step while a study is evaluated from top to bottom: results by their names, numbers
// that expressions can read, and the memory all of it holds. Slots are resolved against it.

#include <map>
#include <memory>
#include <string>

#include "core/evaluation/evaluation.hpp"
#include "core/study/slots/slot_rules.hpp"

namespace plume {

class Above {
public:
    // At a moment. The study outlives it.
    Above(const Study& study, double seconds, std::shared_ptr<FileStore> files);

    // A second one of the same name does not replace the first. The outcome outlives this.
    void add(const std::string& name, const Outcome& outcome);
    const Outcome* find(std::string_view name) const;  // nullptr when nothing above has the name
    double held_bytes() const { return held_bytes_; }

    // The step's value of a slot. Errors are about the slot; input_failed and input_muted where it is the
    // step above that keeps it from its value.
    Result<Resolved> resolve(const SlotSpec& slot, const Step& step) const;

private:
    std::optional<Error> missing_number(const SlotValue& value) const;
    Result<ReadResult> read(const SlotSpec& slot, const std::string& name) const;
    Result<std::vector<GivenResult>> read_all(const SlotSpec& slot, const ResultList& list) const;

    const Study& study_;
    double seconds_;
    Scope scope_;
    std::shared_ptr<FileStore> files_;
    bool any_gives_number_;
    std::map<std::string, const Outcome*, std::less<>> outcomes_;
    SeenColumns held_;  // columns counted in what the results hold
    double held_bytes_ = 0;
};

}  // namespace plume
