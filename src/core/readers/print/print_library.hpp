#pragma once
// The library of 3MF (lib3mf 1.8), for those who write and who read by it.

#include "Model/COM/NMR_DLLInterfaces.h"

namespace plume {

// It counts who holds its objects; this one lets go.
class Held {
public:
    using Handle = NMR::PLib3MFBase*;

    ~Held() {
        if (object_) NMR::lib3mf_release(object_);
    }
    Held() = default;
    Held(const Held&) = delete;
    Held& operator=(const Held&) = delete;
    Handle* out() { return &object_; }
    operator Handle() const { return object_; }  // NOLINT: as the library's functions take it

private:
    Handle object_ = nullptr;
};

}  // namespace plume
