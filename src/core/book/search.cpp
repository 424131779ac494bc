#include "book/search.h"

#include <algorithm>
#include <sstream>

namespace wren {

std::string searchable(std::string_view text) {
    std::string out(text);
    std::transform(out.begin(), out.end(), out.begin(),
                   [](char c) { return c >= 'A' && c <= 'Z' ? char(c - 'A' + 'a') : c; });
    return out;
}

std::vector<std::string> searchTexts(const std::vector<RunRecord>& runs) {
    std::vector<std::string> out;
    out.reserve(runs.size());
    for (const RunRecord& r : runs) {
        std::string text = r.start.substr(0, 10);
        for (const std::string* word :
             {&r.project, &r.part, &r.program, &r.bit, &r.wood, &r.cuts, &r.outcome, &r.remark,
              &r.machine, &r.by}) {
            text += '\n' + *word; // which no word that is typed holds
        }
        out.push_back(searchable(text));
    }
    return out;
}

std::vector<std::size_t> found(const std::vector<std::string>& texts, std::string_view typed) {
    std::vector<std::string> words;
    std::istringstream in{searchable(typed)};
    for (std::string word; in >> word;) {
        words.push_back(word);
    }
    std::vector<std::size_t> out;
    for (std::size_t i = 0; i < texts.size(); ++i) {
        const auto holds = [&](const std::string& word) {
            return texts[i].find(word) != std::string::npos;
        };
        if (std::all_of(words.begin(), words.end(), holds)) {
            out.push_back(i);
        }
    }
    return out;
}

} // namespace wren
