#pragma once

#include "base/watch.h"
#include "book/shop_book.h"
#include "job/derive.h"

#include <filesystem>

namespace wren {

/// Whether the programs may leave the house.
enum class PostingRight { free, overridden, refused };

/// Stops refuse, unless a reason overrides them; a stop that cannot be overridden always refuses.
PostingRight postingRight(const Derived& derived);

/// Writes DIR/programs/*.nc, DIR/sheets/*.pdf, DIR/models/* and DIR/report.json, or, when refused,
/// the report alone. Files an earlier posting left there that are no longer part of the job get
/// ".stale" behind their name, so that none is sent by mistake. All files are written before the
/// first is renamed into place. Returns the right it acted on; throws Error when a file cannot be
/// written, Cancelled, with nothing written, when told to stop.
PostingRight post(const Derived& derived, const std::filesystem::path& dir,
                  const Watch& watch = {});

/// Enters the reason stops were overridden for, and which, in the book. To be done before anything
/// is posted or sent with that right, so that no program leaves without it.
void recordOverride(const Derived& derived, ShopBook& book);

} // namespace wren
