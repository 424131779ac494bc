#pragma once

#include <string>

namespace wren {

/// The controller's end of a wire: a pseudo-terminal or a loopback TCP port. One client at a time;
/// when it leaves, the next may come.
class Wire {
public:
    static Wire pseudoTerminal(); ///< throws Error
    static Wire tcp(int port);    ///< 127.0.0.1 only; port 0 takes a free one; throws Error
    ~Wire();
    Wire(Wire&& other) noexcept;
    Wire& operator=(Wire&&) = delete;

    /// Cuts the line to a client; false for a terminal, which cannot be come back to.
    bool hangUp();
    const std::string& address() const { return address_; }

    /// Waits at most `milliseconds`; appends what came in. True when a client has just left.
    bool receive(std::string& bytes, int milliseconds);
    void send(const std::string& bytes);

private:
    Wire() = default;
    void dropClient();

    std::string address_;
    int listener_ = -1;
    int client_ = -1;
    int keptOpen_ = -1; ///< our own hold on the terminal, so that it outlives its clients
};

} // namespace wren
