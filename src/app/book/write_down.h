#pragma once

#include "base/error.h"
#include "book/shop_book.h"
#include "state/background.h"

#include <QString>

#include <filesystem>
#include <vector>

namespace wren::app {

/// Enters records in the book off the interface thread, since another program may be writing in it;
/// `done` is called with what went wrong, or nothing.
template <typename Done>
void writeDown(QObject* owner, const std::filesystem::path& file, std::vector<Record> records,
               Done done) {
    const auto write = [file, records = std::move(records)]() -> QString {
        try {
            ShopBook book(file);
            for (const Record& r : records) {
                book.add(r);
            }
            return {};
        } catch (const Error& e) {
            return QString::fromUtf8(e.what());
        }
    };
    inBackground(owner, write, done);
}

} // namespace wren::app
