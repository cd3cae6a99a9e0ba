/* tools.c: T0 and T1. The other tool keeps its target. */
#include "motion/tools.h"
#include "motion/axes.h"
#include "motion/motion.h"

#if EXTRUDER_SECOND
static bool second;

int tool_hotend(void) { return second ? HOTEND_2 : HOTEND; }

int tool_in_use(void) { return second; }

void tool_use(int tool)
{
    second = tool == 1;
    motion_feed_with(second ? E2 : E);
}

static enum outcome take(bool other)
{
    tool_use(other);
    return DONE;
}

static enum outcome first_tool(const struct words *w) { (void)w; return take(false); }
static enum outcome second_tool(const struct words *w) { (void)w; return take(true); }

const struct command TOOL_COMMANDS[] = {
    CODE('T', 0, AT_REST | IN_PRINT, NULL, NULL, first_tool),
    CODE('T', 1, AT_REST | IN_PRINT, NULL, NULL, second_tool),
    NO_COMMAND,
};
#endif
