/* gantry.h: two Z motors made level after Z was homed with a probe. */
#pragma once
#include "bed/shape.h"
#include "option_motion.h"
#define HAS_GANTRY (SECOND_Z_ON && HAS_PROBE)
#if HAS_GANTRY
/* NULL, or why it cannot begin. */
const char *gantry_begin(void);
/* Advances; true when both sides are level. Asked every millisecond. */
bool gantry_level(void);
#endif
