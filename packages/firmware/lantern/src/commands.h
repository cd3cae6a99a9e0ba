/* commands.h: what Lantern can be asked. See README.md for every command and its reply. */
#pragma once
#include "words.h"

/* What a command came to: done; or it goes on and `commands_tick` asks again; or an error was printed. */
enum outcome { DONE, GOING_ON, FAILED };
struct command {
    /* A worded command has its verb, letter 0 and number 0. */
    const char *verb;
    char letter;
    uint16_t number;
    bool while_stopped;
    enum outcome (*run)(const struct words *words);
};
extern const struct command MOTION_COMMANDS[], HEAT_COMMANDS[], SETTING_COMMANDS[], REPORT_COMMANDS[];
enum outcome fail(const char *why);
/* Asked every millisecond while a command goes on. */
void going_on(bool (*finished)(void));
/* `state`, at, switch and heat lines; `lead` begins each. */
void state_report(const char *lead, bool going_on);
void commands_tick(void);
