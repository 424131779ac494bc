#pragma once

#include "job/project.h"

#include <filesystem>
#include <string>

namespace wren {

/// The project file's format number; files of a higher one are refused, never guessed at.
inline constexpr int projectVersion = 3;

/// The file as text: JSON with sorted keys, lengths as plain numbers in mm.
std::string projectToText(const Project& project);

/// Reads a project from its text; `source` names it in messages. Missing keys keep their defaults,
/// unknown ones are kept for saving. Throws Error, naming the place.
Project projectFromText(const std::string& text, const std::string& source);

Project loadProject(const std::filesystem::path& file);

/// Writes beside, syncs, renames; the last good file stays as FILE.last. Throws Error.
void saveProject(const Project& project, const std::filesystem::path& file);

/// What the maker decided that programs derive from, as a JSON object by path: every value that is
/// not its default, and how long the lists are. Names and unknown keys are left out.
std::string decidedKeys(const Project& project);

/// SHA-256 of that: a key that is new with its default changes nothing.
std::string designHash(const Project& project);

} // namespace wren
