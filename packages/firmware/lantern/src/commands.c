#include "commands.h"
#include "print.h"
#include "serial.h"
#include "stop.h"

static const struct command *const TABLES[] = {MOTION_COMMANDS, HEAT_COMMANDS, SETTING_COMMANDS, REPORT_COMMANDS};
static bool (*unfinished)(void);

enum outcome fail(const char *why)
{
    print("error: ");
    print(why);
    print_end();
    return FAILED;
}

static void finish(void)
{
    unfinished = NULL;
    print("done");
    print_end();
    serial_done();
}

static bool alike(const char *a, const char *b)
{
    while (*a && *a == *b) a++, b++;
    return *a == *b;
}

static bool asked(const struct command *c, const struct words *words)
{
    if (c->verb) return alike(c->verb, words->verb);
    return words->letter && c->letter == words->letter && c->number == words->number;
}

static enum outcome run(const char *line)
{
    struct words words;
    if (words_empty(line)) return DONE;
    if (!words_read(line, &words)) { print("error: cannot read \""); print(line); print("\", nothing done"); print_end(); return FAILED; }
    for (unsigned t = 0; t < sizeof TABLES / sizeof *TABLES; t++)
        for (const struct command *c = TABLES[t]; c->run; c++) {
            if (!asked(c, &words)) continue;
            if (stopped() && !c->while_stopped) return fail("asleep since the stop; send wake, then home");
            return c->run(&words);
        }
    print("error: this image does not know \"");
    print(line);
    print("\", nothing done");
    print_end();
    return FAILED;
}

/* Who waits for a long command hears once a second how things stand. */
enum { MEANWHILE_TICKS = 1000 };
static uint16_t quiet_ticks;

void going_on(bool (*finished)(void))
{
    unfinished = finished;
    quiet_ticks = 0;
}

static void meanwhile(void)
{
    if (++quiet_ticks < MEANWHILE_TICKS) return;
    quiet_ticks = 0;
    state_report("meanwhile ", true);
}

void commands_tick(void)
{
    if (unfinished) {
        /* A stop while a command goes on has already dropped its line. */
        if (stopped()) { unfinished = NULL; return; }
        if (!unfinished()) { meanwhile(); return; }
        if (stopped()) { unfinished = NULL; return; }
        finish();
        return;
    }
    const char *line = serial_line();
    if (!line) return;
    switch (run(line)) {
    case DONE: finish(); break;
    case FAILED: serial_done(); break;
    case GOING_ON: break;
    }
}
