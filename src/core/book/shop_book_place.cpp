// Where a shop book lies, and another put in its place.
#include "book/shop_book.h"

#include "base/error.h"
#include "base/files.h"
#include "book/schema.h"

#include <cstdlib>

#include <SQLiteCpp/SQLiteCpp.h>
#include <fmt/format.h>

namespace wren {
namespace {

void checkWhole(const std::filesystem::path& from) {
    try {
        SQLite::Database file(from.string(), SQLite::OPEN_READONLY);
        const std::string whole = file.execAndGet("PRAGMA integrity_check").getString();
        const int version = file.execAndGet("PRAGMA user_version").getInt();
        if (whole == "ok" && version >= 1 && version <= bookVersion && file.tableExists("runs")) {
            return;
        }
    } catch (const SQLite::Exception& e) {
        throw Error(fmt::format("The shop book {} could not be used: {}.", from.string(), e.what()));
    }
    throw Error(fmt::format("{} is no whole shop book of a version up to {}; nothing was changed.",
                            from.string(), bookVersion));
}

} // namespace

void ShopBook::restore(const std::filesystem::path& from, const std::filesystem::path& book) {
    checkWhole(from);
    const std::string text = readFile(from);
    std::error_code code;
    if (std::filesystem::exists(book, code)) {
        const std::filesystem::path before = book.string() + ".before";
        std::filesystem::remove(before, code);
        try { // with what stands in its journal yet
            ShopBook(book).backup(before);
        } catch (const Error&) { // it is no book any more: as it lies
            std::filesystem::copy_file(book, before, code);
            if (code) {
                throw Error(fmt::format("The present book could not be kept as {} ({}); nothing was "
                                        "changed.",
                                        before.string(), code.message()));
            }
        }
    }
    for (const char* tail : {"-wal", "-shm"}) { // of the old one: they would be read into the new
        std::filesystem::remove(book.string() + tail, code);
    }
    writeFileSafely(book, text);
}

std::filesystem::path ShopBook::usualPlace() {
    if (const char* named = std::getenv("UPLAND_WREN_BOOK"); named && *named) {
        return named;
    }
    if (const char* data = std::getenv("XDG_DATA_HOME"); data && *data) {
        return std::filesystem::path(data) / "upland-wren" / "shop.sqlite";
    }
    const char* home = std::getenv("HOME");
    if (!home || !*home) {
        throw Error("There is no HOME to keep the shop book in; name one with --book or "
                    "UPLAND_WREN_BOOK.");
    }
    return std::filesystem::path(home) / ".local/share/upland-wren/shop.sqlite";
}

} // namespace wren
