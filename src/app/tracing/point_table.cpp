#include "tracing/point_table.h"

#include "base/error.h"
#include "frame/text.h"
#include "frame/theme.h"

#include <QHeaderView>
#include <QSignalBlocker>

#include <array>

namespace wren::app {
namespace {

constexpr int placeWidth = 68;
constexpr int placeHeight = 24;
constexpr int scrollBar = 10;

} // namespace

PointTable::PointTable(QWidget* parent) : QTableWidget(2, 0, parent) {
    setObjectName(QStringLiteral("trace.points"));
    setAccessibleName(tr("The section's points"));
    setToolTip(tr("across from the middle, the bass side negative, and deep below the line through "
                  "both edges; laid on the picture or typed"));
    setVerticalHeaderLabels({tr("across"), tr("deep")});
    setFont(figures(14));
    horizontalHeader()->hide();
    horizontalHeader()->setDefaultSectionSize(placeWidth);
    verticalHeader()->setMinimumSectionSize(placeHeight);
    verticalHeader()->setDefaultSectionSize(placeHeight);
    setHorizontalScrollMode(ScrollPerPixel);
    setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAsNeeded);
    setFixedHeight(2 * placeHeight + scrollBar);
    setMinimumWidth(320);
    setTabKeyNavigation(false); // the arrow keys go along it, Tab leaves it
    keepOneFree();
    connect(this, &QTableWidget::cellChanged, this, [this] {
        keepOneFree();
        Q_EMIT edited();
    });
}

QString PointTable::written(int row, int column) const {
    const QTableWidgetItem* i = item(row, column);
    return i ? i->text().trimmed() : QString();
}

/// The places behind the last one written in: exactly one.
void PointTable::keepOneFree() {
    int last = columnCount() - 1;
    while (last >= 0 && written(0, last).isEmpty() && written(1, last).isEmpty()) {
        --last;
    }
    setColumnCount(last + 2);
}

void PointTable::setUnit(LengthUnit unit) {
    {
        const QSignalBlocker quiet(this);
        for (int i = 0; i + 1 < columnCount(); ++i) {
            for (int row : {0, 1}) {
                try {
                    const double mm = parseLength(written(row, i).toStdString(), unit_);
                    setItem(row, i, new QTableWidgetItem(qs(formatLengthValue(mm, unit))));
                } catch (const Error&) {
                    // Told already, and left for the maker to put right.
                }
            }
        }
    }
    unit_ = unit;
    Q_EMIT edited();
}

void PointTable::setPoints(const std::vector<TracePoint>& points) {
    {
        const QSignalBlocker quiet(this);
        clearContents();
        setColumnCount(static_cast<int>(points.size()));
        for (int i = 0; i < columnCount(); ++i) {
            const Vec2 at = points[static_cast<std::size_t>(i)].at;
            setItem(0, i, new QTableWidgetItem(qs(formatLengthValue(at.x, unit_))));
            setItem(1, i, new QTableWidgetItem(qs(formatLengthValue(at.y, unit_))));
        }
        keepOneFree();
    }
    Q_EMIT edited();
}

bool PointTable::empty() const {
    return columnCount() <= 1 && written(0, 0).isEmpty() && written(1, 0).isEmpty();
}

std::vector<TracePoint> PointTable::points() const {
    std::vector<TracePoint> out;
    for (int i = 0; i + 1 < columnCount(); ++i) {
        std::array<double, 2> at{};
        for (int row : {0, 1}) {
            const QString text = written(row, i);
            try {
                at[static_cast<std::size_t>(row)] = parseLength(text.toStdString(), unit_);
            } catch (const Error&) {
                throw Error(tr("Point %1: \"%2\" is not a length; how far it lies %3 was expected.")
                                .arg(i + 1)
                                .arg(text, row == 0 ? tr("across") : tr("deep"))
                                .toStdString());
            }
        }
        out.push_back({{at[0], at[1]}});
    }
    return out;
}

} // namespace wren::app
