#pragma once

#include "book/records.h"

#include <cstdint>
#include <filesystem>
#include <memory>
#include <set>
#include <string>
#include <vector>

namespace SQLite {
class Database;
}

namespace wren {

/// One program sent to a machine. Times of day are UTC, ISO 8601.
struct RunRecord {
    std::int64_t id = 0;
    std::string project;
    std::string part;
    std::string program; ///< file name
    std::string sha256;  ///< of the text that was sent
    std::string designHash;
    std::string address; ///< where it was sent
    std::string start;
    std::string end; ///< empty while running, or when the computer died with it
    double plannedSeconds = 0;
    double takenSeconds = 0; ///< by the machine's own clock
    std::string outcome;     ///< "running", "done", "stopped", "lost", "alarm" or "refused"
    std::string remark;      ///< one sentence when it did not end well
    bool standIn = false;    ///< sent to a simulated machine
    int line = 0;            ///< of the program, that it ended at when not well
    int feedPercent = 100;   ///< what feed and spindle had been turned to at the end
    int spindlePercent = 100;
    std::string bit, wood;   ///< what cut, in what; empty in old entries
    std::string cuts;        ///< which, as the program's words
    std::string motion;      ///< SHA-256 of what it moved, comments aside; empty in old entries
    double cutLength = 0;    ///< mm of way in the wood, as planned; 0 in old entries
    std::string machine;     ///< its name; empty in old entries
    std::string by;          ///< who stood at the machine; empty where nobody said
};

/// An instrument the shop has begun: whatever was run or written down for a project of that name.
struct InstrumentRow {
    std::int64_t id = 0;
    std::string name;
    std::string begun;
};

/// A stop finding that was overridden.
struct OverrideRecord {
    std::int64_t id = 0;
    std::string project;
    std::string part;
    std::string when;
    std::string codes;
    std::string reason;
};

/// The shop's logbook: one SQLite file in WAL mode that all projects share. Throws Error.
class ShopBook {
public:
    /// Opens the file, making it when it is not there. Runs whose program ended before they did are
    /// told as lost, and outcomes kept aside are taken in. A book, or a folder of one, that may not be
    /// written is opened for reading; whatever writes then throws.
    explicit ShopBook(const std::filesystem::path& file);
    ~ShopBook();
    ShopBook(ShopBook&&) noexcept;
    ShopBook& operator=(ShopBook&&) noexcept;

    bool readOnly() const { return readOnly_; }

    /// Writes the run's beginning (outcome "running") and returns its id.
    std::int64_t begin(const RunRecord& run);
    /// Writes the end, outcome and remark of the run of that id and start.
    void finish(const RunRecord& run);
    /// Keeps a run's end in a file beside the book, or in the folder for temporary files, where the
    /// book itself cannot be written; taken in when the book is opened next. Throws Error.
    std::filesystem::path keepAside(const RunRecord& run) const;
    std::vector<RunRecord> runs() const; ///< newest first

    std::vector<InstrumentRow> instruments() const; ///< in the order they were begun

    /// What of a project's steps at the machine is ticked; kept until it is taken back.
    void tick(const std::string& project, const std::string& step, bool on);
    std::set<std::string> ticks(const std::string& project) const;

    /// Writes down whatever else a shop keeps (book/records.h); returns its number.
    std::int64_t add(const Record& record);
    std::vector<Record> records(const std::string& kind) const; ///< newest first

    /// The whole book as a file of its own, taken while others may write in it. Throws Error.
    void backup(const std::filesystem::path& file) const;
    /// A book put in the place of another, which is kept beside it (".before"). Throws Error, and
    /// changes nothing, where the file is no whole book, or a newer one.
    static void restore(const std::filesystem::path& from, const std::filesystem::path& book);

    void recordOverride(const OverrideRecord& record);
    std::vector<OverrideRecord> overrides() const; ///< newest first

    /// $UPLAND_WREN_BOOK, or shop.sqlite in the user's data folder.
    static std::filesystem::path usualPlace();

private:
    std::int64_t instrumentOf(const std::string& name, const std::string& time);
    void takeInAside();
    void tellLostRuns();
    void openForReading();
    void openForWriting();
    template <typename F> auto writing(F f);

    std::filesystem::path file_;
    bool readOnly_ = false;
    std::unique_ptr<SQLite::Database> db_;
};

/// The time of day now, UTC, ISO 8601.
std::string timeNow();

} // namespace wren
