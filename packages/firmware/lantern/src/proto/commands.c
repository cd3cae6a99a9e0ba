/* commands.c: from a waiting line to the command that is meant, and to its end. */
#include "proto/commands.h"
#include "core/feature.h"
#include "core/stop.h"
#include "motion/motion.h"
#include "proto/print.h"
#include "proto/serial.h"
#include "proto/setting_commands.h"
#include "proto/state.h"

/* Who waits for a long command hears once a second how things stand. */
enum { MEANWHILE_TICKS = 1000 };
static bool (*unfinished)(void);
static bool tells;
static uint16_t quiet_ticks;
static int meanwhile_line = -1;
static uint32_t next_number = 1;

/* A command that waits until nothing moves: one of a feature's, or a setting's. */
static const struct command *held;
static const struct setting_line *held_setting;
static struct words held_words;

enum outcome fail(const char *why)
{
    print("error: ");
    print(why);
    print_end();
    return FAILED;
}

/* Why a line is refused, and which. */
static enum outcome refuse(const char *why, const char *line)
{
    print("error: ");
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
    tells = false;
    quiet_ticks = 0;
    return GOING_ON;
}

enum outcome telling(bool (*finished)(void))
{
    unfinished = finished;
    tells = true;
    return GOING_ON;
}

bool commands_busy(void) { return (unfinished && !tells) || held || held_setting; }

void commands_forget(void)
{
    unfinished = NULL;
    held = NULL;
    held_setting = NULL;
    meanwhile_line = -1;
}

static void finish(void)
{
    commands_forget();
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
        if (among(c->takes, letter)) return "a number is missing";
        return among(c->flags, letter) ? "a letter must stand alone" : "a word does not belong there";
    }
    return NULL;
}

static const struct command *wanted(const struct words *words)
{
    for (int i = 0; i < FEATURE_COUNT; i++)
        for (const struct command *c = FEATURES[i].commands; c && c->run; c++)
            if (words_ask(words, c->verb, c->letter, c->number)) return c;
    return NULL;
}

/* M110 N5: the next line is number 6. It is the one command whose own number is not checked. */
enum { RENUMBER = 110 };
static bool renumbers(const struct words *words) { return words_ask(words, NULL, 'M', RENUMBER); }

static enum outcome renumber(const struct words *words, const struct frame *frame)
{
    if (words->valued >> ('N' - 'A') & 1) next_number = (uint32_t)(word_millionths(words, 'N') / 1000000) + 1;
    else if (frame->numbered) next_number = frame->number + 1;
    else return fail("N, the number of the last line, is missing");
    return DONE;
}

static enum outcome resend(const char *why)
{
    print("error: ");
    print(why);
    print(", nothing done; send again from");
    print_name("line");
    print_int((int32_t)next_number);
    print_end();
    return FAILED;
}

static enum outcome run(char *line)
{
    struct words words;
    struct frame frame;
    if (!frame_read(line, &frame)) return refuse("line number or sum cannot be read", line);
    if (frame.summed && !frame.sum_holds) return resend("the sum does not hold");
    if (!*frame.inside && !frame.numbered) return DONE;
    const char *wrong = *frame.inside ? words_read(frame.inside, &words) : NULL;
    if (!wrong && *frame.inside && renumbers(&words)) return renumber(&words, &frame);
    if (frame.numbered && frame.number != next_number) return resend("a line is missing");
    if (frame.numbered) next_number++;
    if (!*frame.inside) return DONE;
    if (wrong) return refuse(wrong, frame.inside);

    const struct command *c = wanted(&words);
    const struct setting_line *set = c ? NULL : setting_line_for(&words);
    if (!c && !set) return refuse("this image does not know it", frame.inside);
    if (stopped() && !(c && c->while_stopped)) return fail("asleep since the stop; send wake, then home");
    wrong = c ? unfit(c, &words) : NULL;
    if (wrong) return refuse(wrong, frame.inside);
    if ((set || c->still) && motion_busy()) {
        held = c;
        held_setting = set;
        held_words = words;
        quiet_ticks = 0;
        return GOING_ON;
    }
    return set ? setting_change(set, &words) : c->run(&words);
}

static void conclude(enum outcome outcome)
{
    if (outcome == DONE) finish();
    if (outcome == FAILED) serial_done();
}

static void begin_held(void)
{
    const struct command *c = held;
    const struct setting_line *set = held_setting;
    held = NULL;
    held_setting = NULL;
    conclude(set ? setting_change(set, &held_words) : c->run(&held_words));
}

/* One line each time there is room, until all are told. */
static void meanwhile(void)
{
    if (meanwhile_line < 0 && ++quiet_ticks >= MEANWHILE_TICKS) { quiet_ticks = 0; meanwhile_line = 0; }
    if (meanwhile_line < 0 || !print_room()) return;
    meanwhile_line = state_line(meanwhile_line, "meanwhile ") ? meanwhile_line + 1 : -1;
}

void commands_tick(void)
{
    if (held || held_setting) {
        if (motion_busy()) meanwhile();
        else if (print_room()) begin_held();
        return;
    }
    if (unfinished) {
        if (tells && !print_room()) return;
        if (!unfinished()) { if (!tells) meanwhile(); return; }
        /* What it did may have stopped everything; its line is dropped then. */
        if (!stopped() || tells) finish();
        return;
    }
    char *line = serial_line();
    if (line && print_room()) conclude(run(line));
}
