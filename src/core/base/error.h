#pragma once

#include <stdexcept>
#include <string>

namespace wren {

/// The one error type of the core. what() is a single sentence for the maker: what is wrong, where,
/// and what was expected. Throwing one leaves the arguments and every file as they were.
class Error : public std::runtime_error {
public:
    explicit Error(const std::string& sentence) : std::runtime_error(sentence) {}
};

/// Thrown out of a long computation whose stop token was set. Not an error, so not an Error.
class Cancelled : public std::exception {
public:
    const char* what() const noexcept override { return "cancelled"; }
};

} // namespace wren
