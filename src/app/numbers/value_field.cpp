#include "numbers/value_field.h"

#include "base/error.h"
#include "frame/theme.h"

#include <QEvent>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>
#include <QRegularExpression>
#include <QStyle>
#include <QTimer>

namespace wren::app {
namespace {

const QRegularExpression anyDigit(QStringLiteral("[0-9]"));

QString rangeOf(const Key& key, LengthUnit unit) {
    if (key.most <= key.least) {
        return {};
    }
    if (key.kind == KeyKind::length) {
        return QObject::tr("%1 to %2")
            .arg(QString::fromStdString(formatLengthValue(key.least, unit)),
                 QString::fromStdString(formatLength(key.most, unit)));
    }
    return QObject::tr("%1 to %2 %3")
        .arg(key.least)
        .arg(key.most)
        .arg(QString::fromStdString(key.unit));
}

} // namespace

ValueField::ValueField(Document& document, QString path, QWidget* parent)
    : QWidget(parent), document_(document), path_(std::move(path)),
      key_(keyAt(document.project(), path_.toStdString())) {
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    if (key_.kind == KeyKind::choice) {
        setWords({});
    } else {
        line_ = new QLineEdit(this);
        line_->setFont(figures(13));
        line_->setAlignment(Qt::AlignRight);
        line_->setObjectName(path_);
        line_->setAccessibleName(QString::fromStdString(key_.meaning));
        line_->installEventFilter(this);
        connect(line_, &QLineEdit::returnPressed, this, [this] {
            take(line_->text());
            line_->selectAll();
        });
        row->addWidget(line_);
    }
    connect(&document_, &Document::changed, this, &ValueField::refresh);
    connect(&document_, &Document::unitChanged, this, &ValueField::refresh);
    refresh();
}

QWidget* ValueField::editor() const {
    return line_ ? static_cast<QWidget*>(line_) : static_cast<QWidget*>(choice_);
}

void ValueField::setWords(const QStringList& given) {
    words_ = given;
    if (words_.isEmpty()) {
        for (const std::string& w : key_.choices) {
            words_ << QString::fromStdString(w);
        }
    }
    if (choice_) {
        return;
    }
    delete line_;
    line_ = nullptr;
    choice_ = new QPushButton(this);
    choice_->setObjectName(QStringLiteral("choice"));
    choice_->setProperty("path", path_);
    choice_->setAccessibleName(QString::fromStdString(key_.meaning));
    choice_->setFont(figures(13));
    choice_->setMinimumHeight(24);
    choice_->installEventFilter(this);
    connect(choice_, &QPushButton::clicked, this, &ValueField::chooseWord);
    layout()->addWidget(choice_);
    refresh();
}

void ValueField::chooseWord() {
    QMenu menu(this);
    menu.setFont(figures(13));
    menu.setToolTipsVisible(true);
    QAction* now = nullptr;
    const QString value = shown_.section(QLatin1Char(' '), 0, 0);
    for (const QString& word : words_) {
        const QString why = unavailable_.value(word);
        const QString shown = word == QLatin1String("auto") ? tr("recipe's choice") : word;
        QAction* action = menu.addAction(why.isEmpty() ? shown : tr("%1 (not now)").arg(shown),
                                         [this, word] { take(word); });
        action->setEnabled(why.isEmpty());
        action->setToolTip(why);
        if (word == value ||
            (word == QLatin1String("auto") && choice_->property("recipe").toBool())) {
            now = action;
        }
    }
    // Open on the value it has: Return at once changes nothing.
    if (now) {
        menu.setActiveAction(now);
    }
    menu.exec(choice_->mapToGlobal(QPoint(0, choice_->height())), now);
}

void ValueField::setUnavailable(const QString& word, const QString& why) {
    unavailable_[word] = why;
}

void ValueField::setRecipeValue(const QString& text) {
    recipe_ = text;
    refresh();
}

void ValueField::refresh() {
    KeyValue value;
    try {
        value = key_.get(document_.project());
    } catch (const std::out_of_range&) {
        return; // a bit that is gone; the page is about to be rebuilt
    }
    const bool left = std::holds_alternative<std::monostate>(value);
    QString text = left ? (recipe_.isEmpty() ? tr("recipe") : recipe_)
                        : QString::fromStdString(showValue(key_, value, document_.unit()));
    setToolTip(tr("%1%2%3").arg(
        QString::fromStdString(key_.meaning),
        rangeOf(key_, document_.unit()).isEmpty()
            ? QString()
            : QStringLiteral(", ") + rangeOf(key_, document_.unit()),
        key_.mayBeAuto ? (left ? tr("\nFrom the recipe; type a value to set it by hand.")
                               : tr("\nSet by hand; empty it to return to the recipe."))
                       : QString()));
    mark("recipe", key_.mayBeAuto && left);
    if (line_) {
        if (line_->hasFocus() && line_->isModified()) {
            return; // being typed in: what has been worked out meanwhile waits
        }
        const bool selected = line_->hasSelectedText();
        shown_ = text;
        line_->setText(text);
        line_->setCursorPosition(0);
        if (line_->hasFocus() && selected) {
            line_->selectAll();
        }
        mark("wrong", false);
    } else {
        shown_ = text;
        fitWord();
    }
}

/// A word longer than its field keeps its beginning; all of it stands in the tooltip.
void ValueField::fitWord() {
    constexpr int padding = 16; // of the style's button, both sides
    const QString arrow = QStringLiteral(" \u25BE");
    const QFontMetrics metrics(choice_->font());
    const int room = choice_->width() - padding - metrics.horizontalAdvance(arrow);
    const QString fits = metrics.elidedText(shown_, Qt::ElideRight, room);
    choice_->setText(fits + arrow);
    choice_->setAccessibleDescription(shown_);
    choice_->setToolTip(fits == shown_ ? QString() : shown_ + QStringLiteral("\n") + toolTip());
}

void ValueField::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    if (choice_) {
        fitWord();
    }
}

