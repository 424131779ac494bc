// Serial lines by libserialport.
#include "run/link.h"

#include "base/error.h"

#include <algorithm>
#include <array>
#include <charconv>

#include <fmt/format.h>
#include <libserialport.h>

namespace wren {
namespace {

[[noreturn]] void fail(const std::string& name, sp_return code) {
    if (code == SP_ERR_ARG) {
        throw Error(fmt::format("There is no serial port {}; `wren ports` names those there are.",
                                name));
    }
    char* words = code == SP_ERR_FAIL ? sp_last_error_message() : nullptr;
    const std::string why = words ? words : "it does not do that";
    sp_free_error_message(words);
    throw Error(fmt::format("The serial port {} cannot be used ({}).", name, why));
}

class SerialLink : public Link {
public:
    explicit SerialLink(const SerialAddress& at) : name_(at.name) {
        check(sp_get_port_by_name(at.name.c_str(), &port_));
        const auto orClose = [&](sp_return code) {
            if (code != SP_OK) {
                sp_close(port_);
                sp_free_port(port_);
                fail(name_, code);
            }
        };
        if (const sp_return code = sp_open(port_, SP_MODE_READ_WRITE); code != SP_OK) {
            sp_free_port(port_);
            fail(name_, code);
        }
        orClose(sp_set_baudrate(port_, at.rate));
        orClose(sp_set_bits(port_, 8));
        orClose(sp_set_parity(port_, SP_PARITY_NONE));
        orClose(sp_set_stopbits(port_, 1));
        orClose(sp_set_flowcontrol(port_, at.flow == SerialAddress::Flow::hardware
                                              ? SP_FLOWCONTROL_RTSCTS
                                          : at.flow == SerialAddress::Flow::software
                                              ? SP_FLOWCONTROL_XONXOFF
                                              : SP_FLOWCONTROL_NONE));
    }
    ~SerialLink() override {
        sp_close(port_);
        sp_free_port(port_);
    }
    SerialLink(const SerialLink&) = delete;
    SerialLink& operator=(const SerialLink&) = delete;

    void send(std::string_view bytes) override {
        constexpr unsigned wait = 1000;
        const int sent = sp_blocking_write(port_, bytes.data(), bytes.size(), wait);
        if (sent != static_cast<int>(bytes.size())) {
            throw Error(fmt::format("The machine at {} takes no more bytes.", name_));
        }
    }

    std::string receive(int milliseconds) override {
        char buffer[4096];
        const auto wait = static_cast<unsigned>(std::max(1, milliseconds));
        const int n = sp_blocking_read_next(port_, buffer, sizeof buffer, wait);
        if (n < 0) {
            throw Error(fmt::format("The machine at {} is gone.", name_));
        }
        return std::string(buffer, static_cast<std::size_t>(n));
    }

private:
    void check(sp_return code) const {
        if (code != SP_OK) {
            fail(name_, code);
        }
    }

    std::string name_;
    sp_port* port_ = nullptr;
};

} // namespace

std::unique_ptr<Link> openSerial(const SerialAddress& at) {
    return std::make_unique<SerialLink>(at);
}

SerialAddress serialAddress(const std::string& rest) {
    SerialAddress out;
    const std::size_t slash = rest.rfind('/');
    const std::size_t at = rest.rfind('@');
    std::string flow = slash != std::string::npos && at != std::string::npos && slash > at
                           ? rest.substr(slash + 1)
                           : std::string();
    const std::string before = rest.substr(0, flow.empty() ? rest.size() : slash);
    out.name = before.substr(0, at);
    if (at != std::string::npos) {
        const std::string rate = before.substr(at + 1);
        const auto [end, code] =
            std::from_chars(rate.data(), rate.data() + rate.size(), out.rate);
        if (code != std::errc() || end != rate.data() + rate.size() || out.rate < 300 ||
            out.rate > 4000000) {
            throw Error(fmt::format("\"{}\" is no rate of a serial line; 300 to 4000000 bits a "
                                    "second were expected, as in serial:/dev/ttyUSB0@115200.",
                                    rate));
        }
    }
    if (flow == "hardware") {
        out.flow = SerialAddress::Flow::hardware;
    } else if (flow == "software") {
        out.flow = SerialAddress::Flow::software;
    } else if (!flow.empty()) {
        throw Error(fmt::format("\"{}\" is no flow control; hardware or software was expected.",
                                flow));
    }
    if (out.name.empty()) {
        throw Error("A serial address has no port; serial:/dev/ttyUSB0@115200 was expected.");
    }
    return out;
}

std::vector<SerialPort> serialPorts() {
    std::vector<SerialPort> out;
    sp_port** all = nullptr;
    if (sp_list_ports(&all) != SP_OK) {
        return out;
    }
    for (sp_port** port = all; *port; ++port) {
        const char* words = sp_get_port_description(*port);
        out.push_back({sp_get_port_name(*port), words ? words : ""});
    }
    sp_free_port_list(all);
    return out;
}

} // namespace wren
