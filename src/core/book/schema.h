#pragma once

#include <filesystem>

namespace SQLite {
class Database;
}

namespace wren {

/// Of the book's tables, as SQLite's user_version.
inline constexpr int bookVersion = 6;

/// Makes a book's tables, or brings those of an older version up to date, all or nothing; a book
/// that held anything is kept beside it first (".version-N"). Opening one that is up to date writes
/// nothing. Throws Error for a newer one, SQLite::Exception where SQLite does.
void bringUpToDate(SQLite::Database& db, const std::filesystem::path& file);

} // namespace wren
