#pragma once

#include <optional>
#include <string>
#include <string_view>

namespace wren {

/// What a part is in its instrument. Layers, wings and inlays are parts of the body: they become
/// one with it, and the lid lies in it. Fixtures and templates stay in the shop.
enum class Role {
    board,
    neck,
    body,
    core,
    top,
    back,
    wing,
    lid,
    inlay,
    plate,
    neckFixture,
    bodyFixture,
    neckCradle,
    outlineTemplate,
    pocketTemplate,
    pickupTemplate,
    cavityTemplate,
    ledgeTemplate,
    lidTemplate,
    testSlots,
    bed
};

/// Which part: what programs, setups, findings and reasons are about. Told apart by what it is, and
/// shown by its name.
struct PartId {
    Role role = Role::board;
    int number = 0; ///< of several of one role, from 1; 0 where there is one

    PartId() = default;
    PartId(Role r, int n = 0) : role(r), number(n) {} ///< a role stands for its only part

    /// In files, sheets, reports and the book: "fretboard", "body", "body core", "body inlay 2".
    std::string name() const;
    /// Within the body: "core", "inlay 2".
    std::string shortName() const;
    bool ofBody() const { return role >= Role::body && role <= Role::inlay; }
    /// Cut from a sheet or board of its own, from one side.
    bool byItself() const { return role >= Role::lid && role <= Role::lidTemplate; }
    /// Made for the shop: no part of the instrument.
    bool ofShop() const { return role >= Role::neckFixture && role <= Role::lidTemplate; }
    /// One of those that a body is glued up from.
    bool isLayer() const { return role >= Role::core && role <= Role::back; }

    /// The part of that name(), if there can be one.
    static std::optional<PartId> named(std::string_view name);

    friend bool operator==(const PartId&, const PartId&) = default;
    friend bool operator<(const PartId& a, const PartId& b) {
        return a.role != b.role ? a.role < b.role : a.number < b.number;
    }
};

} // namespace wren
