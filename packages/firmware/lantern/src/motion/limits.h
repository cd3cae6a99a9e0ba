/* limits.h: where the nozzle may go. */
#pragma once
#include "motion/motion.h"
#include "option_travel.h"
#include "proto/commands.h"
#define UNHOMED_REACH_MM 10.0f
/* Low (0) or high (1) end of an axis' travel. */
float limit_end(int axis, int high);
/* Whether a place lies in the travel of an axis, to a thousandth of a millimetre. */
bool limit_holds(int axis, float mm);
/* Z may go a little below its travel: for feeling the plate. */
void limits_lift(bool on);
#if LIMITS_LIFT
extern const struct command LIMIT_COMMANDS[];
#endif
/* NULL when the move is allowed, else why not. An axis that was never homed may only be nudged. */
const char *limits_refuse(const struct place *from, const struct place *to);
