// The rack: blanks standing on a shelf, to scale.
#include "book/book_views.h"

#include "book/shop_book.h"
#include "frame/text.h"
#include "frame/theme.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>

#include <algorithm>
#include <map>

namespace wren::app {
namespace {

constexpr double nameRoom = 82; ///< under the shelf
constexpr double headRoom = 26; ///< over the tallest
constexpr double between = 26;
constexpr double least = 96; ///< of a place, so that its name can be read

/// About as each wood looks planed; the plain tint for those not told.
QColor tintOf(const std::string& wood) {
    static const std::map<std::string, QColor> known{
        {"hard-maple", {0xEC, 0xDF, 0xC4}}, {"soft-maple", {0xE6, 0xD2, 0xB3}},
        {"white-ash", {0xE2, 0xD1, 0xAC}},  {"walnut", {0x8C, 0x6B, 0x4D}},
        {"cherry", {0xC7, 0x94, 0x68}},     {"mahogany", {0xA8, 0x6C, 0x47}},
        {"sapele", {0x93, 0x58, 0x3B}},     {"rosewood", {0x6D, 0x48, 0x38}},
        {"ebony", {0x44, 0x3D, 0x38}},      {"wenge", {0x58, 0x48, 0x3A}},
        {"spruce", {0xED, 0xE1, 0xC0}},     {"poplar", {0xD8, 0xD6, 0xAE}}};
    const auto it = known.find(wood);
    return it == known.end() ? colour::wood : it->second;
}

} // namespace

void RackView::bookChanged() {
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(tr("Rack"));
    blanks_ = book_ ? rackOf(book_->memory.of("blank"), timeNow().substr(0, 10))
                    : std::vector<RackBlank>();
    at_ = std::min(at_, blanks_.empty() ? 0 : blanks_.size() - 1);
    Q_EMIT chosen();
}

const RackBlank* RackView::inHand() const {
    return at_ < blanks_.size() ? &blanks_[at_] : nullptr;
}

/// Side by side on one shelf; those that are searched for come first in sight.
std::vector<RackView::Standing> RackView::standing() const {
    std::vector<std::size_t> shown;
    double longest = 1, wide = 0;
    for (std::size_t i = 0; i < blanks_.size(); ++i) {
        const RackBlank& b = blanks_[i];
        std::string text;
        for (const auto& [name, value] : b.record.fields) {
            text += value + ' ';
        }
        if (fits(text)) {
            shown.push_back(i);
            longest = std::max(longest, b.length);
            wide += std::max(b.width, 30.0);
        }
    }
    const double shelf = height() - nameRoom;
    const double gaps = double(shown.size() + 1) * between;
    const double scale = std::min((shelf - headRoom) / longest,
                                  std::max(0.05, (width() - gaps) / std::max(wide, 1.0)));
    std::vector<Standing> out;
    double x = between;
    for (std::size_t i : shown) {
        const RackBlank& b = blanks_[i];
        const double w = std::max(6.0, std::max(b.width, 30.0) * scale);
        const double h = std::max(18.0, b.length * scale);
        const double place = std::max(w, least);
        out.push_back({i, QRectF(x + (place - w) / 2, shelf - h, w, h)});
        x += place + between;
    }
    return out;
}

void RackView::drawBlank(QPainter& p, const RackBlank& b, const QRectF& box, bool chosen) const {
    p.setPen(QPen(chosen ? colour::russet : colour::ink, chosen ? 2.6 : 1.2));
    p.setBrush(tintOf(b.wood));
    p.drawRect(box);
    p.setPen(QPen(colour::faded, 0.6)); // its grain, along
    for (double x = box.left() + 7; x < box.right() - 3; x += 9) {
        p.drawLine(QPointF(x, box.top() + 5), QPointF(x + 2, box.bottom() - 5));
    }
    const double middle = box.center().x();
    const auto words1 = [&](double y, const QFont& font, const QColor& colour1,
                            const QString& text) {
        p.setFont(font);
        p.setPen(colour1);
        const QRectF row(middle - least / 2 - between / 2 + 2, y, least + between - 4, 18);
        p.drawText(row, Qt::AlignCenter,
                   p.fontMetrics().elidedText(text, Qt::ElideRight, int(row.width())));
    };
    words1(height() - nameRoom + 8, words(14, true), chosen ? colour::russet : colour::ink,
           qs(b.name));
    words1(height() - nameRoom + 26, words(12.5), colour::faded, qs(b.wood));
    words1(height() - nameRoom + 43, words(12.5), colour::faded,
           b.restDays ? tr("rests %1 days").arg(*b.restDays) : QString());
    words1(height() - nameRoom + 60, figures(11.5), colour::slate,
           b.reserved.empty() ? size(b.length, 0) + QStringLiteral(" x ") + size(b.width, 0)
                              : tr("for %1").arg(qs(b.reserved)));
    if (!b.reserved.empty()) { // a band round it
        const QRectF band(box.left(), box.top() + box.height() * 0.3, box.width(), 8);
        p.fillRect(band, colour::slate);
    }
}

void RackView::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    if (blanks_.empty()) {
        p.setFont(words(17));
        p.setPen(colour::faded);
        p.drawText(rect().adjusted(40, 0, -40, 0), Qt::AlignCenter | Qt::TextWordWrap,
                   tr("No blank is on the rack yet. Write one down: its name, wood and sizes; then "
                      "it can be taken for a part."));
        return;
    }
    const double shelf = height() - nameRoom;
    p.setPen(QPen(colour::ink, 3));
    p.drawLine(QPointF(8, shelf + 1.5), QPointF(width() - 8, shelf + 1.5));
    for (const Standing& s : standing()) {
        drawBlank(p, blanks_[s.blank], s.box, s.blank == at_);
    }
}

void RackView::mousePressEvent(QMouseEvent* e) {
    for (const Standing& s : standing()) {
        const QRectF place(s.box.center().x() - least / 2, 0, least, height());
        if (place.united(s.box).contains(e->position())) {
            at_ = s.blank;
            Q_EMIT chosen();
            update();
        }
    }
}

void RackView::keyPressEvent(QKeyEvent* e) {
    const std::vector<Standing> all = standing();
    const auto now = std::find_if(all.begin(), all.end(),
                                  [&](const Standing& s) { return s.blank == at_; });
    const auto i = now - all.begin();
    const auto n = std::ssize(all);
    if (n > 0 && (e->key() == Qt::Key_Left || e->key() == Qt::Key_Right)) {
        const auto to = i + (e->key() == Qt::Key_Right ? 1 : -1);
        at_ = all[std::size_t(std::clamp<std::ptrdiff_t>(i == n ? 0 : to, 0, n - 1))].blank;
        Q_EMIT chosen();
        update();
    } else {
        QWidget::keyPressEvent(e);
    }
}

} // namespace wren::app
