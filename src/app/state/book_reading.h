#pragma once

#include "book/bit_life.h"
#include "book/experience.h"
#include "book/memory.h"
#include "book/progress.h"
#include "book/search.h"
#include "book/time_spent.h"
#include "job/posted_program.h"

#include <filesystem>
#include <memory>
#include <set>
#include <string>
#include <vector>

namespace wren::app {

/// The shop's book as it was read at one moment, and what follows from it, made off the interface
/// thread.
struct BookReading {
    ShopMemory memory;
    std::string project;         ///< whose ticks these are
    std::set<std::string> ticks; ///< of what is done at the machine
    std::vector<Experience> experience, practice; ///< practice: with runs on stand-ins
    std::vector<BitLife> lives;                   ///< with stand-ins where nothing else ran
    std::vector<InstrumentProgress> progress;
    TimeSpent spent;
    std::vector<std::string> texts; ///< runs are found by (book/search.h)
    std::string trouble;            ///< it could not be read; a sentence
    bool readOnly = false;          ///< nothing can be written down in it here

    /// Whether a run of what this program moves ended well; of old entries, of its text.
    bool done(const std::string& instrument, const PostedProgram& program) const;
    /// Whether one of that file did, whatever it moved.
    bool ranOnce(const std::string& instrument, const PostedProgram& program) const;

    std::set<std::string> doneMotions, doneTexts, doneFiles;
};
using BookReadingPtr = std::shared_ptr<const BookReading>;

BookReadingPtr readBook(const std::filesystem::path& file, const std::string& project);

} // namespace wren::app
