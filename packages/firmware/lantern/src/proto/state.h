/* state.h: how things stand, line by line. */
#pragma once
#include "proto/commands.h"
/* Prints one line begun by `lead`: what it does, then what every feature tells. False when there is none left. */
bool state_line(int line, const char *lead);
/* What it does now, in one word. */
const char *state_doing(void);
extern const struct command STATE_COMMANDS[];
