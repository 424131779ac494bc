#pragma once

// Stands in for the task library's headers where the thread sanitizer looks on: the library itself
// is not instrumented, so that what its scheduler hands from thread to thread would look like races
// and real ones could not be told from them. Here work goes to plain threads, which the sanitizer
// knows. Only what the sources use is here.

#include <algorithm>
#include <atomic>
#include <cstddef>
#include <exception>
#include <mutex>
#include <thread>
#include <utility>
#include <vector>

namespace tbb {

/// Threads that work on parts of something; where many run already, the work is done at once.
class task_group {
public:
    task_group() = default;
    ~task_group() { join(); }
    task_group(const task_group&) = delete;
    task_group& operator=(const task_group&) = delete;

    template <typename F>
    void run(F f) {
        constexpr int most = 6;
        if (running().fetch_add(1) >= most) {
            running().fetch_sub(1);
            guarded(f);
            return;
        }
        threads_.emplace_back([this, f]() mutable {
            guarded(f);
            running().fetch_sub(1);
        });
    }
    void wait() {
        join();
        if (const std::exception_ptr thrown = std::exchange(thrown_, nullptr)) {
            std::rethrow_exception(thrown);
        }
    }

private:
    static std::atomic<int>& running() {
        static std::atomic<int> count{0};
        return count;
    }
    template <typename F>
    void guarded(F& f) {
        try {
            f();
        } catch (...) {
            const std::lock_guard lock(mutex_);
            thrown_ = thrown_ ? thrown_ : std::current_exception();
        }
    }
    void join() {
        for (std::thread& t : threads_) {
            t.join();
        }
        threads_.clear();
    }

    std::vector<std::thread> threads_;
    std::mutex mutex_;
    std::exception_ptr thrown_;
};

template <typename T>
class blocked_range {
public:
    blocked_range(T begin, T end, std::size_t = 1) : begin_(begin), end_(end) {}
    T begin() const { return begin_; }
    T end() const { return end_; }

private:
    T begin_, end_;
};

namespace plain {

/// A range in a few parts that follow one another.
template <typename T>
std::vector<blocked_range<T>> partsOf(T first, T last) {
    constexpr std::size_t few = 4;
    std::vector<blocked_range<T>> out;
    if (first < last) {
        const auto whole = static_cast<std::size_t>(last - first);
        const std::size_t n = std::min(few, whole);
        const auto at = [&](std::size_t i) { return first + static_cast<T>(whole * i / n); };
        for (std::size_t i = 0; i < n; ++i) {
            out.emplace_back(at(i), at(i + 1));
        }
    }
    return out;
}

} // namespace plain

template <typename T, typename Body>
void parallel_for(const blocked_range<T>& range, const Body& body) {
    task_group all;
    for (const blocked_range<T>& part : plain::partsOf(range.begin(), range.end())) {
        all.run([&body, part] { body(part); });
    }
    all.wait();
}

template <typename T, typename F>
void parallel_for(T first, T last, const F& f) {
    parallel_for(blocked_range<T>(first, last), [&f](const blocked_range<T>& part) {
        for (T i = part.begin(); i < part.end(); ++i) {
            f(i);
        }
    });
}

template <typename T, typename Value, typename Body, typename Join>
Value parallel_reduce(const blocked_range<T>& range, const Value& identity, const Body& body,
                      const Join& join) {
    const std::vector<blocked_range<T>> parts = plain::partsOf(range.begin(), range.end());
    std::vector<Value> found(parts.size(), identity);
    task_group all;
    for (std::size_t i = 0; i < parts.size(); ++i) {
        all.run([&, i] { found[i] = body(parts[i], identity); });
    }
    all.wait();
    Value out = identity;
    for (const Value& v : found) {
        out = join(out, v);
    }
    return out;
}

template <typename Container, typename F>
void parallel_for_each(const Container& container, const F& f) {
    task_group all;
    for (const auto& one : container) {
        all.run([&f, &one] { f(one); });
    }
    all.wait();
}

template <typename... F>
void parallel_invoke(const F&... f) {
    task_group all;
    (all.run([&f] { f(); }), ...);
    all.wait();
}

} // namespace tbb
