#include "book/shop_book.h"

#include "base/digest.h"
#include "base/error.h"
#include "base/files.h"
#include "book/schema.h"

#include <chrono>
#include <fcntl.h>
#include <fstream>
#include <sstream>
#include <unistd.h>

#include <SQLiteCpp/SQLiteCpp.h>
#include <SQLiteCpp/VariadicBind.h>
#include <fmt/chrono.h>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace wren {
namespace {

/// Tells one life of a process from another: its number and the tick it began at.
std::string lifeOf(const std::string& process) {
    std::ifstream in("/proc/" + process + "/stat");
    std::string text;
    std::getline(in, text);
    const std::size_t name = text.rfind(')'); // a name may hold spaces
    if (name == std::string::npos) {
        return {};
    }
    std::istringstream words(text.substr(name + 1));
    std::string word;
    for (int i = 0; i < 20 && words >> word; ++i) { // the 22nd field of all
    }
    return process + " " + word;
}

std::string thisLife() {
    return lifeOf(std::to_string(::getpid()));
}

bool stillLives(const std::string& life) {
    return !life.empty() && lifeOf(life.substr(0, life.find(' '))) == life;
}

/// Whether a book is there and it, or the folder that SQLite keeps files beside it in, may not be
/// written by whoever runs this.
bool mayOnlyBeRead(const std::filesystem::path& file) {
    std::error_code code;
    if (!std::filesystem::is_regular_file(file, code)) {
        return false;
    }
    const auto may = [](const std::filesystem::path& what) {
        return ::faccessat(AT_FDCWD, what.c_str(), W_OK, AT_EACCESS) == 0;
    };
    return !may(file) || !may(file.has_parent_path() ? file.parent_path() : ".");
}

/// A path as an address of SQLite's has it. Source: sqlite.org/uri.html, 3.2.
std::string inAddress(const std::string& path) {
    std::string out;
    for (char c : path) {
        const bool kept = std::string_view("?#%").find(c) == std::string_view::npos;
        out += kept ? std::string(1, c) : fmt::format("%{:02x}", static_cast<unsigned char>(c));
    }
    return out;
}

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

ShopBook::ShopBook(const std::filesystem::path& file) : file_(file) {
    if (file.has_parent_path()) {
        std::error_code ignored; // opening the file says it better
        std::filesystem::create_directories(file.parent_path(), ignored);
    }
    readOnly_ = mayOnlyBeRead(file);
    if (readOnly_) {
        guarded(nullptr, file.string(), [&] { openForReading(); });
        return;
    }
    guarded(nullptr, file.string(), [&] { openForWriting(); });
    takeInAside();
    tellLostRuns();
}

void ShopBook::openForWriting() {
    db_ = std::make_unique<SQLite::Database>(file_.string(),
                                             SQLite::OPEN_READWRITE | SQLite::OPEN_CREATE);
    db_->setBusyTimeout(3000);
    db_->exec("PRAGMA journal_mode=WAL");
    db_->exec("PRAGMA foreign_keys=ON");
    bringUpToDate(*db_, file_);
}

/// SQLite wants to write a file beside a book in WAL mode even to read it, unless it is told that
/// nobody writes; which is only so where nothing waits in that file.
void ShopBook::openForReading() {
    std::error_code none;
    const auto waiting = std::filesystem::file_size(file_.string() + "-wal", none);
    const bool still = none || waiting == 0;
    db_ = std::make_unique<SQLite::Database>(
        fmt::format("file:{}?mode=ro{}", inAddress(file_.string()), still ? "&immutable=1" : ""),
        SQLite::OPEN_READONLY | SQLite::OPEN_URI);
    db_->setBusyTimeout(3000);
    const int version = db_->execAndGet("PRAGMA user_version").getInt();
    if (version != bookVersion) {
        throw Error(fmt::format("The shop book {} may only be read and is of version {}; version {} "
                                "was expected. A copy where it may be written can be brought up to "
                                "date.",
                                file_.string(), version, bookVersion));
    }
}

/// Whatever changes the book: in the maker's words where that may not be.
template <typename F> auto ShopBook::writing(F f) {
    if (readOnly_) {
        throw Error(fmt::format("The shop book {} may only be read; a file and a folder that may be "
                                "written were expected. Nothing was written down.",
                                file_.string()));
    }
    return guarded(db_.get(), "", f);
}

namespace {

/// Where outcomes are kept that the book could not take.
std::vector<std::filesystem::path> asideFolders(const std::filesystem::path& book) {
    std::error_code ignored;
    // Books of one name in two folders must not take each other's.
    const std::string whole = std::filesystem::absolute(book, ignored).string();
    return {book.string() + ".aside",
            std::filesystem::temp_directory_path(ignored) /
                fmt::format("upland-wren-{}-{}.aside", ::getuid(), sha256(whole).substr(0, 16))};
}

} // namespace

std::filesystem::path ShopBook::keepAside(const RunRecord& run) const {
    const nlohmann::json doc{{"id", run.id},           {"start", run.start},
                             {"end", run.end},         {"taken_seconds", run.takenSeconds},
                             {"outcome", run.outcome}, {"remark", run.remark},
                             {"line", run.line},       {"feed", run.feedPercent},
                             {"spindle", run.spindlePercent}};
    std::string why;
    for (const std::filesystem::path& folder : asideFolders(file_)) {
        try {
            makeFolder(folder);
            auto file = folder / fmt::format("run-{}.json", run.id);
            writeFileSafely(file, doc.dump(2));
            return file;
        } catch (const Error& e) {
            why = e.what();
        }
    }
    throw Error(fmt::format("Run {} ended \"{}\" and that could be written nowhere: {}", run.id,
                            run.outcome, why));
}

/// What cannot be read is not ours, and what cannot be written now is left for the next time:
/// neither keeps the book shut.
void ShopBook::takeInAside() {
    for (const std::filesystem::path& folder : asideFolders(file_)) {
        std::error_code code;
        for (const auto& entry : std::filesystem::directory_iterator(folder, code)) {
            try {
                const auto doc = nlohmann::json::parse(readFile(entry.path()));
                RunRecord run;
                run.id = doc.at("id").get<std::int64_t>();
                run.start = doc.at("start").get<std::string>();
                run.end = doc.at("end").get<std::string>();
                run.takenSeconds = doc.at("taken_seconds").get<double>();
                run.outcome = doc.at("outcome").get<std::string>();
                run.remark = doc.at("remark").get<std::string>();
                run.line = doc.value("line", 0);
                run.feedPercent = doc.value("feed", 100);
                run.spindlePercent = doc.value("spindle", 100);
                finish(run);
                std::filesystem::remove(entry.path(), code);
            } catch (const Error&) {
            } catch (const nlohmann::json::exception&) {
            }
        }
        std::filesystem::remove(folder, code); // if it is empty now
    }
}

void ShopBook::tellLostRuns() {
    guarded(db_.get(), "", [&] {
        std::vector<std::int64_t> lost;
        SQLite::Statement s(*db_, "SELECT id, sender FROM runs WHERE outcome = 'running'");
        while (s.executeStep()) {
            if (!stillLives(s.getColumn(1))) {
                lost.push_back(s.getColumn(0).getInt64());
            }
        }
        for (std::int64_t id : lost) {
            SQLite::Statement tell(*db_,
                                   "UPDATE runs SET outcome = 'lost', remark = ? WHERE id = ?");
            SQLite::bind(tell,
                         "The program that sent it ended before the run did; what the machine did "
                         "then is not known.",
                         id);
            tell.exec();
        }
    });
}

ShopBook::~ShopBook() = default;
ShopBook::ShopBook(ShopBook&&) noexcept = default;
ShopBook& ShopBook::operator=(ShopBook&&) noexcept = default;

/// Its row, made where there is none yet.
std::int64_t ShopBook::instrumentOf(const std::string& name, const std::string& time) {
    SQLite::Statement add(*db_, "INSERT OR IGNORE INTO instruments (name, begun) VALUES (?, ?)");
    SQLite::bind(add, name, time.empty() ? timeNow() : time);
    add.exec();
    SQLite::Statement find(*db_, "SELECT id FROM instruments WHERE name = ?");
    SQLite::bind(find, name);
    find.executeStep();
    return find.getColumn(0).getInt64();
}

std::vector<InstrumentRow> ShopBook::instruments() const {
    return guarded(db_.get(), "", [&] {
        std::vector<InstrumentRow> out;
        SQLite::Statement s(*db_, "SELECT id, name, begun FROM instruments ORDER BY begun, id");
        while (s.executeStep()) {
            out.push_back({s.getColumn(0).getInt64(), s.getColumn(1), s.getColumn(2)});
        }
        return out;
    });
}

std::int64_t ShopBook::begin(const RunRecord& run) {
    return writing([&] {
        SQLite::Transaction both(*db_, SQLite::TransactionBehavior::IMMEDIATE);
        const std::int64_t instrument = instrumentOf(run.project, run.start);
        SQLite::Statement s(*db_, "INSERT INTO runs (project, part, program, sha256, design_hash, "
                                  "address, start, planned_seconds, stand_in, sender, motion, "
                                  "bit, wood, cuts, cut_mm, instrument, machine, made_by, outcome) "
                                  "VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, "
                                  "'running')");
        SQLite::bind(s, run.project, run.part, run.program, run.sha256, run.designHash, run.address,
                     run.start, run.plannedSeconds, run.standIn ? 1 : 0, thisLife(), run.motion,
                     run.bit, run.wood, run.cuts, run.cutLength, instrument, run.machine, run.by);
        s.exec();
        const auto id = static_cast<std::int64_t>(db_->getLastInsertRowid());
        both.commit();
        return id;
    });
}

void ShopBook::finish(const RunRecord& run) {
    writing([&] {
        SQLite::Statement s(
            *db_,
            "UPDATE runs SET end = ?, taken_seconds = ?, outcome = ?, remark = ?, line = ?, "
            "feed_percent = ?, spindle_percent = ? WHERE id = ? AND start = ?");
        SQLite::bind(s, run.end, run.takenSeconds, run.outcome, run.remark, run.line,
                     run.feedPercent, run.spindlePercent, run.id, run.start);
        s.exec();
    });
}

std::vector<RunRecord> ShopBook::runs() const {
    return guarded(db_.get(), "", [&] {
        std::vector<RunRecord> out;
        SQLite::Statement s(*db_,
                            "SELECT id, project, part, program, sha256, design_hash, address, "
                            "start, end, planned_seconds, taken_seconds, outcome, remark, "
                            "stand_in, line, feed_percent, spindle_percent, bit, wood, cuts, motion, "
                            "cut_mm, machine, made_by "
                            "FROM runs ORDER BY id DESC");
        while (s.executeStep()) {
            out.push_back({s.getColumn(0).getInt64(), s.getColumn(1), s.getColumn(2),
                           s.getColumn(3), s.getColumn(4), s.getColumn(5), s.getColumn(6),
                           s.getColumn(7), s.getColumn(8), s.getColumn(9), s.getColumn(10),
                           s.getColumn(11), s.getColumn(12), s.getColumn(13).getInt() != 0,
                           s.getColumn(14).getInt(), s.getColumn(15).getInt(),
                           s.getColumn(16).getInt(), s.getColumn(17), s.getColumn(18),
                           s.getColumn(19), s.getColumn(20), s.getColumn(21), s.getColumn(22),
                           s.getColumn(23)});
        }
        return out;
    });
}

void ShopBook::recordOverride(const OverrideRecord& r) {
    writing([&] {
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

void ShopBook::tick(const std::string& project, const std::string& step, bool on) {
    writing([&] {
        SQLite::Statement s(
            *db_, on ? "INSERT OR REPLACE INTO ticks (project, step, time) VALUES (?, ?, ?)"
                     : "DELETE FROM ticks WHERE project = ? AND step = ?");
        on ? SQLite::bind(s, project, step, timeNow()) : SQLite::bind(s, project, step);
        s.exec();
    });
}

std::set<std::string> ShopBook::ticks(const std::string& project) const {
    return guarded(db_.get(), "", [&] {
        std::set<std::string> out;
        SQLite::Statement s(*db_, "SELECT step FROM ticks WHERE project = ?");
        SQLite::bind(s, project);
        while (s.executeStep()) {
            out.insert(s.getColumn(0).getString());
        }
        return out;
    });
}

std::int64_t ShopBook::add(const Record& record) {
    return writing([&] {
        SQLite::Transaction both(*db_, SQLite::TransactionBehavior::IMMEDIATE);
        const std::string time = record.time.empty() ? timeNow() : record.time;
        const std::string project = record.field("project");
        SQLite::Statement s(*db_, "INSERT INTO records (kind, time, fields, instrument) "
                                  "VALUES (?, ?, ?, ?)");
        SQLite::bind(s, record.kind, time, nlohmann::json(record.fields).dump());
        project.empty() ? s.bind(4) : s.bind(4, instrumentOf(project, time));
        s.exec();
        const auto id = static_cast<std::int64_t>(db_->getLastInsertRowid());
        both.commit();
        return id;
    });
}

std::vector<Record> ShopBook::records(const std::string& kind) const {
    return guarded(db_.get(), "", [&] {
        std::vector<Record> out;
        SQLite::Statement s(*db_, "SELECT id, time, fields FROM records WHERE kind = ? "
                                  "ORDER BY id DESC");
        SQLite::bind(s, kind);
        while (s.executeStep()) {
            Record r;
            r.id = s.getColumn(0).getInt64();
            r.kind = kind;
            r.time = s.getColumn(1).getString();
            const auto fields = nlohmann::json::parse(s.getColumn(2).getString(), nullptr, false);
            for (const auto& [name, value] : fields.items()) {
                r.fields[name] = value.is_string() ? value.get<std::string>() : value.dump();
            }
            out.push_back(std::move(r));
        }
        return out;
    });
}

void ShopBook::backup(const std::filesystem::path& file) const {
    std::error_code code;
    if (std::filesystem::exists(file, code)) {
        throw Error(fmt::format("{} is there already; a name that is free was expected.",
                                file.string()));
    }
    guarded(db_.get(), "", [&] {
        SQLite::Statement s(*db_, "VACUUM INTO ?");
        SQLite::bind(s, file.string());
        s.exec();
    });
}

std::string timeNow() {
    return fmt::format("{:%Y-%m-%dT%H:%M:%SZ}", fmt::gmtime(std::chrono::system_clock::to_time_t(
                                                    std::chrono::system_clock::now())));
}

} // namespace wren
