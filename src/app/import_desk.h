#pragma once

#include "document.h"
#include "job/import_outline.h"

#include <QWidget>

#include <memory>
#include <optional>

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
    bool canTake() const { return outcome_ && outcome_->outline.has_value(); }

Q_SIGNALS:
    void ready();
    void taken(QString told);
    void left();
    void refused(QString sentence);

protected:
    void paintEvent(QPaintEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

private:
    /// What a reading came to: the outline, or why there is none.
    struct Outcome {
        DrawingRead drawing;
        std::optional<OutlineImport> outline;
        QString trouble;
    };

    QPushButton* choice(const QString& label, const QString& name, const QString& tip, int width);
    void choose(QPushButton* button, const QStringList& words);
    void askFile();
    void trace();
    void take();
    void tell();
    QRectF canvas() const;
    double millimetres() const; ///< of a drawing unit

    Document& document_;
    QString file_;
    std::shared_ptr<const Outcome> outcome_;
    int wish_ = 0; ///< counts readings, so that only the newest is shown
    QPushButton* for_ = nullptr;
    QPushButton* layer_ = nullptr;
    QPushButton* unit_ = nullptr;
    QLineEdit* tolerance_ = nullptr;
    QPushButton* take_ = nullptr;
    QLabel* told_ = nullptr;
};

} // namespace wren::app
