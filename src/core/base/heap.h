#pragma once

namespace wren {

/// Wood comes and goes in arrays of many megabytes. Unless it is told to keep them, the allocator
/// hands each back to the system and has its pages zeroed anew for the next, which a proof feels. To
/// be called once, when a program starts.
void keepFreedPages();

} // namespace wren
