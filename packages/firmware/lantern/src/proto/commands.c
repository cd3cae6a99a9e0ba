/* commands.c: from a waiting line to the command that is meant, and to its end. */
#include "proto/commands.h"
#include "core/feature.h"
#include "core/stop.h"
#include "messages.h"
#include "motion/motion.h"
#include "option_display.h"
#include "job/job.h"
#include "proto/print.h"
#include "proto/serial.h"
#include "proto/setting_commands.h"
#include "proto/state.h"

/* A line comes from the host, from what is printed, or from the machine's own panel. Only the host is answered. */
enum lane { HOST, PRINT, PANEL };

/* Who waits for a long command hears once a second how things stand. */
enum { MEANWHILE_TICKS = 1000, PANEL_LENGTH = 20 };
static bool (*unfinished)(void);
static enum lane unfinished_of;
/* A report that is being told; it may come between. */
static bool (*telling_on)(void);
static uint16_t quiet_ticks;
static int meanwhile_line = -1;
static uint32_t next_number = 1;
static enum lane lane;
static bool ended_badly;

/* A command that waits until it may begin: one of a feature's, or a setting's. */
static const struct command *held;
static const struct setting_line *held_setting;
static struct words held_words;
static enum lane held_of;

void print_error(void)
{
    static const char *const WORD[] = {"error: ", "refused print: ", "refused panel: "};
    print(WORD[lane]);
}

enum outcome fail(const char *why)
{
    print_error();
    print(why);
    print_end();
    return FAILED;
}

void print_refused(const char *why)
{
    lane = PRINT;
    fail(why);
}

enum outcome done_unless(const char *refused) { return refused ? fail(refused) : DONE; }

/* Why a line is refused, and which. */
static enum outcome refuse(const char *why, const char *line)
{
    print_error();
    print(why);
    print(", nothing done: \"");
    print(line);
    print("\"");
    print_end();
    return FAILED;
}

enum outcome going_on(bool (*finished)(void))
{
    unfinished = finished;
    unfinished_of = lane;
    ended_badly = false;
    quiet_ticks = 0;
    return GOING_ON;
}

enum outcome telling(bool (*finished)(void))
{
    telling_on = finished;
    return GOING_ON;
}

bool failed(const char *why)
{
    fail(why);
    ended_badly = true;
    return true;
}

bool commands_busy(void) { return unfinished || held || held_setting; }

void commands_forget(void)
{
    unfinished = NULL;
    telling_on = NULL;
    held = NULL;
    held_setting = NULL;
    meanwhile_line = -1;
}

void commands_forget_print(void)
{
    if (held_of != PRINT) return;
    held = NULL;
    held_setting = NULL;
}

static void finish(enum lane of)
{
    if (of != HOST) return;
    print("done");
    print_end();
    serial_done();
}

static bool among(const char *letters, char letter)
{
    for (; letters && *letters; letters++)
        if (*letters == letter) return true;
    return false;
}

/* Every word must be one that the command takes, with a number or without. */
static const char *unfit(const struct command *c, const struct words *words)
{
    for (int i = 0; i < LETTERS; i++) {
        if (!(words->given >> i & 1)) continue;
        char letter = (char)('A' + i);
        bool valued = words->valued >> i & 1;
        if (among(valued ? c->takes : c->flags, letter)) continue;
        if (among(c->takes, letter)) return MSG_NUMBER_MISSING;
        return among(c->flags, letter) ? MSG_LETTER_ALONE : MSG_WORD_STRAY;
    }
    return NULL;
}

static bool asked(const struct words *words, const struct command *c) { return words_ask(words, c->verb, c->letter, c->number); }

/* A print asks for one command again and again. */
static const struct command *wanted(const struct words *words)
{
    static const struct command *last;
    if (last && asked(words, last)) return last;
    for (int i = 0; i < FEATURE_COUNT; i++)
        for (const struct command *c = FEATURES[i].commands; c && c->run; c++)
            if (asked(words, c)) return last = c;
    return NULL;
}

/* M110 N5: the next line is number 6. It is the one command whose own number is not checked. */
enum { RENUMBER = 110 };
static bool renumbers(const struct words *words) { return words_ask(words, NULL, 'M', RENUMBER); }

