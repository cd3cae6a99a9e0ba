/* settings.c: values compiled in. */
#include "settings.h"
#include "option_drive.h"
#include "option_control.h"
#include "option_offset.h"
#include "guards.h"

struct settings settings;

_Static_assert(STEPS_X * SPEED_X <= STEP_RATE_LIMIT, "[speed.x] X top speed needs more than 500000 steps a second; Lantern cannot time that");
_Static_assert(STEPS_Y * SPEED_Y <= STEP_RATE_LIMIT, "[speed.y] Y top speed needs more than 500000 steps a second; Lantern cannot time that");
_Static_assert(STEPS_Z * SPEED_Z <= STEP_RATE_LIMIT, "[speed.z] Z top speed needs more than 500000 steps a second; Lantern cannot time that");
_Static_assert(STEPS_E * SPEED_E <= STEP_RATE_LIMIT, "[speed.e] Extruder top speed needs more than 500000 steps a second; Lantern cannot time that");

void settings_reset(void)
{
    static const struct settings built_in = {
        .steps = {STEPS_X, STEPS_Y, STEPS_Z, STEPS_E},
        .speed = {SPEED_X, SPEED_Y, SPEED_Z, SPEED_E},
        .accel = {ACCEL_X, ACCEL_Y, ACCEL_Z, ACCEL_E},
        .probe_offset = {PROBE_OFFSET_X, PROBE_OFFSET_Y, PROBE_OFFSET_Z},
        .pid = {{PID_HOTEND_P, PID_HOTEND_I, PID_HOTEND_D}, {PID_BED_P, PID_BED_I, PID_BED_D}},
    };
    settings = built_in;
}
