#pragma once

#include <memory>
#include <string>
#include <string_view>

namespace wren {

/// A byte stream to a machine.
class Link {
public:
    virtual ~Link() = default;

    /// Throws Error when the other side is gone.
    virtual void send(std::string_view bytes) = 0;

    /// What has come in, waiting at most `milliseconds` for the first byte; empty when nothing did.
    /// Throws Error when the other side is gone.
    virtual std::string receive(int milliseconds) = 0;
};

/// Opens "tcp:127.0.0.1:PORT" (an IPv4 address or localhost) or "tty:PATH". Throws Error.
std::unique_ptr<Link> openLink(const std::string& address);

} // namespace wren
