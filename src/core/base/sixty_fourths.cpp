#include "base/sixty_fourths.h"

#include "base/length.h"

#include <cmath>
#include <numeric>

#include <fmt/format.h>

namespace wren {

std::string sixtyFourths(double mm) {
    const long n = std::lround(mm / mmPerInch * 64);
    const long whole = n / 64;
    const long rest = n % 64;
    if (rest == 0) {
        return fmt::format("{} in", whole);
    }
    const long d = std::gcd(rest, 64L);
    return whole > 0 ? fmt::format("{} {}/{} in", whole, rest / d, 64 / d)
                     : fmt::format("{}/{} in", rest / d, 64 / d);
}

} // namespace wren
