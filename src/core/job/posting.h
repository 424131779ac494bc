#pragma once

#include "base/watch.h"
#include "book/shop_book.h"
#include "job/batch.h"

#include <filesystem>

namespace wren {

/// Whether the programs may leave the house.
enum class PostingRight { free, overridden, refused };

/// Stops refuse, unless a reason was given for each of that part's; a stop that cannot be
/// overridden always refuses.
PostingRight postingRight(const Derived& derived, PartId part);
/// The worst of several parts'; of all when none is named.
PostingRight postingRight(const Derived& derived, const std::vector<PartId>& parts = {});

/// Writes DIR/programs/*.nc, DIR/sheets/*.pdf, DIR/models/*, DIR/lists/*.csv and DIR/report.json,
/// for every part that may leave the house; of a refused one only what the report says of it. Files
/// an earlier posting left there that are no longer part of the job get
/// ".stale" behind their name, so that none is sent by mistake. All files are written before the
/// first is renamed into place. Returns the right it acted on; throws Error when a file cannot be
/// written, Cancelled, with nothing written, when told to stop.
PostingRight post(const Derived& derived, const std::filesystem::path& dir, const Watch& watch = {},
                  const std::vector<PartId>& parts = {});

/// The folder an instrument of a batch is posted to: its number and its name.
std::string folderOf(const Batch& batch, std::size_t instrument);

/// Every instrument of a batch posted to a folder of its own, DIR/everything-in-order.pdf and
/// DIR/batch.json with the order of all their programs. Nothing is written where any of them is
/// refused, or the batch has a stop of its own.
PostingRight postBatch(const Batch& batch, const std::string& title,
                       const std::filesystem::path& dir, const Watch& watch = {});

/// Enters the reasons given for a part's stops in the book. To be done before anything
/// is posted or sent with that right, so that no program leaves without it.
void recordOverride(const Derived& derived, PartId part, ShopBook& book);

} // namespace wren
