#include "book/run_model.h"

#include "frame/text.h"
#include "frame/theme.h"

#include <QDateTime>

#include <algorithm>

namespace wren::app {
namespace {

/// The clock on the wall, out of UTC in ISO 8601.
QString onTheWall(const std::string& time) {
    const QDateTime when = QDateTime::fromString(qs(time), Qt::ISODate);
    return when.isValid() ? when.toLocalTime().toString(QStringLiteral("yyyy-MM-dd HH:mm"))
                          : qs(time);
}

bool isLength(const std::string& kind, const std::string& field) {
    for (const RecordKind& k : recordKinds()) {
        for (const FieldOf& f : k.fields) {
            if (kind == k.name && field == f.name) {
                return f.kind == FieldKind::length;
            }
        }
    }
    return false;
}

QString minutes(double seconds) {
    return QObject::tr("%1 min").arg(seconds / 60, 0, 'f', 1);
}

} // namespace

void RunModel::show(const BookReadingPtr& book, const QString& search) {
    beginResetModel();
    book_ = book;
    rows_ = book ? found(book->texts, search.toStdString()) : std::vector<std::size_t>();
    endResetModel();
}

const RunRecord* RunModel::run(int row) const {
    return row >= 0 && row < rowCount() ? &book_->memory.runs[rows_[std::size_t(row)]] : nullptr;
}

int RunModel::rowCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : static_cast<int>(rows_.size());
}

int RunModel::columnCount(const QModelIndex&) const {
    return 10;
}

QVariant RunModel::headerData(int section, Qt::Orientation way, int role) const {
    const QStringList heads{tr("begun"), tr("instrument"), tr("program"), tr("bit"), tr("planned"),
                            tr("taken"), tr("feed"), tr("came out"), tr("by"), tr("remark")};
    if (role == Qt::TextAlignmentRole) {
        return int(Qt::AlignLeft | Qt::AlignVCenter);
    }
    return way == Qt::Horizontal && role == Qt::DisplayRole ? QVariant(heads.value(section))
                                                            : QVariant();
}

QVariant RunModel::data(const QModelIndex& index, int role) const {
    const RunRecord* r = run(index.row());
    if (!r) {
        return {};
    }
    const int c = index.column();
    if (role == Qt::FontRole) {
        const bool told = c == 1 || c >= 7;
        return told ? words(13, c == 7) : figures(12.5);
    }
    if (role == Qt::ForegroundRole && c == 7) {
        return r->outcome == "done" ? colour::moss : colour::russet;
    }
    if (role == Qt::ToolTipRole) {
        return tr("%1 in %2: %3\non %7, sent to %4\nSHA-256 %5\ndesign %6")
            .arg(qs(r->bit), qs(r->wood), qs(r->cuts), qs(r->address), qs(r->sha256),
                 qs(r->designHash), r->machine.empty() ? tr("a machine") : qs(r->machine));
    }
    if (role != Qt::DisplayRole) {
        return {};
    }
    switch (c) {
    case 0:
        return onTheWall(r->start);
    case 1:
        return qs(r->project);
    case 2:
        return qs(r->program);
    case 3:
        return qs(r->bit);
    case 4:
        return minutes(r->plannedSeconds);
    case 5:
        return minutes(r->takenSeconds);
    case 6:
        return QStringLiteral("%1 %").arg(r->feedPercent);
    case 7:
        return qs(r->outcome) + (r->standIn ? tr(", on a stand-in") : QString());
    case 8:
        return qs(r->by);
    default:
        return qs(r->remark);
    }
}

void RecordModel::show(const BookReadingPtr& book, const QString& search) {
    beginResetModel();
    rows_.clear();
    std::vector<std::string> texts;
    for (const auto& [kind, list] : book ? book->memory.records
                                         : std::map<std::string, std::vector<Record>>()) {
        rows_.insert(rows_.end(), list.begin(), list.end());
    }
    if (book) { // stops gone on with are told of here too
        for (const OverrideRecord& o : book->memory.overrides) {
            rows_.push_back({o.id, "stop gone on with", o.when,
                             {{"project", o.project}, {"part", o.part}, {"stop", o.codes},
                              {"because", o.reason}}});
        }
    }
    std::stable_sort(rows_.begin(), rows_.end(),
                     [](const Record& a, const Record& b) { return a.time > b.time; });
    for (const Record& r : rows_) {
        std::string text = r.kind + '\n' + r.time.substr(0, 10);
        for (const auto& [name, value] : r.fields) {
            text += '\n' + value;
        }
        texts.push_back(searchable(text));
    }
    std::vector<Record> kept;
    for (std::size_t i : found(texts, search.toStdString())) {
        kept.push_back(std::move(rows_[i]));
    }
    rows_ = std::move(kept);
    endResetModel();
}

int RecordModel::rowCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : static_cast<int>(rows_.size());
}

int RecordModel::columnCount(const QModelIndex&) const {
    return 4;
}

QVariant RecordModel::headerData(int section, Qt::Orientation way, int role) const {
    const QStringList heads{tr("when"), tr("what"), tr("of"), tr("written down")};
    if (role == Qt::TextAlignmentRole) {
        return int(Qt::AlignLeft | Qt::AlignVCenter);
    }
    return way == Qt::Horizontal && role == Qt::DisplayRole ? QVariant(heads.value(section))
                                                            : QVariant();
}

QVariant RecordModel::data(const QModelIndex& index, int role) const {
    const auto row = static_cast<std::size_t>(index.row());
    if (row >= rows_.size()) {
        return {};
    }
    const Record& r = rows_[row];
    if (role == Qt::FontRole) {
        return index.column() == 0 ? figures(12.5) : words(13, index.column() == 1);
    }
    if (role != Qt::DisplayRole && role != Qt::ToolTipRole) {
        return {};
    }
    switch (index.column()) {
    case 0:
        return onTheWall(r.time);
    case 1:
        return qs(r.kind);
    case 2:
        return qs(r.field("name").empty() ? r.field("project") : r.field("name"));
    default: {
        QStringList parts;
        for (const auto& [name, value] : r.fields) {
            const bool shown = name == "name" || (name == "project" && r.field("name").empty());
            if (!shown) {
                parts << qs(name) + QLatin1Char(' ') + qs(value) +
                             (isLength(r.kind, name) ? QStringLiteral(" mm") : QString());
            }
        }
        return parts.join(QStringLiteral("; "));
    }
    }
}

} // namespace wren::app
