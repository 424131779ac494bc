#include "base/heap.h"

#include <malloc.h>

namespace wren {

void keepFreedPages() {
    constexpr int megabyte = 1024 * 1024;
    mallopt(M_MMAP_THRESHOLD, 32 * megabyte);
    mallopt(M_TRIM_THRESHOLD, 256 * megabyte);
}

} // namespace wren
