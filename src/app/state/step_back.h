#pragma once

namespace wren::app {

/// Lets the calling thread give way to the window whenever both want the processor. For threads
/// that only ever compute: an unprivileged thread cannot take it back.
void stepBack();

/// Makes every thread that the parallel loops use step back as it joins them. Call once, at the
/// start.
void makeLoopsStepBack();

} // namespace wren::app
