/* setting_commands.h: the commands that set values, all made from the table of settings. */
#pragma once
#include "core/settings.h"
#include "proto/commands.h"
/* The line of the table that is meant, or NULL. */
const struct setting_line *setting_line_for(const struct words *words);
/* Takes over the values of the letters given; all are checked before any is changed. */
enum outcome setting_change(const struct setting_line *line, const struct words *words);
extern const struct command SETTING_COMMANDS[];
