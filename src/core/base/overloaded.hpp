#pragma once
// One function object out of several lambdas, for std::visit: an alternative none of them takes does not
// compile.

namespace plume {

template <class... F>
struct Overloaded : F... {
    using F::operator()...;
};
template <class... F>
Overloaded(F...) -> Overloaded<F...>;

}  // namespace plume
