/* card_print.c: one line after another, as moves make room. A line of the host's goes first. */
#include "job/card_print.h"
#include "core/number.h"
#include "core/stop.h"
#include "job/job.h"
#include "job/resume.h"
#include "motion/motion.h"
#include "panel/beeper.h"
#include "proto/print.h"
#include "proto/serial.h"

#if CARD_PRINT
enum { MOST_LISTED = 64, OVER_HZ = 880, OVER_MS = 600 };
static struct fat_file file;
static bool printing, ending;
/* What is in the slot may be another card. */
static bool lost;
static char line[LINE_LENGTH];
static uint8_t length;
static bool whole_line;
static uint32_t line_at, next_at;

const struct fat_file *card_printing(uint32_t *at)
{
    *at = whole_line ? line_at : next_at;
    return printing ? &file : NULL;
}

void card_print_from(const struct fat_file *what, uint32_t at)
{
    file = *what;
    fat_open(&file, at);
    next_at = at;
    length = 0;
    whole_line = ending = lost = false;
    printing = true;
}

/* Looks at the card that is in now; pauses while it is not the one. */
static bool found_again(void)
{
    const char *why = !fat_mount() ? MSG_CARD_UNREADABLE : !fat_holds(&file) ? MSG_OTHER_CARD : NULL;
    if (why) { job_pause(why); return false; }
    fat_open(&file, next_at);
    lost = false;
    return true;
}

static void tell_end(const char *how)
{
    print("card");
    print_name("state");
    print(how);
    print_name("file");
    print(file.name);
    print_end();
}

/* A line of the file without its comment; true when it is whole. One that is too long is left out to its end. */
static bool read_line(void)
{
    bool comment = false;
    for (;;) {
        int byte = fat_next();
        if (byte == FAT_UNREADABLE) { job_pause(MSG_CARD_UNREADABLE); lost = true; length = 0; return false; }
        if (byte == FAT_END) ending = true;
        if (byte == FAT_END || byte == '\n' || byte == '\r') break;
        if (byte == ';') comment = true;
        if (comment) continue;
        if (length == LINE_LENGTH - 1) { job_pause(MSG_LINE_LONG); comment = true; length = 0; continue; }
        line[length++] = (char)byte;
    }
    line[length] = 0;
    line_at = next_at;
    next_at = fat_at();
    bool any = length > 0;
    length = 0;
    return any;
}

void card_print_tick(void)
{
    if (!printing || stopped()) return;
    /* A pause is long enough to change the card. */
    if (job_paused()) { lost = true; return; }
    if (lost && !found_again()) return;
    if (!whole_line && !ending) whole_line = read_line();
    if (whole_line && !commands_take(line)) return;
    whole_line = false;
    if (!ending || commands_busy() || motion_busy() || !print_room()) return;
    printing = false;
    tell_end("over");
    beep(OVER_HZ, OVER_MS);
#if RESUME_ON
    resume_forget();
#endif
}

void card_print_stop(void) { printing = false; }

int card_print_lines(void) { return 1; }

void card_print_tell(int which)
{
    (void)which;
    print("card");
    print_name("state");
    print(printing ? "printing" : hw_card_there() ? "in" : "none");
    if (printing) {
        print_name("file");
        print(file.name);
        print_name("at");
        print_int((int32_t)next_at);
        print_name("of");
        print_int((int32_t)file.bytes);
    }
    print_end();
}

static int listed;

static bool list_on(void)
{
    struct fat_file found;
    if (listed == MOST_LISTED || !fat_file(listed, &found)) return true;
    print("file");
    print_name("n");
    print_int(++listed);
    print_name("name");
    print(found.name);
    print_name("bytes");
    print_int((int32_t)found.bytes);
    print_end();
    return false;
}

static enum outcome list(const struct words *w)
{
    (void)w;
    if (printing) return fail(MSG_PRINTING);
    if (!fat_mount()) return fail(MSG_NO_CARD);
    listed = 0;
    return telling(list_on);
}

static enum outcome start(const struct words *w)
{
    struct fat_file found;
    if (printing) return fail(MSG_PRINTING);
    if (!fat_mount()) return fail(MSG_NO_CARD);
    int n = nearest(word(w, 'N', 0));
    if (n < 1 || !fat_file(n - 1, &found)) return fail(MSG_NO_FILE);
    card_print_from(&found, 0);
    return DONE;
}

static enum outcome end(const struct words *w)
{
    (void)w;
    if (!printing) return fail(MSG_NOT_PRINTING);
    printing = false;
    tell_end("ended");
    commands_forget_print();
    job_end();
    return DONE;
}

const struct command CARD_COMMANDS[] = {
    VERB("card list", 0, NULL, list),
    VERB("card print", AT_REST, "N", start),
    VERB("card stop", ASLEEP_TOO | AT_ONCE, NULL, end),
#if RESUME_ON
    VERB("card resume", AT_REST, NULL, resume_begin),
#endif
    NO_COMMAND,
};
#endif
