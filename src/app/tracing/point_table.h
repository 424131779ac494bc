#pragma once

#include "base/length.h"
#include "design/neck_trace.h"

#include <QTableWidget>

#include <vector>

namespace wren::app {

/// A section's points as two rows of plain numbers, how far across and how deep, from the bass edge
/// to the treble edge. An empty place stands behind the last one, to go on typing in.
class PointTable : public QTableWidget {
    Q_OBJECT
public:
    explicit PointTable(QWidget* parent = nullptr);

    /// What numbers are shown in, and bare ones typed in; those that stand there are converted.
    void setUnit(LengthUnit unit);
    void setPoints(const std::vector<TracePoint>& points);
    bool empty() const; ///< nothing stands in any place
    /// Throws Error naming the point and the number that cannot be read.
    std::vector<TracePoint> points() const;

Q_SIGNALS:
    void edited();

private:
    QString written(int row, int column) const;
    void keepOneFree();

    LengthUnit unit_ = LengthUnit::mm;
};

} // namespace wren::app
