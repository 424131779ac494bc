#include "run/link.h"

#include "base/error.h"

#include <arpa/inet.h>
#include <cerrno>
#include <charconv>
#include <cstring>
#include <fcntl.h>
#include <netinet/tcp.h>
#include <poll.h>
#include <sys/socket.h>
#include <termios.h>
#include <unistd.h>

#include <fmt/format.h>

namespace wren {
namespace {

/// Both kinds of link are a file descriptor once they are open.
class DescriptorLink : public Link {
public:
    DescriptorLink(int fd, std::string address) : fd_(fd), address_(std::move(address)) {}
    ~DescriptorLink() override { ::close(fd_); }
    DescriptorLink(const DescriptorLink&) = delete;
    DescriptorLink& operator=(const DescriptorLink&) = delete;

    void send(std::string_view bytes) override {
        while (!bytes.empty()) {
            // A socket whose other side is gone must not kill us; a terminal knows no such flag.
            ssize_t n = ::send(fd_, bytes.data(), bytes.size(), MSG_NOSIGNAL);
            if (n < 0 && errno == ENOTSOCK) {
                n = ::write(fd_, bytes.data(), bytes.size());
            }
            if (n > 0) {
                bytes.remove_prefix(static_cast<std::size_t>(n));
            } else if (n < 0 && (errno == EAGAIN || errno == EINTR)) {
                pollfd p{fd_, POLLOUT, 0};
                if (::poll(&p, 1, 1000) == 0) {
                    gone("takes no more bytes");
                }
            } else {
                gone(std::strerror(errno));
            }
        }
    }

    std::string receive(int milliseconds) override {
        pollfd p{fd_, POLLIN, 0};
        if (::poll(&p, 1, milliseconds) <= 0) {
            return {};
        }
        char buffer[4096];
        const ssize_t n = ::read(fd_, buffer, sizeof buffer);
        if (n > 0) {
            return std::string(buffer, static_cast<std::size_t>(n));
        }
        if (n < 0 && (errno == EAGAIN || errno == EINTR)) {
            return {};
        }
        gone(n == 0 ? "hung up" : std::strerror(errno));
    }

private:
    [[noreturn]] void gone(const char* why) const {
        throw Error(fmt::format("The machine at {} is gone ({}).", address_, why));
    }

    int fd_;
    std::string address_;
};

[[noreturn]] void cannotOpen(const std::string& address, int code) {
    throw Error(
        fmt::format("The machine at {} cannot be reached ({}).", address, std::strerror(code)));
}

std::unique_ptr<Link> openTcp(const std::string& address, const std::string& rest) {
    const std::size_t colon = rest.rfind(':');
    int port = 0;
    std::string host = rest.substr(0, colon);
    if (colon != std::string::npos) {
        std::from_chars(rest.data() + colon + 1, rest.data() + rest.size(), port);
    }
    if (host == "localhost") {
        host = "127.0.0.1";
    }
    sockaddr_in where{};
    where.sin_family = AF_INET;
    where.sin_port = htons(static_cast<uint16_t>(port));
    if (port < 1 || port > 65535 || ::inet_pton(AF_INET, host.c_str(), &where.sin_addr) != 1) {
        throw Error(
            fmt::format("\"{}\" is not an address; tcp:127.0.0.1:PORT was expected.", address));
    }
    const int fd = ::socket(AF_INET, SOCK_STREAM | SOCK_CLOEXEC, 0);
    if (fd < 0) {
        cannotOpen(address, errno);
    }
    if (::connect(fd, reinterpret_cast<sockaddr*>(&where), sizeof where) != 0) {
        const int code = errno;
        ::close(fd);
        cannotOpen(address, code);
    }
    const int yes = 1; // short lines must not wait to be joined
    ::setsockopt(fd, IPPROTO_TCP, TCP_NODELAY, &yes, sizeof yes);
    ::fcntl(fd, F_SETFL, ::fcntl(fd, F_GETFL) | O_NONBLOCK); // a machine that reads no more
    return std::make_unique<DescriptorLink>(fd, address);
}

std::unique_ptr<Link> openTty(const std::string& address, const std::string& path) {
    const int fd = ::open(path.c_str(), O_RDWR | O_NOCTTY | O_CLOEXEC | O_NONBLOCK);
    if (fd < 0) {
        cannotOpen(address, errno);
    }
    termios mode{};
    if (::tcgetattr(fd, &mode) != 0) {
        ::close(fd);
        throw Error(fmt::format("{} is not a serial line.", path));
    }
    ::cfmakeraw(&mode);
    ::cfsetspeed(&mode, B115200);
    ::tcsetattr(fd, TCSANOW, &mode);
    return std::make_unique<DescriptorLink>(fd, address);
}

} // namespace

std::unique_ptr<Link> openSerial(const SerialAddress& at); // serial_link.cpp

std::unique_ptr<Link> openLink(const std::string& address) {
    if (address.rfind("tcp:", 0) == 0) {
        return openTcp(address, address.substr(4));
    }
    if (address.rfind("tty:", 0) == 0 && address.size() > 4) {
        return openTty(address, address.substr(4));
    }
    if (address.rfind("serial:", 0) == 0) {
        return openSerial(serialAddress(address.substr(7)));
    }
    throw Error(fmt::format("\"{}\" is not an address; tcp:127.0.0.1:PORT, serial:NAME@RATE or "
                            "tty:PATH was expected.",
                            address));
}

} // namespace wren
