#include "frame/folder_dialog.h"

#include <QDir>

namespace wren::app {
namespace {

class FolderDialog : public QFileDialog {
public:
    FolderDialog(QWidget* parent, const QString& title) : QFileDialog(parent, title) {
        setObjectName(QStringLiteral("folder"));
        setOption(QFileDialog::DontUseNativeDialog); // that one knows no new names
        setOption(QFileDialog::ShowDirsOnly);
        setFileMode(QFileDialog::Directory);
        setLabelText(QFileDialog::Accept, tr("Take this folder"));
    }

protected:
    void accept() override {
        for (const QString& chosen : selectedFiles()) {
            QDir().mkpath(chosen); // what cannot be made the dialog refuses itself
        }
        QFileDialog::accept();
    }
};

} // namespace

QString askFolder(QWidget* parent, const QString& title) {
    FolderDialog dialog(parent, title);
    return dialog.exec() == QDialog::Accepted ? dialog.selectedFiles().value(0) : QString();
}

} // namespace wren::app
