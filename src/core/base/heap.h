#pragma once

namespace wren {

/// Wood comes and goes in arrays of many megabytes. Unless it is told to keep them, the allocator
/// hands each back to the system and has its pages zeroed anew for the next: a tenth of a proof's
/// time. To be called once, when a program starts.
void keepFreedPages();

} // namespace wren
