#include "base/in_turn.h"

#include <catch2/catch.hpp>

#include <algorithm>
#include <atomic>
#include <thread>
#include <vector>

using namespace wren;

TEST_CASE("Work is done one piece at a time, and all of it", "[base]") {
    InTurn turn;
    std::atomic<int> inside{0};
    int most = 0; // guarded by the turn itself
    int done = 0;
    std::vector<std::thread> threads;
    for (int t = 0; t < 4; ++t) {
        threads.emplace_back([&] {
            for (int i = 0; i < 500; ++i) {
                turn.run([&] {
                    most = std::max(most, ++inside);
                    ++done;
                    --inside;
                });
            }
        });
    }
    for (std::thread& thread : threads) {
        thread.join();
    }
    CHECK(done == 2000);
    CHECK(most == 1);
}

TEST_CASE("Who comes while another is at work leaves its own and goes on", "[base]") {
    InTurn turn;
    std::vector<int> order;
    turn.run([&] {
        turn.run([&] { order.push_back(2); });
        order.push_back(1); // had it waited for its own, it would wait for ever
    });
    CHECK(order == std::vector<int>{1, 2});
}
