// The allocator as the programs themselves set it.

#include "base/heap.h"

#include <benchmark/benchmark.h>

int main(int argc, char** argv) {
    wren::keepFreedPages();
    benchmark::Initialize(&argc, argv);
    benchmark::RunSpecifiedBenchmarks();
}
