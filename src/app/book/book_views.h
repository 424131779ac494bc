#pragma once

#include "frame/sheet.h"
#include "job/rack.h"
#include "state/book_reading.h"

#include <QWidget>

namespace wren::app {

/// One way of looking at the book. All draw themselves to the room they have; what is searched for
/// stays strong, the rest grows faint or goes.
class BookView : public QWidget {
    Q_OBJECT
public:
    explicit BookView(Sheet& sheet, QWidget* parent = nullptr);
    void show(const BookReadingPtr& book, const QString& search);

protected:
    virtual void bookChanged() {}
    virtual int wantedHeight() const { return 0; } ///< at the width it has; more is scrolled
    void resizeEvent(QResizeEvent*) override;
    bool fits(const std::string& text) const; ///< has all the words that are searched for
    QString size(double mm, int decimals = 1) const;

    Sheet& sheet_;
    BookReadingPtr book_; ///< null before it is read
    QStringList search_;
};

/// Blanks standing on a rack, to scale, with their wood and rest days.
class RackView : public BookView {
    Q_OBJECT
public:
    using BookView::BookView;
    const RackBlank* inHand() const;

Q_SIGNALS:
    void chosen();

protected:
    void bookChanged() override;
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

private:
    struct Standing {
        std::size_t blank;
        QRectF box;
    };
    std::vector<Standing> standing() const;
    void drawBlank(QPainter& p, const RackBlank& blank, const QRectF& box, bool chosen) const;

    std::vector<RackBlank> blanks_;
    std::size_t at_ = 0;
};

/// The drawer's bits with what they have cut since they were sharp.
class BitsView : public BookView {
    Q_OBJECT
public:
    using BookView::BookView;

protected:
    int wantedHeight() const override;
    void paintEvent(QPaintEvent*) override;

private:
    int columns() const { return width() > 1100 ? 3 : 2; }
    std::vector<const Bit*> shown() const;
    QString did(const Bit& bit) const;
    const BitLife* lifeOf(const Bit& bit) const;
    void drawRow(QPainter& p, const Bit& bit, const QRectF& place) const;
};

/// Instruments as rows of parts with how far they are.
class InstrumentsView : public BookView {
    Q_OBJECT
public:
    using BookView::BookView;

protected:
    int wantedHeight() const override;
    void paintEvent(QPaintEvent*) override;

private:
    std::vector<const InstrumentProgress*> shown() const;
    void drawPart(QPainter& p, const PartProgress& part, std::optional<int> programs,
                  const QRectF& box) const;
};

/// Where time goes: planned against taken by kind of cut, hours by part and instrument.
class TimeView : public BookView {
    Q_OBJECT
public:
    using BookView::BookView;

protected:
    void paintEvent(QPaintEvent*) override;
};

} // namespace wren::app
