#include "base/digest.h"

#include "base/error.h"

#include <openssl/evp.h>

#include <fmt/format.h>

namespace wren {

std::string sha256(std::string_view bytes) {
    unsigned char out[EVP_MAX_MD_SIZE];
    unsigned int length = 0;
    if (EVP_Digest(bytes.data(), bytes.size(), out, &length, EVP_sha256(), nullptr) != 1) {
        throw Error("The cryptographic library refused to compute a SHA-256 digest.");
    }
    std::string hex;
    for (unsigned int i = 0; i < length; ++i) {
        hex += fmt::format("{:02x}", out[i]);
    }
    return hex;
}

} // namespace wren
