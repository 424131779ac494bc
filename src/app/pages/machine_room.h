#pragma once

#include "frame/sheet.h"
#include "pages/room_card.h"
#include "state/runner.h"

#include <QElapsedTimer>
#include <QProcess>
#include <QWidget>

#include <set>

class QLabel;
class QLineEdit;
class QPushButton;

namespace wren::app {

/// For standing at the machine: one large card for the step in hand, few and large things, one key
/// each. Return does the step; Space holds and resumes, Escape stops.
class MachineRoom : public QWidget {
    Q_OBJECT
public:
    MachineRoom(Sheet& sheet, std::filesystem::path book, QWidget* parent = nullptr);
    ~MachineRoom() override;

    void setAddress(const QString& address);
    /// Which program comes next, from 1; 0 when all are done.
    void setNext(int order, const std::vector<bool>& done);
    /// The book as it was read: what is ticked, what its like took, what is not in hand.
    void setBook(const BookReadingPtr& book);
    /// While the book is being read, which program comes next is not known: none is sent.
    void setBookRead(bool read);
    /// All of the program in hand at once: home, zero, probe, run.
    void send(RunHow how = RunHow::cut);
    void startSimulated(double speed);
    bool running() const { return runner_.running(); }
    bool busy() const { return runner_.busy(); }
    bool settled() const { return !planning_; }
    const std::vector<RoomStep>& steps() const;
    std::size_t stepInHand() const { return at_; }
    void doStep(); ///< what the card says
    void stepBack();
    void stop() { runner_.stop(); }
    /// A pocket's walls once more, so much further out, after the real part has been tried in it.
    void runFit(const QString& pocket, double by);

Q_SIGNALS:
    void runEnded();
    void measureWanted(PartId part); ///< what it came out as
    void refused(QString sentence);
    void told(QString sentence);
    void trialWanted(); ///< the part in hand, out of another sheet

protected:
    void paintEvent(QPaintEvent*) override;
    void showEvent(QShowEvent*) override;
    bool event(QEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

private:
    using Kind = RoomStep::Kind;

    void makeDeeds();
    void wire();
    void stepsAnew();
    void planAnew();
    void showRunning();
    void minutesFrom(const SendProgress& progress);
    void refresh();
    int inHand() const; ///< the program that runs or comes next, from 1
    std::optional<PartId> partInHand() const;
    std::optional<Finding> openStop() const; ///< of that part, which a reason could lift
    QString whyNot() const;                  ///< why nothing can be sent; empty when it can
    void tick(bool on);
    void setTicks(const std::string& project, const std::set<std::string>& ticks);
    void takeAdvice();
    void measure(); ///< the part of the step in hand
    void ticksAreOf(const std::string& project);
    std::optional<Kind> missingBefore(const RoomStep& step) const;
    void backTo(Kind kind);
    void forgetPlace();
    void next();
    void actStep(const RoomStep& step);
    void probeStep(const RoomStep& step);
    void runProgram(int order, RunHow how, bool readied, int fromLine = 0);
    void takeUpAgain(bool exactly = false); ///< at the line itself, not the safe place before
    void askFit();
    void jogBy(Vec3 way);
    bool jogKey(int key);
    void takePlace(int key); ///< where the spindle stands: the crossing, or a fixture's zero hole
    void turn(int feed, int spindle);
    QRectF cardArea() const;
    QRectF machineArea() const;
    QRectF comingArea() const;

    Sheet& sheet_;
    std::filesystem::path book_;
    Runner runner_;
    QProcess simulated_;
    QLineEdit* address_;
    QLineEdit* who_;
    QLineEdit* reason_;
    QPushButton* do_;
    QPushButton* send_;
    QPushButton* air_;
    QPushButton* trace_;
    QPushButton* hold_;
    QPushButton* stop_;
    QPushButton* resume_;
    QPushButton* fit_;
    QPushButton* trial_;
    QPushButton* measure_;
    QPushButton* simulate_;
    QLabel* why_;
    RoomPlanPtr plan_; ///< null while it is being worked out
    bool planning_ = false;
    BedPicture bed_;
    std::size_t at_ = 0;
    BookReadingPtr reading_;
    std::string ticksOf_; ///< the project whose ticks these are
    std::set<std::string> ticks_, takenBack_;
    MachineNow now_;
    QElapsedTimer cutting_; ///< since the program's first line went off
    bool posted_ = false;   ///< it runs whole, as it was posted
    int next_ = 1;
    bool bookRead_ = false;
    std::vector<bool> done_;
    bool jogging_ = false;
    double jogStep_ = 1;
    /// Whether it was homed since it was last sure to know its place, and the way of lying it was
    /// zeroed for since; empty: none. Ticks outlive the day; what a machine knows of its place does
    /// not outlive its switch.
    bool homed_ = false;
    std::string zeroed_;
    bool readying_ = false; ///< the program under way was sent with all that goes before it
    std::optional<std::size_t> acting_; ///< the step that is done once the machine has done its deed
    bool stoppedByHand_ = false; ///< so that it still knows its place and its zero
    int stoppedAt_ = 0;      ///< line a program ended at when not well; 0: none did
    int stoppedProgram_ = 0; ///< and which
    bool shownResume_ = false; ///< what taking it up again does has been shown
    /// Machine Z of the bed, once probed since homing; the runner's thread writes it.
    std::shared_ptr<std::optional<double>> bedZ_ = std::make_shared<std::optional<double>>();
};

} // namespace wren::app