static enum outcome renumber(const struct words *words, const struct frame *frame)
{
    if (words->valued >> ('N' - 'A') & 1) {
        int64_t last = word_millionths(words, 'N');
        if (last < 0) return fail(MSG_FRAME_UNREADABLE);
        next_number = (uint32_t)(last / 1000000) + 1;
    } else if (frame->numbered) next_number = frame->number + 1;
    else return fail(MSG_LAST_LINE_MISSING);
    return DONE;
}

static enum outcome resend(const char *why)
{
    print_error();
    print(why);
    print(", nothing done; send again from");
    print_name("line");
    print_int((int32_t)next_number);
    print_end();
    return FAILED;
}

/* Takes the frame off and reads the words. NULL: go on with `words`; else what it came to already. Only the host's lines
 * are counted: numbers of a file's lines say nothing here. */
static const enum outcome *read_line(char *line, struct words *words, const char **inside)
{
    static const enum outcome OVER = DONE, BAD = FAILED;
    struct frame frame;
    if (!frame_read(line, &frame)) { refuse(MSG_FRAME_UNREADABLE, line); return &BAD; }
    if (frame.summed && !frame.sum_holds) { resend(MSG_SUM_WRONG); return &BAD; }
    if (!*frame.inside && !frame.numbered) return &OVER;
    const char *wrong = *frame.inside ? words_read(frame.inside, words) : NULL;
    bool renumbered = !wrong && *frame.inside && renumbers(words);
    if (lane == HOST) {
        if (renumbered) return renumber(words, &frame) == DONE ? &OVER : &BAD;
        if (frame.numbered && frame.number != next_number) { resend(MSG_LINE_MISSING); return &BAD; }
        if (frame.numbered) next_number++;
    } else if (renumbered) return &OVER;
    if (!*frame.inside) return &OVER;
    *inside = frame.inside;
    if (!wrong) return NULL;
    refuse(wrong, frame.inside);
    return &BAD;
}

static enum outcome hold(const struct command *c, const struct setting_line *set, const struct words *words)
{
    held = c;
    held_setting = set;
    held_words = *words;
    held_of = lane;
    quiet_ticks = 0;
    return GOING_ON;
}

/* A command of the host's that belongs to a print waits while the print is paused. */
static bool waits(const struct command *c, const struct setting_line *set)
{
    if (motion_busy() && (set ? !set->live : (c->when & AT_REST) != 0)) return true;
    return c && c->when & IN_PRINT && lane != PRINT && job_paused();
}

/* A print is under way, and hands leave alone what would be in its way. */
static bool in_the_way(const struct command *c)
{
    if (lane == PRINT) return false;
    if (c->when & BY_HAND) return job_from_card() && !job_paused();
    if (job_from_card()) return (c->when & (IN_PRINT | AT_REST)) != 0;
    return lane == PANEL && job_paused() && c->when & IN_PRINT;
}

static enum outcome run(char *line)
{
    struct words words;
    const char *inside = line;
    const enum outcome *over = read_line(line, &words, &inside);
    if (over) return *over;
    const struct command *c = wanted(&words);
    const struct setting_line *set = c ? NULL : setting_line_for(&words);
    if (!c && !set) return refuse(MSG_UNKNOWN, inside);
    if (stopped() && !(c && c->when & ASLEEP_TOO)) return fail(MSG_ASLEEP);
    const char *wrong = c ? unfit(c, &words) : NULL;
    if (wrong) return refuse(wrong, inside);
    if (c && in_the_way(c)) return fail(MSG_PRINTING);
    if (waits(c, set)) return hold(c, set, &words);
    return set ? setting_change(set, &words) : c->run(&words);
}

static bool at_once(char *line, enum lane of)
{
    struct words words;
    if (*line < 'a' || *line > 'z' || words_read(line, &words)) return false;
    const struct command *c = wanted(&words);
    if (!c || !(c->when & AT_ONCE) || unfit(c, &words) || stopped()) return false;
    enum lane before = lane;
    lane = of;
    if (c->run(&words) == DONE && of == HOST) { print("done"); print_end(); }
    lane = before;
    return true;
}

