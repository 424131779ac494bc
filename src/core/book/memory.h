#pragma once

#include "book/records.h"
#include "book/shop_book.h"

#include <map>
#include <string>
#include <vector>

namespace wren {

/// All a book holds, read at one moment; newest first, instruments in the order they were begun.
struct ShopMemory {
    std::vector<RunRecord> runs;
    std::vector<OverrideRecord> overrides;
    std::vector<InstrumentRow> instruments;
    std::map<std::string, std::vector<Record>> records; ///< by kind

    const std::vector<Record>& of(const std::string& kind) const {
        static const std::vector<Record> none;
        const auto it = records.find(kind);
        return it == records.end() ? none : it->second;
    }
};

/// Throws Error.
ShopMemory remember(const ShopBook& book);

} // namespace wren
