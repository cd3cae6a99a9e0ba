/* settings.c: the settings in use, and what the image was built with. */
#include "core/settings.h"
#include "core/feature.h"
#include "core/guards.h"
#include "option_control.h"
#include "option_display.h"
#include "option_drive.h"
#include "option_drivers.h"
#include "option_extrude.h"
#include "option_map.h"
#include "option_motion.h"
#include "option_offset.h"

_Static_assert(STEPS_X * SPEED_X <= STEP_RATE_LIMIT, "[speed.x] X top speed needs more than 500000 steps a second; Lantern cannot time that");
_Static_assert(STEPS_Y * SPEED_Y <= STEP_RATE_LIMIT, "[speed.y] Y top speed needs more than 500000 steps a second; Lantern cannot time that");
_Static_assert(STEPS_Z * SPEED_Z <= STEP_RATE_LIMIT, "[speed.z] Z top speed needs more than 500000 steps a second; Lantern cannot time that");
_Static_assert(STEPS_E * SPEED_E <= STEP_RATE_LIMIT, "[speed.e] Extruder top speed needs more than 500000 steps a second; Lantern cannot time that");

#if EXTRUDER_SECOND
_Static_assert(STEPS_SECOND_E * SPEED_SECOND_E <= STEP_RATE_LIMIT, "[speed.second-e] Second extruder top speed needs more than 500000 steps a second; Lantern cannot time that");
#endif

const struct setting_line SETTING_LINES[] = SETTINGS_LINES;
const struct setting_row SETTING_ROWS[] = SETTINGS_ROWS;
_Static_assert(sizeof SETTING_ROWS / sizeof *SETTING_ROWS == SETTINGS_COUNT, "the table of settings is not whole");

float setting[SETTINGS_COUNT];

bool setting_allows(int place, float value)
{
    const struct setting_row *row = &SETTING_ROWS[place];
    if (!(value >= row->least && value <= row->most)) return false;
    return row->type == SETTING_NUMBER || value == (float)(int32_t)value;
}

void setting_put(int place, float value)
{
    float before = setting[place];
    setting[place] = value;
    if (before == value) return;
    for (int i = 0; i < FEATURE_COUNT; i++)
        if (FEATURES[i].changed) FEATURES[i].changed(place, before);
}

void settings_reset(void)
{
    for (int i = 0; i < SETTINGS_COUNT; i++) setting_put(i, SETTING_ROWS[i].built_in);
}
