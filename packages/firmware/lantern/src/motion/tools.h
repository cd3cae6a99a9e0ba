/* tools.h: which extruder feeds and which hot end is heated. */
#pragma once
#include "heat/heaters.h"
#include "option_motion.h"
#include "proto/commands.h"
#if EXTRUDER_SECOND
/* The hot end of the tool in use. */
int tool_hotend(void);
extern const struct command TOOL_COMMANDS[];
#else
static inline int tool_hotend(void) { return HOTEND; }
#endif
