#pragma once

#include "job/keys.h"
#include "state/document.h"

#include <QMap>
#include <QWidget>

class QLineEdit;
class QPushButton;

namespace wren::app {

/// One key of the document as a field: typed when it is a number or a name, chosen from a list when
/// it is a word. Enter or leaving the field takes the value; what does not serve stays in the
/// field, is marked, and is explained in one sentence.
class ValueField : public QWidget {
    Q_OBJECT
public:
    /// `autoText` is shown, as a derived number, where the key is left to the recipe.
    ValueField(Document& document, QString path, QWidget* parent = nullptr);

    void refresh();
    void setRecipeValue(const QString& text);
    /// Words to choose from instead of typing; the first stands for "auto" when the key may be.
    void setWords(const QStringList& words);
    /// A word that cannot be had now, and why; an empty reason offers it again.
    void setUnavailable(const QString& word, const QString& why);
    QString path() const { return path_; }
    QWidget* editor() const;

Q_SIGNALS:
    void refused(QString sentence);
    void accepted();
    void entered(QString path); ///< it got the focus

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

private:
    void take(const QString& text);
    void chooseWord();
    void fitWord();
    void mark(const char* property, bool on);

    Document& document_;
    QString path_;
    Key key_;
    QLineEdit* line_ = nullptr;
    QPushButton* choice_ = nullptr;
    QStringList words_;
    QMap<QString, QString> unavailable_; ///< word to reason
    QString recipe_;
    QString shown_; ///< as refresh() last put it
};

} // namespace wren::app
