#pragma once

#include <memory>
#include <string>
#include <string_view>
#include <vector>

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

/// Opens "tcp:127.0.0.1:PORT" (an IPv4 address or localhost), "serial:NAME@RATE" (115200 unless
/// told; "/hardware" or "/software" behind it for flow control), or a terminal "tty:PATH". Throws
/// Error: what the address should have been, no such port, no right to it, or one in use.
std::unique_ptr<Link> openLink(const std::string& address);

/// A serial port of this computer.
struct SerialPort {
    std::string name;  ///< as an address has it: /dev/ttyUSB0
    std::string words; ///< what the system calls it
};
std::vector<SerialPort> serialPorts();

/// "NAME@RATE/FLOW" taken apart; throws Error.
struct SerialAddress {
    std::string name;
    int rate = 115200;
    enum class Flow { none, hardware, software } flow = Flow::none;
};
SerialAddress serialAddress(const std::string& rest);

} // namespace wren
