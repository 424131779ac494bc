#include "book/book_views.h"

#include "base/length.h"
#include "frame/text.h"

namespace wren::app {

BookView::BookView(Sheet& sheet, QWidget* parent) : QWidget(parent), sheet_(sheet) {
    connect(&sheet_.document(), &Document::unitChanged, this, qOverload<>(&QWidget::update));
}

void BookView::show(const BookReadingPtr& book, const QString& search) {
    const bool other = book != book_;
    book_ = book;
    search_ = search.toLower().split(QLatin1Char(' '), Qt::SkipEmptyParts);
    if (other) {
        bookChanged();
    }
    setMinimumHeight(wantedHeight());
    update();
}

void BookView::resizeEvent(QResizeEvent*) {
    setMinimumHeight(wantedHeight());
}

bool BookView::fits(const std::string& text) const {
    const QString low = qs(text).toLower();
    return std::all_of(search_.begin(), search_.end(),
                       [&](const QString& word) { return low.contains(word); });
}

QString BookView::size(double mm, int decimals) const {
    return qs(formatLengthValue(mm, sheet_.unit(),
                                decimals + (sheet_.unit() == LengthUnit::inch ? 2 : 0)));
}

} // namespace wren::app
