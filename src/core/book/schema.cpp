#include "book/schema.h"

#include "base/error.h"

#include <SQLiteCpp/SQLiteCpp.h>
#include <fmt/format.h>

#include <array>

namespace wren {
namespace {

constexpr const char* toVersion1 = R"sql(
CREATE TABLE IF NOT EXISTS runs (
    id INTEGER PRIMARY KEY,
    project TEXT NOT NULL, part TEXT NOT NULL, program TEXT NOT NULL,
    sha256 TEXT NOT NULL, design_hash TEXT NOT NULL, address TEXT NOT NULL,
    start TEXT NOT NULL, end TEXT NOT NULL DEFAULT '',
    planned_seconds REAL NOT NULL, taken_seconds REAL NOT NULL DEFAULT 0,
    outcome TEXT NOT NULL, remark TEXT NOT NULL DEFAULT ''
);
CREATE TABLE IF NOT EXISTS overrides (
    id INTEGER PRIMARY KEY,
    project TEXT NOT NULL, part TEXT NOT NULL, time TEXT NOT NULL,
    codes TEXT NOT NULL, reason TEXT NOT NULL
);
)sql";

/// What version 2 knows besides: runs on a stand-in, and who was sending.
constexpr const char* toVersion2 = R"sql(
ALTER TABLE runs ADD COLUMN stand_in INTEGER NOT NULL DEFAULT 0;
ALTER TABLE runs ADD COLUMN sender TEXT NOT NULL DEFAULT '';
)sql";

/// What version 3 knows besides: the hash of what a program moves.
constexpr const char* toVersion3 = R"sql(
ALTER TABLE runs ADD COLUMN motion TEXT NOT NULL DEFAULT '';
)sql";

/// What version 4 knows besides: where a run ended and what it was turned to, bit and wood, and
/// what of a setup's steps is ticked.
constexpr const char* toVersion4 = R"sql(
ALTER TABLE runs ADD COLUMN line INTEGER NOT NULL DEFAULT 0;
ALTER TABLE runs ADD COLUMN feed_percent INTEGER NOT NULL DEFAULT 100;
ALTER TABLE runs ADD COLUMN spindle_percent INTEGER NOT NULL DEFAULT 100;
ALTER TABLE runs ADD COLUMN bit TEXT NOT NULL DEFAULT '';
ALTER TABLE runs ADD COLUMN wood TEXT NOT NULL DEFAULT '';
ALTER TABLE runs ADD COLUMN cuts TEXT NOT NULL DEFAULT '';
CREATE TABLE records (
    id INTEGER PRIMARY KEY, kind TEXT NOT NULL, time TEXT NOT NULL, fields TEXT NOT NULL
);
CREATE INDEX records_by_kind ON records (kind, id);
CREATE TABLE ticks (
    project TEXT NOT NULL, step TEXT NOT NULL, time TEXT NOT NULL,
    PRIMARY KEY (project, step)
);
)sql";

/// What version 5 knows besides: instruments, which runs and records belong to; how far a bit went.
constexpr const char* toVersion5 = R"sql(
CREATE TABLE instruments (
    id INTEGER PRIMARY KEY, name TEXT NOT NULL UNIQUE, begun TEXT NOT NULL
);
CREATE TABLE IF NOT EXISTS records (
    id INTEGER PRIMARY KEY, kind TEXT NOT NULL, time TEXT NOT NULL, fields TEXT NOT NULL
);
ALTER TABLE runs ADD COLUMN cut_mm REAL NOT NULL DEFAULT 0;
ALTER TABLE runs ADD COLUMN instrument INTEGER REFERENCES instruments (id);
ALTER TABLE records ADD COLUMN instrument INTEGER REFERENCES instruments (id);
INSERT INTO instruments (name, begun)
    SELECT project, MIN(start) FROM runs GROUP BY project ORDER BY MIN(start);
UPDATE runs SET instrument = (SELECT id FROM instruments WHERE name = project);
CREATE INDEX runs_by_instrument ON runs (instrument, id);
)sql";

/// What version 6 knows besides: which machine it was and who stood there.
constexpr const char* toVersion6 = R"sql(
ALTER TABLE runs ADD COLUMN machine TEXT NOT NULL DEFAULT '';
ALTER TABLE runs ADD COLUMN made_by TEXT NOT NULL DEFAULT '';
)sql";

constexpr std::array steps{toVersion1, toVersion2, toVersion3,
                           toVersion4, toVersion5, toVersion6};
static_assert(steps.size() == bookVersion);

/// Once: a copy taken at an earlier try that failed is the same book.
void keepCopy(SQLite::Database& db, const std::filesystem::path& file, int version) {
    const std::string copy = fmt::format("{}.version-{}", file.string(), version);
    std::error_code code;
    if (!std::filesystem::exists(copy, code)) {
        SQLite::Statement s(db, "VACUUM INTO ?");
        s.bind(1, copy);
        s.exec();
    }
}

} // namespace

void bringUpToDate(SQLite::Database& db, const std::filesystem::path& file) {
    const int version = db.execAndGet("PRAGMA user_version").getInt();
    if (version > bookVersion) {
        throw Error(fmt::format("The shop book {} was made by a newer Upland Wren (version {}); "
                                "this one reads up to {}.",
                                file.string(), version, bookVersion));
    }
    if (version == bookVersion) {
        return;
    }
    if (version > 0) {
        keepCopy(db, file, version);
    }
    SQLite::Transaction all(db, SQLite::TransactionBehavior::IMMEDIATE);
    // Another program may have done it meanwhile.
    for (int v = db.execAndGet("PRAGMA user_version").getInt(); v < bookVersion; ++v) {
        db.exec(steps[static_cast<std::size_t>(v)]);
    }
    db.exec(fmt::format("PRAGMA user_version={}", bookVersion));
    all.commit();
}

} // namespace wren
