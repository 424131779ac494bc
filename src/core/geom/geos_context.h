#pragma once

#include <memory>

#include <geos_c.h>

namespace wren {

/// GEOS wants a context a thread.
inline GEOSContextHandle_t geosContext() {
    struct Holder {
        GEOSContextHandle_t handle = GEOS_init_r();
        ~Holder() { GEOS_finish_r(handle); }
    };
    thread_local Holder holder;
    return holder.handle;
}

struct GeosFree {
    void operator()(GEOSGeometry* g) const { GEOSGeom_destroy_r(geosContext(), g); }
};
using GeosGeometry = std::unique_ptr<GEOSGeometry, GeosFree>;

} // namespace wren
