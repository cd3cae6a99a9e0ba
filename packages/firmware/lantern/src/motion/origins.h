/* origins.h: work offsets. G54 to G59 choose one of six zero points; the places told stay those of the machine. */
#pragma once
#include "motion/axes.h"
#include "option_motion.h"
#include "proto/commands.h"
#if OFFSETS_ON
enum { ORIGINS = 6 };
/* All of them, and which is chosen. */
struct origins {
    float mm[ORIGINS][HOMED_AXES];
    uint8_t chosen;
};
struct origins origins_now(void);
void origins_put(const struct origins *all);
/* mm of the chosen origin on an axis. */
float origin_of(int axis);
extern const struct command ORIGIN_COMMANDS[];
#else
static inline float origin_of(int axis) { (void)axis; return 0; }
#endif
