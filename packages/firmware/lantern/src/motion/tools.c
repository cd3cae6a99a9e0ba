/* tools.c: T0 and T1. The other tool keeps its target. */
#include "motion/tools.h"
#include "motion/axes.h"
#include "motion/motion.h"

#if EXTRUDER_SECOND
static bool second;

int tool_hotend(void) { return second ? HOTEND_2 : HOTEND; }

static enum outcome take(bool other)
{
    second = other;
    motion_feed_with(other ? E2 : E);
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
