/* features.c: what this image is made of. One that is off is not in the table, and the linker leaves it out. */
#include "bed/by_hand.h"
#include "bed/map.h"
#include "bed/tilt.h"
#include "bed/tram.h"
#include "core/feature.h"
#include "drivers/drivers.h"
#include "fans/fans.h"
#include "heat/heat.h"
#include "heat/tune.h"
#include "job/card_print.h"
#include "job/filament_sensor.h"
#include "job/job.h"
#include "job/resume.h"
#include "motion/homing.h"
#include "motion/limits.h"
#include "motion/motion.h"
#include "motion/moves.h"
#include "motion/origins.h"
#include "motion/switches.h"
#include "motion/tools.h"
#include "option_sense.h"
#include "panel/beeper.h"
#include "panel/display.h"
#include "panel/serial_panel.h"
#include "probe/probe.h"
#include "probe/repeat.h"
#include "probe/touch.h"
#include "proto/setting_commands.h"
#include "proto/state.h"
#include "servo/servo.h"

const struct feature FEATURES[] = {
    {.commands = STATE_COMMANDS},
    {.start = heat_start, .tick = heat_tick, .stop = heat_off, .lines = heat_lines, .tell = heat_tell, .commands = HEAT_COMMANDS},
#if TUNE_ON
    {.commands = TUNE_COMMANDS},
#endif
    {.start = motion_start, .tick = motion_tick, .stop = moves_stop, .changed = moves_changed, .lines = moves_lines, .tell = moves_tell, .commands = MOVE_COMMANDS},
#if LIMITS_LIFT
    {.commands = LIMIT_COMMANDS},
#endif
#if OFFSETS_ON
    {.commands = ORIGIN_COMMANDS},
#endif
#if EXTRUDER_SECOND
    {.commands = TOOL_COMMANDS},
#endif
    {.start = switches_start},
#if PROBE_KIND != PROBE_KIND_NONE
    {.start = probe_start, .stop = touch_stop, .commands = PROBE_COMMANDS},
#endif
#if HAS_REPEAT
    {.commands = REPEAT_COMMANDS},
#endif
#if HAS_MAP
    {.start = map_start, .tick = map_tick, .stop = map_stop, .lines = map_lines, .tell = map_tell, .commands = MAP_COMMANDS},
#endif
#if HAS_TILT
    {.lines = tilt_lines, .tell = tilt_tell, .commands = TILT_COMMANDS},
#endif
#if HAS_BY_HAND
    {.stop = by_hand_stop, .commands = BY_HAND_COMMANDS},
#endif
#if TRAM_ON
    {.commands = TRAM_COMMANDS},
#endif
#if HAS_DRIVERS
    {.start = drivers_start, .tick = drivers_tick, .changed = drivers_changed,
#if DRIVER_REPORT
     .lines = drivers_lines, .tell = drivers_tell,
#endif
    },
#endif
#if HAS_FANS
    {.start = fans_start, .tick = fans_tick, .stop = fans_stop, .lines = fans_lines, .tell = fans_tell, .commands = FAN_COMMANDS},
#endif
#if SERVO_COUNT > 0
    {.lines = servo_lines, .tell = servo_tell, .commands = SERVO_COMMANDS},
#endif
#if HAS_PAUSE
    {.tick = job_tick, .stop = job_stop, .lines = job_lines, .tell = job_tell, .commands = JOB_COMMANDS},
#endif
#if CARD_PRINT && RESUME_ON
    /* Before the print: it notes what stands between two lines. */
    {.start = resume_start, .tick = resume_tick, .lines = resume_lines, .tell = resume_tell},
#endif
#if CARD_PRINT
    {.tick = card_print_tick, .stop = card_print_stop, .lines = card_print_lines, .tell = card_print_tell, .commands = CARD_COMMANDS},
#endif
#if HAS_FILAMENT_SENSOR
    {.start = filament_sensor_start, .tick = filament_sensor_tick, .lines = filament_sensor_lines, .tell = filament_sensor_tell},
#endif
#if DISPLAY_KIND != DISPLAY_KIND_NONE
    {.start = display_start, .tick = display_tick},
#endif
#if HAS_SERIAL_PANEL
    {.tick = serial_panel_tick},
#endif
#if HAS_BEEPER
    {.tick = beeper_tick, .stop = beeper_stop, .commands = BEEPER_COMMANDS},
#endif
    {.commands = SETTING_COMMANDS},
};
const int FEATURE_COUNT = sizeof FEATURES / sizeof *FEATURES;
