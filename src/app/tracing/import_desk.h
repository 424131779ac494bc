#pragma once

#include "job/import_outline.h"
#include "state/document.h"

#include <QWidget>

#include <memory>
#include <optional>
#include <vector>

class QLabel;
class QLineEdit;
class QPushButton;

namespace wren::app {

/// An outline brought in from a drawing: as it was drawn and as lines and arcs over one another,
/// with what was joined, dropped and left out, before anything is taken. Return takes it, Escape
/// leaves.
class ImportDesk : public QWidget {
    Q_OBJECT
public:
    explicit ImportDesk(Document& document, QWidget* parent = nullptr);

    void start();
    void open(const QString& file); ///< read and traced in a worker thread; ready() follows
    bool canTake() const;
    /// The next two clicks mark places whose distance is then typed.
    void scaleByPoints();
    QPointF pageAt(Vec2 drawing) const; ///< where a place of the drawing, in its units, is shown

Q_SIGNALS:
    void ready();
    void taken(QString told);
    void left();
    void refused(QString sentence);

protected:
    void paintEvent(QPaintEvent*) override;
    void keyPressEvent(QKeyEvent*) override;
    void mousePressEvent(QMouseEvent*) override;

private:
    /// How the drawing lies on the page.
    struct Lie {
        QPointF middle, box;
        double perMm = 1;
        QPointF at(QPointF mm) const { return middle + (mm - box) * perMm; }
        QPointF mm(QPointF at) const { return box + (at - middle) / perMm; }
    };
    /// What a reading came to: the outline, or why there is none.
    struct Outcome {
        DrawingRead drawing;
        std::optional<OutlineImport> outline;
        QString trouble;
    };

    QPushButton* choice(const QString& label, const QString& name, const QString& tip, int width);
    void askFile();
    void trace();
    void take();
    void tell();
    QRectF canvas() const;
    double millimetres() const; ///< of a drawing unit
    Lie lie() const;
    Vec2 snapped(QPointF at) const; ///< the drawing's own end nearest to a place, drawing units
    bool measuring() const;
    bool measured() const; ///< two points and their distance are known, or not wanted
    std::optional<double> measuredUnit() const;

    Document& document_;
    QString file_;
    std::shared_ptr<const Outcome> outcome_;
    int wish_ = 0; ///< counts readings, so that only the newest is shown
    QPushButton* for_ = nullptr;
    QPushButton* layer_ = nullptr;
    QPushButton* unit_ = nullptr;
    QLineEdit* tolerance_ = nullptr;
    QLineEdit* apart_ = nullptr;
    std::vector<Vec2> marks_; ///< two places whose distance is known, drawing units
    QPushButton* take_ = nullptr;
    QLabel* told_ = nullptr;
};

} // namespace wren::app
