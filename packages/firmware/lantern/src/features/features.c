/* features.c: what this image is made of. One that is off is not in the table, and the linker leaves it out. */
#include "core/feature.h"
#include "heat/heat.h"
#include "motion/homing.h"
#include "motion/motion.h"
#include "motion/moves.h"
#include "motion/switches.h"
#include "option_probe.h"
#include "probe/probe.h"
#include "proto/setting_commands.h"
#include "proto/state.h"

const struct feature FEATURES[] = {
    {.commands = STATE_COMMANDS},
    {.start = heat_start, .tick = heat_tick, .stop = heat_off, .lines = heat_lines, .tell = heat_tell, .commands = HEAT_COMMANDS},
    {.start = motion_start, .tick = motion_tick, .stop = moves_stop, .changed = moves_changed, .lines = moves_lines, .tell = moves_tell, .commands = MOVE_COMMANDS},
    {.start = switches_start},
#if PROBE_KIND != PROBE_KIND_NONE
    {.start = probe_start, .commands = PROBE_COMMANDS},
#endif
    {.commands = SETTING_COMMANDS},
};
const int FEATURE_COUNT = sizeof FEATURES / sizeof *FEATURES;