/// Sets a property the style sheet looks at; styling anew is slow, so only when it changes.
void ValueField::mark(const char* property, bool on) {
    QWidget* const w = editor();
    if (w->property(property).toBool() != on) {
        w->setProperty(property, on);
        w->style()->polish(w);
    }
}

void ValueField::take(const QString& text) {
    if (line_) {
        line_->setModified(false);
    }
    // What is shown is rounded; taking it back unread would change the number a little.
    if (line_ && text == shown_) {
        refresh();
        Q_EMIT accepted();
        return;
    }
    try {
        QString typed = text.trimmed();
        if (typed == tr("recipe") && key_.mayBeAuto) {
            typed.clear();
        }
        document_.set(path_, typed);
        refresh();
        Q_EMIT accepted();
    } catch (const Error& e) {
        if (line_) {
            line_->setModified(true);
            mark("wrong", true);
        }
        Q_EMIT refused(QString::fromUtf8(e.what()));
    }
}

bool ValueField::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() == QEvent::FocusIn) {
        Q_EMIT entered(path_);
        if (line_ && !shown_.isEmpty() && !shown_.contains(anyDigit)) {
            // A word is replaced by what is typed, however the field was entered.
            QTimer::singleShot(0, line_, &QLineEdit::selectAll);
        }
    }
    if (line_ && watched == line_) {
        const auto* key =
            event->type() == QEvent::ShortcutOverride ? static_cast<QKeyEvent*>(event) : nullptr;
        if (key && !line_->isModified() &&
            (key->matches(QKeySequence::Undo) || key->matches(QKeySequence::Redo))) {
            event->ignore(); // what was entered is the document's to take back
            return true;
        }
        if (event->type() == QEvent::FocusOut && line_->isModified()) {
            take(line_->text());
        } else if (event->type() == QEvent::KeyPress &&
                   static_cast<QKeyEvent*>(event)->key() == Qt::Key_Escape) {
            line_->setModified(false);
            refresh();
            Q_EMIT accepted();
            return true;
        }
    }
    return QWidget::eventFilter(watched, event);
}

} // namespace wren::app
