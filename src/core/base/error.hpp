#pragma once
// Errors as values. Whatever comes from a file, a user or a formula fails by returning an Error that says
// where, what is wrong and how to mend it; assert is kept for a programmer's mistakes.

#include <cassert>
#include <string>
#include <string_view>
#include <utility>
#include <variant>

namespace plume {

enum class ErrorCode {
    bad_number,
    out_of_range,
    not_finite,
    unit_mismatch,
    unknown_name,
    syntax,
    too_deep,
    too_long,
    division_by_zero,
    name_clash,
    bad_name,
    missing_input,
    reads_below,
    wrong_kind,
    unlike_arrangement,
    has_gaps,
    too_few_points,
    empty_input,
    broken_invariant,
    unknown_step_kind,
    unknown_slot,
    input_failed,
    input_muted,
    still_read,
    over_budget,
    out_of_memory,
    cancelled,
    file_missing,
    file_unreadable,
    file_changed,
    file_too_large,
    file_damaged,
    file_newer,
    file_unwritable,
    disk_full,
    nothing_to_write,
    wrong_form,
    broke_off,
    not_converged,
    number_of_codes  // not an error
};

// Stable key of a code, as `--json` prints it: "unit-mismatch".
std::string_view code_key(ErrorCode code);

struct Error {
    ErrorCode code;
    std::string where;    // what the error is about: a slot, a control, a file and line; may be empty
    std::string message;  // one sentence without the where: "has to be at least 1, and is 0"
    std::string mend;     // one sentence that says what to do about it; may be empty
    // Of an error in a text: the bytes it is about. The same twice when that is not known.
    std::size_t begin = 0, end = 0;
    // Of an error of a step: the key of the slot it is about; its label stands in `where` once it is shown.
    std::string slot = {};
};

// "columns has to be at least 1, and is 0. Type a whole number from 1 on."
std::string sentence(const Error& error);

// The same error, put somewhere when it says nothing of that yet.
Error error_at(Error error, std::string_view where);

// The same error, about that slot when it is about none yet.
Error about_slot(Error error, std::string_view slot);

template <class T>
class [[nodiscard]] Result {
public:
    Result(T value) : state_(std::move(value)) {}      // NOLINT: a value is a result
    Result(Error error) : state_(std::move(error)) {}  // NOLINT: an error is a result

    bool ok() const { return state_.index() == 0; }
    explicit operator bool() const { return ok(); }
    const T& value() const& {
        assert(ok());
        return std::get<0>(state_);
    }
    T& value() & {
        assert(ok());
        return std::get<0>(state_);
    }
    T&& value() && {
        assert(ok());
        return std::get<0>(std::move(state_));
    }
    const Error& error() const {
        assert(!ok());
        return std::get<1>(state_);
    }
    const T& operator*() const& { return value(); }
    T& operator*() & { return value(); }
    T&& operator*() && { return std::move(*this).value(); }
    const T* operator->() const { return &value(); }
    T* operator->() { return &value(); }

private:
    std::variant<T, Error> state_;
};

struct Done {};
using Status = Result<Done>;

}  // namespace plume
