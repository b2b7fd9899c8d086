#pragma once
#include <QPlainTextEdit>

namespace kollema::desktop {

/// A text of several lines that is typed, as ValueEdit for one: taken when one leaves it or it is asked for,
/// taken back by Esc, and never reset while it is typed into.
class LinesEdit : public QPlainTextEdit {
    Q_OBJECT
public:
    explicit LinesEdit(QWidget* parent = nullptr);
    void show_value(const QString& text); ///< what holds now
    void commit();

signals:
    void committed();

protected:
    void focusOutEvent(QFocusEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;

private:
    void put(const QString& text);
    QString shown_;
};

}
