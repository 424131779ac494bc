#include "book/shop_book.h"

#include "base/error.h"

#include <chrono>
#include <cstdlib>

#include <SQLiteCpp/SQLiteCpp.h>
#include <SQLiteCpp/VariadicBind.h>
#include <fmt/chrono.h>
#include <fmt/format.h>

namespace wren {
namespace {

constexpr int schemaVersion = 1;

constexpr const char* schema = R"sql(
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

/// SQLite's own words, in one sentence with the file's name.
template <typename F>
auto guarded(const SQLite::Database* db, const std::string& file, F f) {
    try {
        return f();
    } catch (const SQLite::Exception& e) {
        throw Error(fmt::format("The shop book {} could not be used: {}.",
                                db ? db->getFilename() : file, e.what()));
    }
}

} // namespace

ShopBook::ShopBook(const std::filesystem::path& file) {
    if (file.has_parent_path()) {
        std::error_code ignored; // opening the file says it better
        std::filesystem::create_directories(file.parent_path(), ignored);
    }
    guarded(nullptr, file.string(), [&] {
        db_ = std::make_unique<SQLite::Database>(file.string(),
                                                 SQLite::OPEN_READWRITE | SQLite::OPEN_CREATE);
        db_->setBusyTimeout(3000);
        db_->exec("PRAGMA journal_mode=WAL");
        const int version = db_->execAndGet("PRAGMA user_version").getInt();
        if (version > schemaVersion) {
            throw Error(
                fmt::format("The shop book {} was made by a newer Upland Wren (version {}); "
                            "this one reads up to {}.",
                            file.string(), version, schemaVersion));
        }
        if (version < schemaVersion) { // a new book: opening a known one must write nothing
            SQLite::Transaction all(*db_);
            db_->exec(schema);
            db_->exec(fmt::format("PRAGMA user_version={}", schemaVersion));
            all.commit();
        }
    });
}

ShopBook::~ShopBook() = default;
ShopBook::ShopBook(ShopBook&&) noexcept = default;
ShopBook& ShopBook::operator=(ShopBook&&) noexcept = default;

std::int64_t ShopBook::begin(const RunRecord& run) {
    return guarded(db_.get(), "", [&] {
        SQLite::Statement s(*db_, "INSERT INTO runs (project, part, program, sha256, design_hash, "
                                  "address, start, planned_seconds, outcome) "
                                  "VALUES (?, ?, ?, ?, ?, ?, ?, ?, 'running')");
        SQLite::bind(s, run.project, run.part, run.program, run.sha256, run.designHash, run.address,
                     run.start, run.plannedSeconds);
        s.exec();
        return static_cast<std::int64_t>(db_->getLastInsertRowid());
    });
}

void ShopBook::finish(std::int64_t id, double takenSeconds, const std::string& outcome,
                      const std::string& remark) {
    guarded(db_.get(), "", [&] {
        SQLite::Statement s(
            *db_,
            "UPDATE runs SET end = ?, taken_seconds = ?, outcome = ?, remark = ? WHERE id = ?");
        SQLite::bind(s, timeNow(), takenSeconds, outcome, remark, id);
        s.exec();
    });
}

std::vector<RunRecord> ShopBook::runs() const {
    return guarded(db_.get(), "", [&] {
        std::vector<RunRecord> out;
        SQLite::Statement s(*db_,
                            "SELECT id, project, part, program, sha256, design_hash, address, "
                            "start, end, planned_seconds, taken_seconds, outcome, remark "
                            "FROM runs ORDER BY id DESC");
        while (s.executeStep()) {
            out.push_back({s.getColumn(0).getInt64(), s.getColumn(1), s.getColumn(2),
                           s.getColumn(3), s.getColumn(4), s.getColumn(5), s.getColumn(6),
                           s.getColumn(7), s.getColumn(8), s.getColumn(9), s.getColumn(10),
                           s.getColumn(11), s.getColumn(12)});
        }
        return out;
    });
}

void ShopBook::recordOverride(const OverrideRecord& r) {
    guarded(db_.get(), "", [&] {
        SQLite::Statement s(*db_, "INSERT INTO overrides (project, part, time, codes, reason) "
                                  "VALUES (?, ?, ?, ?, ?)");
        SQLite::bind(s, r.project, r.part, r.when, r.codes, r.reason);
        s.exec();
    });
}

std::vector<OverrideRecord> ShopBook::overrides() const {
    return guarded(db_.get(), "", [&] {
        std::vector<OverrideRecord> out;
        SQLite::Statement s(
            *db_, "SELECT id, project, part, time, codes, reason FROM overrides ORDER BY id DESC");
        while (s.executeStep()) {
            out.push_back({s.getColumn(0).getInt64(), s.getColumn(1), s.getColumn(2),
                           s.getColumn(3), s.getColumn(4), s.getColumn(5)});
        }
        return out;
    });
}

std::filesystem::path ShopBook::usualPlace() {
    if (const char* named = std::getenv("UPLAND_WREN_BOOK"); named && *named) {
        return named;
    }
    if (const char* data = std::getenv("XDG_DATA_HOME"); data && *data) {
        return std::filesystem::path(data) / "upland-wren" / "shop.sqlite";
    }
    const char* home = std::getenv("HOME");
    return std::filesystem::path(home && *home ? home : ".") /
           ".local/share/upland-wren/shop.sqlite";
}

std::string timeNow() {
    return fmt::format("{:%Y-%m-%dT%H:%M:%SZ}", fmt::gmtime(std::chrono::system_clock::to_time_t(
                                                    std::chrono::system_clock::now())));
}

} // namespace wren