bool commands_at_once(char *line) { return at_once(line, HOST); }

static void conclude(enum outcome outcome)
{
    if (outcome == DONE) finish(lane);
    if (outcome == FAILED && lane == HOST) serial_done();
    if (outcome == FAILED && lane == PRINT) job_refused();
}

static void begin_held(void)
{
    const struct command *c = held;
    const struct setting_line *set = held_setting;
    held = NULL;
    held_setting = NULL;
    lane = held_of;
    conclude(set ? setting_change(set, &held_words) : c->run(&held_words));
}

/* One line each time there is room, until all are told. */
static void meanwhile(void)
{
    if (meanwhile_line < 0 && ++quiet_ticks >= MEANWHILE_TICKS) { quiet_ticks = 0; meanwhile_line = 0; }
    if (meanwhile_line < 0 || !print_room()) return;
    meanwhile_line = state_line(meanwhile_line, "meanwhile ") ? meanwhile_line + 1 : -1;
}

static void go_on(void)
{
    lane = unfinished_of;
    bool (*asked)(void) = unfinished;
    if (!asked()) { if (lane == HOST) meanwhile(); return; }
    /* What it did may have stopped everything; its line is dropped then. */
    if (stopped()) { commands_forget(); return; }
    if (unfinished == asked) unfinished = NULL;
    meanwhile_line = -1;
    if (!unfinished) conclude(ended_badly ? FAILED : DONE);
}

static void tell_on(void)
{
    if (!print_room() || !telling_on()) return;
    telling_on = NULL;
    finish(lane);
}

/* While a line of the print goes on, the host may ask how things stand, and nothing else. */
static bool host_may(char *line)
{
    if (!unfinished && !held && !held_setting) return true;
    enum lane of = unfinished ? unfinished_of : held_of;
    if (of == HOST) return false;
    struct words words;
    if (words_read(line, &words)) return false;
    const struct command *c = wanted(&words);
    return c && c->when & ASLEEP_TOO && !(c->when & AT_REST);
}

static void take_panel(void);

void commands_tick(void)
{
    if (telling_on) { tell_on(); return; }
    take_panel();
    char *line = serial_line();
    bool may = line && host_may(line);
    if (may && print_room()) {
        lane = HOST;
        conclude(run(line));
        return;
    }
    /* Behind a line of the print or of the panel the host waits as well. */
    if (line && !may && (unfinished ? unfinished_of : held_of) != HOST) meanwhile();
    if (held || held_setting) {
        lane = held_of;
        if (waits(held, held_setting)) { if (held_of == HOST) meanwhile(); }
        else if (print_room()) begin_held();
        return;
    }
    if (unfinished) go_on();
}

bool commands_take(char *line)
{
    if (telling_on || commands_busy() || serial_line() || !print_room()) return false;
    lane = PRINT;
    conclude(run(line));
    return true;
}

#if DISPLAY_KIND != DISPLAY_KIND_NONE
enum { PANEL_LINES = 4 };
static char panel_lines[PANEL_LINES][PANEL_LENGTH];
static uint8_t panel_oldest, panel_waiting;

static const char *one_from_panel(const char *line)
{
    if (panel_waiting == PANEL_LINES) return line + 1;
    char *to = panel_lines[(panel_oldest + panel_waiting) % PANEL_LINES];
    int length = 0;
    for (; *line && *line != '\n' && length < PANEL_LENGTH - 1; line++) to[length++] = *line;
    to[length] = 0;
    /* What may come at any time does not wait behind a long command. */
    if (!at_once(to, PANEL)) panel_waiting++;
    return line;
}

void commands_from_panel(const char *lines)
{
    while (*lines) {
        lines = one_from_panel(lines);
        if (*lines == '\n') lines++;
    }
}

static void take_panel(void)
{
    if (!panel_waiting || commands_busy() || telling_on || !print_room()) return;
    lane = PANEL;
    enum outcome outcome = run(panel_lines[panel_oldest]);
    (void)outcome;
    panel_oldest = (uint8_t)((panel_oldest + 1) % PANEL_LINES);
    panel_waiting--;
}
#else
static void take_panel(void) {}
#endif
