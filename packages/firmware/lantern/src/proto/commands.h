/* commands.h: what Lantern can be asked. See README.md for every command and its reply. */
#pragma once
#include "proto/words.h"

/* What a command came to: done; or it goes on and `commands_tick` asks again; or an error was printed. */
enum outcome { DONE, GOING_ON, FAILED };
struct command {
    /* A worded command has its verb, letter 0 and number 0. */
    const char *verb;
    char letter;
    uint16_t number;
    bool while_stopped;
    /* It begins when nothing moves any more. */
    bool still;
    /* Letters that stand with a number, and letters that stand alone. Any other is refused. */
    const char *takes, *flags;
    enum outcome (*run)(const struct words *words);
};
/* The last row of a table of commands. */
#define NO_COMMAND {NULL, 0, 0, false, false, NULL, NULL, NULL}

enum outcome fail(const char *why);
/* Asked every millisecond while a command goes on. */
enum outcome going_on(bool (*finished)(void));
/* As above, for one that prints a line each time it is asked: asked only when there is room, and nobody is told in the
 * meantime how things stand. */
enum outcome telling(bool (*finished)(void));
/* Drops the command that goes on. */
void commands_forget(void);
/* A command goes on. */
bool commands_busy(void);
void commands_tick(void);
