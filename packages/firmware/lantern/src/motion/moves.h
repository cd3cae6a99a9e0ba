/* moves.h: the commands that move, and what the state report tells of places and switches. */
#pragma once
#include "proto/commands.h"
/* How the next lines are meant. */
struct modes {
    float feed_mm_s;
    bool relative, filament_relative;
};
struct modes moves_modes(void);
void moves_take_modes(const struct modes *modes);
void moves_stop(void);
void moves_changed(int setting_place, float before);
int moves_lines(void);
void moves_tell(int line);
extern const struct command MOVE_COMMANDS[];
