#include "wire.h"

#include "base/error.h"

#include <arpa/inet.h>
#include <cerrno>
#include <cstdlib>
#include <cstring>
#include <fcntl.h>
#include <netinet/tcp.h>
#include <poll.h>
#include <sys/socket.h>
#include <termios.h>
#include <unistd.h>
#include <utility>

#include <fmt/format.h>

namespace wren {
namespace {

[[noreturn]] void fail(const char* what) {
    throw Error(fmt::format("{} ({}).", what, std::strerror(errno)));
}

} // namespace

Wire Wire::pseudoTerminal() {
    Wire w;
    w.client_ = ::posix_openpt(O_RDWR | O_NOCTTY | O_NONBLOCK);
    if (w.client_ < 0 || ::grantpt(w.client_) != 0 || ::unlockpt(w.client_) != 0) {
        fail("A pseudo-terminal could not be opened");
    }
    char name[128];
    if (::ptsname_r(w.client_, name, sizeof name) != 0) {
        fail("The pseudo-terminal has no name");
    }
    w.keptOpen_ = ::open(name, O_RDWR | O_NOCTTY);
    termios mode{};
    if (w.keptOpen_ < 0 || ::tcgetattr(w.keptOpen_, &mode) != 0) {
        fail("The pseudo-terminal could not be set up");
    }
    ::cfmakeraw(&mode);
    ::tcsetattr(w.keptOpen_, TCSANOW, &mode);
    w.address_ = std::string("tty:") + name;
    return w;
}

Wire Wire::tcp(int port) {
    Wire w;
    w.listener_ = ::socket(AF_INET, SOCK_STREAM | SOCK_CLOEXEC, 0);
    const int yes = 1;
    ::setsockopt(w.listener_, SOL_SOCKET, SO_REUSEADDR, &yes, sizeof yes);
    sockaddr_in where{};
    where.sin_family = AF_INET;
    where.sin_port = htons(static_cast<uint16_t>(port));
    where.sin_addr.s_addr = htonl(INADDR_LOOPBACK);
    socklen_t size = sizeof where;
    if (::bind(w.listener_, reinterpret_cast<sockaddr*>(&where), size) != 0 ||
        ::listen(w.listener_, 1) != 0 ||
        ::getsockname(w.listener_, reinterpret_cast<sockaddr*>(&where), &size) != 0) {
        fail(fmt::format("Port {} on 127.0.0.1 cannot be used", port).c_str());
    }
    w.address_ = fmt::format("tcp:127.0.0.1:{}", ntohs(where.sin_port));
    return w;
}

Wire::Wire(Wire&& other) noexcept
    : address_(std::move(other.address_)), listener_(std::exchange(other.listener_, -1)),
      client_(std::exchange(other.client_, -1)), keptOpen_(std::exchange(other.keptOpen_, -1)) {}

Wire::~Wire() {
    for (int fd : {listener_, client_, keptOpen_}) {
        if (fd >= 0) {
            ::close(fd);
        }
    }
}

void Wire::dropClient() {
    if (listener_ >= 0 && client_ >= 0) {
        ::close(client_);
        client_ = -1;
    }
}

bool Wire::hangUp() {
    dropClient();
    return listener_ >= 0;
}

bool Wire::receive(std::string& bytes, int milliseconds) {
    pollfd p{client_ >= 0 ? client_ : listener_, POLLIN, 0};
    if (::poll(&p, 1, milliseconds) <= 0) {
        return false;
    }
    if (client_ < 0) {
        client_ = ::accept4(listener_, nullptr, nullptr, SOCK_CLOEXEC | SOCK_NONBLOCK);
        const int yes = 1;
        ::setsockopt(client_, IPPROTO_TCP, TCP_NODELAY, &yes, sizeof yes);
        return false;
    }
    char buffer[4096];
    const ssize_t n = ::read(client_, buffer, sizeof buffer);
    if (n > 0) {
        bytes.append(buffer, static_cast<std::size_t>(n));
        return false;
    }
    if (n < 0 && (errno == EAGAIN || errno == EINTR)) {
        return false;
    }
    dropClient();
    return true;
}

void Wire::send(const std::string& bytes) {
    std::size_t sent = 0;
    while (client_ >= 0 && sent < bytes.size()) {
        const ssize_t n = ::write(client_, bytes.data() + sent, bytes.size() - sent);
        if (n > 0) {
            sent += static_cast<std::size_t>(n);
            continue;
        }
        pollfd p{client_, POLLOUT, 0};
        if (n < 0 && errno != EAGAIN && errno != EINTR) {
            dropClient();
        } else if (::poll(&p, 1, 100) == 0) {
            return; // nobody reads: a terminal without a client
        }
    }
}

} // namespace wren
