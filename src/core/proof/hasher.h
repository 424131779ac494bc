#pragma once

#include "proof/near_wood.h"

#include <memory>
#include <vector>

#include <xxhash.h>

namespace wren {

/// Bytes one behind the other into a Hash.
class Hasher {
public:
    Hasher() { XXH3_128bits_reset(state_.get()); }
    void add(const void* bytes, std::size_t count) {
        XXH3_128bits_update(state_.get(), bytes, count);
    }
    template <typename T>
    void add(const std::vector<T>& values) {
        add(values.data(), values.size() * sizeof(T));
    }
    Hash hash() const { return from(XXH3_128bits_digest(state_.get())); }
    /// Of bytes that lie in one piece.
    static Hash of(const void* bytes, std::size_t count) {
        return from(XXH3_128bits(bytes, count));
    }

private:
    static Hash from(XXH128_hash_t h) { return {h.low64, h.high64}; }
    struct Free {
        void operator()(XXH3_state_t* s) const { XXH3_freeState(s); }
    };
    std::unique_ptr<XXH3_state_t, Free> state_{XXH3_createState()};
};

} // namespace wren
