/* limits.h: where the nozzle may go. */
#pragma once
#include "axes.h"
#include "hw.h"
enum { UNHOMED_REACH_MM = 10 };
/* Low (0) or high (1) end of an axis' travel. */
float limit_end(int axis, int high);
/* NULL when the move is allowed, else why not. An axis that was never homed may only be nudged. */
const char *limits_refuse(const float from[AXES], const float to[AXES]);
