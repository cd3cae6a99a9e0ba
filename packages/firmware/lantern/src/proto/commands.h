/* commands.h: what Lantern can be asked. See README.md for every command and its reply. */
#pragma once
#include "messages.h"
#include "proto/words.h"

/* What a command came to: done; or it goes on and `commands_tick` asks again; or an error was printed. */
enum outcome { DONE, GOING_ON, FAILED };

/* When a command may begin. Several together. */
enum when {
    AT_REST = 1,     /* not before nothing moves any more */
    ASLEEP_TOO = 2,  /* after a stop as well */
    IN_PRINT = 4,    /* waits while a print is paused: it belongs to the print */
    AT_ONCE = 8,     /* as soon as its line is there, ahead of lines that wait; it is over at once */
    BY_HAND = 16,    /* while a print from the card is paused, too; not while it goes on */
};
struct command {
    /* A worded command has its verb, letter 0 and number 0. */
    const char *verb;
    char letter;
    uint16_t number;
    uint8_t when;
    /* Letters that stand with a number, and letters that stand alone. Any other is refused. */
    const char *takes, *flags;
    enum outcome (*run)(const struct words *words);
};
/* Rows of a table of commands; the last is NO_COMMAND. */
#define CODE(letter, number, when, takes, flags, run) {NULL, letter, number, when, takes, flags, run}
#define VERB(verb, when, takes, run) {verb, 0, 0, when, takes, NULL, run}
#define NO_COMMAND {NULL, 0, 0, 0, NULL, NULL, NULL}

/* Begins a refusal. Only what answers a line of the host's begins with `error:`; else it says whose line was refused. */
void print_error(void);
enum outcome fail(const char *why);
/* Of what is printed, outside of a command. */
void print_refused(const char *why);
/* FAILED with why it was refused, or DONE where it was not. */
enum outcome done_unless(const char *refused);
/* Asked every millisecond while a command goes on. */
enum outcome going_on(bool (*finished)(void));
/* As above, for one that prints a line each time it is asked: asked only when there is room, and nobody is told in the
 * meantime how things stand. */
enum outcome telling(bool (*finished)(void));
/* The command that goes on has failed: ends it with why. */
bool failed(const char *why);
/* Drops the command that goes on. */
void commands_forget(void);
/* Drops the line of a print that waits until it may begin. */
void commands_forget_print(void);
/* A command goes on. */
bool commands_busy(void);
void commands_tick(void);
/* Runs a whole line ahead of those that wait, if it asks for a command that may; says whether it did. */
bool commands_at_once(char *line);
/* Runs a line that comes from elsewhere than the host, when nothing else goes on. False: not yet. */
bool commands_take(char *line);
/* Lines from the machine's own panel: they wait for what is under way and are not answered. At most four wait. */
void commands_from_panel(const char *lines);
