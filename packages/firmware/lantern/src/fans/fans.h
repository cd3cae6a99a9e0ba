/* fans.h: part fan, hot-end fan, board fan and lamp: what is switched or dimmed for its own sake. */
#pragma once
#include "option_fans.h"
#include "pins_fans.h"
#include "proto/commands.h"
#define HAS_LAMP (LAMP_ON && PIN_LAMP >= 0)
#define HAS_FANS (FAN_PART || PIN_HOTEND_FAN >= 0 || PIN_BOARD_FAN >= 0 || HAS_LAMP)
#if HAS_FANS
void fans_start(void);
void fans_tick(void);
void fans_stop(void);
int fans_lines(void);
void fans_tell(int line);
extern const struct command FAN_COMMANDS[];
/* What the part fan was told last, 0 to 1. */
float fan_part(void);
void fan_part_put(float share);
#else
static inline float fan_part(void) { return 0; }
static inline void fan_part_put(float share) { (void)share; }
#endif
