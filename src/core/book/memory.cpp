#include "book/memory.h"

namespace wren {

ShopMemory remember(const ShopBook& book) {
    ShopMemory out;
    out.runs = book.runs();
    out.overrides = book.overrides();
    out.instruments = book.instruments();
    for (const RecordKind& kind : recordKinds()) {
        out.records[kind.name] = book.records(kind.name);
    }
    return out;
}

} // namespace wren
