/* tools.h: which extruder feeds and which hot end is heated. */
#pragma once
#include "heat/heaters.h"
#include "option_motion.h"
#include "proto/commands.h"
#if EXTRUDER_SECOND
/* The hot end of the tool in use. */
int tool_hotend(void);
/* 0 is the first. It is taken in use only while nothing moves. */
int tool_in_use(void);
void tool_use(int tool);
extern const struct command TOOL_COMMANDS[];
#else
static inline int tool_hotend(void) { return HOTEND; }
static inline int tool_in_use(void) { return 0; }
static inline void tool_use(int tool) { (void)tool; }
#endif
